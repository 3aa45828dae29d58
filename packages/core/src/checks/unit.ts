import { unitCode } from '../values/index.js';
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
      if (typeof value !== 'string') return undefined;
      const written = value.slice(value.indexOf(' ') + 1);
      const code = unitCode(written);
      return code !== undefined && allowed.has(code) ? undefined : { unit: written, units: units.join(', ') };
    };
  },
  examples: {
    attribute: { type: 'measure', limits: { units: ['g', 'kg'] } },
    pass: ['370 g', '1.2 kg'],
    fail: ['3 lb', '3'],
  },
};
