/**
 * What applying would do to listings: the batch is really applied and its goods really evaluated, in a transaction that is
 * rolled back. No second way of computing it can disagree with the first. Large batches are tried on their first rows.
 */
import { sql, eq, and } from 'drizzle-orm';
import { loadDictionary } from '../../dictionary/dictionary.js';
import { type Database, isCode, onTrial, queryOne, queryRows, first } from '../../db/client.js';
import type { BatchEffect, EffectExample } from '../../db/schema/index.js';
import type { JobContext } from '../../jobs/define.js';
import type { EffectInput } from '../jobs.js';
import { writeMakes } from '../columns/makes.js';
import { drainIn } from '../../listings/drain.js';
import { applyRows } from '../apply/rows.js';
import { recount } from './counts.js';
import { findMeetings } from './meets.js';
import * as tables from '../../db/schema/index.js';
import { lockBatch } from '../batches.js';

/** Rows tried at most: the rows they touch are locked meanwhile. */
const mostRows = 3000;
const mostExamples = 12;

/** PostgreSQL's word for a statement that was asked to stop. */
const queryCanceled = '57014';

/** Job: finds the effect of a tried batch and keeps it with the batch. */
export async function findEffect(context: JobContext<EffectInput>): Promise<void> {
  const { db, services, input } = context;
  const batchId = input.batch;
  try {
    if (input.joinsToo) await meetAgain(db, batchId);
    const effect = await tryEffect(context, batchId);
    if (effect)
      await db
        .update(tables.batch)
        .set({ effect })
        .where(and(eq(tables.batch.id, batchId), eq(tables.batch.state, 'tried')));
  } catch (error) {
    // Asked to stop, wherever that met it: the batch is being changed, and its effect with it.
    if (!isCode(error, queryCanceled)) throw error;
  }
  services.notify('batch', { batch: batchId });
}

/** Rows were picked out or corrected, and others may join now what they stood in the way of. */
async function meetAgain(db: Database, batchId: number): Promise<void> {
  await db.transaction(async (tx) => {
    const batch = await lockBatch(tx, batchId);
    if (batch?.state !== 'tried') return;
    await findMeetings(tx, batchId);
    await recount(tx, batchId);
  });
}

async function tryEffect(
  { db, services, saveCheckpoint }: JobContext<EffectInput>,
  batchId: number,
): Promise<BatchEffect | undefined> {
  return onTrial(db, async (on) => {
    const { tx } = on;
    const own = await queryOne<{ backend: number }>(tx, sql`SELECT pg_backend_pid() AS backend`);
    await saveCheckpoint(db, { backend: own?.backend });
    await tx.execute(sql`SET LOCAL lock_timeout = '3s'`);
    const batch = await lockBatch(tx, batchId);
    if (batch?.state !== 'tried') return undefined;
    await tx.execute(sql`CREATE TEMP TABLE listing_before ON COMMIT DROP AS
        SELECT l.id, l.place_id, l.variant_id, l.readiness, p.offers -> pl.currency AS offer
        FROM listing l JOIN product p ON p.id = l.variant_id JOIN place pl ON pl.id = l.place_id`);
    const action = await first(
      tx.insert(tables.action).values({ kind: 'try', words: 'tried, rolled back' }).returning({ id: tables.action.id }),
    );
    await tx
      .update(tables.batch)
      .set({ state: 'applying', actionId: action?.id ?? 0 })
      .where(eq(tables.batch.id, batchId));
    const reach = await queryOne<{ last: number | null; rows: number; of: number }>(
      tx,
      sql`SELECT max(row) FILTER (WHERE n <= ${mostRows}) AS last, count(*) FILTER (WHERE n <= ${mostRows}) AS rows, count(*) AS of
            FROM (SELECT row, row_number() OVER (ORDER BY row) AS n FROM batch_row WHERE batch_id = ${batchId} AND outcome IN ('created', 'changed') AND NOT left_out) x`,
    );
    await writeMakes(tx, batch, action?.id ?? 0);
    const dictionary = await loadDictionary(tx);
    if (reach?.last) await applyRows(on, { batchId, actionId: action?.id ?? 0, dictionary }, 0, reach.last);
    await drainIn(tx, services.config.address, Number.POSITIVE_INFINITY);
    const listings = await queryRows<EffectExample & { n: number; place_n: number }>(
      tx,
      sql`WITH now AS (
              SELECT l.id, l.place_id, l.variant_id, l.readiness, p.offers -> pl.currency AS offer, pl.currency, pl.name AS place, p.sku, p.title
              FROM listing l JOIN product p ON p.id = l.variant_id JOIN place pl ON pl.id = l.place_id),
            said AS (
              SELECT 'ready' AS kind, n.place, n.sku, n.title, b.readiness AS before, n.readiness AS after FROM now n JOIN listing_before b ON b.id = n.id WHERE n.readiness = 'ready' AND b.readiness <> 'ready'
              UNION ALL SELECT 'blocked', n.place, n.sku, n.title, b.readiness, n.readiness FROM now n JOIN listing_before b ON b.id = n.id WHERE n.readiness = 'blocked' AND b.readiness <> 'blocked'
              UNION ALL SELECT 'added', n.place, n.sku, n.title, NULL, n.readiness FROM now n WHERE NOT EXISTS (SELECT 1 FROM listing_before b WHERE b.id = n.id)
              UNION ALL SELECT 'removed', pl.name, p.sku, p.title, b.readiness, NULL FROM listing_before b JOIN place pl ON pl.id = b.place_id LEFT JOIN product p ON p.id = b.variant_id WHERE NOT EXISTS (SELECT 1 FROM now n WHERE n.id = b.id)
              UNION ALL SELECT 'price', n.place, n.sku, n.title, concat(b.offer ->> 'regular', ' ', n.currency), concat(n.offer ->> 'regular', ' ', n.currency) FROM now n JOIN listing_before b ON b.id = n.id WHERE n.offer IS DISTINCT FROM b.offer)
            SELECT s.*, count(*) OVER (PARTITION BY kind) AS n, row_number() OVER (PARTITION BY kind ORDER BY sku) AS place_n FROM said s`,
    );
    const of = (kind: EffectExample['kind']) => listings.find((listing) => listing.kind === kind)?.n ?? 0;
    return {
      rows: reach?.rows ?? 0,
      of: reach?.of ?? 0,
      becameReady: of('ready'),
      becameBlocked: of('blocked'),
      added: of('added'),
      removed: of('removed'),
      priceChanges: of('price'),
      examples: listings
        .filter((listing) => listing.place_n <= mostExamples)
        .map(({ kind, place, sku, title, before, after }) => ({ kind, place, sku, title, before, after })),
    };
  });
}
