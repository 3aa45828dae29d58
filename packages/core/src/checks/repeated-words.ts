import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { type ValueCheck, ofText, rulesOf } from './model.js';

const settings = z.strictObject({ attributes: z.array(z.string()) });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'repeated-words', settings);

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
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ attributes }) => attributes),
  compile({ key }, rulebook) {
    if (!rules(rulebook).some(({ attributes }) => attributes.includes(key))) return undefined;
    return ofText((text) => {
      const word = twice.exec(text)?.[1];
      return word === undefined ? undefined : { word };
    });
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
