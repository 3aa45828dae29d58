import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { foldText } from '../values/index.js';
import { type ValueCheck, ofText, rulesOf } from './model.js';
import { finderOf } from './phrases.js';

const settings = z.strictObject({ attributes: z.array(z.string()), phrases: z.array(z.string().min(1)) });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'sales-talk', settings);

export const salesTalk: ValueCheck = {
  meta: {
    id: 'sales-talk',
    severity: 'blocker',
    describes:
      'A text praises the offer instead of naming the goods: phrases the channel lists, or runs of exclamation marks.',
    fix: 'catalog',
    fault: 'holds sales talk',
    limit: 'sales talk',
    say: ({ phrase = '' }, label) => `${label} holds sales talk: “${phrase}”`,
  },
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ attributes }) => attributes),
  compile({ key }, rulebook) {
    const holding = rules(rulebook).filter(({ attributes }) => attributes.includes(key));
    if (holding.length === 0) return undefined;
    const phrases = holding.flatMap((rule) => rule.phrases);
    const plain = finderOf(phrases, '!{2,}');
    return ofText((text) => {
      const phrase = plain.exec(text)?.[0];
      return phrase === undefined ? undefined : { phrase: foldText(phrase) };
    });
  },
  examples: {
    attribute: { key: 'title' },
    rules: [{ check: 'sales-talk', attributes: ['title'], phrases: ['free delivery', 'best price'] }],
    pass: ['Moss pot, 12 cm', 'Bestpriced fern!'],
    fail: ['Moss pot FREE  DELIVERY', 'Pot!!'],
  },
};
