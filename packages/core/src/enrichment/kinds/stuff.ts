/** Colours, materials and patterns: words that name parts, scents, uses and looks as often as what goods are of. */
import { endsHere, isBefore, isHere } from '../around.js';
import type { Side } from '../side.js';
import { isSlight, slightScore } from './slight.js';

const isJoined = (side: Side, at: number): boolean => {
  const [one, two] = [side.tokens[at], side.tokens[at + 1]];
  return one?.fold === '-' && one.glued && two?.kind === 'word' && two.glued;
};

export function stuffScore(
  side: Side,
  from: number,
  to: number,
  { announced, isColour }: { announced: boolean; isColour: boolean },
): number {
  const { tokens } = side;
  const next = tokens[to];
  if (!announced && isSlight(side, from, to)) return slightScore(side, from, to);
  if (isJoined(side, to) && isHere('looksAfter', side, to + 1)) return 0;
  if (isHere('looksAfter', side, to) || isBefore('looksBefore', side, from, 3)) return 0;
  if (!announced && isBefore('uses', side, from)) return 0;
  if (isColour && side.shines && endsHere('lights', side, from) > 0) return 0;
  const alone =
    from === side.clauses[from] &&
    (side.clauses[to] !== side.clauses[from] || side.clauses[to + 1] !== side.clauses[from]);
  if (side.misleads && !announced) return alone && !side.isTitle && !isColour ? 0.8 : 0;
  if (isAName(side, from, to) && !announced) return 0;
  if (announced) return 0.97;
  // “Paper 100 g/m²” tells of the paper.
  if (!side.isTitle && next?.kind === 'figure') return 0;
  // “Straw of silicone” is no straw; “with straw” has one.
  if (!isColour && (isHere('subject', side, to) || comesWith(side, from, to))) return 0;
  const made = endsHere('madeOf', side, from) > 0;
  if (made && !isColour && !side.isTitle && isOfSomething(side, from) && !isMain(side, from, to)) return 0;
  const ofPart =
    isHere('parts', side, to) || (isBefore('parts', side, from, made ? 5 : 3) && from - (side.clauses[from] ?? 0) > 0);
  if (ofPart) return isMain(side, from, to) ? 0.56 : 0;
  if (made) return side.isTitle ? 0.94 : 0.85;
  return side.isTitle ? 0.92 : 0.7;
}

const isMain = (side: Side, from: number, to: number): boolean =>
  isBefore('mainParts', side, from, 5) || isHere('mainParts', side, to);

/** “Straw of silicone”, “Bezug aus Samt”: a thing stands before what it is made of. */
function isOfSomething(side: Side, from: number): boolean {
  const at = from - endsHere('madeOf', side, from) - 1;
  const thing = side.tokens[at];
  return at >= (side.clauses[from] ?? 0) && thing?.kind === 'word' && !isHere('making', side, at);
}

const comesWith = (side: Side, from: number, to: number): boolean =>
  isHere('comesWith', side, from - 1) && !isMain(side, from, to);

/**
 * A capital in the middle of a title whose other words are small: a name (“Bookshelf Silver Lake, oak”). Where nouns have
 * capitals, or all words of the title, it says nothing.
 */
function isAName(side: Side, from: number, to: number): boolean {
  const { tokens, text } = side;
  if (!side.isTitle || side.nounsAreCapital || !isCapital(side, from) || from === side.clauses[from]) return false;
  const words = tokens.filter(({ kind, start, end }) => kind === 'word' && end - start > 2);
  const others = words.filter((token) => token !== tokens[from] && token !== words[0]);
  const small = others.filter(({ start }) => /\p{Ll}/u.test(text.charAt(start)));
  if (small.length === 0) return false;
  const next = tokens[to];
  const before = tokens[from - 1];
  const isPair =
    (next?.kind === 'word' && isCapital(side, to)) ||
    (before?.kind === 'word' && isCapital(side, from - 1) && from - 1 !== side.clauses[from]);
  return isPair || small.length >= others.length / 2;
}

const isCapital = (side: Side, i: number): boolean => /\p{Lu}/u.test(side.text.charAt(side.tokens[i]?.start ?? 0));
