/** Sizes of clothes and shoes: letters that are many other things. */
import { isHere } from '../around.js';
import { announcers } from '../../catalog/variants/size-words.js';
import type { Side } from '../side.js';

/** A single letter is a size where it stands alone: behind a word for sizes, between signs, at an end. */
export function sizeScore(side: Side, from: number, to: number, announced: boolean): number {
  const { tokens, text } = side;
  const said = text.slice(tokens[from]?.start, tokens[to - 1]?.end);
  const before = tokens[from - 1];
  const after = tokens[to];
  if (announced || announcesSize(side, from)) return 0.96;
  if (before?.kind === 'figure' || isHere('notSizes', side, from - 1)) return 0;
  if (said.length > 1) return side.isTitle ? 0.9 : 0.66;
  const opens = before === undefined || before.kind === 'sign';
  const closes = after === undefined || after.kind === 'sign';
  if (before?.fold === "'" || before?.fold === '’' || (after?.glued && /^['’&.]$/u.test(after.fold) && tokens[to + 1]))
    return 0;
  if (!closes) return 0;
  return side.isTitle ? (opens ? 0.85 : 0.72) : 0;
}

function announcesSize(side: Side, from: number): boolean {
  let at = from - 1;
  while (at >= 0 && /^[:.]$/u.test(side.tokens[at]?.fold ?? '')) at--;
  const word = side.tokens[at]?.fold ?? '';
  return word.length > 1 && announcers.has(word);
}
