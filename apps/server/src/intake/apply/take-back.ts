/** A batch that could not be applied, or was cancelled half way, leaves nothing behind. */
import { type SQL, sql, eq, and, gt, inArray } from 'drizzle-orm';
import { loadDictionary } from '../../dictionary/dictionary.js';
import { type Database, json, onTrial, first } from '../../db/client.js';
import type { JobContext } from '../../jobs/define.js';
import { isPassing, reasonOf } from '../../jobs/run.js';
import type { ApplyInput } from '../jobs.js';
import { type Applying, applyPart } from './rows.js';
import { recount } from '../try/counts.js';
import { lockJoins } from '../../matching/joins.js';
import { undoBatch } from './undo.js';
import * as tables from '../../db/schema/index.js';

/**
 * What a batch that could not be applied leaves: nothing. What had been applied is taken back, the row that would not go in
 * is refused with the reason, and the batch waits, tried, to be applied without it.
 */
export async function applyFailed(context: JobContext<ApplyInput>, fault: Error): Promise<void> {
  const { db, services, input } = context;
  const batchId = input.batch;
  const state = await first(
    db
      .select({ state: tables.batch.state, kind: tables.batch.kind })
      .from(tables.batch)
      .where(eq(tables.batch.id, batchId)),
  );
  if (state?.state !== 'applying') return;
  const culprit = await findCulprit(context, state.kind === 'round-trip');
  const reason = reasonOf(culprit?.fault ?? fault);
  const where = culprit ? `${culprit.place ?? `row ${culprit.row}`} could not be applied` : 'it could not be applied';
  await takeBack(context, 'tried', {
    words: sql`'Could not apply ' || (SELECT file_name FROM batch WHERE id = ${batchId}) || ': what had been applied was taken back'`,
    error: `Nothing of this batch was kept: ${where} (${reason}). ${culprit ? 'It is refused now; the rest can be applied without it.' : 'Try again, or leave rows out.'}`,
    ...(culprit ? { refuse: { row: culprit.row, reason: `It could not be applied: ${reason}` } } : {}),
  });
  services.notify('catalog');
}

/** The row that makes applying fail, found by halving, in transactions that are rolled back. */
async function findCulprit(
  { db, services, input, id }: JobContext<ApplyInput>,
  isExport: boolean,
): Promise<{ row: number; place: string | null; fault: Error } | undefined> {
  const applying = {
    batchId: input.batch,
    actionId: input.action,
    isExport,
    actor: input.user,
  };
  const dictionary = await loadDictionary(db);
  const job = await first(
    db
      .select({ row: sql<number | null>`(${tables.job.checkpoint} ->> 'row')::int` })
      .from(tables.job)
      .where(eq(tables.job.id, id)),
  );
  const list = await db
    .select({ row: tables.batchRow.row, place: tables.batchRow.place })
    .from(tables.batchRow)
    .where(
      and(
        eq(tables.batchRow.batchId, applying.batchId),
        inArray(tables.batchRow.outcome, ['created', 'changed']),
        eq(tables.batchRow.leftOut, false),
        gt(tables.batchRow.row, job?.row ?? 0),
      ),
    )
    .orderBy(tables.batchRow.row)
    .limit(services.config.chunkRows);
  let low = 0;
  let high = list.length;
  let fault = await tryPart(db, { ...applying, dictionary }, list, low, high);
  if (!fault) return undefined;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    const first = await tryPart(db, { ...applying, dictionary }, list, low, middle);
    if (first) {
      [high, fault] = [middle, first];
      continue;
    }
    const second = await tryPart(db, { ...applying, dictionary }, list, middle, high);
    // Together they fail, each by itself does not.
    if (!second) return undefined;
    [low, fault] = [middle, second];
  }
  const found = list[low];
  return found && { ...found, fault };
}

async function tryPart(
  db: Database,
  applying: Applying & { isExport: boolean; actor: number },
  list: readonly { row: number }[],
  from: number,
  to: number,
): Promise<Error | undefined> {
  try {
    await onTrial(db, async (on) => {
      await lockJoins(on.tx);
      await applyPart(on, applying, (list[from]?.row ?? 1) - 1, list[to - 1]?.row ?? 0);
    });
  } catch (error) {
    if (isPassing(error)) throw error;
    return error instanceof Error ? error : new Error(String(error));
  }
  return undefined;
}

/** Takes back what a batch that is being applied has done so far, and ends its job, all in one transaction. */
export async function takeBack(
  { db, input, finish, fail }: JobContext<ApplyInput>,
  to: 'cancelled' | 'tried',
  { words, error, refuse }: { words: SQL; error?: string; refuse?: { row: number; reason: string } },
): Promise<void> {
  const batchId = input.batch;
  const actionId = input.action;
  await db.transaction(async (tx) => {
    await undoBatch(tx, batchId, { from: 'applying', to, by: actionId });
    // Should it be applied once more, its versions are made anew.
    await tx.delete(tables.recordVersion).where(eq(tables.recordVersion.batchId, batchId));
    await tx.update(tables.action).set({ undoneBy: actionId, words }).where(eq(tables.action.id, actionId));
    if (refuse) {
      const cells = sql`coalesce(b.cells, (SELECT to_jsonb(c.cells) FROM record_content c WHERE c.id = coalesce(b.content_id, b.before_id)))`;
      await tx.execute(sql`
        UPDATE batch_row b SET outcome = 'refused', reasons = ${json([refuse.reason])}, cells = ${cells}
        WHERE b.batch_id = ${batchId} AND b.row = ${refuse.row}`);
      await recount(tx, batchId);
    }
    await tx
      .update(tables.batch)
      .set({ error: error ?? null })
      .where(eq(tables.batch.id, batchId));
    if (to === 'cancelled') await finish(tx);
    else if (error !== undefined) await fail(tx, error);
  });
}
