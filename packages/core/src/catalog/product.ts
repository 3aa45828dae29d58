/** A product as the rest of the programme reads it: resolved, effective, plain data. */
import type { Value } from '../values/index.js';

/** Values by attribute key; per-language attributes by language below that. */
export type Facts = Record<string, Value | undefined>;
export type Texts = Record<string, Record<string, string>>;

/** A price window: amounts are decimal strings, dates ISO 8601, both ends included. */
export interface Offer {
  regular?: string;
  sale?: { amount: string; from?: string; to?: string };
}

export interface Variant {
  id: number;
  sku: string | undefined;
  /** Path of our own category, or undefined. */
  category: string | undefined;
  facts: Facts;
  /** Every text by language: titles and long values alike. */
  texts: Texts;
  /** By currency (ISO 4217). */
  offers: Record<string, Offer | undefined>;
  /** What channels may be shown, in pieces. */
  stock: number;
  /** Option axes in order with the variant's value on each. */
  options: [axis: string, value: string][];
  /** One of them is shown to nobody: no place has it, whatever its assortment says. */
  isHidden?: boolean;
  /** The day until which its findings are no cause to mend (ISO 8601), “for good” without one; absent where they are. */
  muted?: { until: string | null };
}

/** The unit of evaluation: a family with its variants; a single is a family of one. */
export interface Family {
  id: number;
  title: string | undefined;
  isSingle: boolean;
  variants: Variant[];
}

/** Splits "diameter: 12 cm | glaze: Moss" into axes. */
export function readOptions(raw: string): [string, string][] {
  return raw
    .split('|')
    .map((part) => part.split(':'))
    .filter((part) => part.length >= 2 && part[0]?.trim())
    .map(([axis = '', ...rest]) => [axis.trim().toLowerCase(), rest.join(':').trim()] as [string, string]);
}
