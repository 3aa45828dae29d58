/** The product of several: width × height × depth is a volume, a price × pieces in a pack is a price. */
import { allOf, changeMoney } from '../amounts.js';
import type { ComputedKind } from '../model.js';
import { type Powers, gives, powersOf, sayKind, sizeIn, timesPowers, valueOf } from '../quantities.js';
import { sayInputs } from '../say.js';

export const multiplied: ComputedKind = {
  kind: 'multiplied',
  takes: [2, 6],
  needs: 'all',
  objection(inputs, { attribute }) {
    const money = inputs.filter(({ type }) => type === 'money');
    if (money.length > 1) return 'Two amounts of money have no product';
    let powers: Powers = {};
    for (const input of inputs) {
      if (input.type === 'money') continue;
      const own = powersOf(input);
      if (!own) return `${input.label} cannot be multiplied`;
      powers = timesPowers(powers, own, 1);
    }
    return gives(attribute, powers, money.length === 1)
      ? undefined
      : `The product of these is no ${sayKind(attribute)}`;
  },
  work(inputs, { attribute, unit }) {
    const all = allOf(inputs);
    if ('reason' in all) return all;
    const trace = sayInputs(inputs, ' × ');
    const isMoney = inputs.map((input) => input.attribute.type === 'money');
    const size = all.values.reduce<number>(
      (product, value, i) => (isMoney[i] ? product : product * sizeIn(value, inputs[i]?.attribute)),
      1,
    );
    const money = all.values[isMoney.indexOf(true)];
    return {
      value: money === undefined ? valueOf(size, attribute, unit) : changeMoney(money, (amount) => amount.times(size)),
      trace,
    };
  },
};
