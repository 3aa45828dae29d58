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

/** What these listings share with others, in place of what they did. */
export async function writeKeys(
  tx: Executor,
  placeId: number,
  listings: readonly number[],
  keys: (CollectiveKey & { listing: number })[],
): Promise<void> {
  await tx.delete(tables.listingKey).where(isIn(tables.listingKey.listingId, listings));
  await tx.execute(sql`
    INSERT INTO listing_key (place_id, "check", key, cause, listing_id)
    SELECT ${placeId}, "check", key, cause, listing FROM jsonb_to_recordset(${json(keys)}) AS t("check" text, key text, cause text, listing bigint) ON CONFLICT DO NOTHING`);
}

/** Tells groups apart; no check has a space in its id. */
export const groupName = ({ check, key }: Group): string => `${check} ${key}`;

export function groupOf(name: string): Group {
  const at = name.indexOf(' ');
  return { check: name.slice(0, at), key: name.slice(at + 1) };
}

/** How many listings, and of how many families, each group has that some of these are in. */
async function sizesOf(tx: Executor, placeId: number, of: readonly Group[]): Promise<Map<string, Members>> {
  const groups = new Map(of.map(({ check, key }) => [groupName({ check, key }), { check, key }]));
  const counted = await queryRows<Group & Members>(
    tx,
    sql`SELECT g."check", g.key, count(*) AS items, count(DISTINCT o.unit_id) AS families
        FROM jsonb_to_recordset(${json([...groups.values()])}) AS g("check" text, key text)
        JOIN listing_key m ON m.place_id = ${placeId} AND m."check" = g."check" AND m.key = g.key JOIN listing o ON o.id = m.listing_id
        GROUP BY g."check", g.key`,
  );
  return new Map(counted.map(({ items, families, ...group }) => [groupName(group), { items, families }]));
}

/** Judges the groups again, and writes the collective findings of their members; answers listings touched besides. */
export async function judgeGroups(
  tx: Executor,
  { place, beyond = Infinity }: { place: CompiledPlace; beyond: number | undefined },
  placeId: number,
  groups: Group[],
  also: readonly number[],
): Promise<number[]> {
  // In two questions: joined in one, PostgreSQL takes the groups for a few and goes through them for every listing.
  const touched = await queryRows<CollectiveKey & { id: number; collective: Finding[]; counts: boolean }>(
    tx,
    sql`WITH touched AS MATERIALIZED (
          SELECT DISTINCT k.listing_id AS id FROM listing_key k
          JOIN jsonb_to_recordset(${json(groups)}) AS g("check" text, key text) ON g."check" = k."check" AND g.key = k.key
          WHERE k.place_id = ${placeId}
          UNION SELECT unnest(${ids(also)}))
        SELECT l.id, l.collective, l.not_for IS NULL AS counts, k."check", k.key, k.cause
        FROM touched t JOIN listing l ON l.id = t.id LEFT JOIN listing_key k ON k.listing_id = l.id`,
  );
  const sizes = await sizesOf(tx, placeId, touched);
  const found = new Map<number, { before: Finding[]; after: Finding[] }>();
  const compiled = new Map(
    collectiveChecks.map((collectiveCheck) => [
      collectiveCheck.meta.id,
      { check: collectiveCheck, on: collectiveCheck.compile(place.setup.rulebook) },
    ]),
  );
  for (const { id, check, key, cause, collective, counts } of touched) {
    const tooMany = place.quota && counts && id >= beyond ? [place.quota.finding] : [];
    const entry = found.get(id) ?? { before: collective, after: tooMany };
    found.set(id, entry);
    const row = compiled.get(check);
    const members = sizes.get(groupName({ check, key }));
    if (!row?.on || !members || !row.check.judge(members)) continue;
    entry.after.push({
      check,
      severity: row.check.meta.severity,
      attribute: row.on.attribute,
      cause,
      params: { key, others: members.items - 1 },
    });
  }
  const writes = [...found].filter(
    ([, { before, after }]) =>
      JSON.stringify(before.map((finding) => finding.params)) !==
      JSON.stringify(after.map((finding) => finding.params)),
  );
  if (writes.length > 0)
    await tx.execute(sql`
      UPDATE listing l SET collective = t.collective
      FROM jsonb_to_recordset(${json(writes.map(([id, { after }]) => ({ id, collective: after })))}) AS t(id bigint, collective jsonb) WHERE l.id = t.id`);
  return writes.map(([id]) => id);
}
