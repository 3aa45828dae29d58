/** The dry run as people see it: its rows, picked out or corrected one by one, and what applying would do to listings. */
import type { BatchRowAnswer } from '@velvet-shelf/contract';
import { type RecordContent, contentChanges } from '@velvet-shelf/core/intake';
import { splitSlot } from '@velvet-shelf/core/claims';
import { type Attribute, type Value, formatValue, plainText } from '@velvet-shelf/core/values';
import { type SQL, and, eq, sql } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../catalog/dictionary.js';
import { type Executor, ids, json, onClient, one, rows } from '../db/client.js';
import { type BatchCounts, batch, batchRow } from '../db/schema/index.js';
import { conflict, notFound } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { type Tried, compileJudge, dropRows, refused, withFix, writeJudged } from './try.js';

type RowRecord = typeof batchRow.$inferSelect;

/** What a row says, or, where it is unchanged, what its record says; and what it would replace. */
interface RowContents {
  own: Held | undefined;
  before: Held | undefined;
}
interface Held {
  id: number;
  content: RecordContent;
  cells: string[];
  keys: Record<string, string>;
}

export interface RowFilter {
  outcome?: string | undefined;
  search?: string | undefined;
}

function filterSql(id: number, { outcome, search }: RowFilter): SQL {
  const parts = [sql`batch_id = ${id}`];
  if (outcome === 'noted') parts.push(sql`notes IS NOT NULL`);
  else if (outcome === 'left out') parts.push(sql`left_out`);
  else if (outcome) parts.push(sql`outcome = ${outcome}`);
  if (search) {
    const like = `%${search.replace(/[\\%_]/g, '\\$&')}%`;
    parts.push(sql`(key ILIKE ${like} OR cells::text ILIKE ${like} OR EXISTS (
      SELECT 1 FROM record_content c WHERE c.id = coalesce(batch_row.content_id, batch_row.before_id) AND c.cells::text ILIKE ${like}))`);
  }
  return sql.join(parts, sql` AND `);
}

export async function listRows(
  { db }: Services,
  id: number,
  query: RowFilter & { cursor?: string | undefined; limit: number },
): Promise<{ items: BatchRowAnswer[]; next: string | null }> {
  const found = await db
    .select()
    .from(batchRow)
    .where(and(filterSql(id, query), query.cursor ? sql`row > ${Number(query.cursor)}` : undefined))
    .orderBy(batchRow.row)
    .limit(query.limit + 1);
  const shown = found.slice(0, query.limit);
  const items = await sayRows(db, id, shown);
  return { items, next: found.length > query.limit ? String(items.at(-1)?.row) : null };
}

async function sayRows(db: Executor, id: number, shown: RowRecord[]): Promise<BatchRowAnswer[]> {
  const dictionary = await loadDictionary(db);
  const { attributes } = dictionary;
  const head = await one<{ supplier: number }>(db, sql`SELECT supplier_id AS supplier FROM batch WHERE id = ${id}`);
  if (!head) throw notFound(`batch ${id}`);
  const contentsOf = await loadContents(db, shown);
  const joins = await findJoins(db, head.supplier, shown, contentsOf);
  return shown.map((row): BatchRowAnswer => {
    const { own, before } = contentsOf(row);
    const held = own ?? before;
    const changes = own
      ? contentChanges(before?.content, own.content).map(({ field, before: was, after }) => ({
          field: sayFieldName(field, attributes),
          before: sayChange(field, was, attributes),
          after: sayChange(field, after, attributes),
        }))
      : (row.edits ?? []).map(({ attribute, language, before: was, after }) => ({
          field: sayFieldName(language === null ? attribute : `${attribute}@${language}`, attributes),
          before: was,
          after,
        }));
    return {
      row: row.row,
      place: row.place,
      leftOut: row.leftOut,
      cells: row.cells ?? held?.cells ?? [],
      outcome: row.outcome,
      key: row.key,
      title: titleOf(held?.content, row.cells ?? held?.cells ?? [], dictionary),
      reasons: row.reasons ?? [],
      notes: row.notes ?? [],
      changes,
      joins: joins.get(row.row) ?? null,
    };
  });
}

async function loadContents(db: Executor, shown: readonly RowRecord[]): Promise<(row: RowRecord) => RowContents> {
  const wanted = shown.flatMap((row) => [row.contentId ?? [], row.beforeId ?? []].flat());
  const found = await rows<Held>(
    db,
    sql`SELECT id, content, cells, keys FROM record_content WHERE id = ANY(${ids(wanted)})`,
  );
  const byId = new Map(found.map((one_) => [one_.id, one_]));
  return ({ contentId, beforeId }) => ({ own: byId.get(contentId ?? 0), before: byId.get(beforeId ?? 0) });
}

function titleOf(content: RecordContent | undefined, cells: readonly string[], { home }: Dictionary): string | null {
  const values = content?.values ?? {};
  const title = values[`title@${home}`] ?? Object.entries(values).find(([slot]) => slot.startsWith('title@'))?.[1];
  if (typeof title === 'string') return title;
  const filled = cells.filter((cell) => cell !== '').slice(0, 3);
  return filled.join(' · ').slice(0, 120) || null;
}

/** Which products these rows belong to, or would join by an exact key. */
async function findJoins(
  db: Executor,
  supplierId: number,
  shown: RowRecord[],
  contentsOf: (row: RowRecord) => RowContents,
) {
  const asked = shown.map((row) => ({
    row: row.row,
    key: row.recordKey,
    // Once a new row is applied its own record says less of why it joins than the keys it shares.
    place: row.outcome === 'created' ? 9 : 0,
    keys: contentsOf(row).own?.keys ?? {},
  }));
  const found = await rows<{ row: number; product: number; sku: string | null; title: string | null; by: string }>(
    db,
    sql`WITH t AS (SELECT * FROM jsonb_to_recordset(${json(asked)}) AS t(row int, key text, place int, keys jsonb)),
        hits AS (
          SELECT t.row, r.product_id AS product, 'article number' AS by, t.place FROM t JOIN record r ON r.supplier_id = ${supplierId} AND r.key = t.key WHERE r.product_id IS NOT NULL
          UNION ALL
          SELECT t.row, r.product_id, CASE k.key WHEN 'gtin' THEN 'GTIN' WHEN 'mpn' THEN 'brand + MPN' ELSE 'their article number' END,
            CASE k.key WHEN 'gtin' THEN 1 WHEN 'mpn' THEN 2 ELSE 3 END
          FROM t, jsonb_each_text(t.keys) k JOIN record_key o ON o.kind = k.key AND o.key = k.value JOIN record r ON r.id = o.record_id
          WHERE r.supplier_id <> ${supplierId} AND r.product_id IS NOT NULL
            AND (SELECT count(*) FROM record_key o2 JOIN record r2 ON r2.id = o2.record_id WHERE o2.kind = o.kind AND o2.key = o.key AND r2.supplier_id = r.supplier_id) = 1)
        SELECT DISTINCT ON (h.row) h.row, h.product, p.sku, p.title, h.by FROM hits h JOIN product p ON p.id = h.product ORDER BY h.row, h.place`,
  );
  return new Map(found.map(({ row, product, sku, title, by }) => [row, { productId: product, sku, title, by }]));
}

function sayFieldName(field: string, attributes: ReadonlyMap<string, Attribute>): string {
  const [key, language] = splitSlot(field);
  const label = attributes.get(key)?.label ?? field.charAt(0).toUpperCase() + field.slice(1);
  return language ? `${label}, ${language}` : label;
}

function sayChange(field: string, value: Value | undefined, attributes: ReadonlyMap<string, Attribute>): string | null {
  if (value === undefined) return null;
  const attribute = attributes.get(splitSlot(field)[0]);
  const text = attribute ? formatValue(value, attribute, 'en-GB') : String(value);
  return attribute?.type === 'richText' ? plainText(text).slice(0, 300) : text.slice(0, 300);
}

/** Rows whose records say something else than they did at the dry run. */
export async function countOutdated(
  tx: Executor,
  { id, supplierId }: { id: number; supplierId: number },
): Promise<number> {
  const found = await one<{ n: number }>(
    tx,
    sql`SELECT (SELECT count(*) FROM batch_row b LEFT JOIN record r ON r.id = b.record_id
                WHERE b.batch_id = ${id} AND b.outcome IN ('changed', 'unchanged') AND b.edits IS NULL AND b.before_id IS DISTINCT FROM r.content_id)
             + (SELECT count(*) FROM batch_row b JOIN record r ON r.supplier_id = ${supplierId} AND r.key = b.record_key
                WHERE b.batch_id = ${id} AND b.outcome = 'created' AND b.edits IS NULL AND b.before_id IS DISTINCT FROM r.content_id) AS n`,
  );
  return Number(found?.n ?? 0);
}

/** Picks rows out, or takes them in again; answers how many. Refused rows are never applied anyway. */
export async function leaveOut(
  { db }: Services,
  id: number,
  wish: RowFilter & { leftOut: boolean; rows?: number[] | undefined },
): Promise<number> {
  const which = wish.rows
    ? sql`batch_id = ${id} AND row = ANY(ARRAY(SELECT jsonb_array_elements_text(${json(wish.rows)})::int))`
    : filterSql(id, wish);
  return db.transaction(async (tx) => {
    await mustBeTried(tx, id);
    const done = await rows(
      tx,
      sql`UPDATE batch_row SET left_out = ${wish.leftOut} WHERE ${which} AND outcome <> 'refused' AND left_out <> ${wish.leftOut} RETURNING 1`,
    );
    return done.length;
  });
}

async function mustBeTried(tx: Executor, id: number): Promise<void> {
  const found = await one<{ state: string }>(tx, sql`SELECT state FROM batch WHERE id = ${id} FOR UPDATE`);
  if (!found) throw notFound(`batch ${id}`);
  if (found.state !== 'tried')
    throw conflict(`This batch is ${found.state}; only a batch that was tried can be picked from`);
}

/** Corrects cells of one row; it is judged again at once, and the batch's counts follow. */
export async function fixRow(
  services: Services,
  tried: Tried,
  row: number,
  cells: Record<string, string>,
): Promise<BatchRowAnswer> {
  const { db } = services;
  await onClient(db, async (on) => {
    const { tx } = on;
    await mustBeTried(tx, tried.id);
    const [held] = await tx
      .select()
      .from(batchRow)
      .where(and(eq(batchRow.batchId, tried.id), eq(batchRow.row, row)));
    if (!held) throw notFound(`row ${row} of this batch`);
    await tx.execute(sql`
      INSERT INTO batch_fix (batch_id, row, cells) VALUES (${tried.id}, ${row}, ${json(cells)})
      ON CONFLICT (batch_id, row) DO UPDATE SET cells = batch_fix.cells || excluded.cells`);
    const { look, judge } = await compileJudge(tx, tried, await loadDictionary(tx));
    const fixed = withFix(
      { row, place: held.place ?? undefined, cells: await cellsOf(tx, held) },
      tried.columns,
      cells,
    );
    const [judged] = await judge(await look([fixed]));
    if (!judged) return;
    const twin = await one<{ row: number }>(
      tx,
      sql`SELECT row FROM batch_row WHERE batch_id = ${tried.id} AND row <> ${row} AND outcome <> 'refused' AND record_key = ${judged.recordKey} LIMIT 1`,
    );
    const final =
      twin && judged.outcome !== 'refused'
        ? refused(judged.key ?? undefined, [
            `Article number ${judged.key} stands on row ${twin.row} too; the first one counts`,
          ])
        : judged;
    await dropRows(tx, tried.id, row);
    await writeJudged(on, tried.id, [fixed], [final]);
    await tx.execute(
      sql`UPDATE batch_row SET left_out = ${held.leftOut && final.outcome !== 'refused'} WHERE batch_id = ${tried.id} AND row = ${row}`,
    );
    await recount(tx, tried.id);
  });
  const [after] = await db
    .select()
    .from(batchRow)
    .where(and(eq(batchRow.batchId, tried.id), eq(batchRow.row, row)));
  const [answer] = after ? await sayRows(db, tried.id, [after]) : [];
  if (!answer) throw notFound(`row ${row} of this batch`);
  return answer;
}

/** The cells of a row as it stands in the dry run. */
async function cellsOf(on: Executor, { cells, contentId, beforeId }: RowRecord): Promise<string[]> {
  if (cells) return cells;
  const held = await one<{ cells: string[] }>(
    on,
    sql`SELECT cells FROM record_content WHERE id = ${contentId ?? beforeId}`,
  );
  return held?.cells ?? [];
}

/** Counts the outcomes of a batch's rows anew. */
export async function recount(tx: Executor, id: number): Promise<void> {
  const counted = await rows<{ outcome: keyof BatchCounts; n: number; lost: number }>(
    tx,
    sql`SELECT outcome, count(*) AS n, sum((SELECT count(*) FROM jsonb_array_elements(coalesce(notes, '[]')) x WHERE (x ->> 'lost')::boolean)) AS lost
        FROM batch_row WHERE batch_id = ${id} GROUP BY 1`,
  );
  const counts = Object.fromEntries(
    (['created', 'changed', 'unchanged', 'refused'] as const).map((outcome) => [
      outcome,
      counted.find((one_) => one_.outcome === outcome)?.n ?? 0,
    ]),
  );
  const lostCells = counted.reduce((sum, one_) => sum + Number(one_.lost), 0);
  await tx
    .update(batch)
    .set({ counts: sql`counts || ${json({ ...counts, lostCells })}` })
    .where(eq(batch.id, id));
}

/** The refused rows as a table with the reason before the file's own columns. */
export async function refusedRows(
  { db }: Services,
  id: number,
): Promise<{ name: string; columns: string[]; rows: { place: string; reasons: string[]; cells: string[] }[] }> {
  const [found] = await db.select().from(batch).where(eq(batch.id, id));
  if (!found) throw notFound(`batch ${id}`);
  const refused = await db
    .select({ row: batchRow.row, place: batchRow.place, reasons: batchRow.reasons, cells: batchRow.cells })
    .from(batchRow)
    .where(and(eq(batchRow.batchId, id), eq(batchRow.outcome, 'refused')))
    .orderBy(batchRow.row);
  return {
    name: found.fileName,
    columns: found.columns,
    rows: refused.map(({ row, place, reasons, cells }) => ({
      place: place ?? String(row),
      reasons: reasons ?? [],
      cells: cells ?? [],
    })),
  };
}
