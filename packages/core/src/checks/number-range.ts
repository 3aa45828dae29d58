import type { ValueCheck } from './model.js';

export const numberRange: ValueCheck = {
  meta: {
    id: 'number-range',
    severity: 'blocker',
    describes: 'A number lies outside what the channel takes.',
    fix: 'catalog',
    fault: 'is out of range',
    say: ({ value = 0, min, max }, label) =>
      `${label} is ${value}; the channel takes ${min === undefined ? `at most ${max}` : max === undefined ? `at least ${min}` : `${min} to ${max}`}`,
  },
  compile({ type, limits: { min, max } }) {
    if (type !== 'number' || (min === undefined && max === undefined)) return undefined;
    const bounds = { ...(min !== undefined ? { min } : {}), ...(max !== undefined ? { max } : {}) };
    return (value) =>
      typeof value === 'number' && ((min !== undefined && value < min) || (max !== undefined && value > max))
        ? { value, ...bounds }
        : undefined;
  },
  examples: { attribute: { type: 'number', limits: { min: 0, max: 10 } }, pass: [0, 10], fail: [-1, 11] },
};
