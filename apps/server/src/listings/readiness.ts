/** Whether listings are ready, and what keeps them back: written from their findings. */
import { type Finding, type Readiness, parseCause } from '@velvet-shelf/core/listings';
import { sql } from 'drizzle-orm';
import { type Executor, isAmong, isIn, json, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';

export interface Standing {
  readiness: Readiness;
  causeSetId: number | null;
}

interface Judged {
  /** All that is found of it, by itself and among others. */
  findings: readonly Finding[];
  isOut: boolean;
}

/** Whether each is ready, and the interned set of causes that keep it back; in their order. */
export async function standingOf(tx: Executor, listings: readonly Judged[]): Promise<Standing[]> {
  const blocking = listings.map(({ findings, isOut }) =>
    isOut ? [] : [...new Set(findings.flatMap((finding) => (finding.severity === 'blocker' ? [finding.cause] : [])))],
  );
  const causeIds = await internCauses(tx, [...new Set(blocking.flat())]);
  const sets = blocking.map((causes) => causes.map((key) => causeIds.get(key) ?? 0).sort((a, b) => a - b));
  const setIds = await internSets(
    tx,
    sets.filter((set) => set.length > 0),
  );
  return listings.map(({ isOut }, i) => ({
    readiness: isOut ? 'not for this channel' : (blocking[i]?.length ?? 0) > 0 ? 'blocked' : 'ready',
    causeSetId: setIds.get((sets[i] ?? []).join()) ?? null,
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
  const standing = await standingOf(
    tx,
    found.map(({ findings, collective, not_for }) => ({
      findings: [...findings, ...collective],
      isOut: not_for !== null,
    })),
  );
  const rows = found.map(({ id, readiness }, i) => ({
    id,
    before: readiness,
    readiness: standing[i]?.readiness ?? readiness,
    cause_set: standing[i]?.causeSetId ?? null,
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
