import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { type ItemCheck, rulesOf } from './model.js';

const settings = z.strictObject({ from: z.string(), until: z.string() });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'dates-in-order', settings);

export const datesInOrder: ItemCheck = {
  meta: {
    id: 'dates-in-order',
    severity: 'blocker',
    describes: 'Of two days the one that comes first is not after the other: a sale begins before it ends.',
    fix: 'catalog',
    fault: 'is before the day it begins',
    say: ({ from = '', until = '' }) => `It ends on ${until}, before it begins on ${from}`,
  },
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ from, until }) => [from, until]),
  compile(rulebook) {
    const pairs = rules(rulebook);
    if (pairs.length === 0) return undefined;
    return (item) => {
      for (const pair of pairs) {
        const [from, until] = [item[pair.from], item[pair.until]];
        if (typeof from !== 'object' || from.kind !== 'date' || typeof until !== 'object' || until.kind !== 'date')
          continue;
        // ISO 8601: earlier days are smaller texts.
        if (from.day > until.day) return { attribute: pair.until, params: { from: from.day, until: until.day } };
      }
      return undefined;
    };
  },
  examples: {
    rules: [{ check: 'dates-in-order', from: 'begins', until: 'ends' }],
    pass: [
      { begins: { kind: 'date', day: '2026-11-01' }, ends: { kind: 'date', day: '2026-11-01' } },
      { begins: { kind: 'date', day: '2026-11-01' } },
      {},
    ],
    fail: [{ begins: { kind: 'date', day: '2026-11-02' }, ends: { kind: 'date', day: '2026-11-01' } }],
  },
};
