import type { Parsed, ReadingStyle } from './model.js';

/** Digits kept of a number, before and after its mark. */
const mostDigits = 40;
const lead = /^(?:ø|⌀|ca\.?|approx\.?|circa|about|~|≈)\s*/iu;
const grouped = { ',': /^\d{1,3}(\.\d{3})+(,\d+)?$/, '.': /^\d{1,3}(,\d{3})+(\.\d+)?$/ };
/** Most cells are written as they are kept. */
const kept = /^(?:0|[1-9]\d*)$/;

/**
 * Reads a decimal written in a locale into a plain decimal string ("1.234,5" with decimal comma → "1234.5").
 * A separator that can only be the other kind ("12.5" in a comma file) is taken as the decimal mark and noted.
 */
export function parseDecimal(raw: string, style: Pick<ReadingStyle, 'decimal'>): Parsed<string> {
  if (raw.length > mostDigits) return { ok: false, reason: `“${raw.slice(0, mostDigits)}…” is not a number` };
  if (kept.test(raw)) return { ok: true, value: raw };
  const notes: string[] = [];
  // Apostrophes and narrow spaces stand between thousands; elsewhere they mean something.
  let text = raw.trim().replace(/(?<=\d)[\u00a0\u202f\u2009'’ ](?=\d{3}(?!\d))/g, '');
  text = text.replace(/[\u00a0\u202f\u2009]/g, ' ').replace(/^([-−–+]) /, '$1');
  const bare = text.replace(lead, '');
  if (bare !== text) notes.push(`read “${raw.trim()}” as the number in it`);
  text = bare.replace(/^[−–]/, '-').replace(/^\+/, '');
  const sign = text.startsWith('-') ? '-' : '';
  if (sign) text = text.slice(1);
  const group = style.decimal === ',' ? '.' : ',';
  if (grouped[style.decimal].test(text)) text = text.replaceAll(group, '').replace(style.decimal, '.');
  else if (/^\d*[.,]\d+$/.test(text)) {
    if (text.includes(group)) notes.push(`“${raw.trim()}” has a decimal ${group === '.' ? 'point' : 'comma'}`);
    text = text.replace(',', '.');
  }
  if (!/^(\d+\.?\d*|\.\d+)$/.test(text)) return { ok: false, reason: `“${raw.trim()}” is not a number` };
  const trimmed = text
    .replace(/^0+(?=\d)/, '')
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '');
  const value = (sign && Number(trimmed) !== 0 ? '-' : '') + (trimmed.startsWith('.') ? `0${trimmed}` : trimmed || '0');
  return notes.length > 0 ? { ok: true, value, notes } : { ok: true, value };
}

/** The decimal mark of a language (BCP 47); a point where the tag is none. */
export function decimalMark(language: string | undefined): '.' | ',' {
  try {
    return new Intl.NumberFormat(language ?? 'en').format(1.5).includes(',') ? ',' : '.';
  } catch {
    return '.';
  }
}

/** Twelve significant digits: enough for any goods, and the same number by whichever unit it was reached. */
export function steady(value: number): number {
  return Number(value.toPrecision(12));
}

/** A count in words for people; the messages of the server are English. */
export const sayCount = (n: number): string => n.toLocaleString('en');
