import { isAsked, isBefore, isDenied } from '../around.js';
import { ucumCode, units } from '../../values/index.js';
import type { SoughtSizes } from '../model.js';
import { type Side, tokenAt } from '../side.js';
import { amountOf, number, unitAt } from './figures.js';
import type { Finder } from './model.js';

const unit = String.raw`([\s\u00a0]?)(mm|cm|dm|m|in|inch|inches|ft|tum|zoll|"|″)?(?![\p{L}])`;
const letter = String.raw`(?:\s?\(?[lwhbdtLWHBDT]\)?(?![\p{L}]))?`;
const pattern = new RegExp(
  String.raw`(?<![\p{L}\p{N}.,/])(${number})${unit}${letter}\s?[x×*]\s?(${number})${unit}${letter}(?:\s?[x×*]\s?(${number})${unit}${letter})?`,
  'giu',
);

/** “40 x 25 x 3 cm”: figures of one unit; what goods are packed, folded or used with is not theirs. */
export function findSizes({ dimension = 'length' }: SoughtSizes): Finder {
  return (side, { decimal }) => {
    const { text } = side;
    return [...text.matchAll(pattern)].flatMap((match) => {
      const parts = [
        [match[1], match[3], match[2]],
        [match[4], match[6], match[5]],
        [match[7], match[9], match[8]],
      ].filter(([amount]) => amount !== undefined);
      const codes = parts.map(([, written, gap]) =>
        written ? unitAt(written, gap === ' ' && written === 'in' ? '' : (gap ?? ''))?.code : undefined,
      );
      const last = codes.at(-1) ?? codes.findLast((code) => code !== undefined);
      if (last === undefined || units[last]?.dimension !== dimension) return [];
      // “8 mm x 50 m” is a thickness and a length.
      if (codes.some((code) => code !== undefined && code !== last)) return [];
      const amounts = parts.map(([amount]) => amountOf(amount ?? '', decimal));
      if (amounts.some((amount) => amount === undefined)) return [];
      const start = match.index;
      const end = start + match[0].trimEnd().length;
      if (/^\s?[x×*]\s?\d/u.test(text.slice(end)) || /\d\s?[x×*]\s?$/u.test(text.slice(0, start))) return [];
      const [from, to] = [tokenAt(side, start), tokenAt(side, end - 1) + 1];
      if (isOthers(side, from, to)) return [];
      return [
        {
          value: { amounts: amounts.filter((amount) => amount !== undefined), unit: ucumCode(last) },
          from,
          to,
          score: side.isTitle ? 0.93 : 0.82,
        },
      ];
    });
  };
}

function isOthers(side: Side, from: number, to: number): boolean {
  for (let i = from; i < to; i++) if (side.masked.has(i)) return true;
  if (isAsked(side, from) || isDenied(side, from, to) || isBefore('limits', side, from, 2)) return true;
  if (isBefore('uses', side, from) || isBefore('others', side, from, 5)) return true;
  // A norm of something: “VESA 100 x 100 mm”.
  const before = side.tokens[from - 1];
  if (before?.kind === 'word' && /^\p{Lu}{2,}$/u.test(side.text.slice(before.start, before.end)) && !side.isTitle)
    return true;
  if (!side.isTitle && isBefore('parts', side, from, 4)) return true;
  return isBefore('fastened', side, from);
}
