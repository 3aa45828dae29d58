/** Translations of a supplier's words, learnt from goods that both sides describe. */
import { foldText } from '../values/index.js';

export interface LearntWord {
  value: string;
  /** Our word for it on most of the goods that carry it. */
  ours: string;
  /** Goods that carry both, and goods that carry theirs. */
  agree: number;
  seen: number;
}

/**
 * @param pairs their cell beside our value, one a pair of records joined by an exact key
 * @returns words whose counterpart is the same on at least two thirds of at least two goods; equal words are left out
 */
export function learnWords(pairs: readonly (readonly [theirs: string, ours: string])[]): LearntWord[] {
  const words = new Map<string, { value: string; seen: number; ours: Map<string, number> }>();
  for (const [theirs, ours] of pairs) {
    const folded = foldText(theirs);
    const word = words.get(folded) ?? { value: theirs, seen: 0, ours: new Map<string, number>() };
    words.set(folded, word);
    word.seen++;
    word.ours.set(ours, (word.ours.get(ours) ?? 0) + 1);
  }
  return [...words.values()].flatMap(({ value, seen, ours }) => {
    const [best] = [...ours].sort((a, b) => b[1] - a[1]);
    if (!best || best[1] < 2 || best[1] / seen < 2 / 3 || foldText(best[0]) === foldText(value)) return [];
    return [{ value, ours: best[0], agree: best[1], seen }];
  });
}
