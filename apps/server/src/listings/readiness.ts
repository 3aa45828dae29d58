/** Whether listings are ready, and what keeps them back: written from their findings. */
import { type Finding, type Readiness, parseCause } from '@velvet-shelf/core/listings';
import { sql } from 'drizzle-orm';
import { type Executor, isAmong, isIn, json, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';

export interface Verdict {
  readiness: Readiness;
  causeSetId: number | null;
}

interface Judged {
  /** All that is found of it, by itself and among others. */
  found: readonly Finding[];
  isOut: boolean;
}

/** Each with whether it is ready, and the interned set of causes that keep it back. */
export async function withVerdicts<Listing extends Judged>(
  tx: Executor,
  listings: readonly Listing[],
): Promise<(Listing & Verdict)[]> {
  const blocked = listings.map((listing) => ({
    listing,
    blocking: listing.isOut
      ? []
      : [...new Set(listing.found.flatMap(({ severity, cause }) => (severity === 'blocker' ? [cause] : [])))],
  }));
  const causeIds = await internCauses(tx, [...new Set(blocked.flatMap(({ blocking }) => blocking))]);
  const keyed = blocked.map(({ listing, blocking }) => ({
    listing,
    set: blocking.map((key) => causeIds.get(key) ?? 0).sort((a, b) => a - b),
  }));
  const setIds = await internSets(
    tx,
    keyed.flatMap(({ set }) => (set.length > 0 ? [set] : [])),
  );
  return keyed.map(({ listing, set }) => ({
    ...listing,
    readiness: listing.isOut ? 'not for this channel' : set.length > 0 ? 'blocked' : 'ready',
    causeSetId: setIds.get(set.join()) ?? null,
  }));
}

/** The same of listings as they stand now, written. */
export async function writeReadiness(
  tx: Executor,
  listings: readonly number[],
): Promise<{ id: number; readiness: Readiness; before: Readiness }[]> {
  if (listings.length === 0) return [];
  const found = await tx
    .select({
      id: tables.listing.id,
      readiness: tables.listing.readiness,
      findings: tables.listing.findings,
      collective: tables.listing.collective,
      not_for: tables.listing.notFor,
    })
    .from(tables.listing)
    .where(isIn(tables.listing.id, listings));
  const judged = await withVerdicts(
    tx,
    found.map(({ id, readiness, findings, collective, not_for }) => ({
      ...{ id, before: readiness, isOut: not_for !== null },
      found: [...findings, ...collective],
    })),
  );
  const rows = judged.map(({ id, before, readiness, causeSetId }) => ({
    id,
    before,
    readiness,
    cause_set: causeSetId,
  }));
  await tx.execute(sql`
    UPDATE listing l SET readiness = t.readiness, cause_set_id = t.cause_set
    FROM jsonb_to_recordset(${json(rows)}) AS t(id bigint, readiness text, cause_set bigint)
    WHERE l.id = t.id AND (l.readiness <> t.readiness OR l.cause_set_id IS DISTINCT FROM t.cause_set)`);
  return rows;
}

async function internCauses(tx: Executor, keys: string[]): Promise<Map<string, number>> {
  if (keys.length === 0) return new Map();
  const list = keys.map((key) => ({ key, kind: parseCause(key)?.kind ?? 'catalog' }));
  await tx.execute(
    sql`INSERT INTO cause (key, kind) SELECT key, kind FROM jsonb_to_recordset(${json(list)}) AS t(key text, kind text) ORDER BY key ON CONFLICT DO NOTHING`,
  );
  const causes = await tx
    .select({ id: tables.cause.id, key: tables.cause.key })
    .from(tables.cause)
    .where(isAmong(tables.cause.key, keys));
  return new Map(causes.map((cause) => [cause.key, cause.id]));
}

async function internSets(tx: Executor, sets: number[][]): Promise<Map<string, number>> {
  if (sets.length === 0) return new Map();
  const distinct = [...new Map(sets.map((set) => [set.join(), { causes: `{${set.join()}}` }])).values()];
  await tx.execute(
    sql`INSERT INTO cause_set (causes) SELECT causes::bigint[] FROM jsonb_to_recordset(${json(distinct)}) AS t(causes text) ORDER BY causes ON CONFLICT DO NOTHING`,
  );
  const causeSets = await queryRows<{ id: number; set: string }>(
    tx,
    sql`SELECT id, array_to_string(s.causes, ',') AS set FROM cause_set s
        WHERE s.causes IN (SELECT causes::bigint[] FROM jsonb_to_recordset(${json(distinct)}) AS t(causes text))`,
  );
  return new Map(causeSets.map((causeSet) => [causeSet.set, causeSet.id]));
}
