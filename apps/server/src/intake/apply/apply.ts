/** Job: applies a batch in chunks, each a transaction with its checkpoint; joins, families and products follow. */
import { sql, eq, and, inArray } from 'drizzle-orm';
import { loadDictionary } from '../../dictionary/dictionary.js';
import { onClient, queryOne, first } from '../../db/client.js';
import { runAside } from '../../jobs/aside.js';
import { moment } from '../../jobs/moments.js';
import type { JobContext } from '../../jobs/define.js';
import type { ApplyInput } from '../jobs.js';
import { settle } from '../../history/settle.js';
import { proposeIn } from '../../matching/propose.js';
import { countApplied } from '../try/counts.js';
import { type Applying, applyPart } from './rows.js';
import { prepareFresh } from './fresh.js';
import { lockJoins } from '../../matching/joins.js';
import { settleDropped } from './settle.js';
import { takeBack } from './take-back.js';
import * as tables from '../../db/schema/index.js';

/** Job: applies the tried rows of a batch from the checkpoint on. */
export async function applyBatch(context: JobContext<ApplyInput>): Promise<void> {
  const { db, services, input, checkpoint, progress, saveCheckpoint, cancelled, finish } = context;
  const { chunkRows } = services.config;
  const batchId = input.batch;
  const actionId = input.action;
  const dictionary = await loadDictionary(db);
  const head = await first(
    db
      .select({
        kind: tables.batch.kind,
        state: tables.batch.state,
        supplier: tables.batch.supplierId,
        counts: tables.batch.counts,
      })
      .from(tables.batch)
      .where(eq(tables.batch.id, batchId)),
  );
  if (head?.state !== 'applying') return;
  const { supplier } = head;
  const isExport = head.kind === 'round-trip';
  const applying: Applying = { batchId, actionId, dictionary };
  const rowsLeft = sql`batch_id = ${batchId} AND outcome IN ('created', 'changed') AND NOT left_out`;
  const total = await first(
    db
      .select({
        news: sql<number>`count(*) FILTER (WHERE ${inArray(tables.batchRow.outcome, ['created', 'changed'])})`,
        unchanged: sql<number>`count(*) FILTER (WHERE ${eq(tables.batchRow.outcome, 'unchanged')})`,
      })
      .from(tables.batchRow)
      .where(and(eq(tables.batchRow.batchId, batchId), eq(tables.batchRow.leftOut, false))),
  );
  // Rows that say what their records say already are done: `confirmVersions` finds them when they are asked for.
  const { news, unchanged } = total ?? { news: 0, unchanged: 0 };
  let from = Number(checkpoint?.row ?? 0);
  let done = Number(checkpoint?.done ?? unchanged);
  const prepare = async (after: number, pending?: ReadonlySet<string>) => {
    const upTo = await queryOne<{ last: number | null; n: number }>(
      db,
      sql`SELECT max(row) AS last, count(*) AS n FROM (SELECT row FROM batch_row WHERE ${rowsLeft} AND row > ${after} ORDER BY row LIMIT ${chunkRows}) c`,
    );
    if (!upTo?.last) return undefined;
    const chunk = { after, last: upTo.last, pending };
    const fresh = isExport ? undefined : await prepareFresh(db, { ...applying, supplier }, chunk);
    return { last: upTo.last, n: upTo.n, fresh };
  };
  await progress(done, news + unchanged);
  let next = await prepare(from);
  while (next) {
    if (await cancelled()) return cancelApplied(context);
    const { last, n, fresh } = next;
    // The chunk after is worked out while this one is written.
    const following = prepare(last, fresh?.marks);
    following.catch(() => undefined);
    await moment('apply-chunk');
    await onClient(db, async (on) => {
      await lockJoins(on.tx);
      await applyPart(on, { ...applying, isExport, actor: input.user }, from, last, fresh);
      await saveCheckpoint(on.tx, { row: last, done: done + n });
    });
    done += n;
    from = last;
    await progress(done, news + unchanged);
    next = await following;
  }
  await moment('apply-end');
  let look: number | undefined;
  try {
    look = await db.transaction(async (tx) => {
      if (!isExport) await settleDropped(tx, batchId, { actionId, dictionary });
      await tx
        .update(tables.batch)
        .set({
          state: 'applied',
          error: null,
          appliedAt: sql`now()`,
          applyMs: sql`extract(epoch FROM now() - ${input.started}::timestamptz) * 1000`,
        })
        .where(eq(tables.batch.id, batchId));
      await countApplied(tx, batchId);
      const looking = !isExport && news > 0 ? await proposeIn(tx, input.user) : undefined;
      // A wish that comes until the very end is met; one that comes later finds nothing to cancel.
      if (await cancelled(tx)) throw new Cancelled();
      await finish(tx);
      return looking;
    });
  } catch (fault) {
    if (fault instanceof Cancelled) return cancelApplied(context);
    throw fault;
  }
  if (look !== undefined) runAside(look).catch(() => undefined);
  await settle(services);
  services.notify('catalog');
}

/** Rolls the last transaction back where somebody cancels meanwhile. */
class Cancelled extends Error {}

async function cancelApplied(context: JobContext<ApplyInput>): Promise<void> {
  await takeBack(context, 'cancelled', {
    words: sql`'Cancelled ' || (SELECT file_name FROM batch WHERE id = ${context.input.batch}) || ': what had been applied was taken back'`,
  });
  context.services.notify('catalog');
}
