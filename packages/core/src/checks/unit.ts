import { sayUnit } from '../values/index.js';
import type { ValueCheck } from './model.js';

export const unit: ValueCheck = {
  meta: {
    id: 'unit',
    severity: 'blocker',
    describes: 'A measure is in a unit the channel does not take.',
    fix: 'catalog',
    fault: 'is in a unit the channel does not take',
    say: ({ unit: given = '', units = '' }, label) => `${label} is in ${given}; the channel takes ${units}`,
  },
  compile({ type, limits: { units } }) {
    if (type !== 'measure' || !units) return undefined;
    const allowed = new Set(units);
    return (value) => {
      if (typeof value !== 'object' || value.kind !== 'measure' || allowed.has(value.unit)) return undefined;
      return { unit: sayUnit(value.unit), units: units.join(', ') };
    };
  },
  examples: {
    attribute: { type: 'measure', limits: { units: ['g', 'kg'] } },
    pass: [
      { kind: 'measure', amount: '370', unit: 'g' },
      { kind: 'measure', amount: '1.2', unit: 'kg' },
    ],
    fail: [{ kind: 'measure', amount: '3', unit: 'lb' }],
  },
};
