import { sameKey } from './meaning.js';
import { type Axis, type AxisVariant, isBlank } from './model.js';
import { readingOf } from './order.js';
import { optionOf } from './options.js';

export interface MissingCombinations {
  count: number;
  sets: Record<string, string>[];
}

/** Listed at most, where the caller does not say. */
const mostListed = 1000;

/**
 * Combinations of the values in use that no variant has, each value spelt as it was met first. Axes on which no variant has a
 * value count for nothing; a variant without a value on one of the others has no combination.
 */
export function missingCombinations(
  axes: readonly Axis[],
  variants: readonly AxisVariant[],
  { most = mostListed }: { most?: number } = {},
): MissingCombinations {
  const used = axes
    .map((axis) => {
      const held = variants.map((variant) => optionOf(variant, axis.key));
      const reading = readingOf(
        held.filter((value) => value !== undefined),
        axis,
      );
      const indexes = new Map<string, number>();
      const spellings: string[] = [];
      const of = held.map((value) => {
        if (isBlank(value)) return undefined;
        const key = sameKey(value, axis.kind, { ...reading, unit: undefined });
        const known = indexes.get(key);
        if (known !== undefined) return known;
        indexes.set(key, spellings.length);
        return spellings.push(value) - 1;
      });
      return { key: axis.key, spellings, of };
    })
    .filter(({ spellings }) => spellings.length > 0);
  if (used.length === 0) return { count: 0, sets: [] };
  const taken = new Set<string>();
  for (const i of variants.keys()) {
    const places = used.map(({ of }) => of[i]);
    if (places.every((place) => place !== undefined)) taken.add(places.join(','));
  }
  const count = used.reduce((product, { spellings }) => product * spellings.length, 1) - taken.size;
  const sets: Record<string, string>[] = [];
  const at = used.map(() => 0);
  while (sets.length < Math.min(most, count)) {
    if (!taken.has(at.join(',')))
      sets.push(Object.fromEntries(used.map(({ key, spellings }, axis) => [key, spellings[at[axis] ?? 0] ?? ''])));
    // The last axis turns fastest.
    let axis = used.length - 1;
    while (axis >= 0 && (at[axis] = (at[axis] ?? 0) + 1) === used[axis]?.spellings.length) at[axis--] = 0;
    if (axis < 0) break;
  }
  return { count, sets };
}
