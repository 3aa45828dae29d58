/** Our own grid's export brought back: cells that differ become a person's edits; columns and rows not there say nothing. */
import type { ColumnMap } from '@velvet-shelf/core/intake';
import { type FileRow, spreadsheetPlain } from '@velvet-shelf/core/tabular';
import { type Attribute, parseDecimal, plainStyle, sameValue, keyOf, readTyped } from '@velvet-shelf/core/values';
import { sql, eq, and } from 'drizzle-orm';
import { type KeptClaim, keptClaim, undoEdit, writeClaim } from '../../catalog/edit.js';
import { type Dictionary, loadDictionary } from '../../dictionary/dictionary.js';
import { type ExportColumn, type Exported, cellOf, columnByKey, idColumn, loadExported } from '../../catalog/export.js';
import { resolveUnits } from '../../catalog/resolve.js';
import { onClient, queryRows, type Database, type Executor, first, isIn } from '../../db/client.js';
import { copyIn, copyLine } from '../../db/copy.js';
import type { BatchCounts, RowEdit, batch } from '../../db/schema/index.js';
import { type Change, addChanges } from '../../history/record.js';
import { markDirty } from '../../history/dirty.js';
import { bookMovements, findWarehouse } from '../../stock/ledger.js';
import { refreshOffers } from '../../prices/columns.js';
import { undoOffers } from '../../stock/offers.js';
import { rowsApart } from '../read/process.js';
import { emptyCounts } from '../try/counts.js';
import { setPrices } from '../../prices/prices.js';
import * as tables from '../../db/schema/index.js';
import { unitsOf } from '../../catalog/units.js';

type BatchRecord = typeof batch.$inferSelect;

export const isExport = (columns: readonly string[]) => columns.includes(idColumn);

/** Our own columns are known by their keys; others are ignored. */
export async function roundTripMap(db: Executor, columns: readonly string[]): Promise<ColumnMap> {
  const dictionary = await loadDictionary(db);
  return columns.map((column) => {
    const known = columnByKey(column, dictionary);
    return {
      column,
      target:
        known?.kind === 'attribute'
          ? { to: 'attribute', attribute: known.attribute, ...(known.language ? { language: known.language } : {}) }
          : { to: 'ignore' },
    };
  });
}

interface Judged {
  outcome: 'created' | 'changed' | 'unchanged' | 'refused';
  key: string | null;
  productId: number | null;
  reasons: string[];
  edits: RowEdit[];
}

const chunkRows = 1000;

export async function tryRoundTrip(
  db: Database,
  found: BatchRecord,
  onRows: (done: number) => Promise<void>,
): Promise<BatchCounts> {
  const dictionary = await loadDictionary(db);
  const columns = found.columns.map((name) => columnByKey(name, dictionary));
  const counts = emptyCounts();
  const seen = new Set<number>();
  const idAt = found.columns.indexOf(idColumn);
  const judge = async (chunk: readonly FileRow[]): Promise<string[]> => {
    const wanted = chunk.map((row) => Number(row.cells[idAt]));
    const products = await loadCurrent(
      db,
      wanted.filter((id) => Number.isSafeInteger(id) && id > 0),
    );
    return chunk.map((row) => {
      const { outcome, key, productId, reasons, edits } = judgeRow(row, found, columns, products, seen, dictionary);
      counts[outcome]++;
      return copyLine([
        ...[found.id, row.row, row.place, row.cells, outcome, key, productId],
        ...[reasons.length > 0 ? reasons : null, edits.length > 0 ? edits : null],
      ]);
    });
  };
  await onClient(db, async ({ client }) => {
    await client.query('DELETE FROM batch_row WHERE batch_id = $1', [found.id]);
    let chunk: FileRow[] = [];
    let done = 0;
    const settle = async () => {
      await copyIn(client, 'batch_row', rowColumns, await judge(chunk));
      done += chunk.length;
      chunk = [];
      await onRows(done);
    };
    for await (const part of rowsApart(found.path, found.reading, found.columns)) {
      chunk.push(...part);
      if (chunk.length >= chunkRows) await settle();
    }
    await settle();
  });
  return counts;
}

const rowColumns = ['batch_id', 'row', 'place', 'cells', 'outcome', 'key', 'product_id', 'reasons', 'edits'];

/** Products by the id a file names; one that was joined to another since answers as that other. */
async function loadCurrent(db: Executor, wanted: number[]): Promise<Map<number, Exported>> {
  const moved = await db
    .select({ id: tables.product.id, now: sql<number>`coalesce(${tables.product.mergedInto}, ${tables.product.id})` })
    .from(tables.product)
    .where(isIn(tables.product.id, wanted));
  const products = await loadExported(
    db,
    moved.map((product) => product.now),
  );
  return new Map(
    moved.flatMap(({ id, now }) => (products.has(now) ? [[id, products.get(now) as Exported] as const] : [])),
  );
}

function judgeRow(
  row: FileRow,
  { columns: names, makesNew }: BatchRecord,
  columns: readonly (ExportColumn | undefined)[],
  products: ReadonlyMap<number, Exported>,
  seen: Set<number>,
  dictionary: Dictionary,
): Judged {
  const text = (i: number) => spreadsheetPlain((row.cells[i] ?? '').replaceAll('\r\n', '\n')).trim();
  const skuAt = names.indexOf(keyOf(dictionary.attributes, 'sku') ?? '');
  const key = skuAt < 0 ? null : text(skuAt) || null;
  const no = (...reasons: string[]): Judged => ({ outcome: 'refused', key, productId: null, reasons, edits: [] });
  if (row.broken) return no(row.broken);
  if (row.cells.every((cell) => cell.trim() === '')) return no('The row is empty');
  if (row.cells.length !== names.length)
    return no(`The row has ${row.cells.length} columns, the header ${names.length}`);
  const idText = text(names.indexOf(idColumn));
  const id = Number(idText);
  if (idText !== '' && !products.has(id))
    return no(`There is no product with the ${idColumn} “${idText}”; leave the cell empty to make a new one`);
  const product = idText === '' ? undefined : products.get(id);
  if (!product && !makesNew)
    return no(
      `This row has no ${idColumn}: it would make a new product. Allow new products on the first tab, then try again`,
    );
  if (!product && !key) return no('A new product needs a SKU');
  if (product) {
    if (seen.has(product.id))
      return no(`Product ${product.id} stands on an earlier row of this file; the first one counts`);
    seen.add(product.id);
  }
  const edits: RowEdit[] = [];
  const faults: string[] = [];
  columns.forEach((column, i) => {
    if (!column || column.kind === 'id' || column.kind === 'computed') return;
    const [before, after] = [
      product ? cellOf(product, column, dictionary).replaceAll('\r\n', '\n').trim() : '',
      text(i),
    ];
    if (before === after) return;
    const compared = compare(column, before, after, dictionary);
    if (compared === 'same') return;
    if (compared !== 'other') faults.push(`“${column.key}”: ${compared.reason}`);
    else edits.push(editOf(column, before, after));
  });
  if (faults.length > 0) return no(...faults);
  const outcome = !product ? 'created' : edits.length > 0 ? 'changed' : 'unchanged';
  return {
    outcome,
    key: key ?? (product ? String(product.id) : null),
    productId: product?.id ?? null,
    reasons: [],
    edits,
  };
}

/** Equal as goods data ("14.5" and "14.50"), another value, or no value at all. */
function compare(
  column: ExportColumn,
  before: string,
  after: string,
  dictionary: Dictionary,
): 'same' | 'other' | { reason: string } {
  if (column.kind === 'attribute') {
    const attribute = dictionary.attributes.get(column.attribute) as Attribute;
    const now = readTyped(after, attribute);
    if ('reason' in now) return now;
    if (before === '' || after === '') return 'other';
    const was = readTyped(before, attribute);
    return 'claim' in was && 'value' in was.claim && 'value' in now.claim && sameValue(was.claim.value, now.claim.value)
      ? 'same'
      : 'other';
  }
  if (after === '') return column.kind === 'stock' ? { reason: 'stock cannot be empty; write 0' } : 'other';
  const figure = parseDecimal(after, plainStyle);
  const fits = figure.ok && (column.kind === 'stock' ? /^-?\d+$/ : /^\d+(\.\d{1,4})?$/).test(figure.value);
  if (!fits)
    return {
      reason:
        column.kind === 'stock'
          ? `“${after}” is not a whole number of pieces`
          : `“${after}” is not a price; write 12.50`,
    };
  return before !== '' && Number(before) === Number(figure.value) ? 'same' : 'other';
}

function editOf(column: Exclude<ExportColumn, { kind: 'id' | 'computed' }>, before: string, after: string): RowEdit {
  const say = (text: string) => (text === '' ? null : text);
  if (column.kind === 'attribute')
    return { attribute: column.attribute, language: column.language, before: say(before), after: say(after) };
  return { attribute: column.key, language: null, before: say(before), after: say(after) };
}

export interface ApplyingExport {
  batchId: number;
  actionId: number;
  dictionary: Dictionary;
  actor: number;
}

/** Writes the edits of some rows as claims of the person who brought the file back. */
export async function applyExportRows(
  tx: Executor,
  applying: ApplyingExport,
  after: number,
  last: number,
): Promise<void> {
  const { batchId, actionId, dictionary } = applying;
  const part = sql`batch_id = ${batchId} AND row > ${after} AND row <= ${last} AND NOT left_out`;
  await tx.execute(sql`
    WITH fresh AS (SELECT row, nextval('product_id_seq') AS id FROM batch_row WHERE ${part} AND outcome = 'created'),
      made AS (INSERT INTO product (id, kind, unit_id) OVERRIDING SYSTEM VALUE SELECT id, 'single', id FROM fresh)
    UPDATE batch_row b SET product_id = fresh.id FROM fresh WHERE b.batch_id = ${batchId} AND b.row = fresh.row`);
  const batchRows = await queryRows<{ product: number; edits: RowEdit[] }>(
    tx,
    sql`SELECT product_id AS product, edits FROM batch_row WHERE ${part} AND outcome IN ('created', 'changed') ORDER BY row`,
  );
  const changes = new Map<number, Record<string, unknown[]>>();
  for (const { product, edits } of batchRows) {
    const delta: Record<string, unknown[]> = {};
    for (const edit of edits) Object.assign(delta, await writeEdit(tx, product, edit, applying));
    changes.set(product, delta);
  }
  const products = [...changes.keys()];
  await refreshOffers(tx, products);
  const units = await unitsOf(tx, products);
  const resolved = await resolveUnits(tx, units, dictionary);
  const merged = new Map<number, Change>(
    products.map((id) => [id, { kind: 'product', id, delta: changes.get(id) ?? {} }]),
  );
  for (const change of resolved) {
    const known = merged.get(change.id);
    merged.set(change.id, known ? { ...change, delta: { ...change.delta, ...known.delta } } : change);
  }
  await addChanges(tx, actionId, [...merged.values()]);
  await markDirty(tx, units);
}

async function writeEdit(
  tx: Executor,
  product: number,
  edit: RowEdit,
  { actor, batchId, actionId, dictionary }: ApplyingExport,
): Promise<Record<string, unknown[]>> {
  const attribute = dictionary.attributes.get(edit.attribute);
  const attributeId = attribute && dictionary.ids.get(attribute.key);
  if (attribute && attributeId !== undefined) {
    const language = edit.language ?? '';
    const read = readTyped(edit.after, attribute);
    if ('reason' in read) return {};
    const before = await keptClaim(tx, product, attributeId, language);
    await writeClaim(tx, product, attributeId, language, read.claim satisfies KeptClaim, actor);
    return { [`#${language === '' ? attribute.key : `${attribute.key}@${language}`}`]: [before, read.claim] };
  }
  if (edit.attribute === 'stock') return writeStock(tx, product, Number(edit.after), { batchId, actionId });
  const [, sale, currency = ''] = /^(sale )?price ([A-Z]{3})$/.exec(edit.attribute) ?? [];
  const kind = sale ? 'sale' : 'regular';
  const figure = edit.after === null ? null : parseDecimal(edit.after, plainStyle);
  if (figure && !figure.ok) return {};
  const changes = await setPrices(tx, [{ product, currency, kind, amount: figure?.value ?? null }]);
  return Object.fromEntries(changes.map(({ field, before, after }) => [field, [before, after]]));
}

async function writeStock(
  tx: Executor,
  product: number,
  figure: number,
  source: { batchId: number; actionId: number },
): Promise<Record<string, unknown[]>> {
  const warehouse = await findWarehouse(tx);
  if (warehouse === undefined) return {};
  const was = await first(
    tx
      .select({ n: sql<number>`coalesce(sum(${tables.stockLevel.onHand}), 0)` })
      .from(tables.stockLevel)
      .innerJoin(
        tables.warehouse,
        and(eq(tables.warehouse.id, tables.stockLevel.warehouseId), eq(tables.warehouse.kind, 'own')),
      )
      .where(eq(tables.stockLevel.productId, product)),
  );
  const before = Number(was?.n ?? 0);
  await bookMovements(tx, [{ product, delta: figure - before }], { reason: 'count', warehouse, ...source });
  return { stock: [before, figure] };
}

/** Takes the edits back where nobody has changed them since; new products that nothing else speaks for go. */
export async function undoExportRows(
  tx: Executor,
  batchId: number,
  { applied, undo, dictionary }: { applied: number; undo: number; dictionary: Dictionary },
): Promise<string[]> {
  const actor = await first(
    tx.select({ actor: tables.action.actor }).from(tables.action).where(eq(tables.action.id, undo)),
  );
  const { left, units } = await undoEdit(tx, applied, actor?.actor ?? 0, dictionary);
  const offers = await undoOffers(tx, applied);
  const all = [...new Set([...units, ...(await unitsOf(tx, offers.products))])];
  await addChanges(tx, undo, await resolveUnits(tx, all, dictionary));
  await markDirty(tx, all);
  await tx
    .update(tables.batchRow)
    .set({ productId: null })
    .where(and(eq(tables.batchRow.batchId, batchId), eq(tables.batchRow.outcome, 'created')));
  return [...left, ...offers.left];
}
