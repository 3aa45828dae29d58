import { z } from 'zod';
import { type Rulebook, sayChannelValue } from '../rulebooks/index.js';
import { foldText } from '../values/index.js';
import { type CollectiveCheck, rulesOf } from './model.js';

const settings = z.strictObject({ attribute: z.string() });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'title-unique', settings);
/** Less is no title: it says nothing. */
const leastWords = 2;

/** Its words, each once, in the order of the alphabet: "pot, moss" and "Moss pot" are one title. */
const keyOf = (title: string): string | undefined => {
  const words = [...new Set(foldText(title).match(/[\p{L}\p{N}]+/gu) ?? [])].sort();
  return words.length < leastWords ? undefined : words.join(' ');
};

export const titleUnique: CollectiveCheck = {
  meta: {
    id: 'title-unique',
    severity: 'advice',
    describes: 'Goods of different families have titles that tell them apart, whatever the order of their words.',
    fix: 'catalog',
    fault: 'is also the title of other goods',
    say: (_, label) => `${label} has the words of other goods’`,
  },
  settings,
  names: (rulebook) => rules(rulebook).map(({ attribute }) => attribute),
  compile(rulebook) {
    const [rule] = rules(rulebook);
    if (!rule) return undefined;
    return {
      attribute: rule.attribute,
      keys: (item) => {
        const value = item[rule.attribute];
        const key = value === undefined ? undefined : keyOf(sayChannelValue(value));
        return key === undefined ? [] : [key];
      },
    };
  },
  // Siblings may be called alike: their options tell them apart.
  judge: ({ families }) => families > 1,
};
