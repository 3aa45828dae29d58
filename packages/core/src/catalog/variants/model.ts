/** Axes and variants as they are put in order, counted out and held against each other: plain data. */

export const axisKinds = ['size', 'colour', 'measure', 'choice', 'number', 'text'] as const;
export type AxisKind = (typeof axisKinds)[number];

export interface Axis<Key extends string = string> {
  key: Key;
  kind: AxisKind;
}

/** A value may be absent, null, empty or blank, which is all the same. */
export type OptionValue = string | null | undefined;

export interface AxisVariant<Id = string | number> {
  id: Id;
  options: Readonly<Record<string, OptionValue>>;
}

/** What a value stands for: two that are written differently and mean one thing have the same `same`. */
export interface Meaning {
  /** What stands before it and is compared first: “EU”, “women”. */
  lead?: string;
  /** Where it stands among values of its kind, the first figure first. */
  place: readonly number[];
  /** Behind all others, those that mean nothing included. */
  isLast?: true;
  /** What is written beside that: compared as text where the places are equal. */
  rest: string;
  same: string;
}

/** How values of a list are to be read, where one alone does not say it. */
export interface Reading {
  /** The decimal mark of the language. */
  decimal: '.' | ',';
  /** "3/4" is a part of one here, and not "3 to 4". */
  fractions: boolean;
  /** "1 m" is a metre here, and not a month: other values are lengths. */
  lengths?: boolean;
  /** The unit of bare figures, where all others of the list have the same. */
  unit?: string | undefined;
}

export type ReadMeaning = (value: string, reading: Reading) => Meaning | undefined;

export const isBlank = (value: OptionValue): value is null | undefined | '' => (value ?? '').trim() === '';
