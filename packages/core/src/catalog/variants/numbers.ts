/** Numbers as values of an axis: decimals, fractions, ranges by their lower end. */
import { fractionSign, readAmount } from '../../values/index.js';
import type { Meaning, Reading } from './model.js';

/** An amount as written ("1,5", "2 1/4", "½", "1.200"); undefined where it is none. */
export function readNumber(text: string, { decimal }: Pick<Reading, 'decimal'>): number | undefined {
  const read = readAmount(text.normalize('NFC').replace(/⁄/gu, '/').trim(), { decimal });
  return read === undefined ? undefined : Number(read);
}

const amount = String.raw`[-−+]?(?:\d[\d.,'’\u00a0\u202f]*(?:\s+\d+[/⁄]\d+|\s?${fractionSign})?|\d*${fractionSign}|[.,]\d+)`;
const between = new RegExp(
  String.raw`^(${amount})\s*(?:\p{Pd}|−|…|\.\.\.?|/|\b(?:to|bis|till|til|à|a|al|tot|do|až)\b)\s*(${amount})$`,
  'iu',
);
const open = new RegExp(
  String.raw`^(?:(?:ab|from|från|fra|desde|da|dès|vanaf|od|≥|>|min\.?)\s*(${amount})|(${amount})\s*\+)$`,
  'iu',
);
const upTo = new RegExp(
  String.raw`^(?:bis|up to|upp till|under|jusqu’à|hasta|fino a|tot|do|≤|<|max\.?)\s*(${amount})$`,
  'iu',
);
const slashed = /^(\d+)\s*[/⁄]\s*(\d+)$/u;

/** From where to where a text goes: both ends the same for a single figure. */
export function readSpan(text: string, reading: Reading): [from: number, to: number] | undefined {
  const trimmed = text.normalize('NFC').trim();
  const halves = slashed.exec(trimmed);
  if (halves && !reading.fractions) return [Number(halves[1]), Number(halves[2])];
  const single = readNumber(trimmed, reading);
  if (single !== undefined) return [single, single];
  const ends = between.exec(trimmed);
  if (ends) {
    const [from, to] = [readNumber(ends[1] ?? '', reading), readNumber(ends[2] ?? '', reading)];
    return from === undefined || to === undefined ? undefined : [from, to];
  }
  const lower = open.exec(trimmed);
  if (lower) {
    const from = readNumber(lower[1] ?? lower[2] ?? '', reading);
    return from === undefined ? undefined : [from, Infinity];
  }
  const upper = readNumber(upTo.exec(trimmed)?.[1] ?? '', reading);
  return upper === undefined ? undefined : [-Infinity, upper];
}

export function readNumberMeaning(value: string, reading: Reading): Meaning | undefined {
  const span = readSpan(value, reading);
  return span && { place: span, rest: '', same: `number:${span.join('–')}` };
}

/** Whether bare "a/b" of a list are parts of one: all of them by halves of halves, or thirds, as inches and portions are. */
export function holdsFractions(values: readonly string[]): boolean {
  const pairs = values.flatMap((value) => {
    const found = slashed.exec(value.normalize('NFC').replace(/["″]$/u, '').trim());
    return found ? [[Number(found[1]), Number(found[2])] as const] : [];
  });
  return pairs.length > 0 && pairs.every(([over, under]) => over < under && [2, 3, 4, 8, 16, 32, 64].includes(under));
}
