import type { ValueCheck } from './model.js';

export const minCount: ValueCheck = {
  meta: {
    id: 'min-count',
    severity: 'blocker',
    describes: 'There are fewer pictures, or fewer values of a list, than the channel asks for.',
    fix: 'catalog',
    fault: 'are too few',
    say: ({ count = 0, limit = 0 }, label) => `${label}: ${count} given; at least ${limit} are asked for`,
  },
  compile({ limits: { minCount: limit } }) {
    if (limit === undefined) return undefined;
    return (value) => {
      if (typeof value !== 'object') return undefined;
      const count =
        value.kind === 'pictures' ? value.pictures.length : value.kind === 'texts' ? value.texts.length : limit;
      return count < limit ? { count, limit } : undefined;
    };
  },
  examples: {
    attribute: { limits: { minCount: 2 } },
    pass: [
      { kind: 'texts', texts: ['a', 'b'] },
      { kind: 'pictures', pictures: [{ address: 'a' }, { address: 'b' }] },
    ],
    fail: [
      { kind: 'texts', texts: ['a'] },
      { kind: 'pictures', pictures: [{ address: 'a' }] },
    ],
  },
};
