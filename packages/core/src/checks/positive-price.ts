import type { ValueCheck } from './model.js';

export const positivePrice: ValueCheck = {
  meta: {
    id: 'positive-price',
    severity: 'blocker',
    describes: 'A price is zero or below.',
    fix: 'catalog',
    fault: 'is zero',
    say: (_params, label) => `${label} is zero`,
  },
  compile({ type }) {
    if (type !== 'money') return undefined;
    return (value) => (typeof value === 'number' && value <= 0 ? {} : undefined);
  },
  examples: { attribute: { type: 'money' }, pass: [1, 699], fail: [0, -5] },
};
