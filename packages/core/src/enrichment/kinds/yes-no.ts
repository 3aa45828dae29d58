import { isAsked, isDenied, isHere, startsHere } from '../around.js';
import type { SoughtYesNo } from '../model.js';
import { type Side, wordsOf } from '../side.js';
import type { Candidate, Finder } from './model.js';

const idle = new Set(['-', '.', "'", '’']);

/** Label and aliases announce it; a denial before, among or behind its words makes it false. */
export function findYesNo({ label, aliases = [] }: SoughtYesNo): Finder {
  const phrases = [...new Set([label, ...aliases])]
    .map(wordsOf)
    .filter(({ length }) => length > 0)
    .sort((a, b) => b.length - a.length);

  return (side) => {
    const found: Candidate[] = [];
    for (let i = 0; i < side.tokens.length; i++) {
      if (side.masked.has(i)) continue;
      const match = phrases.map((parts) => matchAt(side, i, parts)).find(Boolean);
      if (!match) continue;
      if (!isAsked(side, i) && !isOptional(side, i, match.to)) {
        const isFalse = match.denied || isDenied(side, i, match.to) || saysNo(side, match.to);
        const from = isFalse ? deniedFrom(side, i) : i;
        found.push({ value: !isFalse, from, to: match.to, score: side.isTitle ? 0.94 : 0.9 });
      }
      i = match.to - 1;
    }
    return found;
  };
}

function matchAt(side: Side, i: number, parts: readonly string[]): { to: number; denied: boolean } | undefined {
  let at = i;
  let denied = false;
  for (const [n, part] of parts.entries()) {
    if (n > 0) {
      while (idle.has(side.tokens[at]?.fold ?? '')) at++;
      const length = side.tokens[at]?.fold === part ? 0 : startsHere('negations', side, at);
      if (length > 0) {
        denied = true;
        at += length;
      }
    }
    const fold = side.tokens[at]?.fold ?? '';
    const isLast = n === parts.length - 1;
    // Declined at the end: “dimmbare”, “vattentäta”.
    if (
      fold !== part &&
      !(isLast && part.length > 4 && fold.startsWith(part) && /^(?:e[rsnm]?|a|t)$/u.test(fold.slice(part.length)))
    )
      return undefined;
    at++;
  }
  return { to: at, denied };
}

const isOptional = (side: Side, from: number, to: number): boolean =>
  [-2, -1].some((back) => isHere('optional', side, from + back)) ||
  [0, 1, 2, 3].some((ahead) => side.clauses[to + ahead] === side.clauses[from] && isHere('optional', side, to + ahead));

/** “Dimmable: no”. */
const saysNo = (side: Side, to: number): boolean => side.tokens[to]?.fold === ':' && isHere('no', side, to + 1);

/** The denial is part of the evidence. */
function deniedFrom(side: Side, from: number): number {
  for (let at = Math.max(side.clauses[from] ?? 0, from - 3); at < from; at++)
    if (isHere('negations', side, at)) return at;
  return from;
}
