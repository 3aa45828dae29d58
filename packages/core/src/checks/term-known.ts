import { type ValueCheck, ofText } from './model.js';

export const termKnown: ValueCheck = {
  meta: {
    id: 'term-known',
    severity: 'blocker',
    describes: 'A plan that is named by reference is one that the account has on the channel: one can vanish there.',
    fix: 'catalog',
    fault: 'is none that the account has',
    say: ({ value = '' }, label) => `${label} “${value}” is none that the account has on the channel`,
  },
  compile({ terms, limits: { values } }) {
    if (terms === undefined || !values) return undefined;
    const known = new Set(values);
    return ofText((value) => (known.has(value) ? undefined : { value }));
  },
  examples: {
    attribute: { terms: 'plan', limits: { values: ['two-days'] } },
    pass: ['two-days'],
    fail: ['next-day', ''],
  },
};
