/** What it takes for values that follow from others. */
import type { Attribute, SingleValue } from '../values/index.js';

/** One attribute a value follows from, as a product holds it. */
export interface Input {
  attribute: Attribute;
  /** What counts; undefined where it has none. */
  value: SingleValue | undefined;
  /** What every source and person says of it, what counts first. */
  said: readonly { value: SingleValue; by: string }[];
}

export interface Around {
  /** Variants of its family; 1 of a single. */
  variants: number;
  /** Pieces of it in our own warehouses; of a family, of all its variants. */
  stock: number;
}

/** A value with how it came about in words, or why there is none. */
export type Worked = { value: SingleValue; trace: string } | { reason: string };

/** What shall come out. */
export interface Wanted {
  attribute: Attribute;
  /** The unit of a measure, or the currency of an amount; undefined where it follows. */
  unit: string | undefined;
}

/** One kind of computation: a file in `kinds/`. */
export interface ComputedKind {
  kind: string;
  /** How many attributes it takes. */
  takes: readonly [least: number, most: number];
  /** Whether a product must hold them all, or one will do. */
  needs: 'all' | 'any';
  /** Why these attributes cannot give such a value, as a sentence for people; undefined where they can. */
  objection(inputs: readonly Attribute[], wanted: Wanted): string | undefined;
  work(inputs: readonly Input[], wanted: Wanted, around: Around): Worked;
}
