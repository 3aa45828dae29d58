/** The first by the second: weight ÷ pieces in a pack, a price ÷ pieces, a width ÷ a height. */
import { sayLabel } from '../../values/index.js';
import { allOf, currencyOf, sizeOf, changeMoney } from '../amounts.js';
import type { ComputedKind } from '../model.js';
import { gives, powersOf, sayKind, sizeIn, timesPowers, valueOf } from '../quantities.js';
import { sayInputs } from '../say.js';

export const divided: ComputedKind = {
  kind: 'divided',
  takes: [2, 2],
  needs: 'all',
  objection([over, under], { attribute }) {
    if (!over || !under) return undefined;
    if (over.type === 'money' && under.type === 'money')
      return attribute.type === 'number'
        ? undefined
        : `An amount by an amount is a number, and no ${sayKind(attribute)}`;
    const [above, below] = [over.type === 'money' ? {} : powersOf(over), powersOf(under)];
    if (!above) return `${over.label} cannot be divided`;
    if (!below) return `Nothing can be divided by ${under.label}`;
    return gives(attribute, timesPowers(above, below, -1), over.type === 'money')
      ? undefined
      : `${over.label} by ${under.label} is no ${sayKind(attribute)}`;
  },
  work(inputs, { attribute, unit }) {
    const all = allOf(inputs);
    if ('reason' in all) return all;
    const [over, under] = inputs.map((input) => input.attribute);
    const [first = 0, second = 0] = all.values;
    if (sizeOf(second).eq(0)) return { reason: `${sayLabel(under?.label ?? '')} is nought` };
    const trace = sayInputs(inputs, ' ÷ ');
    if (under?.type === 'money') {
      const one = currencyOf(all.values);
      if ('reason' in one) return one;
      return { value: valueOf(sizeOf(first).div(sizeOf(second)).toNumber(), attribute, unit), trace };
    }
    const divisor = sizeIn(second, under);
    return {
      value:
        over?.type === 'money'
          ? changeMoney(first, (amount) => amount.div(divisor))
          : valueOf(sizeIn(first, over) / divisor, attribute, unit),
      trace,
    };
  },
};
