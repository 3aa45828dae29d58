import { type ValueCheck, ofText } from './model.js';

export const maxLength: ValueCheck = {
  meta: {
    id: 'max-length',
    severity: 'blocker',
    describes: 'A text is longer than the channel takes, counted in characters (code points).',
    fix: 'fit',
    fault: 'is too long',
    step: 'trim-at-word',
    say: ({ length = 0, limit = 0 }, label) => `${label} has ${length} characters; at most ${limit} are taken`,
  },
  compile({ limits: { maxLength: limit } }) {
    if (limit === undefined) return undefined;
    return ofText((text) => {
      if (text.length <= limit) return undefined;
      const length = codePoints(text);
      return length > limit ? { length, limit } : undefined;
    });
  },
  examples: {
    attribute: { limits: { maxLength: 3 } },
    pass: ['abc', 'ab🌱'],
    fail: ['abcd', 'abc🌱', { kind: 'texts', texts: ['ab', 'abcd'] }],
  },
};

export function codePoints(text: string): number {
  let count = text.length;
  for (let i = 0; i < text.length - 1; i++) {
    const unit = text.charCodeAt(i);
    if (unit >= 0xd800 && unit < 0xdc00) {
      const next = text.charCodeAt(i + 1);
      if (next >= 0xdc00 && next < 0xe000) {
        count--;
        i++;
      }
    }
  }
  return count;
}
