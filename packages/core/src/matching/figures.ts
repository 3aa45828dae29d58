/** Numbers of titles, with the units they are of. */
import { plainLetters } from '../lexicon/index.js';
import { makeMeasure, unitCode, units } from '../values/index.js';

/** A number of a title: of a dimension (then with what it comes to in base units), or bare. */
export interface Figure {
  written: number;
  dimension: string | undefined;
  base: number;
  /** As it stands there. */
  text: string;
}

const amount = String.raw`\d+(?:[.,]\d+)?`;
const several = new RegExp(
  String.raw`(?<![\p{L}\d.,])(${amount}(?:\s*[x×*]\s*${amount})+)\s?-?\s?([a-zµ°"″”']{1,12})?`,
  'gu',
);
const fraction = /(?<![\d.,/])(?:(\d{1,2})\s+)?(\d{1,2})\/(2|3|4|8|16|32|64)(?![\d/])\s?-?\s?([a-z"″”']{1,12})?/gu;
const single = new RegExp(String.raw`(?<![\d.,])(${amount})\s?-?\s?([a-zµ°"″”']{1,12}(?![a-z]))?`, 'gu');
const signs: Record<string, string> = { '½': ' 1/2', '¼': ' 1/4', '¾': ' 3/4' };

/** Figures of a text, and the text in plain letters without them; words that numbers are written to stay ("kd18"). */
export function readFigures(text: string): { figures: Figure[]; rest: string } {
  const plain = plainLetters(text).replace(/[½¼¾]/gu, (sign) => signs[sign] ?? sign);
  const figures: Figure[] = [];
  const put = (written: number, unit: string | undefined, said: string): boolean => {
    const code = unit === undefined ? undefined : codeOf(unit);
    const dimension = code === undefined ? undefined : units[code]?.dimension;
    const base = code === undefined ? written : Number(makeMeasure(String(written), code).base);
    if (Number.isFinite(base)) figures.push({ written, dimension, base, text: said.trim() });
    return code !== undefined;
  };
  const numberOf = (written: string) => Number(written.replace(',', '.'));
  let rest = plain.replace(several, (said, list: string, unit: string | undefined) => {
    const amounts = list.split(/[x×*]/u).map((each) => numberOf(each.trim()));
    const code = unit === undefined ? undefined : codeOf(unit);
    // “4 x 40 mm” are two lengths; “6 x 500 ml” are six times one.
    const isSized = code !== undefined && units[code]?.dimension === 'length';
    amounts.forEach((each, i) => put(each, isSized || i === amounts.length - 1 ? unit : undefined, said));
    return ` ${code === undefined && unit !== undefined ? unit : ''} `;
  });
  rest = rest.replace(
    fraction,
    (said, whole: string | undefined, over: string, under: string, unit: string | undefined) => {
      if (Number(over) >= Number(under)) return said;
      return put(Number(whole ?? 0) + Number(over) / Number(under), unit, said) ? ' ' : ` ${unit ?? ''} `;
    },
  );
  rest = rest.replace(single, (said, written: string, unit: string | undefined) =>
    put(numberOf(written), unit, said) ? ' ' : ` ${unit ?? ''} `,
  );
  return { figures, rest };
}

const codes = new Map<string, string | undefined>();
/** The unit that letters behind a number are, if any. */
function codeOf(unit: string): string | undefined {
  if (codes.has(unit)) return codes.get(unit);
  const code = unitCode(unit);
  codes.set(unit, code);
  return code;
}
