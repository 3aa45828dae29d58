import { type ValueCheck, ofText } from './model.js';

export const allowedValue: ValueCheck = {
  meta: {
    id: 'allowed-value',
    severity: 'blocker',
    describes: 'A value is not on the channel’s closed list.',
    fix: 'translate',
    say: ({ value = '' }, label) => `${label} “${value}” is not on the channel’s list`,
  },
  compile({ terms, limits: { values } }) {
    if (!values || terms !== undefined) return undefined;
    const allowed = new Set(values);
    return ofText((value) => (allowed.has(value) ? undefined : { value }));
  },
  examples: {
    attribute: { limits: { values: ['green', 'blue'] } },
    pass: ['green', { kind: 'texts', texts: ['green', 'blue'] }],
    fail: ['moss', '', { kind: 'texts', texts: ['green', 'moss'] }],
  },
};
