import { codePoints } from './max-length.js';
import { type ValueCheck, ofText } from './model.js';

export const minLength: ValueCheck = {
  meta: {
    id: 'min-length',
    severity: 'blocker',
    describes: 'A text is shorter than the channel takes.',
    fix: 'catalog',
    fault: 'is too short',
    say: ({ length = 0, limit = 0 }, label) => `${label} has ${length} characters; at least ${limit} are needed`,
  },
  compile({ limits: { minLength: limit } }) {
    if (limit === undefined) return undefined;
    return ofText((text) => {
      if (text.length >= limit * 2) return undefined;
      const length = codePoints(text);
      return length < limit ? { length, limit } : undefined;
    });
  },
  examples: { attribute: { limits: { minLength: 2 } }, pass: ['ab', '🌱🌱'], fail: ['a', '🌱'] },
};
