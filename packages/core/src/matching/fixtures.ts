/** Goods for tests of matching. */
import type { MatchItem } from './index.js';

/** One of a source, of which nothing is said but what is given. */
export const itemOf = (id: number, change: Partial<MatchItem>): MatchItem => ({
  id,
  sources: [id],
  titles: [],
  brand: undefined,
  mpn: undefined,
  identifiers: [],
  sizes: {},
  words: {},
  prices: {},
  ...change,
});
