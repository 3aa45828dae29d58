/** The lowest or highest of what anybody says of some attributes: the lowest cost over all sources, for one. */
import { plainValue, sayLabel } from '../values/index.js';
import { amountOf, currencyOf, sizeOf, unlike } from './amounts.js';
import type { ComputedKind } from './model.js';

export const extreme = (kind: 'lowest' | 'highest'): ComputedKind => ({
  kind,
  takes: [1, 10],
  needs: 'any',
  objection: unlike,
  work(inputs, wanted) {
    const { attribute, unit } = wanted;
    const isMoney = attribute.type === 'money';
    const all = inputs.flatMap((input) => input.said.map((one) => ({ ...one, of: input.attribute })));
    // In one currency, where one is asked for.
    const said = isMoney && unit !== undefined ? all.filter(({ value }) => currencyIn(value) === unit) : all;
    const [first] = said;
    if (!first) {
      const names = inputs.map((input) => sayLabel(input.attribute.label)).join(' or ');
      return { reason: `nobody says ${names}${isMoney && unit !== undefined ? ` in ${unit}` : ''}` };
    }
    const one = isMoney ? currencyOf(said.map(({ value }) => value)) : { currency: '' };
    if ('reason' in one) return one;
    const sign = kind === 'lowest' ? -1 : 1;
    const won = said.reduce((best, other) => (sizeOf(other.value).cmp(sizeOf(best.value)) === sign ? other : best));
    const of = said.length > 1 ? ` of ${said.length} said` : '';
    return {
      value: amountOf(sizeOf(won.value), wanted, one.currency),
      trace: `${kind}${of}: ${won.by}, ${sayLabel(won.of.label)} ${plainValue(won.value, won.of)}`,
    };
  },
});

const currencyIn = (value: unknown) => (value as { currency?: string }).currency;
