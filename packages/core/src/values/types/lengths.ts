/** How long the texts of values may be. */
import { sayCount } from '../numbers.js';

/** Longer than this a text is a description, and belongs into one. */
export const longestText = 500;

export const longestAddress = 2000;

export const tooLong = (raw: string, most: number): { ok: false; reason: string } => ({
  ok: false,
  reason: `“${raw.slice(0, 40)}…” has ${sayCount(raw.length)} characters; ${sayCount(most)} are kept at most`,
});
