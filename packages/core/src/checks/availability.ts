import { z } from 'zod';
import { type Rulebook, sayChannelValue } from '../rulebooks/index.js';
import { type ItemCheck, rulesOf } from './model.js';

const settings = z.strictObject({
  /** The attribute that says whether goods are there. */
  attribute: z.string(),
  /** What it says of goods that can be had at once, and of those that cannot. */
  here: z.array(z.string()),
  gone: z.array(z.string()),
});
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'availability', settings);

export const availability: ItemCheck = {
  meta: {
    id: 'availability',
    severity: 'blocker',
    describes: 'What is said of whether goods can be had agrees with the stock the channel is shown.',
    fix: 'catalog',
    fault: 'says otherwise than the stock',
    say: ({ value = '', stock = 0 }, label) => `${label} says “${value}”, and ${stock} are in stock`,
  },
  settings,
  names: (rulebook) => rules(rulebook).map(({ attribute }) => attribute),
  compile(rulebook) {
    const [rule] = rules(rulebook);
    if (!rule) return undefined;
    const { attribute } = rule;
    const [here, gone] = [new Set(rule.here), new Set(rule.gone)];
    return (item, goods) => {
      const said = item[attribute];
      if (said === undefined || !goods) return undefined;
      const value = sayChannelValue(said);
      const isWrong = goods.stock > 0 ? gone.has(value) : here.has(value);
      return isWrong ? { attribute, params: { value, stock: goods.stock } } : undefined;
    };
  },
  examples: {
    rules: [{ check: 'availability', attribute: 'there', here: ['here'], gone: ['gone'] }],
    goods: { stock: 0 },
    pass: [{ there: 'gone' }, { there: 'soon' }, {}],
    fail: [{ there: 'here' }],
  },
};
