/** What an attribute is, what a value of it looks like, and how text becomes one. */
import type { ListValue } from './lists.js';
import type { Role } from './roles.js';

export const attributeTypes = [
  'text',
  'richText',
  'number',
  'measure',
  'money',
  'boolean',
  'date',
  'choice',
  'media',
  'link',
  'file',
] as const;
export type AttributeType = (typeof attributeTypes)[number];

export const dimensions = [
  'length',
  'area',
  'volume',
  'mass',
  'power',
  'energy',
  'luminousFlux',
  'illuminance',
  'temperature',
  'time',
  'voltage',
  'current',
  'charge',
  'frequency',
  'soundLevel',
  'pressure',
  'ratio',
] as const;
export type Dimension = (typeof dimensions)[number];

/** A number with its unit: the decimal as written, and the number in the dimension's base unit for comparing. */
export interface Measure {
  amount: string;
  unit: string;
  base: number;
}

/** An exact amount: never a float. */
export interface Money {
  amount: string;
  currency: string;
}

/** A picture by name; width and height in pixels once it has been measured. */
export interface Media {
  name: string;
  width?: number;
  height?: number;
  format?: string;
  /** How much of its edge is of one colour, per cent. */
  plain?: number;
  /** What is seen on it, by language (BCP 47). */
  alt?: Readonly<Record<string, string>>;
}

export type SingleValue = string | number | boolean | Measure | Money | Media;
/** What an attribute holds: one value, or a list where the attribute takes many. */
export type Value = SingleValue | SingleValue[];

/** How a value follows from others, where no source and nobody says one (`core/computed` has the kinds). */
export interface Computation {
  kind: string;
  /** Keys of the attributes it follows from, in their order. */
  of: string[];
  /** The unit of a measure, or the currency of an amount. */
  unit?: string | undefined;
}

export interface Attribute {
  key: string;
  label: string;
  type: AttributeType;
  /** Takes a list of values. */
  many: boolean;
  /** Has a value of its own in each language. */
  perLanguage: boolean;
  /** Where it is entered: once for the family, or on each variant. */
  level: 'family' | 'variant';
  dimension?: Dimension;
  /** Closed list; absent = anything. A bare text is a value of that name and key. */
  choices?: readonly (string | ListValue)[];
  /** What code knows it by. */
  role?: Role;
  /** Other names that columns of it have. */
  aliases?: readonly string[];
  group: string;
  /** For whoever enters it: what is meant, and what is not. */
  help?: string;
  computed?: Computation;
}

/** How a source writes numbers and dates, and what its bare figures mean. */
export interface ReadingStyle {
  decimal: '.' | ',';
  dateOrder: 'dmy' | 'mdy' | 'ymd';
  currency?: string;
  /** Unit of a bare number, as a column header such as "Power [W]" gives it. */
  unit?: string;
}

export const plainStyle: ReadingStyle = { decimal: '.', dateOrder: 'ymd' };

/** A value, with notes on what was done to get it, or the reason (a sentence for people) why there is none. */
export type Parsed<V> = { ok: true; value: V; notes?: string[] } | { ok: false; reason: string };

/** Whom a value is shown to: how figures and dates are written, and in which language values of lists are named (BCP 47). */
export interface Reader {
  locale: string;
  names: string;
}

/** One attribute type: everything the rest of the program needs to know of it. */
export interface ValueType<V extends SingleValue> {
  /** Reads one trimmed, non-empty cell. */
  parse(raw: string, style: ReadingStyle, attribute: Attribute): Parsed<V>;
  format(value: V, reader: Reader, attribute: Attribute): string;
  /** For files and comparison by machines: plain text without markup of a locale. */
  plain(value: V, attribute: Attribute): string;
  /** Comparable key: a number in the base unit, or folded text in code-unit order. */
  sortKey(value: V, attribute: Attribute): number | string;
}
