/** Causes ranked by what they unlock, over interned sets with counts: never over listings. */

export interface CauseSet {
  /** Sorted ids of the causes that block. */
  causes: readonly number[];
  /** Listings with exactly this set. */
  listings: number;
}

export interface RankedCause {
  cause: number;
  /** Listings it is one of the causes of. */
  touched: number;
  /** Listings it alone blocks: what fixing it would unlock, at most. */
  alone: number;
}

/** Ranked by what each alone unlocks, then by what it touches. */
export function rankCauses(sets: readonly CauseSet[]): RankedCause[] {
  const ranked = new Map<number, RankedCause>();
  for (const { causes, listings } of sets)
    for (const cause of causes) {
      const entry = ranked.get(cause) ?? { cause, touched: 0, alone: 0 };
      entry.touched += listings;
      if (causes.length === 1) entry.alone += listings;
      ranked.set(cause, entry);
    }
  return [...ranked.values()].sort((a, b) => b.alone - a.alone || b.touched - a.touched || a.cause - b.cause);
}

export interface PlanStep {
  cause: number;
  /** Listings freed once this and the steps before it are done. */
  freed: number;
}

/**
 * The greedy plan: each step takes the cause that frees most together with those already taken; where none frees
 * anything by itself, the one in the set that is nearest to being cleared, weighed by listings.
 */
export function planFixes(sets: readonly CauseSet[], most: number): PlanStep[] {
  const open = sets.map(({ causes, listings }) => ({ left: new Set(causes), listings }));
  const steps: PlanStep[] = [];
  let freed = 0;
  while (steps.length < most) {
    const worth = new Map<number, number>();
    for (const { left, listings } of open)
      for (const cause of left) worth.set(cause, (worth.get(cause) ?? 0) + listings / left.size ** 3);
    const best = [...worth].reduce<[number, number] | undefined>(
      (a, b) => (a === undefined || b[1] > a[1] || (b[1] === a[1] && b[0] < a[0]) ? b : a),
      undefined,
    );
    if (!best) break;
    for (const set of open) if (set.left.delete(best[0]) && set.left.size === 0) freed += set.listings;
    steps.push({ cause: best[0], freed });
  }
  return steps;
}
