import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { type ValueCheck, ofText, rulesOf } from './model.js';
import { finderOf } from './phrases.js';

const settings = z.strictObject({
  attributes: z.array(z.string()),
  words: z.array(z.string().trim().min(1)).min(1),
  /** Why, in the channel's words. */
  reason: z.string().optional(),
});
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'banned-words', settings);

export const bannedWords: ValueCheck = {
  meta: {
    id: 'banned-words',
    severity: 'blocker',
    describes:
      'A text holds a word that the channel bans, whole and in whatever case: names of others, claims of cures.',
    fix: 'catalog',
    fault: 'holds a banned word',
    limit: 'banned words',
    say: ({ word = '', reason = '' }, label) => `${label} holds “${word}”${reason === '' ? '' : `: ${reason}`}`,
  },
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ attributes }) => attributes),
  compile({ key }, rulebook) {
    const holding = rules(rulebook).filter(({ attributes }) => attributes.includes(key));
    if (holding.length === 0) return undefined;
    const finders = holding.map(({ words, reason = '' }) => ({ finder: finderOf(words), reason }));
    return ofText((text) => {
      for (const { finder, reason } of finders) {
        const word = finder.exec(text)?.[0];
        if (word !== undefined) return { word, reason };
      }
      return undefined;
    });
  },
  examples: {
    attribute: { key: 'title' },
    rules: [
      { check: 'banned-words', attributes: ['title'], words: ['cure', 'Anti-age'], reason: 'no claims of health' },
    ],
    pass: ['Cured oak board', 'Secure lock', 'Ageing pot'],
    fail: ['A CURE for greenfly', 'Pot (cure)', 'anti age oil', 'Anti–Age'],
  },
};
