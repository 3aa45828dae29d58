import { compilePattern } from '../values/index.js';
import { type ValueCheck, ofText } from './model.js';

export const pattern: ValueCheck = {
  meta: {
    id: 'pattern',
    severity: 'blocker',
    describes: 'A text does not have the form the channel asks for.',
    fix: 'catalog',
    fault: 'does not have the form asked for',
    say: ({ value = '' }, label) => `${label} “${value}” does not have the form asked for`,
  },
  compile({ limits }) {
    if (limits.pattern === undefined) return undefined;
    const wanted = compilePattern(limits.pattern);
    // A rulebook with such a pattern is refused when it is loaded.
    if (!wanted.ok) throw new Error(`${limits.pattern}: ${wanted.reason}`);
    return ofText((value) => (wanted.test(value) ? undefined : { value }));
  },
  examples: { attribute: { limits: { pattern: '^[a-z]+$' } }, pass: ['abc'], fail: ['a1'] },
};
