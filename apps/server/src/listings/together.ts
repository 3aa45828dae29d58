/**
 * What becomes of listings in a trial, judged together: groups that share a key and the room a channel has are counted as they
 * would be, also where a change of some listings frees or blocks others. Nothing is written.
 */
import type { Effect } from '@velvet-shelf/contract';
import { type CollectiveCheck, type Members, collectiveChecks } from '@velvet-shelf/core/checks';
import type { CompiledPlace, Evaluated, Finding, Readiness } from '@velvet-shelf/core/listings';
import { type SQL, and, asc, eq, isNull, sql } from 'drizzle-orm';
import { type Executor, ids, json, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { noEffect } from '../history/effect.js';
import { type Group, groupName, groupOf } from './groups.js';
import { heldOf } from './quota.js';

/** How a listing stands before anything is tried. */
export interface Standing {
  listing: number;
  unit: number;
  readiness: Readiness;
  /** Found of it among others of its place. */
  collective: Finding[];
  /** All that keep it back, where they were asked for. */
  causes?: string[] | null;
}

const out = 'not for this channel';
const judges: ReadonlyMap<string, CollectiveCheck> = new Map(collectiveChecks.map((check) => [check.meta.id, check]));

/** How one stands that is judged alone, and held back by others if it is now. */
export const besideOthers = (was: Standing | undefined, alone: Readiness): Readiness =>
  alone === 'ready' && was?.collective.some(({ severity }) => severity === 'blocker') ? 'blocked' : alone;

/** One that is evaluated with the change, or one beside it that shares a group with such. */
interface Member {
  was: Standing | undefined;
  unit: number;
  alone: Readiness;
  /** What keeps it back by itself. */
  own: readonly string[];
  /** Its groups after the change, with what one would change if too many share one; of one beside it those that change. */
  groups: readonly Caused[];
  /** Evaluated with the change: it is in no groups but these. */
  isInside: boolean;
}

type Caused = Group & { cause: string };

export class Together {
  private readonly inside: Member[] = [];

  add(was: Standing | undefined, unit: number, { readiness, findings, keys }: Evaluated): void {
    const own = findings.flatMap(({ severity, cause }) => (severity === 'blocker' ? [cause] : []));
    this.inside.push({ was, unit, own, alone: readiness, groups: keys, isInside: true });
  }

  /** What becomes of all that was added, with what others hold back now held back still: where others may change too. */
  apart(): Effect {
    const effect = noEffect();
    for (const { was, alone } of this.inside) count(effect, was, besideOthers(was, alone));
    return effect;
  }

  /**
   * What becomes of all that was added, and of those beside it that the change reaches, and which causes would keep them back
   * that do not now; `isWhole` where nothing of the place is beside it.
   */
  async settle(
    on: Executor,
    place: CompiledPlace,
    placeId: number,
    isWhole: boolean,
  ): Promise<{ effect: Effect; newCauses: Map<string, number> }> {
    const { inside } = this;
    const before = isWhole ? undefined : await keysOf(on, listingsOf(inside));
    const touched = before && changedGroups(inside, before);
    const beside = touched ? await besideOf(on, placeId, touched, listingsOf(inside)) : [];
    const sizes = sizesOf([...inside, ...beside]);
    const isTouched = (group: Group) => touched?.has(groupName(group)) ?? true;
    const isTooMany = (group: Group) => {
      const size = sizes.get(groupName(group));
      return size !== undefined && judges.get(group.check)?.judge(size) === true;
    };
    const room = await roomOf(on, place, placeId, inside);
    const crossing = await crossingOf(on, placeId, room, new Set(listingsOf([...inside, ...beside])));
    const effect = noEffect();
    const newCauses = new Map<string, number>();
    for (const member of [...inside, ...beside, ...crossing]) {
      const causes = member.alone === out ? [] : causesOf(member, isTouched, isTooMany);
      if (place.quota && member.alone !== out && room.isBeyond(member)) causes.push(place.quota.finding.cause);
      const readiness = member.alone === 'ready' && causes.length > 0 ? 'blocked' : member.alone;
      count(effect, member.was, readiness);
      const { was } = member;
      const held = new Set([...(was?.causes ?? []), ...(was?.collective ?? []).map(({ cause }) => cause)]);
      for (const cause of new Set([...member.own, ...causes]))
        if (!held.has(cause)) newCauses.set(cause, (newCauses.get(cause) ?? 0) + 1);
    }
    return { effect, newCauses };
  }
}

/** Adds to an effect what becomes of one listing. */
function count(effect: Effect, was: Standing | undefined, readiness: Readiness): void {
  if (!was || was.readiness === readiness) return;
  effect.listingsChanged++;
  if (readiness === 'ready') effect.becameReady++;
  if (readiness === 'blocked') effect.becameBlocked++;
}

const listingsOf = (members: readonly Member[]): number[] => members.flatMap(({ was }) => was?.listing ?? []);

/** What of its groups holds it back: those that change as they are judged now, the others as they were. */
function causesOf(
  { was, groups, isInside }: Member,
  isTouched: (group: Group) => boolean,
  isTooMany: (group: Group) => boolean,
): string[] {
  const isBlocker = ({ check }: Group) => judges.get(check)?.meta.severity === 'blocker';
  const now = groups.filter((group) => isBlocker(group) && isTouched(group) && isTooMany(group));
  const causes = new Map(groups.map((group) => [groupName(group), group.cause]));
  const still = (was?.collective ?? []).flatMap(({ check, params, cause }) => {
    const group = { check, key: String(params.key ?? '') };
    if (!isBlocker(group) || isTouched(group)) return [];
    return isInside ? (causes.get(groupName(group)) ?? []) : [cause];
  });
  return [...now.map(({ cause }) => cause), ...still];
}

/** The groups that these listings are in now. */
async function keysOf(on: Executor, listings: readonly number[]): Promise<Map<number, Set<string>>> {
  const rows = await queryRows<Group & { id: number }>(
    on,
    sql`SELECT k.listing_id AS id, k."check", k.key FROM listing_key k WHERE k.listing_id = ANY(${ids(listings)})`,
  );
  const found = new Map<number, Set<string>>();
  for (const { id, ...group } of rows) found.set(id, (found.get(id) ?? new Set()).add(groupName(group)));
  return found;
}

/** Groups that some of these leave or come to. */
function changedGroups(members: readonly Member[], before: ReadonlyMap<number, ReadonlySet<string>>): Set<string> {
  const none: ReadonlySet<string> = new Set();
  return new Set(
    members.flatMap(({ was, groups }) => {
      const [old, now] = [before.get(was?.listing ?? 0) ?? none, new Set(groups.map(groupName))];
      return [...[...old].filter((name) => !now.has(name)), ...[...now].filter((name) => !old.has(name))];
    }),
  );
}

/** Those of these groups that are not evaluated, each with the groups it shares with what is. */
async function besideOf(
  on: Executor,
  placeId: number,
  touched: ReadonlySet<string>,
  evaluated: readonly number[],
): Promise<Member[]> {
  if (touched.size === 0) return [];
  const rows = await queryRows<Beside & Caused>(
    on,
    sql`SELECT ${besideColumns}, k."check", k.key, k.cause
        FROM jsonb_to_recordset(${json([...touched].map(groupOf))}) AS g("check" text, key text)
        JOIN listing_key k ON k.place_id = ${placeId} AND k."check" = g."check" AND k.key = g.key
        JOIN listing l ON l.id = k.listing_id WHERE l.id <> ALL(${ids(evaluated)})`,
  );
  const members = new Map<number, Member & { groups: Caused[] }>();
  for (const { check, key, cause, ...row } of rows) {
    const known = members.get(row.listing) ?? { ...asBeside(row), groups: [] };
    known.groups.push({ check, key, cause });
    members.set(row.listing, known);
  }
  return [...members.values()];
}

type Beside = Standing & { isBlocked: boolean };
const besideColumns: SQL = sql`l.id AS listing, l.unit_id AS unit, l.readiness, l.collective, l.findings @> '[{"severity":"blocker"}]' AS "isBlocked"`;

const asBeside = ({ isBlocked, ...was }: Beside): Member => ({
  ...{ was, unit: was.unit, own: [], groups: [], isInside: false },
  alone: was.readiness === out ? out : isBlocked ? 'blocked' : 'ready',
});

function sizesOf(members: readonly Member[]): Map<string, Members> {
  const items = new Map<string, { items: number; units: Set<number> }>();
  for (const { unit, groups } of members)
    for (const name of new Set(groups.map(groupName))) {
      const known = items.get(name) ?? { items: 0, units: new Set() };
      known.items++;
      known.units.add(unit);
      items.set(name, known);
    }
  return new Map([...items].map(([name, { items, units }]) => [name, { items, families: units.size }]));
}

interface Room {
  isBeyond(member: Member): boolean;
  /** Numbers of listings from which they were beyond, and would be. */
  before: number;
  after: number;
}

/** Where the channel's room would end: the first that are in it stay. */
async function roomOf(
  on: Executor,
  { quota }: CompiledPlace,
  placeId: number,
  inside: readonly Member[],
): Promise<Room> {
  const held = await heldOf(on, placeId);
  const before = held?.beyond ?? Infinity;
  if (!quota) return { before, after: Infinity, isBeyond: () => false };
  const isMoved = inside.some(({ was, alone }) => (alone === out) !== ((was?.readiness ?? out) === out));
  const isSame = held?.most === quota.most && !isMoved;
  const listed = isSame ? [] : await listedWith(on, placeId, inside);
  const after = isSame ? before : (listed[quota.most] ?? Infinity);
  // What is listed anew comes last.
  const isFull = isSame ? before < Infinity : listed.length >= quota.most;
  return { before, after, isBeyond: ({ was }) => (was ? was.listing >= after : isFull) };
}

/** Numbers of all listings of the place that would count, the first in first. */
async function listedWith(on: Executor, placeId: number, inside: readonly Member[]): Promise<number[]> {
  const { listing } = tables;
  const now = await on
    .select({ id: listing.id })
    .from(listing)
    .where(and(eq(listing.placeId, placeId), isNull(listing.notFor)))
    .orderBy(asc(listing.id));
  const counts = new Set(now.map(({ id }) => id));
  for (const { was, alone } of inside) {
    if (!was) continue;
    if (alone === out) counts.delete(was.listing);
    else counts.add(was.listing);
  }
  return [...counts].sort((a, b) => a - b);
}

/** Those that nothing is changed of but that they come to be beyond, or are no more. */
async function crossingOf(
  on: Executor,
  placeId: number,
  { before, after }: Room,
  known: ReadonlySet<number>,
): Promise<Member[]> {
  if (before === after) return [];
  const [from, to] = [Math.min(before, after), Math.max(before, after)];
  const until = to === Infinity ? sql`true` : sql`l.id < ${to}`;
  const rows = await queryRows<Beside>(
    on,
    sql`SELECT ${besideColumns} FROM listing l WHERE l.place_id = ${placeId} AND l.not_for IS NULL AND l.id >= ${from} AND ${until}`,
  );
  return rows.filter(({ listing }) => !known.has(listing)).map(asBeside);
}
