/** Values found in texts: what is looked for, and what is found with its evidence. */
import type { Dimension } from '../values/index.js';

interface Sought {
  key: string;
  /** Label and aliases are the words that announce it: “Ø”, “diameter”, “Durchmesser”. */
  label: string;
  aliases?: readonly string[] | undefined;
}

export interface SoughtYesNo extends Sought {
  kind: 'yesNo';
}
export interface SoughtChoice extends Sought {
  kind: 'choice';
  /** Canonical value → the words for it, over all languages. */
  spellings: Readonly<Record<string, readonly string[]>>;
}
export interface SoughtMeasure extends Sought {
  kind: 'measure';
  dimension: Dimension;
}
/** Of a length: a × b, a × b × c. */
export interface SoughtSizes extends Sought {
  kind: 'sizes';
  dimension?: Dimension | undefined;
}
/** Pieces in what is sold as one. */
export interface SoughtCount extends Sought {
  kind: 'count';
}
export type SoughtAttribute = SoughtYesNo | SoughtChoice | SoughtMeasure | SoughtSizes | SoughtCount;

export interface ExtractorOptions {
  attributes: readonly SoughtAttribute[];
  /** Names of makers and ranges: words in them are no values. */
  brands?: readonly string[] | undefined;
  /** Of the texts (BCP 47); the first one’s decimal mark is taken where a text says no language. */
  languages?: readonly string[] | undefined;
}

export interface DescribedText {
  title: string;
  description?: string | undefined;
  language?: string | undefined;
}

/** Decimal text with its UCUM code. */
export interface FoundMeasure {
  amount: string;
  unit: string;
}
export interface FoundSizes {
  amounts: string[];
  unit: string;
}
export type FoundValue = string | number | boolean | FoundMeasure | FoundSizes;

export type Place = 'title' | 'description';

export interface Found {
  attribute: string;
  value: FoundValue;
  in: Place;
  /** Of the words it came from, in the text as it was given. */
  start: number;
  end: number;
  /** How likely it is right. */
  score: number;
}
