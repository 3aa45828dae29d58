import { endsHere, isAsked, isBefore, isDenied, isHere, startsHere } from '../around.js';
import { units } from '../../values/index.js';
import type { SoughtCount } from '../model.js';
import { type Side, wordsOf } from '../side.js';
import { unitAt } from './figures.js';
import type { Candidate, Finder } from './model.js';

const most = 100_000;
/** “Pack of 6”, “3-pack”, “4er-Set”, “100 Stück”, “6 x 330 ml”: pieces in what is sold as one. */
export function findCount({ label, aliases = [] }: SoughtCount): Finder {
  const names = [label, ...aliases].map(wordsOf);
  return (side) => {
    const found: Candidate[] = [];
    for (const [i, token] of side.tokens.entries()) {
      if (side.masked.has(i) || isAsked(side, i)) continue;
      if (token.kind === 'word') {
        const two = startsHere('two', side, i);
        const length = two || startsHere('dozen', side, i);
        // “2 pairs of”: the figure says it.
        const isCounted = side.tokens[i - 1]?.kind === 'figure';
        if (length > 0 && side.isTitle && !isCounted && !isDenied(side, i, i + length))
          found.push({ value: two > 0 ? 2 : 12, from: i, to: i + length, score: 0.78 });
        continue;
      }
      if (
        token.kind !== 'figure' ||
        !/^\d+(?:[.,]\d{3})?$/u.test(token.fold) ||
        (token.glued && side.tokens[i - 1]?.kind === 'word')
      )
        continue;
      const pieces = Number(token.fold.replace(/[.,]/u, ''));
      if (pieces < 1 || pieces > most) continue;
      if (isBefore('limits', side, i, 2) || isBefore('uses', side, i) || isDenied(side, i, i + 1)) continue;
      const span = spanOf(side, i, names);
      if (span) found.push({ value: pieces, ...span });
    }
    return found;
  };
}

function spanOf(
  side: Side,
  i: number,
  names: readonly string[][],
): { from: number; to: number; score: number } | undefined {
  const { tokens, text, isTitle } = side;
  const sure = isTitle ? 0.94 : 0.84;
  const before = endsHere('packBefore', side, i);
  if (before > 0 && !isHere('besides', side, i + 1)) return { from: i - before, to: i + 1, score: sure };
  let at = i + 1;
  while (tokens[at]?.fold === '-') at++;
  const after = tokens[at]?.kind === 'word' ? startsHere('packAfter', side, at) : 0;
  if (after > 0 && !(/^(?:er|p)$/u.test(tokens[at]?.fold ?? '') && after === 1 && !tokens[at]?.glued)) {
    if (!isHere('besides', side, at + after) && !(tokens[i - 1]?.fold === '/' && tokens[i]?.glued))
      return { from: i, to: at + after, score: sure };
  }
  // “6 x 330 ml”: so many of a measure that is no length.
  const times = tokens[i + 1];
  const amount = tokens[i + 2];
  if (times && /^[x×*]$/u.test(times.fold)) {
    const unitToken = tokens[i + 3];
    if (amount?.kind === 'figure' && unitToken) {
      const unit = unitAt(text.slice(unitToken.start, unitToken.end), unitToken.glued ? '' : ' ')?.code;
      const dimension = unit === undefined ? undefined : units[unit]?.dimension;
      if (dimension && dimension !== 'length' && dimension !== 'area')
        return { from: i, to: i + 2, score: isTitle ? 0.92 : 0.8 };
    } else if (amount?.kind === 'word' && isTitle && i === side.clauses[i]) return { from: i, to: i + 2, score: 0.8 };
  }
  // “Pieces: 12”.
  let back = i - 1;
  while (/^[:=.]$/u.test(tokens[back]?.fold ?? '')) back--;
  if (
    tokens[i - 1]?.fold === ':' &&
    names.some((parts) => parts.every((part, n) => tokens[back - parts.length + 1 + n]?.fold === part))
  )
    return { from: i, to: i + 1, score: 0.95 };
  return undefined;
}
