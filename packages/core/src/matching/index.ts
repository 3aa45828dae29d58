/** Which supplier records are the same goods: by exact keys, and by what people decided of pairs that look alike. */

export const joinLevels = ['gtin', 'mpn', 'number'] as const;
export type JoinLevel = (typeof joinLevels)[number];

export interface JoinRecord {
  id: number;
  /** Supplier it comes from. */
  source: number;
  /** Comparable keys; absent where the record has none. A number key names the supplier: "3:bw-1042". */
  keys: Partial<Record<JoinLevel, string>>;
}

export interface Unjoined {
  level: JoinLevel;
  key: string;
  records: number[];
  reason: 'stands-twice' | 'would-join-one-source-twice';
}

/** What a person decided of two records. It stands above every key. */
export interface Decision {
  a: number;
  b: number;
  verdict: 'same' | 'different';
}

export interface Joins {
  /** Components, each a sorted list of record ids; singles included. */
  components: number[][];
  /** Keys that joined nothing, for a person to decide. */
  proposals: Unjoined[];
}

/**
 * Joins records level by level, what people decided first. Pure and independent of the order of its input:
 * a key standing on two records of one source joins nothing; and where the keys of a level together would bring two
 * records of one source, or two that a person keeps apart, into one product, all of them are taken back and proposed.
 */
export function joinRecords(records: readonly JoinRecord[], decisions: readonly Decision[] = []): Joins {
  const sorted = [...records].sort((a, b) => a.id - b.id);
  const at = new Map(sorted.map((record, i) => [record.id, i]));
  const pairs = (verdict: Decision['verdict']) =>
    decisions.flatMap((one): [number, number][] => {
      const [a, b] = [at.get(one.a), at.get(one.b)];
      return one.verdict === verdict && a !== undefined && b !== undefined ? [[a, b]] : [];
    });
  const scene: Scene = { records: sorted, parent: sorted.map((_, i) => i), apart: pairs('different') };
  joinGroups(
    scene,
    pairs('same').map(([a, b]) => [`${a}:${b}`, [a, b]]),
  );
  const proposals: Unjoined[] = [];
  for (const level of joinLevels) joinLevel(scene, level, proposals);
  const components = new Map<number, number[]>();
  sorted.forEach((record, i) => {
    const root = find(scene.parent, i);
    const members = components.get(root);
    if (members) members.push(record.id);
    else components.set(root, [record.id]);
  });
  return { components: [...components.values()], proposals };
}

interface Scene {
  records: readonly JoinRecord[];
  parent: number[];
  /** Indexes of records that a person keeps apart. */
  apart: readonly (readonly [number, number])[];
}

function joinLevel(scene: Scene, level: JoinLevel, proposals: Unjoined[]): void {
  const { records } = scene;
  const groups = new Map<string, number[]>();
  records.forEach((record, i) => {
    const key = record.keys[level];
    if (key === undefined) return;
    const group = groups.get(key);
    if (group) group.push(i);
    else groups.set(key, [i]);
  });
  const idsOf = (group: readonly number[]) => group.map((i) => records[i]?.id ?? 0);
  const used: [string, number[]][] = [];
  for (const [key, group] of groups) {
    if (group.length < 2) continue;
    const source = (i: number) => records[i]?.source;
    if (new Set(group.map(source)).size < group.length)
      proposals.push({ level, key, records: idsOf(group), reason: 'stands-twice' });
    else used.push([key, group]);
  }
  for (const [key, group] of joinGroups(scene, used))
    proposals.push({ level, key, records: idsOf(group), reason: 'would-join-one-source-twice' });
}

/** Unites the groups; answers those that had to be taken back. */
function joinGroups(scene: Scene, groups: readonly [string, number[]][]): [string, number[]][] {
  const { parent } = scene;
  const before = [...parent];
  const unite = (group: readonly number[]) => {
    for (const i of group) union(parent, group[0] ?? i, i);
  };
  for (const [, group] of groups) unite(group);
  const broken = brokenRoots(scene);
  if (broken.size === 0) return [];
  const isBroken = ([, group]: [string, number[]]) => broken.has(find(parent, group[0] ?? 0));
  const [taken, kept] = [groups.filter(isBroken), groups.filter((group) => !isBroken(group))];
  before.forEach((value, i) => (parent[i] = value));
  for (const [, group] of kept) unite(group);
  return taken;
}

/** Products that would hold two records of one source, or two that are kept apart. */
function brokenRoots({ records, parent, apart }: Scene): Set<number> {
  const seen = new Set<string>();
  const broken = new Set<number>();
  records.forEach((record, i) => {
    const root = find(parent, i);
    const mark = `${root}:${record.source}`;
    if (seen.has(mark)) broken.add(root);
    seen.add(mark);
  });
  for (const [a, b] of apart) if (find(parent, a) === find(parent, b)) broken.add(find(parent, a));
  return broken;
}

function find(parent: number[], i: number): number {
  let root = i;
  while (parent[root] !== root) root = parent[root] ?? root;
  while (parent[i] !== root) {
    const next = parent[i] ?? root;
    parent[i] = root;
    i = next;
  }
  return root;
}

/** The smaller index stays the root, so that the outcome does not depend on the order of unions. */
function union(parent: number[], a: number, b: number): void {
  const [x, y] = [find(parent, a), find(parent, b)];
  if (x !== y) parent[Math.max(x, y)] = Math.min(x, y);
}

/**
 * Groups of things that share any key: families whose variants were joined are one family.
 * Takes pairs (thing, key) and gives for each thing the smallest key of its group.
 */
export function shareKeys(pairs: readonly (readonly [thing: number, key: number])[]): Map<number, number> {
  const keyIndex = new Map<number, number>();
  const keys = [...new Set(pairs.map(([, key]) => key))].sort((a, b) => a - b);
  keys.forEach((key, i) => keyIndex.set(key, i));
  const parent = keys.map((_, i) => i);
  const first = new Map<number, number>();
  for (const [thing, key] of pairs) {
    const i = keyIndex.get(key) ?? 0;
    const seen = first.get(thing);
    if (seen === undefined) first.set(thing, i);
    else union(parent, seen, i);
  }
  const answer = new Map<number, number>();
  for (const [thing, i] of first) answer.set(thing, keys[find(parent, i)] ?? 0);
  return answer;
}
export * from './evidence.js';
export * from './candidates.js';
