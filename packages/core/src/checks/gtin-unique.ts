import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { readGtin } from '../values/index.js';
import { type CollectiveCheck, rulesOf } from './model.js';

const settings = z.strictObject({ gtin: z.string() });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'gtin-unique', settings);

export const gtinUnique: CollectiveCheck = {
  meta: {
    id: 'gtin-unique',
    severity: 'blocker',
    describes: 'A GTIN names one item only; two items with one GTIN are refused or mixed up.',
    fix: 'catalog',
    fault: 'stands on several items',
    say: ({ key = '', others = 0 }) =>
      `GTIN ${key} also stands on ${others === 1 ? 'another item' : `${others} other items`}`,
  },
  settings,
  names: (rulebook) => rules(rulebook).map(({ gtin }) => gtin),
  compile(rulebook) {
    const [rule] = rules(rulebook);
    if (!rule) return undefined;
    return {
      attribute: rule.gtin,
      keys: (item) => {
        const value = item[rule.gtin];
        const read = typeof value === 'string' ? readGtin(value) : undefined;
        return read?.ok ? [read.gtin14] : [];
      },
    };
  },
  judge: ({ items }) => items > 1,
};
