/** Groups of listings that are judged together: those that share a key of a collective check. */
import { type Members, collectiveChecks } from '@velvet-shelf/core/checks';
import type { CollectiveKey, CompiledPlace, Finding } from '@velvet-shelf/core/listings';
import { sql } from 'drizzle-orm';
import { type Executor, ids, isIn, json, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';

export interface Group {
  check: string;
  key: string;
}

/** The groups these listings are in. */
export async function groupsOf(tx: Executor, listings: readonly number[]): Promise<Group[]> {
  return listings.length === 0
    ? []
    : tx
        .selectDistinct({ check: tables.listingKey.check, key: tables.listingKey.key })
        .from(tables.listingKey)
        .where(isIn(tables.listingKey.listingId, listings));
}

/** A listing among others of its place. */
export interface Grouped {
  id: number;
  /** What was found of it among others so far. */
  collective: Finding[];
  /** It takes room on the channel. */
  counts: boolean;
  /** Each once. */
  keys: readonly CollectiveKey[];
}

/** What these listings share with others, in place of what they did. */
export async function writeKeys(tx: Executor, placeId: number, listings: readonly Grouped[]): Promise<void> {
  const keys = listings.flatMap(({ id, keys }) => keys.map((shared) => ({ ...shared, listing: id })));
  await tx.delete(tables.listingKey).where(
    isIn(
      tables.listingKey.listingId,
      listings.map(({ id }) => id),
    ),
  );
  await tx.execute(sql`
    INSERT INTO listing_key (place_id, "check", key, cause, listing_id)
    SELECT ${placeId}, "check", key, cause, listing FROM jsonb_to_recordset(${json(keys)}) AS t("check" text, key text, cause text, listing bigint)`);
}

/** Tells groups apart; no check has a space in its id. */
export const groupName = ({ check, key }: Group): string => `${check} ${key}`;

export function groupOf(name: string): Group {
  const at = name.indexOf(' ');
  return { check: name.slice(0, at), key: name.slice(at + 1) };
}

/** How many listings, and of how many families, each of these groups has that is more than one listing. */
async function sizesOf(tx: Executor, placeId: number, of: readonly Group[]): Promise<Map<string, Members>> {
  const groups = new Map(of.map(({ check, key }) => [groupName({ check, key }), { check, key }]));
  const counted = await queryRows<Group & Members>(
    tx,
    sql`SELECT g."check", g.key, count(*) AS items, count(DISTINCT o.unit_id) AS families
        FROM jsonb_to_recordset(${json([...groups.values()])}) AS g("check" text, key text)
        JOIN listing_key m ON m.place_id = ${placeId} AND m."check" = g."check" AND m.key = g.key JOIN listing o ON o.id = m.listing_id
        GROUP BY g."check", g.key HAVING count(*) > 1`,
  );
  return new Map(counted.map(({ items, families, ...group }) => [groupName(group), { items, families }]));
}

/** Of one that shares with nobody. */
const alone: Members = { items: 1, families: 1 };

/** Those beside the written ones that share a group with what is judged again, or are named. */
async function besideOf(
  tx: Executor,
  placeId: number,
  groups: readonly Group[],
  written: readonly Grouped[],
  also: readonly number[],
): Promise<Grouped[]> {
  // In two questions, this and that for sizes: joined in one, PostgreSQL takes the groups for a few and goes through them for every listing.
  const rows = await queryRows<Omit<Grouped, 'keys'> & { [Part in keyof CollectiveKey]: string | null }>(
    tx,
    sql`WITH touched AS MATERIALIZED (
          SELECT DISTINCT k.listing_id AS id FROM listing_key k
          JOIN jsonb_to_recordset(${json(groups.map(({ check, key }) => ({ check, key })))}) AS g("check" text, key text) ON g."check" = k."check" AND g.key = k.key
          WHERE k.place_id = ${placeId}
          UNION SELECT unnest(${ids(also)}))
        SELECT l.id, l.collective, l.not_for IS NULL AS counts, k."check", k.key, k.cause
        FROM touched t JOIN listing l ON l.id = t.id LEFT JOIN listing_key k ON k.listing_id = l.id
        WHERE t.id NOT IN (SELECT unnest(${ids(written.map(({ id }) => id))}))`,
  );
  const beside = new Map<number, Grouped & { keys: CollectiveKey[] }>();
  for (const { check, key, cause, ...row } of rows) {
    const known = beside.get(row.id) ?? { ...row, keys: [] };
    beside.set(row.id, known);
    if (check !== null && key !== null && cause !== null) known.keys.push({ check, key, cause });
  }
  return [...beside.values()];
}

/**
 * Judges the groups again that listings were written to or left, and writes what is found of their members among each other;
 * answers whose findings are others now. `also` names listings that are beyond the channel's room now, or are no more.
 */
export async function judgeGroups(
  tx: Executor,
  { place, beyond = Infinity }: { place: CompiledPlace; beyond: number | undefined },
  placeId: number,
  { left, written, also }: { left: readonly Group[]; written: readonly Grouped[]; also: readonly number[] },
): Promise<number[]> {
  const groups = [...left, ...written.flatMap(({ keys }) => keys)];
  const judged = [...written, ...(await besideOf(tx, placeId, groups, written, also))];
  const sizes = await sizesOf(
    tx,
    placeId,
    judged.flatMap(({ keys }) => keys),
  );
  const compiled = new Map(
    collectiveChecks.map((collectiveCheck) => [
      collectiveCheck.meta.id,
      { check: collectiveCheck, on: collectiveCheck.compile(place.setup.rulebook) },
    ]),
  );
  const foundOf = ({ id, counts, keys }: Grouped): Finding[] => [
    ...(place.quota && counts && id >= beyond ? [place.quota.finding] : []),
    ...keys.flatMap(({ check, key, cause }): Finding[] => {
      const row = compiled.get(check);
      const members = sizes.get(groupName({ check, key })) ?? alone;
      if (!row?.on || !row.check.judge(members)) return [];
      const { severity } = row.check.meta;
      return [{ check, severity, attribute: row.on.attribute, cause, params: { key, others: members.items - 1 } }];
    }),
  ];
  const writes = judged.flatMap((listing) => {
    const after = foundOf(listing);
    return isSaid(listing.collective, after) ? [] : [{ id: listing.id, collective: after }];
  });
  if (writes.length > 0)
    await tx.execute(sql`
      UPDATE listing l SET collective = t.collective
      FROM jsonb_to_recordset(${json(writes)}) AS t(id bigint, collective jsonb) WHERE l.id = t.id`);
  return writes.map(({ id }) => id);
}

/** Whether the same is found as before. */
const isSaid = (before: readonly Finding[], after: readonly Finding[]): boolean =>
  before.length === after.length &&
  (after.length === 0 ||
    JSON.stringify(before.map(({ params }) => params)) === JSON.stringify(after.map(({ params }) => params)));
