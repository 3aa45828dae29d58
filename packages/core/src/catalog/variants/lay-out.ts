/** A family laid out from its axes: values as somebody pasted them, their combinations, numbers for each. */
import { foldText } from '../../values/index.js';
import { columnsOf } from './columns.js';
import type { AxisKind, AxisVariant } from './model.js';
import { orderValues } from './order.js';

/**
 * Values of an axis as they are pasted: one a line; in one line parted by tabs, else semicolons, else commas, of which one that
 * stands in a figure is none where others have a space behind them.
 */
export function readValueList(text: string): string[] {
  const whole = text.trim();
  const mark = /\n/.test(whole) ? /[\r\n\t]+/ : ([/\t/, /;/, /,\s+/].find((each) => each.test(whole)) ?? /,/);
  return whole.split(mark).flatMap((part) => part.trim().replace(/\s+/g, ' ') || []);
}

/** What is new among values, each once, and those that are there already or come twice, whatever their spelling. */
export function newValues(
  known: readonly string[],
  given: readonly string[],
  kind: AxisKind,
): { fresh: string[]; there: string[] } {
  const all = [...known, ...given];
  const [column] = columnsOf(
    [{ key: 'axis', kind }],
    all.map((value, id) => ({ id, options: { axis: value } })),
  );
  const seen = new Set(column?.same.slice(0, known.length));
  const fresh: string[] = [];
  const there: string[] = [];
  for (const [i, value] of given.entries()) {
    const same = column?.same[known.length + i];
    if (same === undefined) continue;
    if (seen.has(same)) there.push(value);
    else fresh.push(value);
    seen.add(same);
  }
  return { fresh, there };
}

export interface LaidAxis {
  kind: AxisKind;
  values: readonly string[];
}

/** How many combinations the axes have; an axis without a value has none. */
export const combinationsOf = (axes: readonly LaidAxis[]): number =>
  axes.reduce((product, { values }) => product * values.length, axes.length > 0 ? 1 : 0);

/** Every combination of the axes' values, at most `most`, in a shop's order; the last axis turns fastest. */
export function layOut(axes: readonly LaidAxis[], most: number, language?: string): string[][] {
  let rows: string[][] = combinationsOf(axes) > 0 ? [[]] : [];
  for (const { kind, values } of axes) {
    const ordered = orderValues(values, { kind, language });
    // Rows are begun no further than they are wanted: each gives one at least.
    rows = rows.slice(0, most).flatMap((row) => ordered.map((value) => [...row, value]));
  }
  return rows.slice(0, most);
}

/**
 * The combinations of the axes' values that no variant has yet, at most `most`, in a shop's order; values are compared by what
 * they mean.
 */
export function openCombinations(
  axes: readonly (LaidAxis & { key: string })[],
  variants: readonly AxisVariant[],
  most: number,
  language?: string,
): string[][] {
  const rows = layOut(axes, most + variants.length, language);
  const columns = columnsOf(axes, [
    ...variants,
    ...rows.map((values, id) => ({ id, options: Object.fromEntries(axes.map(({ key }, i) => [key, values[i]])) })),
  ]);
  const printOf = (at: number) => columns.map(({ same }) => same[at] ?? '').join('\u0000');
  const held = new Set(variants.map((_, i) => printOf(i)));
  return rows.filter((_, i) => !held.has(printOf(variants.length + i))).slice(0, most);
}

/** A number for each row of values: the family's, then the values as letters and figures; none twice, none of those taken. */
export function numbersOf(base: string, rows: readonly (readonly string[])[], taken: Iterable<string> = []): string[] {
  const held = new Set([...taken].map(foldText));
  return rows.map((values) => {
    const plain = [base.trim(), ...values.map(codeOf)].filter((part) => part !== '').join('-');
    let free = plain;
    for (let n = 2; held.has(foldText(free)); n++) free = `${plain}-${n}`;
    held.add(foldText(free));
    return free;
  });
}

/** What numbers begin with, whole parts of them: MS-AMB71 of MS-AMB71-13-HA and MS-AMB71-16-EI. */
export function beginningOf(numbers: readonly string[]): string {
  const [parts = [], ...others] = numbers.map((number) => number.split('-'));
  const shared = parts.findIndex((part, i) => others.some((other) => other[i] !== part));
  return parts.slice(0, shared < 0 ? Math.max(1, parts.length - 1) : shared).join('-');
}

const longestPart = 12;

const codeOf = (value: string) =>
  value
    .normalize('NFKD')
    .replace(/ß/g, 'ss')
    .replace(/[^\p{L}\p{N}.,/]+/gu, '')
    .replace(/[.,/]+/g, '.')
    .toUpperCase()
    .slice(0, longestPart);
