/** Takes a batch back: the contents before speak again. */
import { sql, eq, and, gt, inArray } from 'drizzle-orm';
import { loadDictionary } from '../../dictionary/dictionary.js';
import { type Executor, ids, first, isIn } from '../../db/client.js';
import { runAside } from '../../jobs/aside.js';
import { moment } from '../../jobs/moments.js';
import type { JobContext } from '../../jobs/define.js';
import { reasonOf } from '../../jobs/run.js';
import type { UndoInput } from '../jobs.js';
import { addChanges } from '../../history/record.js';
import { markDirty } from '../../history/dirty.js';
import { settle } from '../../history/settle.js';
import { proposeIn } from '../../matching/propose.js';
import { counting } from '../../claims/versions.js';
import { lockJoins } from '../../matching/joins.js';
import { refreshOffers } from '../../prices/columns.js';
import { followStock } from '../../stock/follow.js';
import { undoOffers } from '../../stock/offers.js';
import { undoExportRows } from '../round-trip/round-trip.js';
import { settleDropped, settleRecords } from './settle.js';
import * as tables from '../../db/schema/index.js';
import { takeBackMakes } from '../columns/makes.js';
import { unitsOf } from '../../catalog/units.js';

/** Job: takes an applied batch back. */
export async function undoJob({ db, services, input, finish }: JobContext<UndoInput>): Promise<void> {
  const batchId = input.batch;
  await moment('undo-begin');
  const look = await db.transaction(async (tx) => {
    const left = await undoBatch(tx, batchId, { from: 'undoing', to: 'undone', by: input.action });
    if (left) await tx.update(tables.batch).set({ leftBehind: left }).where(eq(tables.batch.id, batchId));
    const look = await proposeIn(tx, input.user);
    await finish(tx);
    return look;
  });
  await moment('undo-end');
  if (look !== undefined) runAside(look).catch(() => undefined);
  await settle(services);
  services.notify('catalog');
}

/** An undo that cannot be done: the batch is applied as before. */
export async function undoFailed({ db, input, fail }: JobContext<UndoInput>, fault: Error): Promise<void> {
  const batchId = input.batch;
  await db.transaction(async (tx) => {
    const back = await tx
      .update(tables.batch)
      .set({ state: 'applied', error: `It could not be undone: ${reasonOf(fault)}` })
      .where(and(eq(tables.batch.id, batchId), eq(tables.batch.state, 'undoing')))
      .returning({ id: tables.batch.id });
    if (back.length > 0)
      await tx.update(tables.action).set({ undoneBy: null }).where(eq(tables.action.undoneBy, input.action));
    await fail(tx, reasonOf(fault));
  });
}

/**
 * Rows of other batches that say what these records say already were no versions: nothing changed by them. Before a
 * version is taken back they become some, because the records go on saying it on their word.
 */
async function confirmVersions(tx: Executor, batchId: number, records: readonly number[]): Promise<void> {
  await tx.execute(sql`
    INSERT INTO record_version (record_id, batch_id, content_id, row)
    SELECT w.record_id, w.batch_id, w.before_id, w.row FROM batch_row w JOIN batch n ON n.id = w.batch_id
    WHERE n.supplier_id = (SELECT supplier_id FROM batch WHERE id = ${batchId}) AND n.state IN ${counting}
      AND w.outcome = 'unchanged' AND NOT w.left_out AND w.record_id = ANY(${ids(records)})
    ON CONFLICT DO NOTHING`);
}

/**
 * Takes a batch back in the caller's transaction; what a person set since stays, and is named. Undefined where the batch is
 * not in the state it is taken back from: somebody else has done it.
 */
export async function undoBatch(
  tx: Executor,
  batchId: number,
  { from, to, by }: { from: 'applying' | 'undoing'; to: 'cancelled' | 'tried' | 'undone'; by: number },
): Promise<string[] | undefined> {
  const dictionary = await loadDictionary(tx);
  await lockJoins(tx);
  const batch = await first(
    tx
      .update(tables.batch)
      .set({ state: to })
      .where(and(eq(tables.batch.id, batchId), eq(tables.batch.state, from)))
      .returning({ action_id: tables.batch.actionId, kind: tables.batch.kind }),
  );
  if (!batch) return undefined;
  if (batch.kind === 'round-trip')
    return undoExportRows(tx, batchId, { applied: batch.action_id ?? 0, undo: by, dictionary });
  const touched = await tx
    .select({ id: tables.recordVersion.recordId })
    .from(tables.recordVersion)
    .where(eq(tables.recordVersion.batchId, batchId));
  const records = touched.map((recordVersion) => recordVersion.id);
  await confirmVersions(tx, batchId, records);
  const { products, left } = await undoOffers(tx, batch.action_id ?? 0);
  const edited = await tx
    .select({ sku: tables.product.sku, label: tables.attribute.label })
    .from(tables.claimEdit)
    .innerJoin(tables.product, eq(tables.product.id, tables.claimEdit.productId))
    .innerJoin(tables.attribute, eq(tables.attribute.id, tables.claimEdit.attributeId))
    .where(
      and(
        inArray(
          tables.product.id,
          tx.select({ id: tables.record.productId }).from(tables.record).where(isIn(tables.record.id, records)),
        ),
        gt(tables.claimEdit.at, sql`(SELECT a.at FROM ${tables.action} a WHERE a.id = ${batch.action_id ?? 0})`),
      ),
    )
    .limit(200);
  await settleRecords(tx, records, { actionId: by, batchId: undefined, dictionary });
  const units = await unitsOf(tx, products);
  await refreshOffers(tx, products);
  await addChanges(tx, by, await followStock(tx, products));
  await settleDropped(tx, batchId, { actionId: by, dictionary });
  const { left: kept } = await takeBackMakes(tx, batch.action_id ?? 0, by);
  await markDirty(tx, units);
  return [...left, ...kept, ...edited.map(({ sku, label }) => `${label} of ${sku ?? 'a product'}: edited by a person`)];
}
