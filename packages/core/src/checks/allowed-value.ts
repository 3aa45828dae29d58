import type { ValueCheck } from './model.js';

export const allowedValue: ValueCheck = {
  meta: {
    id: 'allowed-value',
    severity: 'blocker',
    describes: 'A value is not on the channel’s closed list.',
    fix: 'translate',
    say: ({ value = '' }, label) => `${label} “${value}” is not on the channel’s list`,
  },
  compile({ limits: { values } }) {
    if (!values) return undefined;
    const allowed = new Set(values);
    return (value) => (typeof value === 'string' && !allowed.has(value) ? { value } : undefined);
  },
  examples: { attribute: { limits: { values: ['green', 'blue'] } }, pass: ['green'], fail: ['moss', ''] },
};
