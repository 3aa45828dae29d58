import { foldLetters } from '../../values/index.js';
import type { Likeness } from '../model.js';

/** All words of one of the two stand in the other: of “moss green” both, of “round, small” the first. */
export const words: Likeness = {
  kind: 'words',
  rate({ word, others }, value, { language }) {
    const wordsOf = (text: string) =>
      new Set(
        (foldLetters(text).match(/[\p{L}\d]+/gu) ?? []).flatMap((one) =>
          language.idle.has(one) ? [] : [language.stem(one)],
        ),
      );
    const theirs = wordsOf(value);
    let best: { score: number; why: string } | undefined;
    for (const text of [word, ...others]) {
      const ours = wordsOf(text);
      const shared = [...ours].filter((one) => theirs.has(one));
      if (shared.length === 0 || shared.length < Math.min(ours.size, theirs.size)) continue;
      const score = Math.round(40 + (45 * shared.length) / Math.max(ours.size, theirs.size));
      if (score > (best?.score ?? 0))
        best = {
          score,
          why: ours.size > theirs.size ? `“${text}” has all its words` : `it has all words of “${text}”`,
        };
    }
    return best;
  },
};
