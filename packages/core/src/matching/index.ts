/** Which supplier records are the same goods: by exact keys, and by what people decided of pairs that look alike. */
import { readGtin } from '../values/index.js';
import { agreements, contradictions } from './contradict.js';
import { type Traits, isPlaceholder } from './traits.js';

export const joinLevels = ['gtin', 'mpn', 'number'] as const;
export type JoinLevel = (typeof joinLevels)[number];

export interface JoinRecord {
  id: number;
  /** Supplier it comes from. */
  source: number;
  /** Comparable keys; absent where the record has none. A number key names the supplier: "3:bw-1042". */
  keys: Partial<Record<JoinLevel, string>>;
  /** What it says of itself; without it nothing contradicts its keys. */
  traits?: Traits | undefined;
  /** Its source is ours, or uses our numbers, as a person says: numbers for use inside a company mean the same in both. */
  usesOurNumbers?: boolean | undefined;
}

export interface Unjoined {
  level: JoinLevel;
  key: string;
  records: number[];
  reason: UnjoinedReason;
  /** What speaks against it, in words. */
  against?: string[];
}

/** `contradicted`: the records say otherwise. `alone`: a number others may use too, and nothing else agrees. */
export const unjoinedReasons = ['stands-twice', 'would-join-one-source-twice', 'contradicted', 'alone'] as const;
export type UnjoinedReason = (typeof unjoinedReasons)[number];

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
 * records of one source, or two that a person keeps apart or that contradict each other, into one product, all of them are
 * taken back and proposed. What a person has joined stands, whatever contradicts it.
 */
export function joinRecords(records: readonly JoinRecord[], decisions: readonly Decision[] = []): Joins {
  const sorted = [...records].sort((a, b) => a.id - b.id);
  const at = new Map(sorted.map((record, i) => [record.id, i]));
  const pairs = (verdict: Decision['verdict']) =>
    decisions.flatMap((decision): [number, number][] => {
      const [a, b] = [at.get(decision.a), at.get(decision.b)];
      return decision.verdict === verdict && a !== undefined && b !== undefined ? [[a, b]] : [];
    });
  const same = pairs('same');
  const scene: Scene = {
    records: sorted,
    parent: sorted.map((_, i) => i),
    apart: pairs('different'),
    said: new Set(same.flatMap(([a, b]) => [`${a}:${b}`, `${b}:${a}`])),
    contradicted: new Map(),
  };
  joinGroups(
    scene,
    same.map(([a, b]) => [`${a}:${b}`, [a, b]]),
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
  /** Pairs that a person said are the same. */
  said: ReadonlySet<string>;
  /** What is known of pairs by now. */
  contradicted: Map<string, string[]>;
}

/** What two records say against being the same goods; nothing where a person said that they are. */
function against({ records, said, contradicted }: Scene, i: number, j: number): string[] {
  const mark = i < j ? `${i}:${j}` : `${j}:${i}`;
  if (said.has(mark)) return [];
  const known = contradicted.get(mark);
  if (known) return known;
  const [a, b] = [records[i]?.traits, records[j]?.traits];
  const found = a && b ? contradictions(a, b) : [];
  contradicted.set(mark, found);
  return found;
}

/** Whether a key says enough by itself: a number for use inside a company needs something else that agrees. */
function isEnough({ records, said }: Scene, level: JoinLevel, key: string, i: number, j: number): boolean {
  if (level !== 'gtin' || said.has(`${i}:${j}`)) return true;
  const [a, b] = [records[i], records[j]];
  if (!a?.traits || !b?.traits || (a.usesOurNumbers && b.usesOurNumbers)) return true;
  return !isInHouse(key) || agreements(a.traits, b.traits).length > 0;
}

/** A GTIN as keys have it (14 digits), from a range that anybody may use as he likes: others may give it to other goods. */
export function isInHouse(key: string | undefined): boolean {
  const read = key === undefined ? undefined : readGtin(key.replace(/^0+(?=\d{13}$)/, ''));
  return read?.ok === true && read.internal !== undefined;
}

/**
 * Members of a group that can be joined: those that go together with no doubt. Whoever contradicts some of them is with
 * those it does not contradict; whoever could be with several is with none.
 */
function partition(scene: Scene, level: JoinLevel, key: string, group: readonly number[]): number[][] {
  const isApart = (i: number, j: number) => against(scene, i, j).length > 0 || !isEnough(scene, level, key, i, j);
  const parts: number[][] = [];
  for (const i of group) {
    const part = parts.find((members) => members.every((j) => !isApart(i, j)));
    if (part) part.push(i);
    else parts.push([i]);
  }
  if (parts.length < 2) return parts;
  const fits = (i: number) => parts.filter((members) => members.every((j) => j === i || !isApart(i, j))).length;
  return parts.map((members) => members.filter((i) => fits(i) === 1)).filter((members) => members.length > 0);
}

function joinLevel(scene: Scene, level: JoinLevel, proposals: Unjoined[]): void {
  const { records } = scene;
  const groups = new Map<string, number[]>();
  records.forEach((record, i) => {
    const key = record.keys[level];
    if (key === undefined || isPlaceholder(key.slice(key.lastIndexOf('/') + 1))) return;
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
    else {
      const parts = partition(scene, level, key, group);
      used.push(...parts.filter((part) => part.length > 1).map((part): [string, number[]] => [key, part]));
      if (parts[0]?.length === group.length) continue;
      const words = new Set(group.flatMap((i, n) => group.slice(n + 1).flatMap((j) => against(scene, i, j))));
      proposals.push({
        level,
        key,
        records: idsOf(group),
        reason: words.size > 0 ? 'contradicted' : 'alone',
        against: [...words],
      });
    }
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
function brokenRoots(scene: Scene): Set<number> {
  const { records, parent, apart } = scene;
  const seen = new Set<string>();
  const broken = new Set<number>();
  records.forEach((record, i) => {
    const root = find(parent, i);
    const mark = `${root}:${record.source}`;
    if (seen.has(mark)) broken.add(root);
    seen.add(mark);
  });
  for (const [a, b] of apart) if (find(parent, a) === find(parent, b)) broken.add(find(parent, a));
  const members = new Map<number, number[]>();
  records.forEach((_, i) => {
    const root = find(parent, i);
    if (broken.has(root)) return;
    const list = members.get(root) ?? [];
    members.set(root, list);
    if (list.some((other) => against(scene, i, other).length > 0)) broken.add(root);
    list.push(i);
  });
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
export * from './learnt.js';
export * from './contradict.js';
export * from './traits.js';
