/** Figures with units, as texts write them. */
import { fractionSign, parseDecimal, readAmount, unitCode, units } from '../../values/index.js';
import type { Dimension } from '../../values/index.js';
import { type Side, tokenAt } from '../side.js';

export interface Figure {
  amount: string;
  unit: string;
  dimension: Dimension;
  start: number;
  end: number;
  /** The token it begins with, and the one behind its last. */
  from: number;
  to: number;
  isRange: boolean;
  /** Part of a × b. */
  isProduct: boolean;
}

export const number = String.raw`(?:\d{1,3}(?:[ \u00a0\u202f.,'’]\d{3})+(?:[.,]\d{1,2})?(?!\d)|\d+[.,]\d+|\d+\s+\d\/\d{1,2}|\d+\/\d{1,2}|\d+\s?${fractionSign}|\d+|${fractionSign})`;
const figure = new RegExp(
  String.raw`(?<![\p{L}\p{N}.,/])(${number})([\s\u00a0\u202f]?-?)([\p{L}°"″′'’%µ℃][\p{L}²³]*(?:\.(?=\s?\p{L}\.))?(?:\s\p{L}+)?)`,
  'giu',
);

/** Letters that are units only in one case, or only where nothing parts them from the figure. */
const capitals = new Set(['w', 'v', 'k', 'a']);
const never = new Set(['st', 'd', 's', 't', 'lm.', 'b', "'", '’', '′']);

const beforeFraction = new RegExp(String.raw`(?<=\d)\s?(?=${fractionSign})`, 'gu');

export function amountOf(text: string, decimal: '.' | ','): string | undefined {
  const plain = text
    .normalize('NFC')
    .replace(/[\u00a0\u202f]/gu, ' ')
    .replace(beforeFraction, '');
  const read = parseDecimal(plain, { decimal });
  return read.ok ? read.value : readAmount(plain, { decimal });
}

/** The unit that a text of one or two words begins with. */
export function unitAt(
  written: string,
  gap: string,
  dimension?: Dimension,
): { code: string; length: number } | undefined {
  const options = [written, written.split(/\s/u)[0] ?? ''];
  for (const text of options) {
    const code = unitCode(text, dimension);
    if (code === undefined) continue;
    const small = text.toLowerCase();
    if (never.has(small) || (capitals.has(small) && text !== text.toUpperCase())) continue;
    // “5 in a box”, “M” of a size, “10 H”.
    if (small === 'in' && gap === ' ') continue;
    if (/^[MGHSTD]$/u.test(text) && (text !== 'M' || gap !== '')) continue;
    return { code, length: text.length };
  }
  return undefined;
}

const known = new WeakMap<Side, readonly Figure[]>();

/** All figures with a unit; ranges and products are marked. A text is read once, however many attributes ask. */
export function figuresIn(side: Side, decimal: '.' | ','): readonly Figure[] {
  const found = known.get(side) ?? readFigures(side, decimal);
  known.set(side, found);
  return found;
}

function readFigures(side: Side, decimal: '.' | ','): Figure[] {
  const { text } = side;
  const found: Figure[] = [];
  for (const match of text.matchAll(figure)) {
    const [, amountText = '', gap = '', unitText = ''] = match;
    const unit = unitAt(unitText, gap);
    const amount = amountOf(amountText, decimal);
    const dimension = unit && units[unit.code]?.dimension;
    if (!unit || amount === undefined || !dimension) continue;
    const start = match.index;
    const end = start + amountText.length + gap.length + unit.length;
    const [before, after] = [text.slice(Math.max(0, start - 12), start), text.slice(end, end + 12)];
    // “g/m²”, “km/h”, “per hour”.
    if (/^\s?(?:\/|²|³|per\b|pro\b)/u.test(after) || /^[\p{L}\p{N}]/u.test(after)) continue;
    found.push({
      amount:
        /[-−]$/u.test(before) && !/\d\s?[-−]$/u.test(before) && !/\p{L}[-−]$/u.test(before) ? `-${amount}` : amount,
      unit: unit.code,
      dimension,
      start,
      end,
      from: tokenAt(side, start),
      to: tokenAt(side, end - 1) + 1,
      isRange:
        /\d[^\d\s.]{0,4}\s?(?:[-–—]|\s(?:to|bis|till|til|and|und|och|à)\s)\s?$/iu.test(before) ||
        /^\s?(?:[-–—]\s?\d|\s?(?:to|bis|till|til|à)\s\d)/iu.test(after),
      isProduct: /\d[^\d]{0,5}[x×*]\s?$/iu.test(before) || /^\s?[x×*]\s?\d/iu.test(after),
    });
  }
  return found;
}
