import { readGtin } from '../values/index.js';
import type { CollectiveCheck } from './model.js';

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
  compile(rulebook) {
    const rule = rulebook.rules.find((rule) => rule.check === 'gtin-unique');
    if (rule?.check !== 'gtin-unique') return undefined;
    return {
      attribute: rule.gtin,
      keys: (item) => {
        const value = item[rule.gtin];
        const read = typeof value === 'string' ? readGtin(value) : undefined;
        return read?.ok ? [read.gtin14] : [];
      },
    };
  },
  judge: (members) => members > 1,
};
