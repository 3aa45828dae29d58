import type { ChannelValue } from '../rulebooks/index.js';
import type { ValueCheck } from './model.js';

const countOf = (value: ChannelValue): number => {
  if (typeof value !== 'object') return 1;
  if (value.kind === 'texts') return value.texts.length;
  return value.kind === 'pictures' ? value.pictures.length : 1;
};

export const valueCount: ValueCheck = {
  meta: {
    id: 'value-count',
    severity: 'advice',
    describes: 'A list has more values than the channel takes; those at the end are not sent.',
    fix: 'catalog',
    fault: 'has more values than the channel takes',
    say: ({ count = 0, limit = 0 }, label) => `${label} has ${count} values; only the first ${limit} are sent`,
  },
  compile({ limits: { maxCount: limit } }) {
    if (limit === undefined) return undefined;
    return (value) => {
      const count = countOf(value);
      return count > limit ? { count, limit } : undefined;
    };
  },
  examples: {
    attribute: { limits: { maxCount: 1 } },
    pass: ['moss', { kind: 'texts', texts: ['moss'] }, { kind: 'pictures', pictures: [{ address: 'a' }] }],
    fail: [{ kind: 'texts', texts: ['moss', 'slate'] }],
  },
};
