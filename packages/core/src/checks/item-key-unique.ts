import { z } from 'zod';
import { type Rulebook, sayChannelValue } from '../rulebooks/index.js';
import { type CollectiveCheck, rulesOf } from './model.js';

const settings = z.strictObject({ key: z.string() });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'item-key-unique', settings);

export const itemKeyUnique: CollectiveCheck = {
  meta: {
    id: 'item-key-unique',
    severity: 'blocker',
    describes: 'The item key names one item of the file only.',
    fix: 'catalog',
    fault: 'stands on several items',
    say: ({ key = '' }, label) => `${label} “${key}” also stands on another item`,
  },
  settings,
  names: (rulebook) => rules(rulebook).map(({ key }) => key),
  compile(rulebook) {
    const [rule] = rules(rulebook);
    if (!rule) return undefined;
    return {
      attribute: rule.key,
      keys: (item) => {
        const value = item[rule.key];
        return value === undefined ? [] : [sayChannelValue(value)];
      },
    };
  },
  judge: ({ items }) => items > 1,
};
