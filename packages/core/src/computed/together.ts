/** Values of one kind put together, one after the other: sums and differences. */
import type Big from 'big.js';
import { allOf, amountOf, currencyOf, sizeOf, unlike } from './amounts.js';
import type { ComputedKind } from './model.js';
import { sayInputs } from './say.js';

export const together = (kind: string, sign: string, put: (sum: Big, size: Big) => Big): ComputedKind => ({
  kind,
  takes: [2, 10],
  needs: 'all',
  objection: unlike,
  work(inputs, wanted) {
    const all = allOf(inputs);
    if ('reason' in all) return all;
    const one = wanted.attribute.type === 'money' ? currencyOf(all.values) : { currency: '' };
    if ('reason' in one) return one;
    return {
      value: amountOf(all.values.map(sizeOf).reduce(put), wanted, one.currency),
      trace: sayInputs(inputs, sign),
    };
  },
});
