/** Measures as people write them: a number with its unit, fractions, feet and inches. What is not sure is refused. */
import type { Dimension, Measure, Parsed, ReadingStyle } from './model.js';
import { parseDecimal, steady } from './numbers.js';
import { dimensionWords, unitCode, units } from './units.js';

/** A measure from a plain decimal string and a unit code. */
export function makeMeasure(amount: string, unit: string): Measure {
  const { factor = 1, offset = 0 } = units[unit] ?? {};
  return { amount, base: steady(Number(amount) * factor + offset), unit };
}

/** The same quantity in another unit of its dimension, or undefined where the dimensions differ. */
export function convertMeasure(value: Measure, to: string): Measure | undefined {
  const from = units[value.unit];
  const target = units[to];
  if (!from || !target || from.dimension !== target.dimension) return undefined;
  if (value.unit === to) return value;
  const base = Number(value.amount) * from.factor + (from.offset ?? 0);
  return { amount: String(steady((base - (target.offset ?? 0)) / target.factor)), unit: to, base: value.base };
}

/** Unicode's fractions (the block of number forms, and those of Latin-1). */
const signs: Record<string, [number, number]> = {
  '½': [1, 2],
  '⅓': [1, 3],
  '⅔': [2, 3],
  '¼': [1, 4],
  '¾': [3, 4],
  '⅕': [1, 5],
  '⅖': [2, 5],
  '⅗': [3, 5],
  '⅘': [4, 5],
  '⅙': [1, 6],
  '⅚': [5, 6],
  '⅛': [1, 8],
  '⅜': [3, 8],
  '⅝': [5, 8],
  '⅞': [7, 8],
  '⅒': [1, 10],
};
/** Any of them, for a pattern. */
export const fractionSign = `[${Object.keys(signs).join('')}]`;
/** "3/8", "2 1/4", "2-1/4", "1½", "½". */
const fraction = new RegExp(
  `^(?:(\\d+)(?:\\s+|\\s*-\\s*|\\s*&\\s*))?(\\d+)\\s*[/⁄]\\s*(\\d+)$|^(\\d+)?\\s*-?\\s*(${fractionSign})$`,
  'u',
);
/** What things are divided into; "10/12" is rather two sizes. */
const divisors = new Set([2, 3, 4, 5, 6, 8, 16, 32, 64]);

/** About, of a circle, not exactly: the number is taken, and that it is one. */
const approximate =
  /^(?:ø|⌀|ca\.?|c\.|approx\.?|approximately|circa|about|around|roughly|etwa|ungefähr|rund|omkring|ungefär|cirka|~|≈|±0)\s*/iu;
/** Less or more than: that is no value. */
const bound =
  /^(?:<|>|≤|≥|max\.?|min\.?|maximal|minimal|maximum|minimum|up to|at least|at most|bis zu|bis|ab|über|unter|mindestens|höchstens|upp till|minst|högst|från)(?![\p{L}])/iu;
const range = /\d\s*(?:-|–|—|\bto\b|\bbis\b|\btill\b|…|\.\.\.?)\s*[\d½¼¾]/iu;

/** Figures of one quantity that follow each other: larger unit, smaller unit, how many of it the larger has. */
const compounds: Record<string, string[]> = {
  ft: ['in'],
  yd: ['ft', 'in'],
  lb: ['oz'],
  st: ['lb', 'oz'],
  m: ['cm', 'mm'],
  kg: ['g'],
  d: ['h'],
  h: ['min'],
  min: ['s'],
};

interface Part {
  amount: string;
  code: string;
}

/** A unit: letters with what stands among them, a sign, or a prime. */
const unitText = /^(?:[°℃℉%″′'"”“’]{1,2}\s?[cfk]?(?![\p{L}])|[\p{L}°µ²³^][\p{L}²³^°().²³\d]*(?:\s(?:[\p{L}]+)){0,2})/iu;
const numberText = new RegExp(
  `^[-−–+]?\\s*(?:\\d+(?:\\s+|\\s*-\\s*)\\d+\\s*[/⁄]\\s*\\d+|\\d+\\s*[/⁄]\\s*\\d+|\\d*\\s*-?\\s*${fractionSign}|[.,]?\\d(?:[\\d.,]|[\\u00a0\\u202f\\u2009'’ ](?=\\d{3}(?:\\D|$)))*)`,
  'u',
);

/**
 * Reads "24 W", "Ø 12 cm", "1½ in", "6 ft 2 in", "2 lb 4 oz", "21,5 °C", or a bare number where the style gives the unit.
 * Refused, with the reason: ranges and bounds (a measure is one figure), several sizes in one cell, units not known or of
 * another dimension.
 */
export function parseMeasure(raw: string, style: ReadingStyle, dimension: Dimension | undefined): Parsed<Measure> {
  const no = (reason: string): Parsed<Measure> => ({ ok: false, reason });
  const notes: string[] = [];
  let text = raw.trim().replace(/\s+/g, ' ');
  if (bound.test(text)) return no(`“${raw}” is a limit, not a measure; give one figure`);
  const bare = text.replace(approximate, '');
  if (bare !== text) notes.push(`read “${raw.trim()}” as the number in it`);
  text = bare;
  const beside = /^(.*\S)\s*\(([^()]*\d[^()]*)\)$/.exec(text);
  if (beside?.[1] && beside[2]) return besides(raw, beside[1], beside[2], style, dimension);
  const parts = partsOf(text, style, dimension);
  if (!Array.isArray(parts)) {
    if (range.test(text)) return no(`“${raw}” is a range; a measure is one figure`);
    return no(parts.reason ?? `“${raw}” is not a number with a unit`);
  }
  const [first, ...others] = parts;
  if (!first) return no(`“${raw}” is not a number with a unit`);
  const unit = units[first.code];
  if (dimension && unit && unit.dimension !== dimension)
    return no(`“${raw}” is a ${dimensionWords[unit.dimension]}, not a ${dimensionWords[dimension]}`);
  if (Math.abs(Number(first.amount)) >= largest) return no(`“${raw}” is larger than anything there is`);
  const value = others.length === 0 ? makeMeasure(first.amount, first.code) : together(parts);
  if (!value) return no(`“${raw}” holds several figures; give one`);
  if (others.length > 0)
    notes.push(`read “${raw.trim()}” as ${value.amount} ${units[value.unit]?.label ?? value.unit}`);
  const given = style.unit === undefined ? undefined : unitCode(style.unit, dimension);
  if (given !== undefined && given !== value.unit && /[^\d\s.,½¼¾/-]/.test(text))
    notes.push(`“${raw}” carries its own unit`);
  return notes.length > 0 ? { ok: true, value, notes } : { ok: true, value };
}

const largest = 1e12;

/** "12 cm (4.7 in)": the same quantity twice, to within what rounding leaves; else nobody knows which is meant. */
function besides(
  raw: string,
  main: string,
  again: string,
  style: ReadingStyle,
  dimension: Dimension | undefined,
): Parsed<Measure> {
  const [read, other] = [parseMeasure(main, style, dimension), parseMeasure(again, style, dimension)];
  if (!read.ok) return { ok: false, reason: read.reason.replace(`“${main}”`, `“${raw}”`) };
  const isSame = other.ok && Math.abs(other.value.base - read.value.base) <= 0.05 * Math.abs(read.value.base);
  if (!isSame) return { ok: false, reason: `“${raw}” holds two figures that are not the same; give one` };
  return { ...read, notes: [...(read.notes ?? []), `read “${raw.trim()}” as the first of its two figures`] };
}

/** The figures of a text with their units; a reason, or nothing, where it is something else. */
function partsOf(
  text: string,
  style: ReadingStyle,
  dimension: Dimension | undefined,
): Part[] | { reason: string | undefined } {
  const parts: Part[] = [];
  let rest = text;
  while (rest !== '') {
    const figure = numberText.exec(rest)?.[0];
    if (figure === undefined) return { reason: undefined };
    const amount = readAmount(figure.trim(), style);
    if (amount === undefined) return { reason: undefined };
    rest = rest.slice(figure.length).trimStart();
    const written = unitText.exec(rest)?.[0].trim();
    const named = written === undefined ? undefined : longestUnit(written, dimension);
    if (written !== undefined && !named) return { reason: `“${written}” is not a unit we know` };
    if (named) {
      rest = rest
        .slice(named.length)
        .replace(/^\.(?!\d)/, '')
        .trimStart()
        .replace(/^(?:,|and\b|und\b|och\b|&|-)\s*/iu, '');
      parts.push({ amount, code: named.code });
      continue;
    }
    if (rest !== '') return { reason: undefined };
    // A bare figure: the column gives the unit, or after feet it is inches.
    const after = parts.at(-1)?.code;
    const code =
      after === 'ft' ? 'in' : style.unit === undefined || after ? undefined : unitCode(style.unit, dimension);
    if (!code)
      return {
        reason:
          style.unit === undefined && !after ? `“${text}” has no unit; write for example “${text} cm”` : undefined,
      };
    parts.push({ amount, code });
  }
  return parts;
}

/** The longest beginning of a text that is a unit ("sq ft", "fl"). */
function longestUnit(written: string, dimension: Dimension | undefined): { code: string; length: number } | undefined {
  for (let text = written; text !== ''; text = text.includes(' ') ? text.slice(0, text.lastIndexOf(' ')) : '') {
    const code = unitCode(text, dimension);
    // What is left must not be words: "12 cm high" is more than a measure.
    if (code !== undefined) return text === written ? { code, length: text.length } : undefined;
  }
  // A prime before a figure of inches: 6'2".
  const prime = /^['′’]/.exec(written);
  return prime ? { code: 'ft', length: 1 } : undefined;
}

/** A figure with no unit, as a plain decimal string: “1.234,5”, “2 1/4”, “½”; undefined where it is none. */
export function readAmount(figure: string, style: Pick<ReadingStyle, 'decimal'>): string | undefined {
  const sign = /^[-−–]/.test(figure) ? '-' : '';
  const plain = figure.replace(/^[-−–+]\s*/, '');
  const parts = fraction.exec(plain);
  if (!parts) {
    const read = parseDecimal(plain, style);
    return read.ok ? sign + read.value : undefined;
  }
  const [, whole = parts[4] ?? '0', upper, lower] = parts;
  const [over, under] = parts[5] ? (signs[parts[5]] ?? [0, 1]) : [Number(upper), Number(lower)];
  if (!divisors.has(under) && under !== 10) return undefined;
  if (over >= under) return undefined;
  return sign + String(steady(Number(whole) + over / under));
}

/** Feet and inches, pounds and ounces: as so many of the smaller unit. */
function together(parts: readonly Part[]): Measure | undefined {
  const last = parts.at(-1);
  const [first] = parts;
  if (!first || !last) return undefined;
  const smaller = compounds[first.code] ?? [];
  let place = -1;
  for (const { amount, code } of parts.slice(1)) {
    const at = smaller.indexOf(code);
    const before = units[place < 0 ? first.code : (smaller[place] ?? '')];
    const unit = units[code];
    if (at <= place || !unit || !before) return undefined;
    if (Number(amount) < 0 || Number(amount) * unit.factor >= before.factor * (1 + 1e-9)) return undefined;
    place = at;
  }
  // Only the last figure may be broken: "6.5 ft 2 in" says two things.
  if (parts.slice(0, -1).some(({ amount }) => !Number.isInteger(Number(amount)))) return undefined;
  const unit = units[last.code];
  if (!unit) return undefined;
  const isNegative = first.amount.startsWith('-');
  const base = parts.reduce((sum, { amount, code }) => sum + Math.abs(Number(amount)) * (units[code]?.factor ?? 0), 0);
  return makeMeasure(String(steady((isNegative ? -base : base) / unit.factor)), last.code);
}
