/** Applying and undoing a batch: in chunks, each a transaction with its checkpoint; joins, families and products follow. */
import { type SQL, sql } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../catalog/dictionary.js';
import { resolveUnits, resolveVariants } from '../catalog/resolve.js';
import { type Executor, ids, one, rows, texts as textList } from '../db/client.js';
import { type Change, addChanges } from '../history/record.js';
import { markDirty } from '../listings/dirty.js';
import { drain } from '../listings/evaluate.js';
import { proposeFor } from '../matching/propose.js';
import type { JobContext } from '../jobs/run.js';
import { applyOffers, refreshOffers, undoOffers } from './offers.js';
import { applyExportRows, undoExportRows } from './round-trip.js';
import { reach, refreshKeys, regroup, rejoin } from './joins.js';

const chunkRows = 5000;

/** Job: applies the tried rows of a batch from the checkpoint on. */
export async function applyBatch(context: JobContext): Promise<void> {
  const { db, services, input, checkpoint, progress, saveCheckpoint, cancelled } = context;
  const batchId = Number(input.batch);
  const actionId = Number(input.action);
  const dictionary = await loadDictionary(db);
  const head = await one<{ kind: string; created: number | null }>(
    db,
    sql`SELECT kind, (counts ->> 'created')::int AS created FROM batch WHERE id = ${batchId}`,
  );
  const isExport = head?.kind === 'round-trip';
  const rowsLeft = sql`batch_id = ${batchId} AND outcome <> 'refused' AND NOT left_out`;
  const total = await one<{ n: number }>(db, sql`SELECT count(*) AS n FROM batch_row WHERE ${rowsLeft}`);
  let from = Number(checkpoint?.row ?? 0);
  let done = Number(checkpoint?.done ?? 0);
  let isAnalysed = false;
  for (;;) {
    if (await cancelled()) {
      await undoBatch(db, batchId, actionId);
      await db.execute(sql`UPDATE batch SET state = 'cancelled' WHERE id = ${batchId}`);
      services.notify('catalog');
      return;
    }
    const upTo = await one<{ last: number | null; n: number }>(
      db,
      sql`SELECT max(row) AS last, count(*) AS n FROM (SELECT row FROM batch_row WHERE ${rowsLeft} AND row > ${from} ORDER BY row LIMIT ${chunkRows}) c`,
    );
    if (!upTo?.last) break;
    const last = upTo.last;
    done += upTo.n;
    await db.transaction(async (tx) => {
      const applying: Applying = { batchId, actionId, dictionary };
      if (isExport) await applyExportRows(tx, { ...applying, actor: Number(input.user) }, from, last);
      else await applyRows(tx, applying, from, last);
      await saveCheckpoint(tx, { row: last, done });
    });
    from = last;
    await progress(done, total?.n ?? 0);
    if (!isAnalysed && (head?.created ?? 0) > chunkRows) {
      // The first chunk changed what tables look like; without new statistics the next ones are planned as if empty.
      await db.execute(
        sql`ANALYZE record, record_content, record_version, record_key, family_key, product, product_text, fact, price, stock_level`,
      );
      isAnalysed = true;
    }
  }
  if (!isExport) await db.transaction((tx) => settleDropped(tx, batchId, { actionId, dictionary }));
  await db.execute(
    sql`UPDATE batch SET state = 'applied', applied_at = now(), apply_ms = extract(epoch FROM now() - ${String(input.started)}::timestamptz) * 1000 WHERE id = ${batchId}`,
  );
  await drain(db, services.config.address, 500, dictionary);
  if (!isExport) await proposeFor(services, Number(input.user) || undefined);
  services.notify('catalog');
}

/** Job: takes an applied batch back. */
export async function undoJob({ db, services, input }: JobContext): Promise<void> {
  const batchId = Number(input.batch);
  const left = await undoBatch(db, batchId, Number(input.action));
  await db.execute(sql`UPDATE batch SET left_behind = ${JSON.stringify(left)}::jsonb WHERE id = ${batchId}`);
  await proposeFor(services, Number(input.user) || undefined);
  services.notify('catalog');
}

export interface Applying {
  batchId: number;
  actionId: number;
  dictionary: Dictionary;
}

/** Applies the rows of a batch above `after`, up to and with `last`, in the caller's transaction. */
export async function applyRows(
  tx: Executor,
  { batchId, actionId, dictionary }: Applying,
  after: number,
  last: number,
): Promise<void> {
  const part = sql`b.batch_id = ${batchId} AND b.row > ${after} AND b.row <= ${last} AND b.outcome <> 'refused' AND NOT b.left_out`;
  const head = await one<{ supplier: number }>(
    tx,
    sql`SELECT supplier_id AS supplier FROM batch WHERE id = ${batchId}`,
  );
  const supplier = head?.supplier ?? 0;
  await tx.execute(sql`
    INSERT INTO record_version (record_id, batch_id, content_id, row)
    SELECT b.record_id, ${batchId}, b.before_id, b.row FROM batch_row b WHERE ${part} AND b.outcome = 'unchanged' ON CONFLICT DO NOTHING`);
  const news = sql`${part} AND b.outcome <> 'unchanged'`;
  await tx.execute(sql`
    INSERT INTO record (supplier_id, key, written) SELECT ${supplier}, b.record_key, b.key FROM batch_row b WHERE ${news} AND b.record_id IS NULL ORDER BY b.row
    ON CONFLICT DO NOTHING`);
  await tx.execute(sql`
    UPDATE batch_row b SET record_id = r.id FROM record r
    WHERE ${news} AND b.record_id IS NULL AND r.supplier_id = ${supplier} AND r.key = b.record_key`);
  await tx.execute(sql`
    INSERT INTO record_content (record_id, hash, print, content, keys, cells)
    SELECT b.record_id, b.hash, b.print, b.content, coalesce(b.keys, (SELECT c.keys FROM record_content c WHERE c.id = b.before_id)), b.cells
    FROM batch_row b WHERE ${news} ORDER BY b.row ON CONFLICT (record_id, hash) DO UPDATE SET print = excluded.print`);
  const touched = await rows<{ id: number }>(
    tx,
    sql`INSERT INTO record_version (record_id, batch_id, content_id, row)
        SELECT b.record_id, ${batchId}, c.id, b.row FROM batch_row b JOIN record_content c ON c.record_id = b.record_id AND c.hash = b.hash WHERE ${news}
        ON CONFLICT (record_id, batch_id) DO UPDATE SET content_id = excluded.content_id RETURNING record_id AS id`,
  );
  await settleRecords(
    tx,
    touched.map((one_) => one_.id),
    { actionId, batchId, dictionary },
  );
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
          AND w.scope = 'whole' AND w.kind <> 'round-trip' AND w.state IN ('applying', 'applied')
        WHERE b.id = ${batchId} GROUP BY 2`,
  );
  const whole = latest?.id ?? 0;
  const changed = await rows<{ product: number | null }>(
    tx,
    sql`WITH listed AS MATERIALIZED (SELECT DISTINCT record_key AS key FROM batch_row WHERE batch_id = ${whole} AND record_key IS NOT NULL),
        now AS (
          SELECT r.id, ${whole} > 0 AND r.content_id IS NOT NULL AND k.key IS NULL
            AND NOT EXISTS (SELECT 1 FROM record_version v JOIN batch n ON n.id = v.batch_id WHERE v.record_id = r.id AND v.batch_id > ${whole} AND n.state IN ('applying', 'applied')) AS dropped
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
  const familyKeys = [...dictionary.attributes.values()]
    .filter((one_) => one_.level === 'family')
    .map((one_) => one_.key);
  const shared = (content: SQL) =>
    sql`(SELECT jsonb_object_agg(v.key, v.value) FROM jsonb_each(${content}.content -> 'values') v WHERE split_part(v.key, '@', 1) = ANY(${textList(familyKeys)}))`;
  /** Light: same keys, family, options and family-level values, so that joins and siblings stay as they are. */
  const changed = await rows<{ id: number; product: number | null; light: boolean }>(
    tx,
    sql`UPDATE record r SET content_id = now.content_id FROM (
          SELECT x.id, o.content_id AS old, (SELECT v.content_id FROM record_version v JOIN batch b ON b.id = v.batch_id
            WHERE v.record_id = x.id AND b.state IN ('applying', 'applied') ORDER BY v.batch_id DESC LIMIT 1) AS content_id
          FROM unnest(${ids(records)}) AS x(id) JOIN record o ON o.id = x.id) now
        WHERE now.id = r.id AND r.content_id IS DISTINCT FROM now.content_id
        RETURNING r.id, r.product_id AS product, coalesce((
          SELECT a.keys = b.keys AND a.content -> 'family' IS NOT DISTINCT FROM b.content -> 'family' AND a.content -> 'options' IS NOT DISTINCT FROM b.content -> 'options'
            AND ${shared(sql`a`)} IS NOT DISTINCT FROM ${shared(sql`b`)}
          FROM record_content a, record_content b WHERE a.id = now.old AND b.id = now.content_id), false) AS light`,
  );
  const list = changed.map((one_) => one_.id);
  if (list.length === 0) return;
  const heavy = changed.filter((one_) => !one_.light || one_.product === null).map((one_) => one_.id);
  const light = changed.flatMap((one_) => (one_.light && one_.product !== null ? [one_.product] : []));
  let units: number[] = [];
  if (heavy.length > 0) {
    const before = await reach(tx, heavy);
    await refreshKeys(tx, heavy);
    const closure = await reach(tx, before);
    units = await regroup(tx, await rejoin(tx, closure));
  }
  const offers = batchId === undefined ? [] : await applyOffers(tx, list, batchId);
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
  await addChanges(tx, actionId, mergeChanges(changes, offers));
  await markDirty(tx, [...new Set([...units, ...beside.map((one_) => one_.unit)])]);
}

/** One row a subject. */
function mergeChanges(...lists: Change[][]): Change[] {
  const merged = new Map<number, Change>();
  for (const change of lists.flat()) {
    const known = merged.get(change.id);
    merged.set(change.id, known ? { ...known, delta: { ...change.delta, ...known.delta } } : change);
  }
  return [...merged.values()];
}

/** Takes a batch back; what a person set since stays, and is named. */
export async function undoBatch(
  db: Executor & { transaction: <T>(work: (tx: Executor) => Promise<T>) => Promise<T> },
  batchId: number,
  undoAction: number,
): Promise<string[]> {
  const dictionary = await loadDictionary(db);
  return db.transaction(async (tx) => {
    const batch = await one<{ action_id: number; kind: string }>(
      tx,
      sql`UPDATE batch SET state = 'undone' WHERE id = ${batchId} RETURNING action_id, kind`,
    );
    const touched = await rows<{ id: number }>(
      tx,
      sql`SELECT record_id AS id FROM record_version WHERE batch_id = ${batchId}`,
    );
    if (batch?.kind === 'round-trip')
      return undoExportRows(tx, batchId, { applied: batch.action_id ?? 0, undo: undoAction, dictionary });
    const { products, left } = await undoOffers(tx, batch?.action_id ?? 0);
    const edited = await rows<{ sku: string | null; label: string }>(
      tx,
      sql`SELECT p.sku, a.label FROM claim_edit e JOIN product p ON p.id = e.product_id JOIN attribute a ON a.id = e.attribute_id
          WHERE p.id IN (SELECT product_id FROM record WHERE id = ANY(${ids(touched.map((one_) => one_.id))}))
            AND e.at > (SELECT at FROM action WHERE id = ${batch?.action_id ?? 0}) LIMIT 200`,
    );
    await settleRecords(
      tx,
      touched.map((one_) => one_.id),
      { actionId: undoAction, batchId: undefined, dictionary },
    );
    const units = await rows<{ unit: number }>(
      tx,
      sql`SELECT DISTINCT unit_id AS unit FROM product WHERE id = ANY(${ids(products)})`,
    );
    await refreshOffers(tx, products);
    await settleDropped(tx, batchId, { actionId: undoAction, dictionary });
    await markDirty(
      tx,
      units.map((one_) => one_.unit),
    );
    return [...left, ...edited.map(({ sku, label }) => `${label} of ${sku ?? 'a product'}: edited by a person`)];
  });
}
