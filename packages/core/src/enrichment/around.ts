/** What stands around a value in its clause. */
import { phrasesOf } from './phrases.js';
import type { Side, Token } from './side.js';
import { words } from './words/index.js';

const of = {
  negations: phrasesOf(words.negations),
  lacking: phrasesOf(words.lacking),
  limits: phrasesOf(words.limits),
  uses: phrasesOf(words.uses),
  loads: phrasesOf(words.loads),
  others: phrasesOf(words.others),
  // Several of a part are parts.
  parts: phrasesOf(words.parts.flatMap((part) => (part.endsWith('s') ? [part] : [part, `${part}s`]))),
  looksBefore: phrasesOf(words.looksBefore),
  looksAfter: phrasesOf(words.looksAfter),
  lights: phrasesOf(words.lights),
  ofWhat: phrasesOf(words.ofWhat),
  plain: phrasesOf(words.plain),
  madeOf: phrasesOf(words.madeOf),
  packBefore: phrasesOf(words.packBefore),
  packAfter: phrasesOf(words.packAfter),
  notOnly: phrasesOf(['not only', 'nicht nur', 'inte bara', 'inte endast', 'non seulement', 'no solo']),
};
/** A clause is read so far back: nobody’s sentence is longer. */
const farthest = 40;

export type Kind = keyof typeof of;

export const startsHere = (kind: Kind, side: Side, i: number): number => of[kind].startsAt(side, i);
export const endsHere = (kind: Kind, side: Side, i: number): number => of[kind].endsBefore(side, i);

/** A phrase of the kind begins among so many tokens before this one, in its clause. */
export function isBefore(kind: Kind, side: Side, i: number, within = farthest): boolean {
  const from = Math.max(side.clauses[i] ?? 0, i - within);
  for (let at = from; at < i; at++) {
    const length = of[kind].startsAt(side, at);
    if (length > 0 && at + length <= i) return true;
  }
  return false;
}

/** A phrase of the kind begins among so many tokens behind this one, in its clause. */
export function isAfter(kind: Kind, side: Side, i: number, within: number): boolean {
  for (let at = i; at < Math.min(side.tokens.length, i + within) && side.clauses[at] === side.clauses[i - 1]; at++)
    if (of[kind].startsAt(side, at) > 0) return true;
  return false;
}

export const clauseEnd = (side: Side, i: number): Token | undefined => {
  let at = i;
  while (at < side.tokens.length && at < i + farthest && side.clauses[at] === side.clauses[i]) at++;
  return side.tokens[at - 1];
};

/** “Is it wool?” is no answer. */
export const isAsked = (side: Side, i: number): boolean => clauseEnd(side, i)?.fold === '?';

/** Denied before (“no”, “without”, at most two words away) or behind (“-free”, “not included”). */
export function isDenied(side: Side, from: number, to: number): boolean {
  if (isBefore('notOnly', side, from, 4)) return false;
  if (isBefore('negations', side, from, 3)) return true;
  let at = to;
  while (side.tokens[at]?.fold === '-') at++;
  return of.lacking.startsAt(side, at) > 0 && side.clauses[at] === side.clauses[from];
}
