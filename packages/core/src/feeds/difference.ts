/** What a run changes against the one that is up, and whether that is too much to go out unseen. */

export interface RunDifference {
  before: number;
  after: number;
  added: number;
  removed: number;
  changed: number;
}

/** Compares item key → row hash of two runs. */
export function compareRuns(before: ReadonlyMap<string, string>, after: ReadonlyMap<string, string>): RunDifference {
  let added = 0;
  let changed = 0;
  for (const [key, hash] of after) {
    const was = before.get(key);
    if (was === undefined) added++;
    else if (was !== hash) changed++;
  }
  const removed = before.size - (after.size - added);
  return { before: before.size, after: after.size, added, removed, changed };
}

export interface GuardLimits {
  /** Share (0–1) of the items now up that may vanish in one run. */
  maxRemoved: number;
}

/** The reason to hold a run for a person, or undefined. An empty file never goes out. */
export function guardRun(difference: RunDifference, limits: GuardLimits): string | undefined {
  if (difference.after === 0) return 'Nothing is ready: an empty file would clear the channel';
  if (difference.before === 0) return undefined;
  const share = difference.removed / difference.before;
  return share > limits.maxRemoved
    ? `${difference.removed} of ${difference.before} items (${Math.round(share * 100)} %) would drop; the limit is ${Math.round(limits.maxRemoved * 100)} %`
    : undefined;
}
