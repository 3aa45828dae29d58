import { z } from 'zod';
import { wrongLanguage } from '../enrichment/index.js';
import { type ChannelValue, type Rulebook, sayChannelValue } from '../rulebooks/index.js';
import { plainText } from '../values/index.js';
import { type ItemCheck, rulesOf } from './model.js';

const settings = z.strictObject({ attributes: z.array(z.string()).min(1) });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'text-language', settings);

/** Verdicts kept of texts that were read; families share theirs. */
const mostKept = 20_000;

export const textLanguage: ItemCheck = {
  meta: {
    id: 'text-language',
    severity: 'advice',
    describes: 'Texts are in the language of the market.',
    fix: 'catalog',
    fault: 'is in another language than the market’s',
    say: ({ language = '' }, label) => `${label} reads as ${language}`,
  },
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ attributes }) => attributes),
  compile(rulebook, at) {
    const attributes = rules(rulebook).flatMap((rule) => rule.attributes);
    if (attributes.length === 0 || !at) return undefined;
    const kept = new Map<string, string | undefined>();
    const read = (value: ChannelValue): string | undefined => {
      const text = plainText(sayChannelValue(value));
      if (kept.has(text)) return kept.get(text);
      const verdict = wrongLanguage(text, at.language, [])?.language;
      if (kept.size >= mostKept) kept.clear();
      kept.set(text, verdict);
      return verdict;
    };
    return (item) => {
      for (const attribute of attributes) {
        const value = item[attribute];
        const language = value === undefined ? undefined : read(value);
        if (language !== undefined) return { attribute, params: { language } };
      }
      return undefined;
    };
  },
  examples: {
    rules: [{ check: 'text-language', attributes: ['text'] }],
    at: { language: 'sv-SE' },
    pass: [
      {
        text: 'Krukan är gjord av stengods och står stadigt på fönsterbrädan. Den har ett hål i botten och ett fat som tar upp vattnet, så att rötterna inte står i det.',
      },
      { text: 'Moss' },
      {},
    ],
    fail: [
      {
        text: 'The pot is made of stoneware and stands firm on the window sill. It has a hole at the bottom and a saucer that takes up the water, so that the roots do not stand in it.',
      },
    ],
  },
};
