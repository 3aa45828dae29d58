/** A family's variants laid out by two of their axes, the rest of the axes by what one looks at. */
import { columnsOf } from './columns.js';
import type { Axis, AxisVariant } from './model.js';
import { orderValues } from './order.js';

/** A value of an axis as it is headed; undefined: those that have none. */
export type RackHead = string | undefined;

export interface Rack<V> {
  down: RackHead[];
  /** One head without a value where nothing stands across. */
  across: RackHead[];
  /** By row and column: the variants there, more than one where a combination is held twice, none where it is not made. */
  cells: V[][][];
}

/** An axis with the values in use, each spelt as it was met first, in a shop's order. */
export interface UsedAxis extends Axis {
  values: string[];
}

export interface RackOptions {
  /** Of the values (BCP 47). */
  language?: string | undefined;
  /** Values in the order somebody gave them, by axis. */
  lists?: Readonly<Record<string, readonly string[]>> | undefined;
}

export function usedAxes(
  axes: readonly Axis[],
  variants: readonly AxisVariant[],
  options: RackOptions = {},
): UsedAxis[] {
  return columnsOf(axes, variants).map(({ axis, held, same }) => ({
    ...axis,
    values: orderOf(axis, [...firstSpelt(held, same).values()], options),
  }));
}

function orderOf({ key, kind }: Axis, values: readonly string[], { language, lists }: RackOptions): string[] {
  const list = lists?.[key] ?? [];
  const ordered = orderValues(values, { kind, language });
  const at = (value: string) => (list.includes(value) ? list.indexOf(value) : list.length);
  return list.length === 0 ? ordered : [...ordered].sort((a, b) => at(a) - at(b));
}

function firstSpelt(held: readonly (string | undefined)[], same: readonly (string | undefined)[]): Map<string, string> {
  const spelt = new Map<string, string>();
  for (const [i, key] of same.entries()) if (key !== undefined && !spelt.has(key)) spelt.set(key, held[i] ?? '');
  return spelt;
}

/**
 * Lays variants out with `down` and `across`, keys of two axes; of the others only those stand there that have the values of
 * `at`. Values are compared by what they mean. Those without a value on one of the two stand in a last row or column.
 */
export function rackOf<V extends AxisVariant>(
  axes: readonly Axis[],
  variants: readonly V[],
  {
    down,
    across,
    at = {},
    ...order
  }: { down: string; across?: string | undefined; at?: Record<string, string> } & RackOptions,
): Rack<V> {
  const columns = new Map(columnsOf(axes, variants).map((column) => [column.axis.key, column]));
  const sameAs = (axis: string, value: string) => {
    const column = columns.get(axis);
    const i = column?.held.indexOf(value) ?? -1;
    return i < 0 ? undefined : column?.same[i];
  };
  const looked = Object.entries(at).map(([axis, value]) => [axis, sameAs(axis, value)] as const);
  const shown = [...variants.keys()].filter((i) =>
    looked.every(([axis, same]) => same === undefined || columns.get(axis)?.same[i] === same),
  );
  const headsOf = (key: string | undefined): { heads: RackHead[]; place: (i: number) => number } => {
    const column = columns.get(key ?? '');
    if (!column) return { heads: [undefined], place: () => 0 };
    const spelt = firstSpelt(column.held, column.same);
    const values = orderOf(column.axis, [...spelt.values()], order);
    const keyOf = new Map([...spelt].map(([same, value]) => [value, same]));
    const places = new Map(values.map((value, place) => [keyOf.get(value), place]));
    const isWhole = shown.every((i) => column.same[i] !== undefined);
    return {
      heads: isWhole ? values : [...values, undefined],
      place: (i) => places.get(column.same[i]) ?? values.length,
    };
  };
  const [rows, cols] = [headsOf(down), headsOf(across)];
  const cells = rows.heads.map(() => cols.heads.map((): V[] => []));
  for (const i of shown) {
    const variant = variants[i];
    if (variant) cells[rows.place(i)]?.[cols.place(i)]?.push(variant);
  }
  return { down: rows.heads, across: cols.heads, cells };
}
