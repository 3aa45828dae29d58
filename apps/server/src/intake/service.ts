/** What a person has done with a batch: tried, applied, cancelled, undone, read again. */
import { setTimeout } from 'node:timers/promises';
import { isMainThread } from 'node:worker_threads';
import { mappingFaults } from '@velvet-shelf/core/intake';
import { UnreadableFile } from '@velvet-shelf/core/tabular';
import { eq, sql, and, isNull } from 'drizzle-orm';
import { first } from '../db/client.js';
import { type BatchCounts } from '../db/schema/index.js';
import { recordAction } from '../history/record.js';
import { Problem, badRequest, conflict, notFound, unprocessable } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { runAside } from '../jobs/aside.js';
import type { JobContext } from '../jobs/define.js';
import { createJob, runJob, wishCancel } from '../jobs/run.js';
import { getBatch, isNobodys, isOpen, nobodysFault, sayState, triedOf } from './batches.js';
import { signature } from './columns/columns.js';
import { writeMakes } from './columns/makes.js';
import { newsOf, recount, sayApplied } from './try/counts.js';
import { countOutdated } from './try/dry-run.js';
import { withoutTrial } from './trial.js';
import { copyHead } from './read/head.js';
import { tryRoundTrip } from './round-trip/round-trip.js';
import * as jobs from './jobs.js';
import { tryBatch } from './try/try.js';
import * as tables from '../db/schema/index.js';

/** Files up to this size are worked on inside the request; larger ones go on beside it, with progress. */
const smallFile = 3_000_000;

/** Starts the dry run. Small files are done when this returns; of large ones the job tells how far it is. */
export async function dryRun(services: Services, id: number, user?: User): Promise<void> {
  const { db } = services;
  const job = await withoutTrial(db, id, async ({ tx }, found) => {
    if (!isOpen(found.state)) throw conflict(`This batch is ${sayState(found.state)} already`);
    if (isNobodys(found)) throw badRequest(nobodysFault);
    const faults = found.kind === 'round-trip' ? [] : mappingFaults(found.map);
    if (faults.length > 0) throw badRequest(faults.join('. '));
    await tx.update(tables.batch).set({ state: 'trying', effect: null, error: null }).where(eq(tables.batch.id, id));
    return createJob(tx, jobs.tryBatch, {
      label: `Trying ${found.fileName}`,
      input: { batch: id },
      actor: user?.id,
    });
  });
  await runSized(services, job, (await getBatch(db, id)).bytes <= smallFile);
  await startEffect(services, id, user);
}

/** Runs a job in a thread; a small one is waited for, and what went wrong with it is the asker's to know. */
async function runSized(services: Services, job: number, isSmall: boolean): Promise<void> {
  const { db } = services;
  // A pull that takes its goods in is in a thread already, and does it there.
  const run = isMainThread ? runAside(job) : runJob(services, job);
  if (!isSmall && isMainThread) {
    // What went wrong stands in the job's row.
    run.catch(() => undefined);
    return;
  }
  await run.catch(() => undefined);
  let ended = await stateOf(db, job);
  // After a fault that passes by itself, a deadlock, the sweep sends it again: whoever waits for it goes on waiting a while.
  for (let waited = 0; ended?.state === 'running' && isMainThread && waited < mostWaited; waited += between) {
    await setTimeout(between);
    ended = await stateOf(db, job);
  }
  if (ended?.state === 'failed') throw unprocessable(ended.error ?? 'It broke off');
  if (ended?.state === 'running')
    throw new Problem(503, 'It broke off', 'The work was interrupted; it goes on by itself. Look again in a moment.');
}

/** Milliseconds a request waits for the sweep, and between two looks. */
const mostWaited = 20_000;
const between = 500;

const stateOf = (db: Services['db'], job: number) =>
  first(db.select({ state: tables.job.state, error: tables.job.error }).from(tables.job).where(eq(tables.job.id, job)));

/** Rows were picked out or corrected: what the rest would do to listings is found anew. */
export async function restartEffect(services: Services, id: number, user: User): Promise<void> {
  await services.db.update(tables.batch).set({ effect: null }).where(eq(tables.batch.id, id));
  await startEffect(services, id, user, { joinsToo: true });
}

/** The effect on listings is found beside the request, as soon as the batch is tried. */
async function startEffect(
  { db }: Services,
  id: number,
  user: User | undefined,
  input: { joinsToo?: boolean } = {},
): Promise<void> {
  const found = await getBatch(db, id);
  if (found.state !== 'tried' || found.kind === 'round-trip' || !user) return;
  const job = await createJob(db, jobs.findEffect, {
    label: `What ${found.fileName} would do to listings`,
    input: { ...input, batch: id },
    actor: user.id,
  });
  runAside(job).catch(() => undefined);
}

/** Job: the dry run. */
export async function tryJob({ db, services, input, progress }: JobContext<{ batch: number }>): Promise<void> {
  const id = input.batch;
  const found = await triedOf(db, id);
  try {
    const onRows = (done: number) => progress(done, 0);
    const counts =
      found.kind === 'round-trip' ? await tryRoundTrip(db, found, onRows) : await tryBatch(db, found, onRows);
    await db.update(tables.batch).set({ state: 'tried', counts }).where(eq(tables.batch.id, id));
  } catch (error) {
    const words = error instanceof UnreadableFile || error instanceof Problem ? error.message : 'The dry run broke off';
    await db.update(tables.batch).set({ state: 'read', error: words }).where(eq(tables.batch.id, id));
    if (error instanceof UnreadableFile)
      throw unprocessable(`“${found.fileName}” cannot be read. ${words}. Nothing was changed.`);
    throw error;
  } finally {
    services.notify('batch', { batch: id });
  }
}

/** Applies as tried. Small batches are done when this returns; large ones go on as a job. */
export async function applyTried(services: Services, id: number, user: User): Promise<void> {
  const { db } = services;
  const jobId = await withoutTrial(db, id, async ({ tx }, found) => {
    if (found.state !== 'tried' || !found.counts)
      throw conflict(
        found.state === 'read'
          ? 'Try the batch first, so that you see what it would do'
          : `This batch is ${sayState(found.state)} already`,
      );
    const newer = found.kind === 'round-trip' ? 0 : await countOutdated(tx, found);
    if (newer > 0)
      throw conflict(`Another batch has changed ${newer} of these rows since the dry run. Try this one again.`);
    const words = sayApplied(found.fileName, found.counts);
    const action = await recordAction(tx, { actor: user.id, kind: 'apply-batch', words }, [
      { kind: 'batch', id, delta: { state: ['tried', 'applied'] } },
    ]);
    await tx.update(tables.batch).set({ state: 'applying', actionId: action }).where(eq(tables.batch.id, id));
    await writeMakes(tx, found, action);
    await recount(tx, id);
    // Our own columns say nothing of how anybody's files are laid out.
    if (found.kind === 'file' || found.kind === 'pull')
      await tx
        .insert(tables.columnMap)
        .values({ supplierId: found.supplierId, signature: signature(found.columns), map: found.map })
        .onConflictDoUpdate({
          target: [tables.columnMap.supplierId, tables.columnMap.signature],
          set: { map: found.map, at: sql`now()` },
        });
    return createJob(tx, jobs.applyBatch, {
      label: `Applying ${found.fileName}`,
      input: { batch: id, action, started: new Date().toISOString(), user: user.id },
      actor: user.id,
    });
  });
  await runSized(services, jobId, isSmallChange((await getBatch(db, id)).counts));
}

const isSmallChange = (counts: BatchCounts | null) => newsOf(counts) <= 1500;

/** Wishes a batch that is being applied to stop; what was applied already is undone. */
export async function cancelApplying({ db, notify }: Services, id: number): Promise<void> {
  if (!(await wishCancel(db, jobs.applyBatch, { batch: id })))
    throw conflict('This batch is not being applied; there is nothing to cancel');
  notify('job');
}

/** Undoes an applied batch, once however many ask; answers what was left because somebody changed it since. */
export async function undoApplied(services: Services, id: number, user: User): Promise<string[]> {
  const { db } = services;
  const job = await db.transaction(async (tx) => {
    const [found] = await tx.select().from(tables.batch).where(eq(tables.batch.id, id)).for('update');
    if (!found) throw notFound(`batch ${id}`);
    if (found.state !== 'applied')
      throw conflict(
        found.state === 'undone' || found.state === 'undoing'
          ? `This batch is ${sayState(found.state)} already`
          : 'Only an applied batch can be undone',
      );
    const action = await recordAction(tx, { actor: user.id, kind: 'undo-batch', words: `Undid ${found.fileName}` }, [
      { kind: 'batch', id, delta: { state: ['applied', 'undone'] } },
    ]);
    const claimed = await tx
      .update(tables.action)
      .set({ undoneBy: action })
      .where(and(eq(tables.action.id, found.actionId ?? 0), isNull(tables.action.undoneBy)))
      .returning({ id: tables.action.id });
    if (claimed.length === 0) throw conflict('This batch is undone already');
    await tx.update(tables.batch).set({ state: 'undoing' }).where(eq(tables.batch.id, id));
    return createJob(tx, jobs.undoBatch, {
      label: `Undoing ${found.fileName}`,
      input: { batch: id, action, user: user.id },
      actor: user.id,
    });
  });
  await runSized(services, job, isSmallChange((await getBatch(db, id)).counts));
  services.notify('catalog');
  return (await getBatch(db, id)).leftBehind ?? [];
}

/** The same, by the action that applied it. */
export async function undoAppliedAction(
  services: Services,
  user: User,
  actionId: number,
): Promise<{ words: string; left: string[] }> {
  const [found] = await services.db
    .select({ id: tables.batch.id, name: tables.batch.fileName })
    .from(tables.batch)
    .where(eq(tables.batch.actionId, actionId));
  if (!found) throw notFound('batch of this action');
  return { words: `Undid ${found.name}`, left: await undoApplied(services, found.id, user) };
}

/** The same file as a new batch, read and mapped as before, and tried: what was left out comes up once more. */
export async function readAgain(services: Services, id: number, user: User): Promise<number> {
  const { db } = services;
  const found = await getBatch(db, id);
  const next = await db.transaction(async (tx) => {
    const [made] = await tx
      .insert(tables.batch)
      .values({
        supplierId: found.supplierId,
        fileName: found.fileName,
        bytes: found.bytes,
        sha256: found.sha256,
        path: found.path,
        detected: found.detected,
        reading: found.reading,
        columns: found.columns,
        suggestions: found.suggestions,
        map: found.map,
        makes: found.makes,
        scope: found.scope,
        kind: found.kind,
        state: 'read',
      })
      .returning({ id: tables.batch.id });
    const copy = made?.id ?? 0;
    await copyHead(tx, id, copy);
    await tx.execute(
      sql`INSERT INTO batch_fix (batch_id, row, cells) SELECT ${copy}, row, cells FROM batch_fix WHERE batch_id = ${id}`,
    );
    return copy;
  });
  await dryRun(services, next, user);
  return next;
}
