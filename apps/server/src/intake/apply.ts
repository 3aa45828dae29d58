/** Applying and undoing a batch: in chunks, each a transaction with its checkpoint; joins, families and products follow. */
import { type RecordContent, sameForFamily } from '@velvet-shelf/core/intake';
import { canonical } from '@velvet-shelf/core/values';
import { type SQL, sql } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../catalog/dictionary.js';
import { resolveUnits, resolveVariants } from '../catalog/resolve.js';
import { type ClientTransaction, type Database, type Executor, ids, onClient, one, rows } from '../db/client.js';
import { addChanges } from '../history/record.js';
import { markDirty } from '../listings/dirty.js';
import { drain } from '../listings/evaluate.js';
import { runAside } from '../jobs/aside.js';
import { hurt, moment } from '../jobs/moments.js';
import { type JobContext, isPassing, reasonOf } from '../jobs/run.js';
import { proposeIn } from '../matching/propose.js';
import { recount } from './dry-run.js';
import { type FreshGoods, prepareFresh, writeFresh } from './fresh.js';
import { applyOffers, refreshOffers, settleStock, undoOffers } from './offers.js';
import { applyExportRows, undoExportRows } from './round-trip.js';
import { lockJoins, reach, refreshKeys, regroup, rejoin } from './joins.js';

/** Batches whose word counts: one that is being undone counts until that is done. */
const counting = sql`('applying', 'applied', 'undoing')`;

/** Job: applies the tried rows of a batch from the checkpoint on. */
export async function applyBatch(context: JobContext): Promise<void> {
  const { db, services, input, checkpoint, progress, saveCheckpoint, cancelled, finish } = context;
  const { chunkRows } = services.config;
  const batchId = Number(input.batch);
  const actionId = Number(input.action);
  const dictionary = await loadDictionary(db);
  const head = await one<{ kind: string; state: string; supplier: number; created: number | null }>(
    db,
    sql`SELECT kind, state, supplier_id AS supplier, (counts ->> 'created')::int AS created FROM batch WHERE id = ${batchId}`,
  );
  if (head?.state !== 'applying') return;
  const { supplier } = head;
  const isExport = head.kind === 'round-trip';
  const applying: Applying = { batchId, actionId, dictionary };
  const rowsLeft = sql`batch_id = ${batchId} AND outcome IN ('created', 'changed') AND NOT left_out`;
  const total = await one<{ news: number; unchanged: number }>(
    db,
    sql`SELECT count(*) FILTER (WHERE outcome IN ('created', 'changed')) AS news, count(*) FILTER (WHERE outcome = 'unchanged') AS unchanged
        FROM batch_row WHERE batch_id = ${batchId} AND NOT left_out`,
  );
  // Rows that say what their records say already are done: `confirmVersions` finds them when they are asked for.
  const { news, unchanged } = total ?? { news: 0, unchanged: 0 };
  let from = Number(checkpoint?.row ?? 0);
  let done = Number(checkpoint?.done ?? unchanged);
  let isAnalysed = false;
  const prepare = async (after: number, pending?: ReadonlySet<string>) => {
    const upTo = await one<{ last: number | null; n: number }>(
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
  for (;;) {
    // Asked once more after the last chunk: a wish that came while it was written counts too.
    if (await cancelled()) {
      await takeBack(context, 'cancelled', {
        words: sql`'Cancelled ' || (SELECT file_name FROM batch WHERE id = ${batchId}) || ': what had been applied was taken back'`,
      });
      services.notify('catalog');
      return;
    }
    if (!next) break;
    const { last, n, fresh } = next;
    // The chunk after is worked out while this one is written.
    const following = prepare(last, fresh?.marks);
    following.catch(() => undefined);
    await moment('apply-chunk');
    await onClient(db, async (on) => {
      await lockJoins(on.tx);
      await applyPart(on, { ...applying, isExport, actor: Number(input.user) }, from, last, fresh);
      await saveCheckpoint(on.tx, { row: last, done: done + n });
    });
    done += n;
    from = last;
    await progress(done, news + unchanged);
    if (!isAnalysed && (head.created ?? 0) > chunkRows) {
      // The first chunk changed what tables look like; without new statistics the next ones are planned as if empty.
      await db.execute(
        sql`ANALYZE record, record_content, record_version, record_key, family_key, product, product_text, fact, price, stock_level`,
      );
      isAnalysed = true;
    }
    next = await following;
  }
  await moment('apply-end');
  const look = await db.transaction(async (tx) => {
    if (!isExport) await settleDropped(tx, batchId, { actionId, dictionary });
    await tx.execute(
      sql`UPDATE batch SET state = 'applied', error = NULL, applied_at = now(), apply_ms = extract(epoch FROM now() - ${String(input.started)}::timestamptz) * 1000 WHERE id = ${batchId}`,
    );
    const look = !isExport && news > 0 ? await proposeIn(tx, Number(input.user) || undefined) : undefined;
    await finish(tx);
    return look;
  });
  if (look !== undefined) runAside(look).catch(() => undefined);
  await drain(db, services.config.address, 500, dictionary);
  services.notify('catalog');
}

/** Rows of a batch, our own export's or a supplier's, in the caller's transaction. */
async function applyPart(
  on: ClientTransaction,
  { isExport, actor, ...applying }: Applying & { isExport: boolean; actor: number },
  after: number,
  last: number,
  fresh?: FreshGoods,
): Promise<void> {
  hurt(after, last);
  if (isExport) await applyExportRows(on.tx, { ...applying, actor }, after, last);
  else await applyRows(on, applying, after, last, fresh);
}

/**
 * What a batch that could not be applied leaves: nothing. What had been applied is taken back, the row that would not go in
 * is refused with the reason, and the batch waits, tried, to be applied without it.
 */
export async function applyFailed(context: JobContext, fault: Error): Promise<void> {
  const { db, services, input } = context;
  const batchId = Number(input.batch);
  const state = await one<{ state: string; kind: string }>(
    db,
    sql`SELECT state, kind FROM batch WHERE id = ${batchId}`,
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
  { db, services, input, id }: JobContext,
  isExport: boolean,
): Promise<{ row: number; place: string | null; fault: Error } | undefined> {
  const applying = {
    batchId: Number(input.batch),
    actionId: Number(input.action),
    isExport,
    actor: Number(input.user),
  };
  const dictionary = await loadDictionary(db);
  const job = await one<{ row: number | null }>(
    db,
    sql`SELECT (checkpoint ->> 'row')::int AS row FROM job WHERE id = ${id}`,
  );
  const list = await rows<{ row: number; place: string | null }>(
    db,
    sql`SELECT row, place FROM batch_row WHERE batch_id = ${applying.batchId} AND outcome IN ('created', 'changed') AND NOT left_out
          AND row > ${job?.row ?? 0} ORDER BY row LIMIT ${services.config.chunkRows}`,
  );
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

class RolledBack extends Error {}

async function tryPart(
  db: Database,
  applying: Applying & { isExport: boolean; actor: number },
  list: readonly { row: number }[],
  from: number,
  to: number,
): Promise<Error | undefined> {
  try {
    await onClient(db, async (on) => {
      await lockJoins(on.tx);
      await applyPart(on, applying, (list[from]?.row ?? 1) - 1, list[to - 1]?.row ?? 0);
      throw new RolledBack();
    });
  } catch (error) {
    if (error instanceof RolledBack) return undefined;
    if (isPassing(error)) throw error;
    return error instanceof Error ? error : new Error(String(error));
  }
  return undefined;
}

/** Takes back what a batch that is being applied has done so far, and ends its job, all in one transaction. */
async function takeBack(
  { db, input, finish, id }: JobContext,
  to: 'cancelled' | 'tried',
  { words, error, refuse }: { words: SQL; error?: string; refuse?: { row: number; reason: string } },
): Promise<void> {
  const batchId = Number(input.batch);
  const actionId = Number(input.action);
  await db.transaction(async (tx) => {
    await undoBatch(tx, batchId, { from: 'applying', to, by: actionId });
    // Should it be applied once more, its versions are made anew.
    await tx.execute(sql`DELETE FROM record_version WHERE batch_id = ${batchId}`);
    await tx.execute(sql`UPDATE action SET undone_by = id, words = ${words} WHERE id = ${actionId}`);
    if (refuse) {
      const cells = sql`coalesce(b.cells, (SELECT to_jsonb(c.cells) FROM record_content c WHERE c.id = coalesce(b.content_id, b.before_id)))`;
      await tx.execute(sql`
        UPDATE batch_row b SET outcome = 'refused', reasons = ${JSON.stringify([refuse.reason])}::jsonb, cells = ${cells}
        WHERE b.batch_id = ${batchId} AND b.row = ${refuse.row}`);
      await recount(tx, batchId);
    }
    await tx.execute(sql`UPDATE batch SET error = ${error ?? null} WHERE id = ${batchId}`);
    if (to === 'cancelled') await finish(tx);
    else if (error !== undefined)
      await tx.execute(sql`UPDATE job SET state = 'failed', error = ${error}, ended_at = now() WHERE id = ${id}`);
  });
}

/** Job: takes an applied batch back. */
export async function undoJob({ db, services, input, finish }: JobContext): Promise<void> {
  const batchId = Number(input.batch);
  await moment('undo-begin');
  const look = await db.transaction(async (tx) => {
    const left = await undoBatch(tx, batchId, { from: 'undoing', to: 'undone', by: Number(input.action) });
    if (left)
      await tx.execute(sql`UPDATE batch SET left_behind = ${JSON.stringify(left)}::jsonb WHERE id = ${batchId}`);
    const look = await proposeIn(tx, Number(input.user) || undefined);
    await finish(tx);
    return look;
  });
  await moment('undo-end');
  if (look !== undefined) runAside(look).catch(() => undefined);
  await drain(db, services.config.address, 500);
  services.notify('catalog');
}

/** An undo that cannot be done: the batch is applied as before. */
export async function undoFailed({ db, input, id }: JobContext, fault: Error): Promise<void> {
  const batchId = Number(input.batch);
  await db.transaction(async (tx) => {
    const back = await rows(
      tx,
      sql`UPDATE batch SET state = 'applied', error = ${`It could not be undone: ${reasonOf(fault)}`} WHERE id = ${batchId} AND state = 'undoing' RETURNING 1`,
    );
    if (back.length > 0)
      await tx.execute(sql`UPDATE action SET undone_by = NULL WHERE undone_by = ${Number(input.action)}`);
    await tx.execute(
      sql`UPDATE job SET state = 'failed', error = ${reasonOf(fault)}, ended_at = now() WHERE id = ${id}`,
    );
  });
}

export interface Applying {
  batchId: number;
  actionId: number;
  dictionary: Dictionary;
}

/** Applies the rows of a batch above `after`, up to and with `last`, in the caller's transaction. */
export async function applyRows(
  on: ClientTransaction,
  applying: Applying,
  after: number,
  last: number,
  prepared?: FreshGoods,
): Promise<void> {
  const { tx } = on;
  const { batchId } = applying;
  const head = await one<{ supplier: number }>(
    tx,
    sql`SELECT supplier_id AS supplier FROM batch WHERE id = ${batchId}`,
  );
  const supplier = head?.supplier ?? 0;
  const fresh = { ...applying, supplier };
  const goods = prepared ?? (await prepareFresh(tx, fresh, { after, last }));
  const written = await writeFresh(on, goods, fresh);
  const touched = await recordRows(tx, { batchId, supplier, written }, after, last);
  await settleRecords(tx, touched, applying);
}

/** Gives records the version the batch has of them, the `written` fresh ones excepted; answers whose content is new. */
async function recordRows(
  tx: Executor,
  { batchId, supplier, written }: { batchId: number; supplier: number; written: number },
  after: number,
  last: number,
): Promise<number[]> {
  const part = sql`b.batch_id = ${batchId} AND b.row > ${after} AND b.row <= ${last} AND NOT b.left_out`;
  const news = await one<{ created: number; changed: number }>(
    tx,
    sql`SELECT count(*) FILTER (WHERE b.outcome = 'created') AS created, count(*) FILTER (WHERE b.outcome = 'changed') AS changed
        FROM batch_row b WHERE ${part}`,
  );
  const made = (news?.created ?? 0) - written;
  if (made > 0) await makeRecords(tx, part, batchId, supplier);
  if (made === 0 && !news?.changed) return [];
  const touched = await rows<{ id: number }>(
    tx,
    sql`INSERT INTO record_version (record_id, batch_id, content_id, row)
        SELECT b.record_id, ${batchId}, b.content_id, b.row FROM batch_row b WHERE ${part} AND b.outcome IN ('created', 'changed')
        ON CONFLICT DO NOTHING RETURNING record_id AS id`,
  );
  return touched.map((one_) => one_.id);
}

/** Makes the records of rows that have none yet. */
async function makeRecords(tx: Executor, part: SQL, batchId: number, supplier: number): Promise<void> {
  await tx.execute(sql`
    INSERT INTO record (id, supplier_id, key, written) OVERRIDING SYSTEM VALUE SELECT b.record_id, ${supplier}, b.record_key, b.key FROM batch_row b
    WHERE ${part} AND b.outcome = 'created' ORDER BY b.row ON CONFLICT DO NOTHING`);
  // Another batch may have made the record meanwhile, and have been undone.
  await tx.execute(sql`
    WITH held AS (
      SELECT b.row, b.content_id, r.id FROM batch_row b JOIN record r ON r.supplier_id = ${supplier} AND r.key = b.record_key
      WHERE ${part} AND b.outcome = 'created' AND r.id <> b.record_id),
    moved AS (UPDATE record_content c SET record_id = held.id FROM held WHERE c.id = held.content_id)
    UPDATE batch_row b SET record_id = held.id FROM held WHERE b.batch_id = ${batchId} AND b.row = held.row`);
}

/** Marks what a supplier's whole list no longer has, and unmarks what it has again; goods say so themselves. */
async function settleDropped(
  tx: Executor,
  batchId: number,
  { actionId, dictionary }: Omit<Applying, 'batchId'>,
): Promise<void> {
  const latest = await one<{ id: number | null; supplier: number }>(
    tx,
    sql`SELECT max(w.id) AS id, b.supplier_id AS supplier FROM batch b LEFT JOIN batch w ON w.supplier_id = b.supplier_id
          AND w.scope = 'whole' AND w.kind <> 'round-trip' AND w.state IN ${counting}
        WHERE b.id = ${batchId} GROUP BY 2`,
  );
  const whole = latest?.id ?? 0;
  const changed = await rows<{ product: number | null }>(
    tx,
    sql`WITH listed AS MATERIALIZED (SELECT DISTINCT record_key AS key FROM batch_row WHERE batch_id = ${whole} AND record_key IS NOT NULL),
        named AS MATERIALIZED (
          SELECT w.record_id AS id FROM batch n JOIN batch_row w ON w.batch_id = n.id
          WHERE n.supplier_id = ${latest?.supplier ?? 0} AND n.id > ${whole} AND n.state IN ${counting} AND w.outcome <> 'refused' AND NOT w.left_out),
        now AS (
          SELECT r.id, ${whole} > 0 AND r.content_id IS NOT NULL AND k.key IS NULL AND r.id NOT IN (SELECT id FROM named WHERE id IS NOT NULL) AS dropped
          FROM record r LEFT JOIN listed k ON k.key = r.key WHERE r.supplier_id = ${latest?.supplier ?? 0} AND (k.key IS NULL OR r.dropped))
        UPDATE record r SET dropped = now.dropped FROM now WHERE now.id = r.id AND r.dropped <> now.dropped RETURNING r.product_id AS product`,
  );
  const products = changed.flatMap((one_) => one_.product ?? []);
  if (products.length === 0) return;
  const units = await rows<{ unit: number }>(
    tx,
    sql`SELECT DISTINCT unit_id AS unit FROM product WHERE id = ANY(${ids(products)})`,
  );
  const list = units.map((one_) => one_.unit);
  await addChanges(tx, actionId, await resolveUnits(tx, list, dictionary));
  await markDirty(tx, list);
}

/** The current content of records, and all that follows from it: joins, families, offers, products, listings to re-check. */
export async function settleRecords(
  tx: Executor,
  records: readonly number[],
  { actionId, batchId, dictionary }: { actionId: number; batchId: number | undefined; dictionary: Dictionary },
): Promise<void> {
  const changed = await rows<Settled>(
    tx,
    sql`UPDATE record r SET content_id = now.content_id FROM (
          SELECT x.id, o.content_id AS old, (SELECT v.content_id FROM record_version v JOIN batch b ON b.id = v.batch_id
            WHERE v.record_id = x.id AND b.state IN ${counting} ORDER BY v.batch_id DESC LIMIT 1) AS content_id
          FROM unnest(${ids(records)}) AS x(id) JOIN record o ON o.id = x.id) now
        WHERE now.id = r.id AND r.content_id IS DISTINCT FROM now.content_id
        RETURNING r.id, r.product_id AS product, now.old AS before, now.content_id AS after`,
  );
  const list = changed.map((one_) => one_.id);
  if (list.length === 0) return;
  const isLight = await findLight(tx, changed, dictionary);
  const heavy = changed.filter((one_) => !isLight(one_)).map((one_) => one_.id);
  const light = changed.flatMap((one_) => (isLight(one_) && one_.product !== null ? [one_.product] : []));
  let units: number[] = [];
  let joined: number[] = [];
  if (heavy.length > 0) {
    const before = await reach(tx, heavy);
    await refreshKeys(tx, heavy);
    const closure = await reach(tx, before);
    joined = await rejoin(tx, closure);
    units = await regroup(tx, joined);
  }
  const offers = batchId === undefined ? [] : await applyOffers(tx, list, { batchId, actionId });
  await settleStock(tx, [...new Set([...joined, ...light])], { actionId, batchId });
  const changes = await resolveUnits(tx, units, dictionary);
  const resolved = new Set(units);
  const beside = await rows<{ id: number; unit: number }>(
    tx,
    sql`SELECT id, unit_id AS unit FROM product WHERE id = ANY(${ids(light)})`,
  );
  const alone = beside.filter((one_) => !resolved.has(one_.unit));
  if (alone.length > 0)
    changes.push(
      ...(await resolveVariants(
        tx,
        alone.map((one_) => one_.id),
        dictionary,
      )),
    );
  await addChanges(tx, actionId, [...changes, ...offers]);
  await markDirty(tx, [...new Set([...units, ...beside.map((one_) => one_.unit)])]);
}

/** A record whose content is another one now. */
interface Settled {
  id: number;
  product: number | null;
  before: number | null;
  after: number | null;
}

/** Light: same keys, family, options and family-level values, so that joins and siblings stay as they are. */
async function findLight(
  tx: Executor,
  changed: readonly Settled[],
  { attributes }: Dictionary,
): Promise<(one_: Settled) => boolean> {
  const both = changed.filter(({ product, before, after }) => product !== null && before !== null && after !== null);
  const contents = await rows<{ id: number; content: RecordContent; keys: Record<string, string> }>(
    tx,
    sql`SELECT id, content, keys FROM record_content WHERE id = ANY(${ids(both.flatMap(({ before, after }) => [before ?? 0, after ?? 0]))})`,
  );
  const byId = new Map(contents.map((one_) => [one_.id, one_]));
  const light = new Set<number>();
  for (const { id, before, after } of both) {
    const [was, is] = [byId.get(before ?? 0), byId.get(after ?? 0)];
    if (was && is && canonical(was.keys) === canonical(is.keys) && sameForFamily(was.content, is.content, attributes))
      light.add(id);
  }
  return ({ id }) => light.has(id);
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
  const batch = await one<{ action_id: number; kind: string }>(
    tx,
    sql`UPDATE batch SET state = ${to} WHERE id = ${batchId} AND state = ${from} RETURNING action_id, kind`,
  );
  if (!batch) return undefined;
  if (batch.kind === 'round-trip')
    return undoExportRows(tx, batchId, { applied: batch.action_id ?? 0, undo: by, dictionary });
  const touched = await rows<{ id: number }>(
    tx,
    sql`SELECT record_id AS id FROM record_version WHERE batch_id = ${batchId}`,
  );
  const records = touched.map((one_) => one_.id);
  await confirmVersions(tx, batchId, records);
  const { products, left } = await undoOffers(tx, batch.action_id ?? 0);
  const edited = await rows<{ sku: string | null; label: string }>(
    tx,
    sql`SELECT p.sku, a.label FROM claim_edit e JOIN product p ON p.id = e.product_id JOIN attribute a ON a.id = e.attribute_id
        WHERE p.id IN (SELECT product_id FROM record WHERE id = ANY(${ids(records)}))
          AND e.at > (SELECT at FROM action WHERE id = ${batch.action_id ?? 0}) LIMIT 200`,
  );
  await settleRecords(tx, records, { actionId: by, batchId: undefined, dictionary });
  const units = await rows<{ unit: number }>(
    tx,
    sql`SELECT DISTINCT unit_id AS unit FROM product WHERE id = ANY(${ids(products)})`,
  );
  await refreshOffers(tx, products);
  await settleDropped(tx, batchId, { actionId: by, dictionary });
  await markDirty(
    tx,
    units.map((one_) => one_.unit),
  );
  return [...left, ...edited.map(({ sku, label }) => `${label} of ${sku ?? 'a product'}: edited by a person`)];
}
