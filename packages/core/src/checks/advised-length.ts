import { codePoints } from './max-length.js';
import { type ValueCheck, ofText } from './model.js';

export const advisedLength: ValueCheck = {
  meta: {
    id: 'advised-length',
    severity: 'advice',
    describes:
      'A text is shorter or longer than the channel advises, counted in characters (code points); it is taken all the same.',
    fix: 'catalog',
    fault: 'is shorter or longer than is best',
    say: ({ length = 0, least = 0, most = 0 }, label) =>
      Number(length) < Number(least)
        ? `${label} has ${length} characters; at least ${least} are best`
        : `${label} has ${length} characters; at most ${most} are best`,
  },
  compile({ advised }) {
    if (advised?.minLength === undefined && advised?.maxLength === undefined) return undefined;
    const { minLength: least = 0, maxLength: most = Number.POSITIVE_INFINITY } = advised;
    return ofText((text) => {
      if (text.length >= least * 2 && text.length <= most) return undefined;
      const length = codePoints(text);
      if (length >= least && length <= most) return undefined;
      return { length, least, ...(most === Number.POSITIVE_INFINITY ? {} : { most }) };
    });
  },
  examples: {
    attribute: { advised: { minLength: 3, maxLength: 6 } },
    pass: ['abc', 'abcdef', '🌱🌱🌱🌱🌱🌱'],
    fail: ['ab', '🌱🌱', 'abcdefg'],
  },
};
