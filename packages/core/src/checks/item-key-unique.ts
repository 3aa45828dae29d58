import type { CollectiveCheck } from './model.js';

export const itemKeyUnique: CollectiveCheck = {
  meta: {
    id: 'item-key-unique',
    severity: 'blocker',
    describes: 'The item key names one item of the file only.',
    fix: 'catalog',
    fault: 'stands on several items',
    say: ({ key = '' }, label) => `${label} “${key}” also stands on another item`,
  },
  compile(rulebook) {
    const rule = rulebook.rules.find((rule) => rule.check === 'item-key-unique');
    if (rule?.check !== 'item-key-unique') return undefined;
    return {
      attribute: rule.key,
      keys: (item) => (typeof item[rule.key] === 'string' ? [String(item[rule.key])] : []),
    };
  },
  judge: (members) => members > 1,
};
