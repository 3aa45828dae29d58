import type { Likeness } from '../model.js';

const most = 80;
/** Pairs of a word: of shorter ones a few in common are chance. */
const least = 3;

/** Pairs of letters in common (Sørensen–Dice): words written wrong, or shortened. */
export const letters: Likeness = {
  kind: 'letters',
  rate({ word, others }, value) {
    const theirs = pairsOf(value);
    if (theirs.size < least) return undefined;
    const share = Math.max(
      ...[word, ...others].map((text) => {
        const mine = pairsOf(text);
        if (mine.size < least) return 0;
        const shared = [...mine].filter((pair) => theirs.has(pair)).length;
        return (2 * shared) / Math.max(1, mine.size + theirs.size);
      }),
    );
    return share === 0 ? undefined : { score: Math.round(most * share), why: 'is written much like it' };
  },
};

const pairsOf = (text: string) =>
  new Set(
    text
      .toLowerCase()
      .split(/[^\p{L}\d]+/u)
      .flatMap((word) => Array.from({ length: Math.max(0, word.length - 1) }, (_, i) => word.slice(i, i + 2))),
  );
