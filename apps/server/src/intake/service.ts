/** Batches: received, read, mapped, tried, applied, undone. */
import { createHash } from 'node:crypto';
import type { BatchAnswer, BatchRowAnswer, BatchSummary } from '@velvet-shelf/contract';
import {
  type ColumnMap,
  type RecordContent,
  compileRowReader,
  contentChanges,
  contentOf,
  mappingFaults,
  suggestColumns,
} from '@velvet-shelf/core/intake';
import { type Attribute, type Value, foldText, formatValue, plainText } from '@velvet-shelf/core/values';
import { splitSlot } from '@velvet-shelf/core/claims';
import { and, eq, sql } from 'drizzle-orm';
import { loadDictionary } from '../catalog/dictionary.js';
import { type Executor, iso, json, one, rows } from '../db/client.js';
import { type BatchCounts, type Reading, batch, batchRow, columnMap, supplier } from '../db/schema/index.js';
import { badRequest, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { recordAction } from '../history/record.js';
import { createJob, runJob } from '../jobs/run.js';
import { drain } from '../listings/evaluate.js';
import { undoBatch } from './apply.js';
import { type ReceivedFile, detectFile, readHead } from './file.js';
import { tryBatch } from './try.js';

type BatchRow = typeof batch.$inferSelect;

/** Takes a file in: looks at it, suggests columns. `supplierId` may be left to the file's name and header. */
export async function readBatch({ db }: Services, file: ReceivedFile): Promise<number> {
  const detected = await detectFile(file);
  const reading: Reading = {
    encoding: detected.encoding.value,
    delimiter: detected.delimiter.value,
    headerRow: detected.headerRow.value,
    decimal: detected.decimal.value,
    dateOrder: detected.dateOrder.value,
  };
  const { columns, sample } = await readHead(file.path, reading, 200);
  if (columns.length < 2 || sample.length === 0)
    throw badRequest(
      `“${file.name}” holds no table: ${columns.length < 2 ? 'no separator gives more than one column' : 'there are no rows below the header'}. Nothing was changed.`,
    );
  const supplierId = Number(file.fields.supplier) || (await guessSupplier(db, file.name, columns));
  const suggestions = await suggest(
    db,
    supplierId,
    columns,
    sample.map((row) => row.cells),
  );
  const [made] = await db
    .insert(batch)
    .values({
      supplierId,
      fileName: file.name,
      bytes: file.bytes,
      sha256: file.sha256,
      path: file.path,
      detected,
      reading,
      columns,
      suggestions,
      map: suggestions.map(({ column, target }) => ({ column, target })),
      state: 'read',
    })
    .returning({ id: batch.id });
  return made?.id ?? 0;
}

/** The supplier whose earlier header this is, or whose name the file bears; else the first. */
async function guessSupplier(db: Executor, fileName: string, columns: string[]): Promise<number> {
  const known = await one<{ id: number }>(
    db,
    sql`SELECT supplier_id AS id FROM column_map WHERE signature = ${signature(columns)} ORDER BY at DESC LIMIT 1`,
  );
  if (known) return known.id;
  const listed = await db.select().from(supplier).orderBy(supplier.rank);
  const name = foldText(fileName);
  const named = listed.find((one_) =>
    one_.name.split(' ').some((word) => word.length > 3 && name.includes(foldText(word)) && one_.kind === 'supplier'),
  );
  const own = listed.find((one_) => one_.kind === 'own' && (name.includes('own') || name.includes(one_.key)));
  const found = named ?? own ?? listed[0];
  if (!found) throw conflict('There is no supplier yet; add one first');
  return found.id;
}

const signature = (columns: readonly string[]) =>
  createHash('sha256').update(columns.map(foldText).join('\u0001')).digest('base64url');

async function suggest(db: Executor, supplierId: number, columns: string[], sample: string[][]) {
  const dictionary = await loadDictionary(db);
  const [from] = await db.select().from(supplier).where(eq(supplier.id, supplierId));
  const remembered = await db
    .select()
    .from(columnMap)
    .where(eq(columnMap.supplierId, supplierId))
    .orderBy(sql`(signature = ${signature(columns)}) DESC, at DESC`)
    .limit(1);
  return suggestColumns(columns, sample, dictionary.attributes, remembered[0]?.map, from?.language ?? dictionary.home);
}

async function getBatch(db: Executor, id: number): Promise<BatchRow> {
  const [found] = await db.select().from(batch).where(eq(batch.id, id));
  if (!found) throw notFound(`batch ${id}`);
  return found;
}

const open = new Set(['read', 'tried']);

/** Corrects how a batch is read; columns are suggested anew where the header or the supplier is another. */
export async function correctBatch(
  { db }: Services,
  id: number,
  change: { supplierId?: number | undefined; reading?: Reading | undefined; map?: ColumnMap | undefined },
): Promise<void> {
  const found = await getBatch(db, id);
  if (!open.has(found.state)) throw conflict(`This batch is ${found.state}; how it is read can no longer be changed`);
  const reading = change.reading ?? found.reading;
  const supplierId = change.supplierId ?? found.supplierId;
  const { columns, sample } = await readHead(found.path, reading, 200);
  const others = columns.join('\u0001') !== found.columns.join('\u0001') || supplierId !== found.supplierId;
  const suggestions = others
    ? await suggest(
        db,
        supplierId,
        columns,
        sample.map((row) => row.cells),
      )
    : found.suggestions;
  const map = change.map ?? (others ? suggestions.map(({ column, target }) => ({ column, target })) : found.map);
  const strangers = map.filter(({ column }) => !columns.includes(column));
  if (strangers.length > 0) throw badRequest(`The file has no column “${strangers[0]?.column}”`);
  await db
    .update(batch)
    .set({ reading, supplierId, columns, suggestions, map, state: 'read', counts: null })
    .where(eq(batch.id, id));
}

export async function dryRun({ db }: Services, id: number): Promise<void> {
  const found = await getBatch(db, id);
  if (!open.has(found.state)) throw conflict(`This batch is ${found.state} already`);
  const faults = mappingFaults(found.map);
  if (faults.length > 0) throw badRequest(faults.join('. '));
  const [from] = await db.select().from(supplier).where(eq(supplier.id, found.supplierId));
  if (!from) throw notFound('supplier');
  const counts = await tryBatch(db, { ...found, supplier: from });
  await db.update(batch).set({ state: 'tried', counts }).where(eq(batch.id, id));
}

/** Applies as tried. Small batches are done when this returns; large ones go on as a job. */
export async function applyTried(services: Services, id: number, user: User): Promise<void> {
  const { db } = services;
  const jobId = await db.transaction(async (tx) => {
    const found = await one<{
      state: string;
      counts: BatchCounts;
      file_name: string;
      supplier_id: number;
      columns: string[];
      map: ColumnMap;
    }>(tx, sql`SELECT state, counts, file_name, supplier_id, columns, map FROM batch WHERE id = ${id} FOR UPDATE`);
    if (!found) throw notFound(`batch ${id}`);
    if (found.state !== 'tried')
      throw conflict(
        found.state === 'read'
          ? 'Try the batch first, so that you see what it would do'
          : `This batch is ${found.state} already`,
      );
    const newer = await one<{ n: number }>(
      tx,
      sql`
      SELECT count(*) AS n FROM batch_row b JOIN batch t ON t.id = b.batch_id LEFT JOIN record r ON r.supplier_id = t.supplier_id AND r.key = b.record_key
      WHERE b.batch_id = ${id} AND b.outcome <> 'refused' AND b.before_id IS DISTINCT FROM r.content_id`,
    );
    if ((newer?.n ?? 0) > 0)
      throw conflict(`Another batch has changed ${newer?.n} of these rows since the dry run. Try this one again.`);
    const words = `Applied ${found.file_name}: ${found.counts.created} created, ${found.counts.changed} changed`;
    const action = await recordAction(tx, { actor: user.id, kind: 'apply-batch', words }, [
      { kind: 'batch', id, delta: { state: ['tried', 'applied'] } },
    ]);
    await tx.execute(sql`UPDATE batch SET state = 'applying', action_id = ${action} WHERE id = ${id}`);
    await tx
      .insert(columnMap)
      .values({ supplierId: found.supplier_id, signature: signature(found.columns), map: found.map })
      .onConflictDoUpdate({
        target: [columnMap.supplierId, columnMap.signature],
        set: { map: found.map, at: sql`now()` },
      });
    return createJob(tx, {
      kind: 'apply-batch',
      label: `Applying ${found.file_name}`,
      input: { batch: id, action, started: new Date().toISOString() },
      actor: user.id,
    });
  });
  const counts = (await getBatch(db, id)).counts;
  const running = runJob(services, jobId)
    .then(() => drain(db, services.config.address, 500))
    .finally(() => services.notify('catalog'));
  if ((counts?.created ?? 0) + (counts?.changed ?? 0) <= 5000) await running;
  else running.catch(() => undefined);
}

export async function undoApplied(services: Services, id: number, user: User): Promise<string[]> {
  const { db } = services;
  const found = await getBatch(db, id);
  if (found.state !== 'applied')
    throw conflict(found.state === 'undone' ? 'This batch is undone already' : 'Only an applied batch can be undone');
  const action = await recordAction(db, { actor: user.id, kind: 'undo-batch', words: `Undid ${found.fileName}` }, [
    { kind: 'batch', id, delta: { state: ['applied', 'undone'] } },
  ]);
  const left = await undoBatch(db, id, action);
  await db.execute(sql`UPDATE action SET undone_by = ${action} WHERE id = ${found.actionId}`);
  await drain(db, services.config.address, 500);
  services.notify('catalog');
  return left;
}

const summaryColumns = sql`b.id, b.supplier_id AS "supplierId", s.name AS supplier, b.file_name AS "fileName", b.bytes, b.state, b.counts, b.error,
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

export async function showBatch({ db }: Services, id: number): Promise<BatchAnswer> {
  const summary = await one<BatchSummary>(db, sql`SELECT ${summaryColumns} WHERE b.id = ${id}`);
  const found = await getBatch(db, id);
  if (!summary) throw notFound(`batch ${id}`);
  const { attributes } = await loadDictionary(db);
  const { sample: head } = await readHead(found.path, found.reading, 2000);
  const sample = head.slice(0, 20);
  const read = compileRowReader({
    columns: found.columns,
    map: found.map,
    style: found.reading,
    dictionary: attributes,
  });
  const targets = new Map(found.map.map(({ column, target }) => [column, target]));
  return {
    ...toSummary(summary),
    detected: found.detected,
    reading: found.reading as BatchAnswer['reading'],
    columns: found.columns,
    suggestions: found.suggestions,
    map: found.map,
    mapFaults: mappingFaults(found.map),
    closedLists: closedLists(
      found,
      head.map((row) => row.cells),
      attributes,
    ),
    sample: sample.map(({ row, cells }) => {
      const result = read(cells);
      if (result.outcome === 'refused') return { row, cells, becomes: [], refused: result.reasons };
      const content = contentOf(result);
      return {
        row,
        cells,
        refused: [],
        becomes: found.columns.map((column) => {
          const note = result.notes.find((one_) => one_.column === column);
          const target = targets.get(column);
          const text =
            target?.to === 'attribute'
              ? sayField(
                  target.language ? `${target.attribute}@${target.language}` : target.attribute,
                  content,
                  attributes,
                )
              : '';
          return { text, note: note?.note ?? null, lost: note?.lost ?? false };
        }),
      };
    }),
  };
}

/** The distinct values of columns that fill a closed list, so that each can be given one of ours. */
function closedLists(
  found: BatchRow,
  cells: string[][],
  attributes: ReadonlyMap<string, Attribute>,
): BatchAnswer['closedLists'] {
  return found.map.flatMap(({ column, target }) => {
    const attribute = target.to === 'attribute' ? attributes.get(target.attribute) : undefined;
    if (target.to !== 'attribute' || !attribute?.choices) return [];
    const at = found.columns.indexOf(column);
    const counts = new Map<string, number>();
    for (const row of cells)
      if (row.length === found.columns.length && (row[at] ?? '').trim() !== '' && row[at] !== column)
        counts.set((row[at] ?? '').trim(), (counts.get((row[at] ?? '').trim()) ?? 0) + 1);
    const table = new Map(Object.entries(target.values ?? {}).map(([from, to]) => [foldText(from), to]));
    const becomes = (value: string) => {
      const ours = table.get(foldText(value)) ?? value;
      return attribute.choices?.find((choice) => foldText(choice) === foldText(ours)) ?? null;
    };
    const values = [...counts]
      .sort((a, b) => b[1] - a[1])
      .slice(0, 200)
      .map(([value, rows_]) => ({ value, rows: rows_, becomes: becomes(value) }));
    return [{ column, choices: attribute.choices, values }];
  });
}

function sayField(slot: string, content: RecordContent, attributes: ReadonlyMap<string, Attribute>): string {
  const value = content.values[slot];
  const attribute = attributes.get(splitSlot(slot)[0]);
  return value === undefined || !attribute ? '' : formatValue(value, attribute, 'en-GB');
}

export async function listRows(
  { db }: Services,
  id: number,
  query: { outcome?: string | undefined; search?: string | undefined; cursor?: string | undefined; limit: number },
) {
  const { attributes } = await loadDictionary(db);
  const { supplierId } = await getBatch(db, id);
  const filters = [eq(batchRow.batchId, id)];
  if (query.outcome === 'noted') filters.push(sql`notes IS NOT NULL`);
  else if (query.outcome) filters.push(sql`outcome = ${query.outcome}`);
  if (query.search) filters.push(sql`(key ILIKE ${`%${query.search}%`} OR cells::text ILIKE ${`%${query.search}%`})`);
  if (query.cursor) filters.push(sql`row > ${Number(query.cursor)}`);
  const found = await db
    .select()
    .from(batchRow)
    .where(and(...filters))
    .orderBy(batchRow.row)
    .limit(query.limit + 1);
  const shown = found.slice(0, query.limit);
  const before = await rows<{ id: number; content: RecordContent }>(
    db,
    sql`SELECT id, content FROM record_content WHERE id IN (SELECT jsonb_array_elements_text(${json(shown.flatMap((row) => row.beforeId ?? []))})::bigint)`,
  );
  const contents = new Map(before.map((one_) => [one_.id, one_.content]));
  const joins = await findJoins(db, supplierId, shown);
  const items = shown.map((row): BatchRowAnswer => {
    const changes = row.content
      ? contentChanges(row.beforeId === null ? undefined : contents.get(row.beforeId), row.content)
      : [];
    const title = Object.entries(row.content?.values ?? {}).find(([slot]) => slot.startsWith('title@'))?.[1];
    return {
      row: row.row,
      outcome: row.outcome,
      key: row.key,
      title:
        typeof title === 'string'
          ? title
          : row.cells
              .filter((cell) => cell !== '')
              .slice(0, 3)
              .join(' · ')
              .slice(0, 120) || null,
      reasons: row.reasons ?? [],
      notes: row.notes ?? [],
      changes: changes.map(({ field, before: was, after }) => ({
        field: sayFieldName(field, attributes),
        before: sayChange(field, was, attributes),
        after: sayChange(field, after, attributes),
      })),
      joins: joins.get(row.row) ?? null,
    };
  });
  return { items, next: found.length > query.limit ? String(items.at(-1)?.row) : null };
}

/** Which products these rows belong to, or would join by an exact key. */
async function findJoins(
  db: Executor,
  supplierId: number,
  shown: { row: number; recordKey: string | null; keys: Record<string, string> | null }[],
) {
  const found = await rows<{ row: number; product: number; sku: string | null; title: string | null; by: string }>(
    db,
    sql`WITH t AS (SELECT * FROM jsonb_to_recordset(${json(shown.map(({ row, recordKey, keys }) => ({ row, key: recordKey, keys: keys ?? {} })))}) AS t(row int, key text, keys jsonb)),
        hits AS (
          SELECT t.row, r.product_id AS product, 'article number' AS by, 0 AS place FROM t JOIN record r ON r.supplier_id = ${supplierId} AND r.key = t.key WHERE r.product_id IS NOT NULL
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
  const label = attributes.get(key)?.label ?? field;
  return language ? `${label}, ${language}` : label;
}

function sayChange(field: string, value: Value | undefined, attributes: ReadonlyMap<string, Attribute>): string | null {
  if (value === undefined) return null;
  const attribute = attributes.get(splitSlot(field)[0]);
  const text = attribute ? formatValue(value, attribute, 'en-GB') : String(value);
  return attribute?.type === 'richText' ? plainText(text).slice(0, 300) : text.slice(0, 300);
}

/** The refused rows as a CSV file with the reason in a column of its own. */
export async function refusedFile(
  { db }: Services,
  id: number,
): Promise<{ name: string; columns: string[]; rows: { row: number; reasons: string[] | null; cells: string[] }[] }> {
  const found = await getBatch(db, id);
  const refused = await db
    .select({ row: batchRow.row, reasons: batchRow.reasons, cells: batchRow.cells })
    .from(batchRow)
    .where(and(eq(batchRow.batchId, id), eq(batchRow.outcome, 'refused')))
    .orderBy(batchRow.row);
  return { name: found.fileName, columns: found.columns, rows: refused };
}
