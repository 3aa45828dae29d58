import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { type ItemCheck, rulesOf } from './model.js';

/** One of these sets is given whole: a GTIN, or brand and maker's number. */
const settings = z.strictObject({ sets: z.array(z.array(z.string()).min(1)).min(1) });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'one-of', settings);

export const oneOf: ItemCheck = {
  meta: {
    id: 'one-of',
    severity: 'blocker',
    describes: 'One of several sets of values is given whole: a GTIN, or else brand and maker’s number.',
    fix: 'catalog',
    fault: 'is not given, nor what would do in its place',
    say: ({ sets = '' }) => `None of ${sets} is given whole`,
  },
  settings,
  names: (rulebook) => rules(rulebook).flatMap(({ sets }) => sets.flat()),
  compile(rulebook) {
    const asked = rules(rulebook);
    if (asked.length === 0) return undefined;
    const label = (key: string) => rulebook.attributes.find((one) => one.key === key)?.label ?? key;
    return (item) => {
      for (const { sets } of asked) {
        if (sets.some((set) => set.every((key) => item[key] !== undefined))) continue;
        // The one that lacks least is named.
        const lacks = sets.map((set) => set.filter((key) => item[key] === undefined));
        const [nearest = []] = [...lacks].sort((a, b) => a.length - b.length);
        return {
          attribute: nearest[0] ?? '',
          params: { sets: sets.map((set) => set.map(label).join(' with ')).join(', ') },
        };
      }
      return undefined;
    };
  },
  examples: {
    rules: [{ check: 'one-of', sets: [['gtin'], ['brand', 'number']] }],
    pass: [{ gtin: '2104000004131' }, { brand: 'Hobnettle', number: 'H1' }],
    fail: [{}, { brand: 'Hobnettle' }, { number: 'H1' }],
  },
};
