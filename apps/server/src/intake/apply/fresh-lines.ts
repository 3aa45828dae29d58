/** Fresh goods as lines of COPY, table by table: put together before they are sent, so that the database need not wait for them. */
import type { RecordContent, RecordOffer } from '@velvet-shelf/core/intake';
import { joinLevels } from '@velvet-shelf/core/matching';
import type { Draft } from '../../catalog/draft.js';
import { compileFacts, soughtTexts } from '../../catalog/write.js';
import { type Cell, breathe, copyChunks, copyLine, copyText } from '../../db/copy.js';
import { changeColumns, changeLine } from '../../history/record.js';
import type { Applying } from './rows.js';
import { pricesOf } from '../../prices/prices.js';

/** A row of the batch that makes a record. */
export interface NewRow {
  row: number;
  record: number;
  /** As records are found by it, and as it was written. */
  key: string;
  written: string;
  content_id: number;
  content: RecordContent;
  keys: Record<string, string>;
}

/** A new variant or single with all that is written of it. */
export interface Made {
  from: NewRow;
  product: number;
  /** The family's key and product; a single has none. */
  family: { keyId: number; product: number } | undefined;
  draft: Draft;
}

export interface NewFamily {
  key: string;
  keyId: number;
  product: number;
  draft: Draft;
}

/** What stands in the rows besides the goods. */
export interface Writing extends Applying {
  supplier: number;
  /** Where the first stock is counted. */
  warehouse: number | undefined;
  /** The goods are of our own sheet, and so are its pieces. */
  isOwn: boolean;
}

export interface TableLines {
  table: string;
  columns: string[];
  chunks: Buffer[];
}

export async function goodsLines(
  { made, families }: { made: readonly Made[]; families: readonly NewFamily[] },
  writing: Writing,
): Promise<TableLines[]> {
  const tables: TableLines[] = [];
  for (const [table, columns, lines] of tablesOf(made, families, writing)) {
    const chunks: Buffer[] = [];
    for (const chunk of copyChunks(lines)) {
      chunks.push(chunk);
      await breathe();
    }
    if (chunks.length > 0) tables.push({ table, columns: columns.split(' '), chunks });
  }
  return tables;
}

function* tablesOf(
  made: readonly Made[],
  families: readonly NewFamily[],
  { batchId, actionId, dictionary, supplier, warehouse, isOwn }: Writing,
): Generator<[table: string, columns: string, lines: Iterable<string>]> {
  const drafts = [
    ...families.map(({ draft, product }) => ({ draft, family: null, unit: product })),
    ...made.map(({ draft, product, family }) => ({
      draft,
      family: family?.product ?? null,
      unit: family?.product ?? product,
    })),
  ];
  yield ['product', productColumns, each(drafts, productCells)];
  yield [
    'product_text',
    'product_id texts sought',
    each(drafts, ({ draft }) => [draft.id, draft.texts, soughtTexts(draft.texts, dictionary)]),
  ];
  yield ['fact', 'attribute_id lang num key product_id', factLines(drafts, dictionary)];
  yield [
    'family_key',
    'id supplier_id key product_id',
    each(families, ({ keyId, key, product }) => [keyId, supplier, key, product]),
  ];
  yield [
    'record',
    'id supplier_id key written content_id product_id made_product_id family_key_id',
    each(made, ({ from, product, family }) => [
      ...[from.record, supplier, from.key, from.written, from.content_id],
      ...[product, product, family?.keyId],
    ]),
  ];
  yield [
    'record_version',
    'record_id batch_id content_id row',
    each(made, ({ from }) => [from.record, batchId, from.content_id, from.row]),
  ];
  yield [
    'record_key',
    'kind key record_id',
    eachOf(made, ({ from }) => keysOf(from.keys).map(([kind, key]) => [kind, key, from.record])),
  ];
  yield [
    'price',
    'product_id currency kind amount valid_from valid_to',
    eachOf(made, ({ from, product }) =>
      pricesOf(from.content.offer).map(({ currency, kind, amount, from: since, to }) => [
        ...[product, currency, kind, amount, since, to],
      ]),
    ),
  ];
  const counted = warehouse === undefined ? [] : made.filter(({ from }) => from.content.offer.stock !== undefined);
  yield [
    'stock_level',
    'product_id warehouse_id on_hand',
    each(counted, ({ from, product }) => [product, warehouse, from.content.offer.stock]),
  ];
  const moved = counted.filter(({ from }) => from.content.offer.stock !== 0);
  yield [
    'movement',
    'product_id warehouse_id delta reason action_id batch_id',
    each(moved, ({ from, product }) => [product, warehouse, from.content.offer.stock, 'count', actionId, batchId]),
  ];
  yield ['change', changeColumns, changesOf(made, families, actionId, isOwn)];
}

function* changesOf(
  made: readonly Made[],
  families: readonly NewFamily[],
  actionId: number,
  isOwn: boolean,
): Generator<string> {
  for (const { product } of families)
    yield changeLine(actionId, { kind: 'product', id: product, delta: { created: [true] } });
  for (const { product, from } of made)
    yield changeLine(actionId, { kind: 'product', id: product, delta: creation(from.content.offer, isOwn) });
}

/** Comparable identifiers as rows of `record_key`. */
export const keysOf = (keys: Record<string, string>) =>
  joinLevels.flatMap((kind) => (keys[kind] === undefined ? [] : [[kind, keys[kind]] as const]));

/** "12.50" → "12.5", as PostgreSQL's `trim_scale` has it. */
export const trimScale = (amount: string) => (amount.includes('.') ? amount.replace(/\.?0+$/, '') : amount);

const productColumns =
  'id kind family_id unit_id sku title brand category gtin state picture price stock options facts offers search complete';

function productCells({ draft, family, unit }: { draft: Draft; family: number | null; unit: number }): Cell[] {
  const { id, kind, sku, title, brand, category, gtin, state, picture, price, stock } = draft;
  return [
    ...[id, kind, family, unit, sku, title, brand, category, gtin, state, picture, price, stock],
    ...[draft.options, draft.facts, draft.offers, draft.search, draft.complete],
  ];
}

/** Millions of lines: written out by hand, attribute by attribute, so that each index is written in few places at a time. */
function* factLines(drafts: readonly { draft: Draft }[], dictionary: Applying['dictionary']) {
  for (const key of dictionary.attributes.keys()) {
    const rowsOf = compileFacts(key, dictionary);
    const headsOf = (draft: Pick<Draft, 'id' | 'facts' | 'texts'>) =>
      rowsOf(draft).map(
        ({ attribute, lang, num, key: text }) =>
          `${attribute}\t${lang}\t${num ?? '\\N'}\t${text === null ? '\\N' : copyText(text)}\t`,
      );
    /** Lines but for the product: most attributes say the same few things. */
    const known = new Map<string, string[]>();
    let text = '';
    for (const { draft } of drafts) {
      const value = draft.facts[key];
      if (value === undefined && draft.texts[key] === undefined) continue;
      let heads = typeof value === 'string' ? known.get(value) : undefined;
      if (!heads) heads = headsOf(draft);
      if (typeof value === 'string') known.set(value, heads);
      for (const head of heads) text += `${head}${draft.id}\n`;
    }
    if (text !== '') yield text;
  }
}

/** What the history says of a new product: a creation, and the first price and pieces of ours it got. */
function creation(offer: RecordOffer, isOwn: boolean): Record<string, unknown[]> {
  const delta: Record<string, unknown[]> = { created: [true] };
  for (const { currency, kind, amount, from, to } of pricesOf(offer))
    delta[`${kind} price ${currency}`] = [null, { amount: trimScale(amount), from, to }];
  if (isOwn && offer.stock) delta.stock = [0, offer.stock];
  return delta;
}

function* each<T>(list: readonly T[], cells: (row: T) => Cell[]): Generator<string> {
  for (const row of list) yield copyLine(cells(row));
}

function* eachOf<T>(list: readonly T[], lines: (row: T) => Cell[][]): Generator<string> {
  for (const row of list) for (const cells of lines(row)) yield copyLine(cells);
}
