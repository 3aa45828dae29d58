/** Batches: received, read, mapped, tried, applied, cancelled, undone. */
import type { BatchAnswer, BatchSummary } from '@velvet-shelf/contract';
import { rm } from 'node:fs/promises';
import { isMainThread } from 'node:worker_threads';
import { type ColumnMap, type Scope, mappingFaults, suggestScope } from '@velvet-shelf/core/intake';
import { type FileRow, type Format, type Reading, UnreadableFile } from '@velvet-shelf/core/tabular';
import { sayCount } from '@velvet-shelf/core/values';
import { eq, sql } from 'drizzle-orm';
import { loadDictionary } from '../catalog/dictionary.js';
import { type Database, type Executor, iso, one, rows, verbatim } from '../db/client.js';
import { type BatchCounts, batch, columnMap, supplier } from '../db/schema/index.js';
import { Problem, badRequest, conflict, notFound, unprocessable } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { recordAction } from '../history/record.js';
import { runAside } from '../jobs/aside.js';
import { createJob, runJob } from '../jobs/run.js';
import type { JobContext } from '../jobs/run.js';
import { complete, guessSupplier, previewRows, signature, suggest, translationsOf } from './columns.js';
import type { ReceivedFile } from './receive.js';
import { isExport, roundTripMap, tryRoundTrip } from './round-trip.js';
import { countOutdated } from './dry-run.js';
import { stopEffect } from './effect.js';
import { lookAt } from './read/process.js';
import { expectSupplier, ownSupplier } from './suppliers.js';
import { type Tried, tryBatch } from './try.js';

type BatchRecord = typeof batch.$inferSelect;

/** Files up to this size are worked on inside the request; larger ones go on beside it, with progress. */
const smallFile = 3_000_000;

/** Turns what is wrong with a file into a problem for the person who sent it. */
async function readable<T>(fileName: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof UnreadableFile)
      throw unprocessable(`“${fileName}” cannot be read. ${error.message}. Nothing was changed.`);
    throw error;
  }
}

/** Takes a file in: looks at it, suggests columns. `supplier` among its fields may be left to the file's name and rows. */
export async function readBatch(
  services: Services,
  file: ReceivedFile,
  { kind = 'file', scope }: { kind?: 'file' | 'pull'; scope?: Scope } = {},
): Promise<number> {
  try {
    return await takeIn(services, file, { kind, scope });
  } catch (error) {
    // What is refused leaves nothing on the disk.
    await rm(file.path, { force: true });
    throw error;
  }
}

async function takeIn(
  { db }: Services,
  file: ReceivedFile,
  { kind, scope }: { kind: 'file' | 'pull'; scope: Scope | undefined },
): Promise<number> {
  return readable(file.name, async () => {
    const { detected, columns, first } = await lookAt(file.path);
    if (!detected) throw badRequest(`“${file.name}” cannot be told`);
    const { reading } = detected;
    if (columns.length < 2 || first.length === 0)
      throw badRequest(
        `“${file.name}” holds no table: ${columns.length < 2 ? 'no separator gives more than one column' : 'there are no rows below the header'}. Nothing was changed.`,
      );
    const sample = first.slice(0, sampleRows);
    const own = isExport(columns);
    const given = Number(file.fields.supplier) || (own ? await ownSupplier(db) : 0);
    if (given) await expectSupplier(db, given);
    const { id: supplierId, why } = given
      ? { id: given, why: 'named with the file' }
      : await guessSupplier(db, file.name, columns, sample);
    const suggestions = own ? [] : await suggest(db, supplierId, columns, sample, reading);
    const map = own ? await roundTripMap(db, columns) : suggestions.map(({ column, target }) => ({ column, target }));
    return db.transaction(async (tx) => {
      const [made] = await tx
        .insert(batch)
        .values({
          supplierId,
          fileName: file.name,
          bytes: file.bytes,
          sha256: file.sha256,
          path: file.path,
          detected: { ...detected, why: { ...detected.why, supplier: why ?? '' } },
          reading,
          columns,
          suggestions,
          map,
          scope: scope ?? scopeOf(columns, map, why !== undefined),
          kind: own ? 'round-trip' : kind,
          state: 'read',
        })
        .returning({ id: batch.id });
      const id = made?.id ?? 0;
      await keepHead(tx, id, first);
      return id;
    });
  });
}

/** Rows that suggestions go by. */
const sampleRows = 200;

/** Keeps the first rows with the batch, so that nobody who looks at it reads the file. */
async function keepHead(on: Executor, id: number, first: readonly FileRow[]): Promise<void> {
  await on.execute(sql`
    INSERT INTO batch_head (batch_id, rows, preview) VALUES (${id}, ${verbatim(first)}, ${verbatim(first.slice(0, previewed))})
    ON CONFLICT (batch_id) DO UPDATE SET rows = excluded.rows, preview = excluded.preview`);
}

/** Rows shown as they will become. */
const previewed = 20;

async function headOf(on: Executor, id: number, part: 'rows' | 'preview' = 'rows'): Promise<FileRow[]> {
  const held = await one<{ rows: FileRow[] }>(
    on,
    sql`SELECT ${sql.identifier(part)} AS rows FROM batch_head WHERE batch_id = ${id}`,
  );
  return held?.rows ?? [];
}

/** What a file is taken for: our own grid, what was refused, or goods of nobody knows whom are no whole list. */
function scopeOf(columns: readonly string[], map: ColumnMap, isKnown: boolean): Scope {
  if (isExport(columns) || /^refused because$/i.test(columns[0] ?? '')) return 'some';
  const scope = suggestScope(map);
  return scope === 'whole' && !isKnown ? 'some' : scope;
}

export async function getBatch(db: Executor, id: number): Promise<BatchRecord> {
  const [found] = await db.select().from(batch).where(eq(batch.id, id));
  if (!found) throw notFound(`batch ${id}`);
  return found;
}

const open = new Set(['read', 'tried']);

/** "This batch is …" */
const stateWords: Record<string, string> = {
  trying: 'being tried',
  applying: 'being applied',
  undoing: 'being undone',
};
const sayState = (state: string) => stateWords[state] ?? state;

export interface Correction {
  supplierId?: number | undefined;
  reading?: Reading | undefined;
  /** Another format: how it is read in that is found out anew. */
  format?: Format | undefined;
  map?: ColumnMap | undefined;
  scope?: Scope | undefined;
  makesNew?: boolean | undefined;
}

/** Corrects how a batch is read; columns are suggested anew where the header or the supplier is another. */
export async function correctBatch({ db }: Services, id: number, change: Correction): Promise<void> {
  const found = await getBatch(db, id);
  if (!open.has(found.state))
    throw conflict(`This batch is ${sayState(found.state)}; how it is read can no longer be changed`);
  let reading = change.reading ?? found.reading;
  const supplierId = change.supplierId ?? found.supplierId;
  if (found.kind === 'round-trip' && (change.map || change.supplierId))
    throw badRequest('The columns of our own export are known; only the file itself can be changed');
  if (change.supplierId !== undefined) await expectSupplier(db, change.supplierId);
  const isNowKnown = change.supplierId !== undefined && found.detected.why.supplier === '' && found.kind === 'file';
  const isReread = change.reading !== undefined || change.format !== undefined;
  const looked = isReread
    ? await readable(found.fileName, () => lookAt(found.path, change.format ? { format: change.format } : { reading }))
    : undefined;
  if (looked && (looked.columns.length < 2 || looked.first.length === 0))
    throw badRequest('Read like this it holds no table: there are no two columns, or no rows below the header');
  const detected = looked?.detected
    ? { ...looked.detected, why: { ...looked.detected.why, supplier: found.detected.why.supplier ?? '' } }
    : found.detected;
  reading = looked?.detected?.reading ?? reading;
  const columns = looked?.columns ?? found.columns;
  const isOther = columns.join('\u0001') !== found.columns.join('\u0001') || supplierId !== found.supplierId;
  const suggestions = isOther
    ? await suggest(db, supplierId, columns, (looked?.first ?? (await headOf(db, id))).slice(0, sampleRows), reading)
    : found.suggestions;
  const chosen = change.map ?? (isOther ? suggestions.map(({ column, target }) => ({ column, target })) : found.map);
  const strangers = chosen.filter(({ column }) => !columns.includes(column));
  if (strangers.length > 0) throw badRequest(`The file has no column “${strangers[0]?.column}”`);
  const isOtherCurrency = change.reading !== undefined && change.reading.currency !== found.reading.currency;
  const map =
    change.map || isOtherCurrency
      ? await complete(
          db,
          chosen,
          supplierId,
          columns,
          (looked?.first ?? (await headOf(db, id))).slice(0, sampleRows),
          {
            reading,
            isOtherCurrency,
          },
        )
      : chosen;
  await db.transaction(async (tx) => {
    const [still] = await tx.select({ state: batch.state }).from(batch).where(eq(batch.id, id)).for('update');
    if (!still || !open.has(still.state)) throw conflict('This batch was tried or applied meanwhile');
    await tx
      .update(batch)
      .set({
        columns,
        suggestions,
        map,
        reading,
        supplierId,
        detected:
          change.supplierId === undefined
            ? detected
            : { ...detected, why: { ...detected.why, supplier: 'chosen by you' } },
        scope: change.scope ?? (isNowKnown ? scopeOf(columns, map, true) : found.scope),
        makesNew: change.makesNew ?? found.makesNew,
        state: 'read',
        counts: null,
        effect: null,
        error: null,
      })
      .where(eq(batch.id, id));
    if (looked) await keepHead(tx, id, looked.first);
  });
}

/** A batch as `tryBatch` wants it. */
export async function triedOf(db: Executor, id: number): Promise<Tried> {
  const found = await getBatch(db, id);
  const [from] = await db.select().from(supplier).where(eq(supplier.id, found.supplierId));
  if (!from) throw notFound('supplier');
  return { ...found, supplier: from };
}

/** Starts the dry run. Small files are done when this returns; of large ones the job tells how far it is. */
export async function dryRun(services: Services, id: number, user?: User): Promise<void> {
  const { db } = services;
  await stopEffect(db, id);
  const job = await db.transaction(async (tx) => {
    const found = await one<{ state: string; map: ColumnMap; file_name: string; kind: string }>(
      tx,
      sql`SELECT state, map, file_name, kind FROM batch WHERE id = ${id} FOR UPDATE`,
    );
    if (!found) throw notFound(`batch ${id}`);
    if (!open.has(found.state)) throw conflict(`This batch is ${sayState(found.state)} already`);
    const faults = found.kind === 'round-trip' ? [] : mappingFaults(found.map);
    if (faults.length > 0) throw badRequest(faults.join('. '));
    await tx.execute(sql`UPDATE batch SET state = 'trying', effect = NULL, error = NULL WHERE id = ${id}`);
    return createJob(tx, {
      kind: 'try-batch',
      label: `Trying ${found.file_name}`,
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
  const ended = await one<{ state: string; error: string | null }>(
    db,
    sql`SELECT state, error FROM job WHERE id = ${job}`,
  );
  if (ended?.state === 'failed') throw unprocessable(ended.error ?? 'It broke off');
  if (ended?.state === 'running')
    throw new Problem(503, 'It broke off', 'The work was interrupted; it goes on by itself. Look again in a moment.');
}

/** Rows were picked out or corrected: what the rest would do to listings is found anew. */
export async function restartEffect(services: Services, id: number, user: User): Promise<void> {
  await services.db.update(batch).set({ effect: null }).where(eq(batch.id, id));
  await startEffect(services, id, user);
}

/** The effect on listings is found beside the request, as soon as the batch is tried. */
async function startEffect({ db }: Services, id: number, user: User | undefined): Promise<void> {
  const found = await getBatch(db, id);
  if (found.state !== 'tried' || found.kind === 'round-trip' || !user) return;
  const job = await createJob(db, {
    kind: 'find-effect',
    label: `What ${found.fileName} would do to listings`,
    input: { batch: id },
    actor: user.id,
  });
  runAside(job).catch(() => undefined);
}

/** Job: the dry run. */
export async function tryJob({ db, services, input, progress }: JobContext): Promise<void> {
  const id = Number(input.batch);
  const tried = await triedOf(db, id);
  const found = await getBatch(db, id);
  try {
    const onRows = (done: number) => progress(done, 0);
    const counts =
      found.kind === 'round-trip' ? await tryRoundTrip(db, found, onRows) : await tryBatch(db, tried, onRows);
    await db.update(batch).set({ state: 'tried', counts }).where(eq(batch.id, id));
  } catch (error) {
    const words = error instanceof UnreadableFile || error instanceof Problem ? error.message : 'The dry run broke off';
    await db.update(batch).set({ state: 'read', error: words }).where(eq(batch.id, id));
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
  await stopEffect(db, id);
  const jobId = await db.transaction(async (tx) => {
    const [found] = await tx.select().from(batch).where(eq(batch.id, id)).for('update');
    if (!found) throw notFound(`batch ${id}`);
    if (found.state !== 'tried' || !found.counts)
      throw conflict(
        found.state === 'read'
          ? 'Try the batch first, so that you see what it would do'
          : `This batch is ${sayState(found.state)} already`,
      );
    const newer = found.kind === 'round-trip' ? 0 : await countOutdated(tx, found);
    if (newer > 0)
      throw conflict(`Another batch has changed ${newer} of these rows since the dry run. Try this one again.`);
    const [created, changed] = [found.counts.created, found.counts.changed].map((n) => sayCount(n));
    const isNews = found.counts.created + found.counts.changed > 0;
    const words = isNews
      ? `Applied ${found.fileName}: ${created} created, ${changed} changed`
      : `Confirmed ${found.fileName}: ${sayCount(found.counts.unchanged)} unchanged`;
    const action = await recordAction(tx, { actor: user.id, kind: 'apply-batch', words }, [
      { kind: 'batch', id, delta: { state: ['tried', 'applied'] } },
    ]);
    await tx.execute(sql`UPDATE batch SET state = 'applying', action_id = ${action} WHERE id = ${id}`);
    if (found.kind !== 'round-trip')
      await tx
        .insert(columnMap)
        .values({ supplierId: found.supplierId, signature: signature(found.columns), map: found.map })
        .onConflictDoUpdate({
          target: [columnMap.supplierId, columnMap.signature],
          set: { map: found.map, at: sql`now()` },
        });
    return createJob(tx, {
      kind: 'apply-batch',
      label: `Applying ${found.fileName}`,
      input: { batch: id, action, started: new Date().toISOString(), user: user.id },
      actor: user.id,
    });
  });
  await runSized(services, jobId, isSmallChange((await getBatch(db, id)).counts));
}

const isSmallChange = (counts: BatchCounts | null) => (counts?.created ?? 0) + (counts?.changed ?? 0) <= 1500;

/** Wishes a batch that is being applied to stop; what was applied already is undone. */
export async function cancelApplying({ db, notify }: Services, id: number): Promise<void> {
  const asked = await rows(
    db,
    sql`UPDATE job SET cancel_wish = now() WHERE kind = 'apply-batch' AND (input ->> 'batch')::bigint = ${id} AND state IN ('waiting', 'running') RETURNING id`,
  );
  if (asked.length === 0) throw conflict('This batch is not being applied; there is nothing to cancel');
  notify('job');
}

/** Undoes an applied batch, once however many ask; answers what was left because somebody changed it since. */
export async function undoApplied(services: Services, id: number, user: User): Promise<string[]> {
  const { db } = services;
  const job = await db.transaction(async (tx) => {
    const [found] = await tx.select().from(batch).where(eq(batch.id, id)).for('update');
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
    const claimed = await rows(
      tx,
      sql`UPDATE action SET undone_by = ${action} WHERE id = ${found.actionId} AND undone_by IS NULL RETURNING 1`,
    );
    if (claimed.length === 0) throw conflict('This batch is undone already');
    await tx.update(batch).set({ state: 'undoing' }).where(eq(batch.id, id));
    return createJob(tx, {
      kind: 'undo-batch',
      label: `Undoing ${found.fileName}`,
      input: { batch: id, action, user: user.id },
      actor: user.id,
    });
  });
  await runSized(services, job, isSmallChange((await getBatch(db, id)).counts));
  services.notify('catalog');
  return (await getBatch(db, id)).leftBehind ?? [];
}

/** The same file as a new batch, read and mapped as before, and tried: what was left out comes up once more. */
export async function readAgain(services: Services, id: number, user: User): Promise<number> {
  const { db } = services;
  const found = await getBatch(db, id);
  const [made] = await db
    .insert(batch)
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
      scope: found.scope,
      kind: found.kind,
      state: 'read',
    })
    .returning({ id: batch.id });
  const next = made?.id ?? 0;
  await db.execute(
    sql`INSERT INTO batch_head (batch_id, rows, preview) SELECT ${next}, rows, preview FROM batch_head WHERE batch_id = ${id}`,
  );
  await db.execute(
    sql`INSERT INTO batch_fix (batch_id, row, cells) SELECT ${next}, row, cells FROM batch_fix WHERE batch_id = ${id}`,
  );
  await dryRun(services, next, user);
  return next;
}

const summaryColumns = sql`b.id, b.supplier_id AS "supplierId", s.name AS supplier, b.file_name AS "fileName", b.bytes, b.kind, b.state, b.counts, b.error,
  b.created_at AS "createdAt", b.applied_at AS "appliedAt", b.apply_ms AS "applyMs" FROM batch b JOIN supplier s ON s.id = b.supplier_id`;

const toSummary = (row: BatchSummary): BatchSummary => ({
  ...row,
  createdAt: iso(row.createdAt),
  appliedAt: iso(row.appliedAt),
});

export async function listBatches({ db }: Services, cursor: string | undefined, limit: number) {
  const found = await rows<BatchSummary>(
    db,
    sql`SELECT ${summaryColumns} WHERE ${cursor ? sql`b.id < ${Number(cursor)}` : sql`true`} ORDER BY b.id DESC LIMIT ${limit + 1}`,
  );
  const items = found.slice(0, limit).map(toSummary);
  return { items, next: found.length > limit ? String(items.at(-1)?.id) : null };
}

export async function showBatch({ db }: { db: Database }, id: number): Promise<BatchAnswer> {
  const summary = await one<BatchSummary>(db, sql`SELECT ${summaryColumns} WHERE b.id = ${id}`);
  const found = await getBatch(db, id);
  if (!summary) throw notFound(`batch ${id}`);
  const { attributes } = await loadDictionary(db);
  const { supplier: from } = await triedOf(db, id);
  const isOpen = open.has(found.state);
  const head = await headOf(db, id, isOpen ? 'rows' : 'preview');
  const isExchange = found.kind === 'round-trip';
  const left = await one<{ n: number }>(
    db,
    sql`SELECT count(*) AS n FROM batch_row WHERE batch_id = ${id} AND left_out`,
  );
  return {
    ...toSummary(summary),
    scope: found.scope,
    makesNew: found.makesNew,
    detected: found.detected,
    reading: found.reading,
    columns: found.columns,
    suggestions: found.suggestions,
    map: found.map,
    mapFaults: isExchange ? [] : mappingFaults(found.map),
    // Words are only worked out while they can still be changed.
    translations:
      isExchange || !isOpen ? [] : await translationsOf(db, { ...found, isOwn: from.kind === 'own' }, head, attributes),
    sample: previewRows(found, head.slice(0, previewed), attributes),
    effect: found.effect,
    leftOut: left?.n ?? 0,
    leftBehind: found.leftBehind ?? [],
  };
}
