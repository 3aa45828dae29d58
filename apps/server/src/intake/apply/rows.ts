/** Rows of a tried batch become records, their versions and goods, in the caller's transaction. */
import { type SQL, sql, eq } from 'drizzle-orm';
import type { Dictionary } from '../../dictionary/dictionary.js';
import { type ClientTransaction, type Executor, queryOne, queryRows, first } from '../../db/client.js';
import { refreshStatistics } from '../../db/statistics.js';
import { hurt } from '../../jobs/moments.js';
import { type FreshGoods, prepareFresh, writeFresh } from './fresh.js';
import { applyExportRows } from '../round-trip/round-trip.js';
import { settleRecords } from './settle.js';
import * as tables from '../../db/schema/index.js';

export interface Applying {
  batchId: number;
  actionId: number;
  dictionary: Dictionary;
}

/** Rows of a batch, our own export's or a supplier's, in the caller's transaction. */
export async function applyPart(
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
  const head = await first(
    tx.select({ supplier: tables.batch.supplierId }).from(tables.batch).where(eq(tables.batch.id, batchId)),
  );
  const supplier = head?.supplier ?? 0;
  const fresh = { ...applying, supplier };
  const goods = prepared ?? (await prepareFresh(tx, fresh, { after, last }));
  const written = await writeFresh(on, goods, fresh);
  const touched = await recordRows(tx, { batchId, supplier, written }, after, last);
  const rows = written + touched.length;
  await refreshStatistics(tx, rows, recordTables);
  await settleRecords(tx, touched, applying);
  await refreshStatistics(tx, rows, goodsTables);
}

const recordTables = ['record', 'record_content', 'record_version', 'record_key', 'family_key'];
const goodsTables = ['product', 'product_text', 'fact', 'price', 'stock_level'];

/** Gives records the version the batch has of them, the `written` fresh ones excepted; answers whose content is new. */
async function recordRows(
  tx: Executor,
  { batchId, supplier, written }: { batchId: number; supplier: number; written: number },
  after: number,
  last: number,
): Promise<number[]> {
  const part = sql`b.batch_id = ${batchId} AND b.row > ${after} AND b.row <= ${last} AND NOT b.left_out`;
  const news = await queryOne<{ created: number; changed: number }>(
    tx,
    sql`SELECT count(*) FILTER (WHERE b.outcome = 'created') AS created, count(*) FILTER (WHERE b.outcome = 'changed') AS changed
        FROM batch_row b WHERE ${part}`,
  );
  const made = (news?.created ?? 0) - written;
  if (made > 0) await makeRecords(tx, part, batchId, supplier);
  if (made === 0 && !news?.changed) return [];
  const touched = await queryRows<{ id: number }>(
    tx,
    sql`INSERT INTO record_version (record_id, batch_id, content_id, row)
        SELECT b.record_id, ${batchId}, b.content_id, b.row FROM batch_row b WHERE ${part} AND b.outcome IN ('created', 'changed')
        ON CONFLICT DO NOTHING RETURNING record_id AS id`,
  );
  return touched.map((recordVersion) => recordVersion.id);
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
