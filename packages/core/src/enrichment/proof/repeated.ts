/** Texts that say nearly the same as others: found by what threes of words they share, without comparing each with each. */
import { foldLetters } from '../../values/index.js';

export interface Kept {
  id: number;
  /** Goods of one family are siblings. */
  family: number;
  /** Without markup. */
  text: string;
}

export interface Repeated {
  id: number;
  /** The one it is nearest to, of the others that are nearest the first. */
  other: number;
  /** 0–1: threes of words that both have, of all they have. */
  share: number;
  /** How many are so near. */
  others: number;
  isSibling: boolean;
}

/** Words below which nothing is said to be repeated: "Dishwasher safe." may stand under a hundred goods. */
const leastWords = 12;
const hashes = 48;
/** Rows of a band: 12 bands of 4 meet at a share of about a half, well below what is told. */
const rows = 4;
/** Of a band; more are so alike that the first of them tell as much. */
const mostMet = 60;

/** Those that are `least` alike, in the order of their ids; equal texts count as 1. */
export function findRepeated(texts: readonly Kept[], least = 0.8): Repeated[] {
  const read = texts
    .map(({ id, family, text }) => ({ id, family, threes: threesOf(text) }))
    .filter(({ threes }) => threes.size >= leastWords - 2)
    .sort((a, b) => a.id - b.id);
  const bands = new Map<string, number[]>();
  read.forEach(({ threes }, i) => {
    const marks = signature(threes);
    for (let band = 0; band * rows < hashes; band++) {
      const key = `${band}:${marks.slice(band * rows, (band + 1) * rows).join()}`;
      const met = bands.get(key);
      if (!met) bands.set(key, [i]);
      else if (met.length < mostMet) met.push(i);
    }
  });
  const near = new Map<number, Map<number, number>>();
  const note = (i: number, j: number, share: number) =>
    near.set(i, (near.get(i) ?? new Map<number, number>()).set(j, share));
  for (const met of bands.values())
    for (let x = 0; x < met.length; x++)
      for (let y = x + 1; y < met.length; y++) {
        const [i, j] = [met[x] as number, met[y] as number];
        if (near.get(i)?.has(j)) continue;
        const share = shareOf(read[i]?.threes ?? new Set(), read[j]?.threes ?? new Set());
        if (share < least) continue;
        note(i, j, share);
        note(j, i, share);
      }
  return read.flatMap(({ id, family }, i): Repeated[] => {
    const others = near.get(i);
    if (!others) return [];
    const [[at, share] = [0, 0]] = [...others].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
    const other = read[at];
    return other
      ? [
          {
            id,
            other: other.id,
            share: Number(share.toFixed(2)),
            others: others.size,
            isSibling: other.family === family,
          },
        ]
      : [];
  });
}

function threesOf(text: string): Set<number> {
  const words = foldLetters(text).match(/[\p{L}\p{N}]+/gu) ?? [];
  const threes = new Set<number>();
  for (let i = 0; i + 2 < words.length; i++)
    threes.add(hash(`${words[i]} ${words[i + 1]} ${words[i + 2]}`, 0x811c9dc5));
  return threes;
}

/** FNV-1a, 32 bits. */
function hash(text: string, seed: number): number {
  let value = seed;
  for (let i = 0; i < text.length; i++) value = Math.imul(value ^ text.charCodeAt(i), 0x01000193);
  return value >>> 0;
}

/** Odd multipliers and what is added: the same in every run, so that what is found is. */
const mixers = Array.from(
  { length: hashes },
  (_, i) => [hash(`a${i}`, 0x811c9dc5) | 1, hash(`b${i}`, 0x811c9dc5)] as const,
);

function signature(threes: ReadonlySet<number>): number[] {
  const least = mixers.map(() => 0xffffffff);
  for (const three of threes)
    mixers.forEach(([a, b], i) => {
      const mixed = (Math.imul(three, a) + b) >>> 0;
      const spread = (mixed ^ (mixed >>> 15)) >>> 0;
      if (spread < (least[i] ?? 0)) least[i] = spread;
    });
  return least;
}

function shareOf(a: ReadonlySet<number>, b: ReadonlySet<number>): number {
  let both = 0;
  for (const three of a) if (b.has(three)) both++;
  return both / (a.size + b.size - both);
}
