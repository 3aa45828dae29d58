/** Why two products may be the same goods. */
export interface Evidence {
  kind: 'identifier' | 'brand-mpn' | 'title' | 'axes' | 'price' | 'brand' | 'against';
  /** For people: what was compared and how it came out. */
  words: string;
  /** What it adds to the score; below 0 where it speaks against. */
  points: number;
}
