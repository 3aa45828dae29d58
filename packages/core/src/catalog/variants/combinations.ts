import { columnsOf } from './columns.js';
import type { Axis, AxisVariant } from './model.js';

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
  const used = columnsOf(axes, variants)
    .map(({ axis, held, same }) => {
      // Each value as it was spelt first, in the order they are met in.
      const spellings = new Map<string, string>();
      for (const [i, key] of same.entries())
        if (key !== undefined && !spellings.has(key)) spellings.set(key, held[i] ?? '');
      const places = new Map([...spellings.keys()].map((key, i) => [key, i]));
      return { key: axis.key, spellings: [...spellings.values()], of: same.map((key) => places.get(key ?? '')) };
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
