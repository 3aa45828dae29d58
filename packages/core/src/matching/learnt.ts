/** What words of different sources mean, learnt from goods that are joined. */
import { plainLetters } from '../lexicon/index.js';
import { type Reading, compileReader } from './reading.js';

/** Words known to mean the same, learnt from joined goods: attribute → folded word → folded words of other sources. */
export type KnownWords = ReadonlyMap<string, ReadonlyMap<string, ReadonlySet<string>>>;

/** Words of titles: word → word of another source → 0–1, how surely they mean one thing. */
export type LearntWords = ReadonlyMap<string, ReadonlyMap<string, number>>;

/** Below it, two words stood together by chance. */
const least = 0.3;

/**
 * Which words of titles mean one thing, by how often they stand for each other in titles of joined goods: n pairs of titles have
 * one in each, twice at least, and of those that have either most have both. Words that both titles of a pair have stand for
 * themselves and teach nothing.
 */
export function learnWords(titles: readonly (readonly [readonly string[], readonly string[]])[]): LearntWords {
  const vocabulary = new Set(
    titles.flatMap((pair) => pair.flat().flatMap((title) => plainLetters(title).split(/[^\p{L}]+/u))),
  );
  const read = compileReader((word) => word.length >= 4 && vocabulary.has(word));
  const pairs = titles.flatMap(([mine, theirs]) =>
    mine.flatMap((one) => theirs.map((other): [Reading, Reading] => [read(one), read(other)])),
  );
  const alone = new Map<string, number>();
  const together = new Map<string, Map<string, number>>();
  for (const [a, b] of pairs) {
    const [mine, theirs] = [
      new Map(a.atoms.map((atom) => [atom.word, atom])),
      new Map(b.atoms.map((atom) => [atom.word, atom])),
    ];
    const open = (words: typeof mine, others: typeof mine) => {
      const ids = new Set([...others.values()].flatMap(({ ids: all }) => all));
      return [...words].flatMap(([word, atom]) => (atom.ids.some((id) => ids.has(id)) ? [] : [word]));
    };
    const [left, right] = [open(mine, theirs), open(theirs, mine)];
    for (const word of [...left, ...right]) alone.set(word, (alone.get(word) ?? 0) + 1);
    for (const one of left)
      for (const other of right)
        for (const [from, to] of [
          [one, other],
          [other, one],
        ] as const) {
          const met = together.get(from) ?? new Map<string, number>();
          together.set(from, met.set(to, (met.get(to) ?? 0) + 1));
        }
  }
  const learnt = new Map<string, Map<string, number>>();
  for (const [one, met] of together)
    for (const [other, n] of met) {
      if (n < 2) continue;
      const sure = (0.95 * n * n) / ((alone.get(one) ?? 0) + 0.5) / ((alone.get(other) ?? 0) + 0.5);
      if (sure >= least) learnt.set(one, (learnt.get(one) ?? new Map()).set(other, sure));
    }
  return learnt;
}
