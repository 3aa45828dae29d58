import { decimalMark } from '../../values/index.js';
import { type AxisKind, type Meaning, type Reading, isBlank } from './model.js';
import { readers } from './meaning.js';
import { onlyUnit } from './measures.js';
import { holdsFractions } from './numbers.js';
import { collatorOf, compareText, foldSpelling } from './text.js';

export interface OrderOptions {
  kind: AxisKind;
  /** Of the values (BCP 47): its collation, and its decimal mark. */
  language?: string | undefined;
  /** Values in the order somebody gave them. */
  list?: readonly string[] | undefined;
}

/** How values of one axis are to be read, from all of them. */
export function readingOf(values: readonly string[], { kind, language }: OrderOptions): Reading {
  const unit = kind === 'measure' ? onlyUnit(values) : undefined;
  return {
    decimal: decimalMark(language),
    fractions: !['size', 'choice', 'text'].includes(kind) || holdsFractions(values),
    lengths: values.some((value) => /\d\s*(?:mm|cm|dm|["″])/u.test(value)),
    ...(unit === undefined ? {} : { unit }),
  };
}

/**
 * Values as a shop would show them. Colours and choices stand in their list's order where there is a list; sizes by meaning
 * (what fits everybody last), measures by amount after conversion, ranges by their lower end, fractions and figures inside texts
 * by amount, the rest by the language's collation. What means the same keeps its order; blanks come last.
 */
export function orderValues(values: readonly string[], options: OrderOptions): string[] {
  const { kind, language, list } = options;
  const collator = collatorOf(language);
  const reading = readingOf(values, options);
  const places = new Map((list ?? []).map((value, i) => [foldSpelling(value), i] as const).reverse());
  const read = readerOf(values, kind, reading, places.size > 0);
  const rows = values.map((value, at) => {
    const listed = places.get(foldSpelling(value));
    const meaning = read?.(value);
    return { value, at, listed, meaning, group: groupOf(value, meaning, listed) };
  });
  rows.sort(
    (a, b) =>
      a.group - b.group ||
      (a.meaning && b.meaning
        ? collator.compare(a.meaning.lead ?? '', b.meaning.lead ?? '') || compareMeanings(a.meaning, b.meaning)
        : (a.listed ?? 0) - (b.listed ?? 0)) ||
      (a.meaning && b.meaning
        ? compareText(a.meaning.rest, b.meaning.rest, collator, reading)
        : a.listed === undefined
          ? compareText(a.value, b.value, collator, reading)
          : 0) ||
      a.at - b.at,
  );
  return rows.map(({ value }) => value);
}

/** What means something stands first, then what a list has, then the rest; behind it what fits everybody, and blanks last. */
function groupOf(value: string, meaning: Meaning | undefined, listed: number | undefined): number {
  if (isBlank(value)) return 4;
  if (meaning) return meaning.isLast ? 3 : 0;
  return listed === undefined ? 2 : 1;
}

/** Texts that are all measures of one dimension, or all sizes in letters, are read as such where no list orders them. */
function readerOf(
  values: readonly string[],
  kind: AxisKind,
  reading: Reading,
  isListed: boolean,
): ((value: string) => Meaning | undefined) | undefined {
  const own = readers[kind];
  if (own) return (value) => own(value, reading);
  if (kind === 'colour' || isListed) return undefined;
  const shown = kindShown(values, reading);
  const read = shown && readers[shown];
  return read && ((value) => read(value, reading));
}

/** What texts show themselves to be: all of them measures of one dimension, or all of them sizes in letters. */
export function kindShown(values: readonly string[], reading: Reading): 'measure' | 'size' | undefined {
  const filled = values.filter((value) => !isBlank(value));
  if (filled.length < 2 || filled.some(isBare)) return undefined;
  return (['measure', 'size'] as const).find((kind) => {
    const found = filled.map((value) => readers[kind]?.(value, reading));
    return found.every(Boolean) && new Set(found.map((one) => one?.place[0])).size === 1;
  });
}

const isBare = (value: string) => !/\p{L}|["″'′%°]/u.test(value);

function compareMeanings(a: Meaning, b: Meaning): number {
  for (let i = 0; i < Math.max(a.place.length, b.place.length); i++) {
    const [one, other] = [a.place[i] ?? -Infinity, b.place[i] ?? -Infinity];
    if (one !== other) return one - other;
  }
  return 0;
}
