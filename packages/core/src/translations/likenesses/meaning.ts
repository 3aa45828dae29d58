import { meaningsOf, plainLetters, shortened } from '../../lexicon/index.js';
import { foldLetters } from '../../values/index.js';
import type { Likeness } from '../model.js';

const [sameThing, sameNoun, kindOf] = [94, 88, 62];

/** Both mean one thing: in the words of the trade, whatever their language, or as English nouns. */
export const meaning: Likeness = {
  kind: 'meaning',
  rate({ word, others }, value, { relations }) {
    const concepts = (text: string) => {
      const plain = plainLetters(text);
      return meaningsOf(plain, shortened(plain));
    };
    const theirs = new Set(concepts(value));
    for (const text of [word, ...others])
      if (concepts(text).some((concept) => theirs.has(concept)))
        return { score: sameThing, why: `“${text}” means the same` };
    if (!relations) return undefined;
    const noun = (text: string) => relations.meanings(foldLetters(text).trim().replace(/\s+/g, '_'));
    const meant = new Map(noun(value).map((one) => [one.id, one]));
    let best: { score: number; why: string } | undefined;
    for (const text of [word, ...others])
      for (const { id, up, rank } of noun(text)) {
        const there = meant.get(id);
        if (!there || up + there.up > 1) continue;
        // In its usual sense; rarer ones mean it less often.
        const rare = 8 * (rank + there.rank);
        const score = (up + there.up === 0 ? sameNoun : kindOf) - rare;
        if (score > (best?.score ?? 0))
          best = {
            score,
            why:
              up + there.up === 0
                ? `“${text}” means the same`
                : up === 1
                  ? `“${text}” is a kind of it`
                  : `it is a kind of “${text}”`,
          };
      }
    return best;
  },
};
