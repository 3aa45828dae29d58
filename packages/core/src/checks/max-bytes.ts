import { type ValueCheck, ofText } from './model.js';

const encoder = new TextEncoder();
/** Bytes of a character in UTF-8, at most. */
const mostOfOne = 3;

export const maxBytes: ValueCheck = {
  meta: {
    id: 'max-bytes',
    severity: 'blocker',
    describes: 'A text is longer than the channel stores, counted in bytes of UTF-8: an umlaut is two, an emoji four.',
    fix: 'catalog',
    fault: 'takes too many bytes',
    say: ({ bytes = 0, limit = 0 }, label) => `${label} takes ${bytes} bytes; at most ${limit} are stored`,
  },
  compile({ limits: { maxBytes: limit } }) {
    if (limit === undefined) return undefined;
    return ofText((text) => {
      if (text.length * mostOfOne <= limit) return undefined;
      const bytes = encoder.encode(text).length;
      return bytes > limit ? { bytes, limit } : undefined;
    });
  },
  examples: {
    attribute: { limits: { maxBytes: 6 } },
    pass: ['abcdef', 'Töpfe', 'ab🌱'],
    fail: ['abcdefg', 'Töpfeö', 'abc🌱', { kind: 'texts', texts: ['ab', 'ööööö'] }],
  },
};
