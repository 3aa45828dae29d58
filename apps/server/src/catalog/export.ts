/** The grid as a file that can be changed in a spreadsheet and brought back: columns named by stable keys. */
import { type Readable, PassThrough } from 'node:stream';
import { isComputed } from '@velvet-shelf/core/catalog';
import { csvCell, spreadsheetSafe } from '@velvet-shelf/core/tabular';
import { type Attribute, keyOf } from '@velvet-shelf/core/values';
import { sql, eq, and, inArray } from 'drizzle-orm';
import { type Database, type Executor, isIn } from '../db/client.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { viewIds } from './grid.js';
import { typedText } from './product.js';
import type { ProductRow } from './draft.js';
import * as tables from '../db/schema/index.js';

/** Names a row's product; a row without it makes a new one. */
export const idColumn = 'shelf-id';

export type ExportColumn =
  | { key: string; kind: 'id' }
  | { key: string; kind: 'attribute'; attribute: string; language: string | null }
  /** Told, and not read back: it follows from the sources. */
  | { key: string; kind: 'computed'; attribute: string }
  | { key: string; kind: 'price' | 'salePrice'; currency: string }
  | { key: string; kind: 'stock' };

/** A column by its stable key, or undefined where it is none of ours: "title@de-DE", "price EUR", "stock". */
export function columnByKey(key: string, dictionary: Dictionary): ExportColumn | undefined {
  if (key === idColumn) return { key, kind: 'id' };
  if (key === 'stock') return { key, kind: 'stock' };
  const price = /^(sale )?price ([A-Z]{3})$/.exec(key);
  if (price) return { key, kind: price[1] ? 'salePrice' : 'price', currency: price[2] ?? '' };
  const [name = '', language] = key.split('@');
  const attribute = dictionary.attributes.get(name);
  if (!attribute) return undefined;
  if (isComputed(name)) return language === undefined ? { key, kind: 'computed', attribute: name } : undefined;
  if (attribute.perLanguage !== (language !== undefined)) return undefined;
  return { key, kind: 'attribute', attribute: name, language: language ?? null };
}

export type Exported = Pick<ProductRow, 'id' | 'kind' | 'facts' | 'texts' | 'offers' | 'stock'>;

/** What a cell of a product says, as one would type it; "" where there is nothing. */
export function cellOf(product: Exported, column: ExportColumn, dictionary: Dictionary): string {
  switch (column.kind) {
    case 'id':
      return String(product.id);
    case 'stock':
      return product.kind === 'family' ? '' : String(product.stock);
    case 'price':
      return product.offers[column.currency]?.regular ?? '';
    case 'salePrice':
      return product.offers[column.currency]?.sale?.amount ?? '';
    case 'computed': {
      const value = product.facts[column.attribute];
      const attribute = dictionary.attributes.get(column.attribute);
      return value === undefined || !attribute ? '' : typedText(value, attribute);
    }
    case 'attribute': {
      const attribute = dictionary.attributes.get(column.attribute) as Attribute;
      const text = product.texts?.[column.attribute]?.[column.language ?? dictionary.home];
      const value =
        product.facts[column.attribute] ??
        (attribute.type === 'richText' || column.language !== null ? text : undefined);
      return value === undefined ? '' : typedText(value, attribute);
    }
  }
}

/** Products by id, as `cellOf` wants them. */
export async function loadExported(db: Executor, list: readonly number[]): Promise<Map<number, Exported>> {
  const products = await db
    .select({
      id: tables.product.id,
      kind: tables.product.kind,
      facts: tables.product.facts,
      offers: tables.product.offers,
      stock: tables.product.stock,
      texts: tables.productText.texts,
    })
    .from(tables.product)
    .leftJoin(tables.productText, eq(tables.productText.productId, tables.product.id))
    .where(isIn(tables.product.id, list));
  return new Map(products.map((row) => [row.id, row]));
}

async function columnsFor(db: Database, wanted: string[] | undefined, dictionary: Dictionary): Promise<ExportColumn[]> {
  const languages = await db
    .selectDistinct({
      language: sql<string>`json_object_keys(${tables.productText.texts} -> ${keyOf(dictionary.attributes, 'title') ?? ''}::text)`,
    })
    .from(tables.productText)
    .orderBy(sql`1`);
  const currencies = await db
    .selectDistinct({ currency: tables.price.currency, kind: tables.price.kind })
    .from(tables.price)
    .orderBy(tables.price.currency, tables.price.kind);
  const keys = [
    idColumn,
    ...[...dictionary.attributes.values()].flatMap((attribute) =>
      attribute.perLanguage
        ? [...new Set([dictionary.home, ...languages.map((each) => each.language)])].map(
            (language) => `${attribute.key}@${language}`,
          )
        : [attribute.key],
    ),
    ...currencies.map(({ currency, kind }) => `${kind === 'sale' ? 'sale ' : ''}price ${currency}`),
    'stock',
  ];
  const [sku, title] = [keyOf(dictionary.attributes, 'sku'), keyOf(dictionary.attributes, 'title')];
  const always = new Set([idColumn, sku, `${title}@${dictionary.home}`]);
  const chosen = wanted?.map((key) => (key === 'price' ? `price ${dictionary.currency}` : key));
  return keys
    .filter((key) => !chosen || always.has(key) || chosen.includes(key) || chosen.includes(key.split('@')[0] ?? ''))
    .flatMap((key) => columnByKey(key, dictionary) ?? []);
}

export interface ExportWish {
  /** An opened view; undefined = every product. */
  token: string | undefined;
  /** Keys of the grid's columns; undefined = all. */
  columns: string[] | undefined;
  format: 'csv' | 'xlsx';
}

const chunkRows = 1000;

/** Streams the file; rows come in the order of the view. */
export async function exportGrid(db: Database, wish: ExportWish): Promise<Readable> {
  const dictionary = await loadDictionary(db);
  const columns = await columnsFor(db, wish.columns, dictionary);
  const list = wish.token === undefined ? await everyId(db) : await viewIds(db, wish.token);
  const lines = async function* () {
    for (let from = 0; from < list.length; from += chunkRows) {
      const part = list.slice(from, from + chunkRows);
      const products = await loadExported(db, part);
      for (const id of part) {
        const product = products.get(id);
        if (product) yield columns.map((column) => ({ column, text: cellOf(product, column, dictionary) }));
      }
    }
  };
  const out = new PassThrough();
  const write = wish.format === 'csv' ? writeCsv : writeXlsx;
  write(out, columns, lines()).catch((error: Error) => out.destroy(error));
  return out;
}

async function everyId(db: Database): Promise<number[]> {
  const products = await db
    .select({ id: tables.product.id })
    .from(tables.product)
    .where(and(inArray(tables.product.kind, ['variant', 'single']), eq(tables.product.stands, true)))
    .orderBy(tables.product.unitId, tables.product.id);
  return products.map((row) => row.id);
}

type Line = { column: ExportColumn; text: string }[];

async function writeCsv(out: PassThrough, columns: ExportColumn[], lines: AsyncIterable<Line>): Promise<void> {
  out.write(`\uFEFF${columns.map((column) => csvCell(column.key)).join(',')}\r\n`);
  for await (const line of lines) {
    const text = `${line.map((cell) => csvCell(spreadsheetSafe(cell.text))).join(',')}\r\n`;
    if (!out.write(text)) await new Promise((resolve) => out.once('drain', resolve));
  }
  out.end();
}

/** Figures are numbers, everything else is text: a spreadsheet must not turn a GTIN into a float. */
async function writeXlsx(out: PassThrough, columns: ExportColumn[], lines: AsyncIterable<Line>): Promise<void> {
  const { default: ExcelJS } = await import('exceljs');
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true, useSharedStrings: false });
  const sheet = book.addWorksheet('Goods', { views: [{ state: 'frozen', xSplit: 2, ySplit: 1 }] });
  sheet.columns = columns.map(({ key }) => ({
    header: key,
    key,
    width: Math.min(40, Math.max(10, key.length + 2)),
    style: { numFmt: '@' },
  }));
  for await (const line of lines) {
    const cells = line.map(({ column, text }) =>
      column.kind !== 'attribute' && column.kind !== 'id' && text !== ''
        ? Number(text)
        : text === ''
          ? null
          : spreadsheetSafe(text),
    );
    sheet.addRow(cells).commit();
  }
  sheet.commit();
  await book.commit();
}
