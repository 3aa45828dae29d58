import type { ValueCheck } from './model.js';

export const repeatedWords: ValueCheck = {
  meta: {
    id: 'repeated-words',
    severity: 'advice',
    describes: 'A text says the same word twice in a row, as texts do that were put together from parts.',
    fix: 'catalog',
    fault: 'says a word twice in a row',
    limit: 'no word twice in a row',
    say: ({ word = '' }, label) => `${label} says “${word}” twice in a row`,
  },
  compile({ key }, rulebook) {
    if (!rulebook.rules.some((rule) => rule.check === 'repeated-words' && rule.attributes.includes(key)))
      return undefined;
    return (value) => {
      const word = typeof value === 'string' ? twice.exec(value)?.[1] : undefined;
      return word === undefined ? undefined : { word };
    };
  },
  examples: {
    attribute: { key: 'title' },
    rules: [{ check: 'repeated-words', attributes: ['title'] }],
    pass: ['Moss pot, pot saucer', 'Pot 12 12 cm', 'Tick-tock clock', 'pot potting mix'],
    fail: ['Moss pot pot', 'Grow Grow light', 'Växt växt, 9 cm'],
  },
};

/** A word of two letters or more, and itself again with nothing but a space between. */
const twice = /(?<![\p{L}\p{N}-])(\p{L}{2,})\s+\1(?![\p{L}\p{N}-])/iu;
