/** The attribute types, each with its way of reading, showing and comparing. */
import { canonical } from './canonical.js';
import { foldText, textKey } from './folding.js';
import { readGtin } from './gtin.js';
import { cleanMarkup, decodeEntities, hasText, plainText } from './markup.js';
import type {
  Attribute,
  AttributeType,
  Media,
  Measure,
  Money,
  Parsed,
  ReadingStyle,
  SingleValue,
  Value,
  ValueType,
} from './model.js';
import { parseMeasure } from './measure.js';
import { parseMoney } from './money.js';
import { parseDecimal, sayCount } from './numbers.js';
import { unitLabel } from './units.js';

/** Longer than this a text is a description, and belongs into one. */
const longestText = 500;
const longestRichText = 100_000;
const longestAddress = 2000;
const largestNumber = 1e15;

const tooLong = (raw: string, most: number): { ok: false; reason: string } => ({
  ok: false,
  reason: `“${raw.slice(0, 40)}…” has ${sayCount(raw.length)} characters; ${sayCount(most)} are kept at most`,
});

/** "6-12 days" however its dash was written. */
const span = /^(\d+)\s*[-–—]\s*(\d+) (\p{L}+)$/u;

const text: ValueType<string> = {
  parse: (raw) => {
    if (raw.length > longestText) return tooLong(raw, longestText);
    const decoded = raw.includes('&') ? decodeEntities(raw) : raw;
    const single = /\t| {2}/.test(decoded) ? decoded.replace(/[ \t]+/g, ' ') : decoded;
    const value = single.replace(span, '$1–$2 $3');
    return decoded === raw ? { ok: true, value } : { ok: true, value, notes: ['decoded HTML entities'] };
  },
  format: (value) => value,
  plain: (value) => value,
  sortKey: textKey,
};

const longTextKey = 60;

const richText: ValueType<string> = {
  parse: (raw) => {
    if (raw.length > longestRichText) return tooLong(raw, longestRichText);
    // Escaped more than once on the way: once is enough, and what was escaped markup stays escaped.
    const { html, removed } = cleanMarkup(raw.replace(/&(?:amp;)+(#?\w+;)/g, '&$1'));
    if (!hasText(html)) return { ok: false, reason: 'the description holds markup but no text' };
    return removed.length > 0
      ? { ok: true, value: html, notes: [`removed ${removed.join(', ')}`] }
      : { ok: true, value: html };
  },
  format: plainText,
  plain: plainText,
  // Nobody sorts by a description: its beginning tells two apart. What it contains is looked for in the whole of it.
  sortKey: (value) => value.slice(0, longTextKey),
};

const number: ValueType<number> = {
  parse: (raw, style) => {
    const read = parseDecimal(raw, style);
    if (!read.ok) return read;
    const value = Number(read.value);
    return Math.abs(value) < largestNumber
      ? { ...read, value }
      : { ok: false, reason: `“${raw}” is larger than any number kept` };
  },
  format: (value, locale) => value.toLocaleString(locale, { maximumFractionDigits: 6 }),
  plain: String,
  sortKey: (value) => value,
};

const measure: ValueType<Measure> = {
  parse: (raw, style, attribute) => parseMeasure(raw, style, attribute.dimension),
  format: (value, locale) =>
    `${Number(value.amount).toLocaleString(locale, { maximumFractionDigits: 6 })} ${unitLabel[value.unit] ?? value.unit}`,
  plain: (value) => `${value.amount} ${unitLabel[value.unit] ?? value.unit}`,
  sortKey: (value) => value.base,
};

const money: ValueType<Money> = {
  parse: parseMoney,
  format: (value, locale) =>
    Number(value.amount).toLocaleString(locale, { style: 'currency', currency: value.currency }),
  plain: (value) => `${value.amount} ${value.currency}`,
  sortKey: (value) => Number(value.amount),
};

const yes = new Set(['yes', 'y', 'true', '1', 'ja', 'j', 'x', 'wahr']);
const no = new Set(['no', 'n', 'false', '0', 'nein', 'nej', 'falsch']);

const boolean: ValueType<boolean> = {
  parse: (raw) => {
    const word = foldText(raw);
    if (yes.has(word)) return { ok: true, value: true };
    if (no.has(word)) return { ok: true, value: false };
    return { ok: false, reason: `“${raw}” is neither yes nor no` };
  },
  format: (value) => (value ? 'yes' : 'no'),
  plain: (value) => (value ? 'yes' : 'no'),
  sortKey: (value) => (value ? 1 : 0),
};

/** Reads a calendar date into ISO 8601 (YYYY-MM-DD); a year of two digits is one of this century. */
function parseDate(raw: string, style: ReadingStyle): Parsed<string> {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})/.exec(raw);
  const other = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4}|\d{2})$/.exec(raw);
  const parts = iso
    ? [iso[1], iso[2], iso[3]]
    : other
      ? style.dateOrder === 'mdy'
        ? [other[3], other[1], other[2]]
        : [other[3], other[2], other[1]]
      : undefined;
  const [written, month, day] = parts ?? [];
  const year = written?.length === 2 ? `20${written}` : written;
  if (year && month && day && Number(year) >= 1000) {
    const date = new Date(Date.UTC(Number(year), Number(month) - 1, Number(day)));
    if (date.getUTCMonth() === Number(month) - 1 && date.getUTCDate() === Number(day))
      return { ok: true, value: date.toISOString().slice(0, 10) };
  }
  return { ok: false, reason: `“${raw}” is not a date; write 2026-04-30` };
}

const date: ValueType<string> = {
  parse: parseDate,
  format: (value, locale) => new Date(`${value}T00:00:00Z`).toLocaleDateString(locale, { timeZone: 'UTC' }),
  plain: (value) => value,
  sortKey: (value) => value,
};

const choice: ValueType<string> = {
  parse: (raw, _style, attribute) => {
    if (!attribute.choices) return raw.length > longestText ? tooLong(raw, longestText) : { ok: true, value: raw };
    const found = attribute.choices.find((word) => foldText(word) === foldText(raw));
    return found
      ? { ok: true, value: found }
      : {
          ok: false,
          reason:
            attribute.choices.length <= 8
              ? `“${raw}” is not one of ${attribute.choices.join(', ')}`
              : `“${raw}” is not on our list of ${attribute.choices.length} for ${attribute.label}`,
        };
  },
  format: (value) => value,
  plain: (value) => value,
  sortKey: textKey,
};

const media: ValueType<Media> = {
  parse: (raw) => (raw.length > longestAddress ? tooLong(raw, longestAddress) : { ok: true, value: { name: raw } }),
  format: (value) => value.name,
  plain: (value) => value.name,
  sortKey: (value) => textKey(value.name),
};

const link: ValueType<string> = {
  ...text,
  parse: (raw) => (raw.length > longestAddress ? tooLong(raw, longestAddress) : { ok: true, value: raw.trim() }),
};

const types: { [T in AttributeType]: ValueType<never> } = {
  text,
  richText,
  number,
  measure,
  money,
  boolean,
  date,
  choice,
  media,
  link,
} as unknown as { [T in AttributeType]: ValueType<never> };

/** The definition of a type; values of other types must not be handed to it. */
export function typeOf(type: AttributeType): ValueType<SingleValue> {
  return types[type];
}

/** What separates the members of a list in one cell. */
const listMark = /\s*[|,]\s*|\s*;\s+/;

/**
 * A part of a list that names several of an ordered closed list: "Mar–May", "Oct to Apr" (over the end of the list),
 * "all year"; names may be cut to three letters or more.
 */
function choiceSpan(part: string, choices: readonly string[]): string[] | undefined {
  if (/^(?:all|all year|ganzjährig|hela året)$/i.test(part)) return [...choices];
  const named = (word: string) => {
    const folded = foldText(word);
    const found = choices.filter((word) => foldText(word).startsWith(folded));
    return folded.length >= 3 && found.length === 1 ? choices.indexOf(found[0] as string) : -1;
  };
  const match = /^(.+?)\s*(?:[-–—]|\bto\b|\bbis\b|\btill\b)\s*(.+)$/iu.exec(part);
  const [first, last] = match ? [named(match[1] ?? ''), named(match[2] ?? '')] : [named(part), named(part)];
  if (first < 0 || last < 0) return undefined;
  const length = ((last - first + choices.length) % choices.length) + 1;
  return Array.from({ length }, (_, i) => choices[(first + i) % choices.length] as string);
}

/** Reads one cell into a value of the attribute; lists are split at commas, bars and semicolons. */
export function parseValue(raw: string, style: ReadingStyle, attribute: Attribute): Parsed<Value> {
  const cell = raw.trim();
  const type = typeOf(attribute.type);
  if (!attribute.many) return type.parse(cell, style, attribute);
  const values: SingleValue[] = [];
  const notes: string[] = [];
  for (const part of cell.split(listMark)) {
    if (part === '') continue;
    const several = attribute.choices && choiceSpan(part, attribute.choices);
    if (several) {
      values.push(...several.filter((word) => !values.includes(word)));
      continue;
    }
    const read = type.parse(part, style, attribute);
    if (!read.ok) return read;
    values.push(read.value);
    notes.push(...(read.notes ?? []));
  }
  return notes.length > 0 ? { ok: true, value: values, notes } : { ok: true, value: values };
}

/** Both sides of a many-valued attribute treated alike. */
export function members(value: Value): SingleValue[] {
  return Array.isArray(value) ? value : [value];
}

/** A value for people. */
export function formatValue(value: Value, attribute: Attribute, locale: string): string {
  const type = typeOf(attribute.type);
  return members(value)
    .map((singleValue) => type.format(singleValue, locale))
    .join(', ');
}

/** A value as plain text for files. */
export function plainValue(value: Value, attribute: Attribute): string {
  const type = typeOf(attribute.type);
  return Array.isArray(value) ? value.map((singleValue) => type.plain(singleValue)).join(', ') : type.plain(value);
}

/** The comparable keys of a value, one a member. */
export function sortKeys(value: Value, attribute: Attribute): (number | string)[] {
  const type = typeOf(attribute.type);
  return members(value).map((singleValue) => type.sortKey(singleValue));
}

/** Equal as goods data, wherever the two were kept. */
export function sameValue(a: Value | undefined, b: Value | undefined): boolean {
  return a === b || (a !== undefined && b !== undefined && canonical(a) === canonical(b));
}

/** Two sources that say the same: a measure in another unit and a GTIN of another length agree; anything else is compared as it is. */
export function agree(a: Value | undefined, b: Value | undefined, attribute: Attribute): boolean {
  if (attribute.type === 'measure' && !attribute.many && a !== undefined && b !== undefined)
    return (a as Measure).base === (b as Measure).base;
  if (attribute.key === 'gtin' && typeof a === 'string' && typeof b === 'string') {
    const [x, y] = [readGtin(a), readGtin(b)];
    if (x.ok && y.ok) return x.gtin14 === y.gtin14;
  }
  return sameValue(a, b);
}
