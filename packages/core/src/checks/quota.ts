import { z } from 'zod';
import type { Rulebook } from '../rulebooks/index.js';
import { type PlaceCheck, rulesOf } from './model.js';

const settings = z.strictObject({ items: z.number().int().positive() });
const rules = (rulebook: Rulebook) => rulesOf(rulebook, 'quota', settings);

export const quota: PlaceCheck = {
  meta: {
    id: 'quota',
    severity: 'blocker',
    describes: 'The channel takes so many items of a place: those that were in it first stay, what came later waits.',
    fix: 'assortment',
    fault: 'is one too many',
    say: ({ most = 0 }) => `The channel takes ${most} items of this place, and these were in it before`,
  },
  settings,
  compile(rulebook) {
    // Of several, the smallest binds.
    const [most] = rules(rulebook)
      .map(({ items }) => items)
      .sort((a, b) => a - b);
    return most === undefined ? undefined : { attribute: rulebook.exchange.itemKey, most };
  },
};
