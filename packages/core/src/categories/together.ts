/** All categories judged together: neighbours go to neighbours, and two of ours seldom share one of theirs. */
import { type Compiled, joined } from './compiled.js';
import type { ChosenMap } from './model.js';

const rounds = 3;
const shares = { siblings: 0.5, root: 0.15, trunk: 0.5, crowd: 2.5 };
/** So that nothing is impossible. */
const little = 0.02;
const alone = 0.4;

export interface Judged {
  /** By candidate: probabilities that add up to 1. */
  p: Float64Array;
  /** By itself, before the neighbours are heard. */
  base: Float64Array;
}

/** By our category, in their order; `bases` are the scores of each by itself. */
export function judge(
  { own, targets }: Compiled,
  bases: readonly Float64Array[],
  chosen: readonly ChosenMap[],
): Judged[] {
  const at = new Map(targets.map(({ of }, t) => [of.path, t]));
  const certain = new Map(chosen.map(({ own: path, target }) => [path, at.get(target)]));
  const fixed = own.map(({ of }) => certain.get(of.path));
  const parents = grouped(targets.map(({ parent }) => parent));
  const tops = grouped(targets.map(({ of }) => joined(of.names.slice(0, 2))));
  const trunks = grouped(targets.map(({ of }) => of.names[0] ?? ''));
  const families = grouped(own.map(({ parent }) => parent));
  const roots = grouped(own.map(({ of }) => of.names[0] ?? ''));
  let p = bases.map((base, i) => settled(base, fixed[i]));
  for (let round = 0; round < rounds; round++) {
    const [near, far] = [masses(p, families, parents), masses(p, roots, tops)];
    const trunk = masses(p, roots, trunks);
    const crowd = crowded(p, targets.length);
    p = bases.map((base, i) => {
      const score = base.map((own, t) => {
        const siblings = drawn(near, families, parents, i, t);
        const root = drawn(far, roots, tops, i, t);
        const whole = drawn(trunk, roots, trunks, i, t);
        const [first = 0, second = 0, by] = crowd[t] ?? [];
        const others = by === i ? second : first;
        return own + shares.siblings * siblings + shares.root * root + shares.trunk * whole - shares.crowd * others;
      });
      return settled(score, fixed[i]);
    });
  }
  return bases.map((base, i) => ({ base, p: p[i] ?? base }));
}

interface Groups {
  /** By member. */
  of: number[];
  sizes: number[];
}

function grouped(keys: readonly string[]): Groups {
  const ids = new Map<string, number>();
  const of = keys.map((one) => {
    const known = ids.get(one) ?? ids.size;
    ids.set(one, known);
    return known;
  });
  const sizes = new Array<number>(ids.size).fill(0);
  for (const id of of) sizes[id] = (sizes[id] ?? 0) + 1;
  return { of, sizes };
}

/** How much of each group of ours goes to each group of theirs, and how much each of ours does. */
function masses(p: readonly Float64Array[], ours: Groups, theirs: Groups) {
  const each = p.map((row) => {
    const sums = new Float64Array(theirs.sizes.length);
    row.forEach((one, t) => {
      const group = theirs.of[t] ?? 0;
      sums[group] = (sums[group] ?? 0) + one;
    });
    return sums;
  });
  const all = ours.sizes.map(() => new Float64Array(theirs.sizes.length));
  each.forEach((sums, i) => {
    const group = all[ours.of[i] ?? 0];
    if (group) sums.forEach((one, g) => (group[g] = (group[g] ?? 0) + one));
  });
  return { each, all };
}

/** Where the others of its group go, as a logarithm: 0 where they all do, and below it. */
function drawn({ each, all }: ReturnType<typeof masses>, ours: Groups, theirs: Groups, i: number, t: number): number {
  const [mine, group] = [ours.of[i] ?? 0, theirs.of[t] ?? 0];
  const others = (ours.sizes[mine] ?? 1) - 1;
  const mass = (all[mine]?.[group] ?? 0) - (each[i]?.[group] ?? 0);
  return Math.log((Math.max(0, mass) + little) / (others + alone) + little);
}

/** By candidate: the two that want it most, and who the first is. */
function crowded(p: readonly Float64Array[], count: number): [first: number, second: number, by: number][] {
  const crowd = Array.from({ length: count }, (): [number, number, number] => [0, 0, -1]);
  p.forEach((row, i) =>
    row.forEach((one, t) => {
      const best = crowd[t];
      if (!best) return;
      if (one > best[0]) crowd[t] = [one, best[0], i];
      else if (one > best[1]) best[1] = one;
    }),
  );
  return crowd;
}

/** Scores as probabilities; all of it for what a person chose. */
function settled(score: Float64Array, chosen: number | undefined): Float64Array {
  if (chosen !== undefined) return score.map((_, t) => (t === chosen ? 1 : 0));
  const best = score.reduce((most, one) => Math.max(most, one), -Infinity);
  const raised = score.map((one) => Math.exp(one - best));
  const sum = raised.reduce((total, one) => total + one, 0);
  return raised.map((one) => one / sum);
}
