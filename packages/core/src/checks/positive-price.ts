import type { ValueCheck } from './model.js';

const pounds = (minor: number) => ({ kind: 'money' as const, minor, currency: 'GBP' });

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
    return (value) => (typeof value === 'object' && value.kind === 'money' && value.minor <= 0 ? {} : undefined);
  },
  examples: { attribute: { type: 'money' }, pass: [pounds(1), pounds(699)], fail: [pounds(0), pounds(-5)] },
};
