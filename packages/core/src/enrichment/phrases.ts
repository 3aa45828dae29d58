/** Phrases that are looked for in texts, by their words. */
import type { Side, Token } from './side.js';

export interface Phrases {
  /** How many tokens a phrase takes that begins here; 0 for none. */
  startsAt(side: Pick<Side, 'tokens'>, i: number): number;
  /** How many tokens a phrase takes that ends right before this one. */
  endsBefore(side: Pick<Side, 'tokens'>, i: number): number;
}

const idle = new Set(['.', "'", '’', '´', '-', '&']);

/** Phrases are folded, their words parted by spaces. */
export function phrasesOf(list: readonly string[]): Phrases {
  const byFirst = new Map<string, string[][]>();
  const byLast = new Map<string, string[][]>();
  for (const phrase of list) {
    const parts = phrase.split(' ').filter(Boolean);
    const [first] = parts;
    const last = parts.at(-1);
    if (first === undefined || last === undefined) continue;
    byFirst.set(first, [...(byFirst.get(first) ?? []), parts]);
    byLast.set(last, [...(byLast.get(last) ?? []), parts]);
  }
  for (const lists of [...byFirst.values(), ...byLast.values()]) lists.sort((a, b) => b.length - a.length);
  return {
    startsAt({ tokens }, i) {
      for (const parts of byFirst.get(tokens[i]?.fold ?? '') ?? []) {
        const end = walk(tokens, i, parts, 1);
        if (end !== undefined) return end - i;
      }
      return 0;
    },
    endsBefore({ tokens }, i) {
      let from = i - 1;
      while (from >= 0 && idle.has(tokens[from]?.fold ?? '')) from--;
      for (const parts of byLast.get(tokens[from]?.fold ?? '') ?? []) {
        const end = walk(tokens, from, parts, -1);
        if (end !== undefined) return i - 1 - end;
      }
      return 0;
    },
  };
}

/** Where a phrase ends that is followed word by word, over stops and hyphens; undefined where it is not there. */
function walk(tokens: readonly Token[], from: number, parts: readonly string[], step: 1 | -1): number | undefined {
  let at = from;
  for (let n = 0; n < parts.length; n++) {
    if (n > 0) while (idle.has(tokens[at]?.fold ?? '')) at += step;
    const part = step > 0 ? parts[n] : parts[parts.length - 1 - n];
    if (tokens[at]?.fold !== part) return undefined;
    at += step;
  }
  return at;
}
