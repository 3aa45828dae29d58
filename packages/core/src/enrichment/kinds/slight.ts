/** Values of a letter or two: words, units and signs of something else look like them. */
import { isHere } from '../around.js';
import type { Side } from '../side.js';

/** A letter or two, or a figure alone: an article, a unit, a number of anything (“A matt pot”, “3 A fuse”, “22 °C”). */
export function isSlight(side: Side, from: number, to: number): boolean {
  const said = side.text.slice(side.tokens[from]?.start, side.tokens[to - 1]?.end);
  if (to !== from + 1) return false;
  if (side.tokens[from]?.kind === 'figure' || said.length < 2) return true;
  // “Ek” is a wood; “in” and “is” are no plugs.
  return said.length === 2 && !(side.isTitle && /^\p{Ll}+$/u.test(said) && !isHere('short', side, from));
}

/** Of what is slight and has no word before it that announces it. */
export const slightScore = (side: Side, from: number, to: number): number =>
  side.isTitle && standsAlone(side, from, to) ? 0.75 : 0;

/** Two capitals with nothing else between commas: “96 W, EU”. */
function standsAlone(side: Side, from: number, to: number): boolean {
  const { tokens, clauses, text } = side;
  const said = text.slice(tokens[from]?.start, tokens[to - 1]?.end);
  const ends = tokens[to] === undefined || (tokens[to]?.kind === 'sign' && clauses[to + 1] !== clauses[from]);
  return /^\p{Lu}{2}$/u.test(said) && from > 0 && from === clauses[from] && ends;
}
