/** What stands around a value in its clause. */
import { phrasesOf } from './phrases.js';
import type { Side, Token } from './side.js';
import { type WordKind, perKind } from './words/index.js';

/** Several of a part are parts. */
const inflected: Partial<Record<WordKind, (phrase: string) => string[]>> = {
  parts: (part) => (part.endsWith('s') ? [part] : [part, `${part}s`]),
  misleading: (goods) => [goods, `${goods}s`],
  holders: (thing) => [thing, `${thing}s`, `${thing}es`],
};

const of = perKind((list, kind) => phrasesOf(list.flatMap(inflected[kind] ?? ((phrase) => [phrase]))));

/** A clause is read so far back: nobody’s sentence is longer. */
const farthest = 40;

export const startsHere = (kind: WordKind, side: Pick<Side, 'tokens'>, i: number): number => of[kind].startsAt(side, i);
/** A word of the kind is here. */
export const isHere = (kind: WordKind, side: Pick<Side, 'tokens'>, i: number): boolean =>
  of[kind].startsAt(side, i) > 0;
export const endsHere = (kind: WordKind, side: Side, i: number): number => of[kind].endsBefore(side, i);

/** A phrase of the kind begins among so many tokens before this one, in its clause. */
export function isBefore(kind: WordKind, side: Side, i: number, within = farthest): boolean {
  const from = Math.max(side.clauses[i] ?? 0, i - within);
  for (let at = from; at < i; at++) {
    const length = of[kind].startsAt(side, at);
    if (length > 0 && at + length <= i) return true;
  }
  return false;
}

/** A phrase of the kind begins among so many tokens behind this one, in its clause. */
export function isAfter(kind: WordKind, side: Side, i: number, within: number): boolean {
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
