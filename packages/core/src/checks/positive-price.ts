import { type ValueCheck, exampleMoney } from './model.js';

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
  examples: {
    attribute: { type: 'money' },
    pass: [exampleMoney(1), exampleMoney(699)],
    fail: [exampleMoney(0), exampleMoney(-5)],
  },
};
