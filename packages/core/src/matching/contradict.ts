/** Compares what two records say of themselves. An equal key is not enough where these contradict it. */
import type { Traits } from './traits.js';

/** Why these two cannot be the same goods, in words; none where nothing speaks against it. */
export function contradictions(a: Traits, b: Traits): string[] {
  const against: string[] = [];
  if (a.brand && b.brand && !isSameBrand(a.brand, b.brand)) against.push('their brands differ');
  if (a.gtin && b.gtin && a.gtin !== b.gtin) against.push('each has a valid GTIN of its own');
  if (a.pack !== undefined && b.pack !== undefined && a.pack !== b.pack)
    against.push(`one is a pack of ${a.pack}, the other of ${b.pack}`);
  if (a.condition !== b.condition) against.push(`one is ${a.condition ?? 'new'}, the other ${b.condition ?? 'new'}`);
  if (isDisjoint(a.sizes, b.sizes)) against.push(`one is of size ${say(a.sizes)}, the other of ${say(b.sizes)}`);
  if (isDisjoint(a.colours, b.colours)) against.push(`one is ${say(a.colours)}, the other ${say(b.colours)}`);
  for (const [dimension, mine] of a.figures) {
    const theirs = b.figures.get(dimension);
    if (theirs && !mine.some((x) => theirs.some((y) => isNear(x, y, nearFigure))))
      against.push(`their titles and options name other figures of ${dimension}`);
  }
  for (const [key, mine] of a.measures) {
    const theirs = b.measures.get(key);
    if (theirs !== undefined && !isNear(mine, theirs, nearMeasure)) against.push(`their ${key} differs`);
  }
  return against;
}

/** Titles are rounded; attributes are measured by different people with different rulers. */
export const nearFigure = 0.03;
const nearMeasure = 0.3;
/** Within a share of the greater. */
export const isNear = (x: number, y: number, within: number) =>
  Math.abs(x - y) <= within * Math.max(Math.abs(x), Math.abs(y)) + 1e-12;

/** "Brackwater" and "Brackwater Pottery" are one brand. */
const isSameBrand = (a: string, b: string) =>
  a === b || (Math.min(a.length, b.length) >= 4 && (a.startsWith(b) || b.startsWith(a)));

const isDisjoint = (a: ReadonlySet<string>, b: ReadonlySet<string>) =>
  a.size > 0 && b.size > 0 && ![...a].some((text) => b.has(text));
const say = (all: ReadonlySet<string>) => [...all].join(' and ');

/** What beside a key speaks for it that two records are the same goods: brand, MPN, or words of the titles. */
export function agreements(a: Traits, b: Traits): string[] {
  const agreed: string[] = [];
  if (a.brand && b.brand && isSameBrand(a.brand, b.brand)) agreed.push('brand');
  if (a.mpn && a.mpn === b.mpn) agreed.push('MPN');
  const shared = [...a.words].filter((word) => b.words.has(word)).length;
  if (shared >= 2 || (shared === 1 && Math.min(a.words.size, b.words.size) === 1)) agreed.push('words of the title');
  return agreed;
}
