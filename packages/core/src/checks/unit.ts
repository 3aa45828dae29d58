import { sayUnit, unitCode } from '../values/index.js';
import type { ValueCheck } from './model.js';

export const unit: ValueCheck = {
  meta: {
    id: 'unit',
    severity: 'blocker',
    describes: 'A measure is in a unit the channel does not take.',
    fix: 'fit',
    fault: 'is in the wrong unit',
    step: 'in-unit',
    say: ({ unit: given = '', units = '' }, label) => `${label} is in ${given}; the channel takes ${units}`,
  },
  compile({ type, limits: { units } }) {
    if (type !== 'measure' || !units) return undefined;
    // Rulebooks write units as people do: W, km/h.
    const allowed = new Set(units.map((written) => unitCode(written) ?? written));
    return (value) => {
      if (typeof value !== 'object' || value.kind !== 'measure' || allowed.has(value.unit)) return undefined;
      return { unit: sayUnit(value.unit), units: units.join(', ') };
    };
  },
  examples: {
    attribute: { type: 'measure', limits: { units: ['g', 'kg', 'W'] } },
    pass: [
      { kind: 'measure', amount: '370', unit: 'g' },
      { kind: 'measure', amount: '1.2', unit: 'kg' },
      { kind: 'measure', amount: '8', unit: 'w' },
    ],
    fail: [
      { kind: 'measure', amount: '3', unit: 'lb' },
      { kind: 'measure', amount: '8', unit: 'wh' },
    ],
  },
};
