/** What a value of an axis stands for, by the kind of the axis. */
import { readMeasureMeaning } from './measures.js';
import { type AxisKind, type Meaning, type ReadMeaning, type Reading } from './model.js';
import { readNumberMeaning } from './numbers.js';
import { readSizeMeaning } from './sizes.js';
import { foldSpelling } from './text.js';

/** Kinds of which a value may say more than its letters do. */
export const readers: Partial<Record<AxisKind, ReadMeaning>> = {
  size: readSizeMeaning,
  measure: readMeasureMeaning,
  number: readNumberMeaning,
};

/** What two spellings of one value have in common: “XXL” and “2XL” of a size, “1.5 m” and “150 cm” of a measure. */
export function sameKey(value: string, kind: AxisKind, reading: Reading): string {
  const meaning: Meaning | undefined = readers[kind]?.(value, reading);
  return meaning?.same ?? `text:${foldSpelling(value)}`;
}
