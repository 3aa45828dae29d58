/** Whether listings are ready, and what keeps them back: written from their findings. */
import { parseCause } from '@velvet-shelf/core/listings';
import { sql } from 'drizzle-orm';
import { type Executor, isAmong, isIn, json, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';

/** Readiness and the interned set of blocking causes, from all findings of a listing. */
export async function writeReadiness(
  tx: Executor,
  listings: readonly number[],
  notFor: ReadonlyMap<number, boolean> = new Map(),
): Promise<{ id: number; readiness: string; before: string }[]> {
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
  const sets = found.map(({ id, findings, collective, readiness, not_for }) => {
    const blocking = [
      ...new Set(
        [...findings, ...collective].flatMap((finding) => (finding.severity === 'blocker' ? [finding.cause] : [])),
      ),
    ];
    const out = notFor.get(id) === true || not_for !== null;
    return {
      id,
      before: readiness,
      causes: out ? [] : blocking,
      readiness: out ? 'not for this channel' : blocking.length > 0 ? 'blocked' : 'ready',
    };
  });
  const causeIds = await internCauses(tx, [...new Set(sets.flatMap((set) => set.causes))]);
  const keyed = sets.map((set) => ({
    ...set,
    set: set.causes.map((key) => causeIds.get(key) ?? 0).sort((a, b) => a - b),
  }));
  const setIds = await internSets(
    tx,
    keyed.flatMap(({ set }) => (set.length > 0 ? [set] : [])),
  );
  await tx.execute(sql`
    UPDATE listing l SET readiness = t.readiness, cause_set_id = t.cause_set
    FROM jsonb_to_recordset(${json(keyed.map(({ id, readiness, set }) => ({ id, readiness, cause_set: setIds.get(set.join()) ?? null })))}) AS t(id bigint, readiness text, cause_set bigint)
    WHERE l.id = t.id AND (l.readiness <> t.readiness OR l.cause_set_id IS DISTINCT FROM t.cause_set)`);
  return keyed;
}

async function internCauses(tx: Executor, keys: string[]): Promise<Map<string, number>> {
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
