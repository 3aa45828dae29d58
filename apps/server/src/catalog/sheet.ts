/** The sheet: goods of an opened view in rows, and of each slot the text as one would type it and whose word it is. */
import type { CellOrigin, SheetColumn, SheetRow } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { splitSlot } from '@velvet-shelf/core/claims';
import type { Offer, Texts } from '@velvet-shelf/core/catalog';
import { type Attribute, type Value, groupBy } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { ids, queryRows } from '../db/client.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import type { Services } from '../http/route.js';
import { type Cell, allFields, fieldOf } from './fields.js';
import { viewIds } from './grid.js';
import { typedText } from './product.js';

/** Attributes a sheet has no cells for: what follows from sources, and pictures. */
const isInSheet = ({ key, type, group, role }: Attribute) =>
  !isComputed(key) && type !== 'media' && group !== 'Sources' && role !== 'sku';

export async function sheetColumns(services: Services): Promise<SheetColumn[]> {
  const { db } = services;
  const { attributes, languages } = await loadDictionary(db);
  const { currencies } = await loadCompany(db);
  const columns: SheetColumn[] = [...attributes.values()].filter(isInSheet).flatMap((attribute) =>
    (attribute.perLanguage ? languages : [null]).map((language) => ({
      slot: language === null ? attribute.key : `${attribute.key}@${language}`,
      label: attribute.label,
      group: attribute.group,
      attribute: attribute.key,
      language,
      read: toRead(attribute),
    })),
  );
  const money = (attribute: string, label: string) =>
    currencies.map((currency) => ({
      slot: `${attribute}@${currency}`,
      label,
      group: 'Prices and stock',
      attribute,
      language: currency,
      read: null,
    }));
  const elsewhere: SheetColumn[] = [];
  for (const { sheet } of allFields()) elsewhere.push(...((await sheet?.columns(services)) ?? []));
  return [
    ...columns,
    ...money('price', 'Price'),
    ...money('salePrice', 'Sale price'),
    { slot: 'stock', label: 'Stock', group: 'Prices and stock', attribute: 'stock', language: null, read: null },
    ...elsewhere,
  ];
}

function toRead({ choices, aliases: _, ...attribute }: Attribute): SheetColumn['read'] {
  return {
    ...attribute,
    ...(choices
      ? {
          choices: choices.map((value) =>
            typeof value === 'string'
              ? value
              : { ...value, names: { ...value.names }, spellings: [...(value.spellings ?? [])] },
          ),
        }
      : {}),
  };
}

interface Row {
  id: number;
  family: number | null;
  familyTitle: string | null;
  sku: string | null;
  title: string | null;
  stock: number;
  facts: Record<string, Value>;
  offers: Record<string, Offer>;
  texts: Texts | null;
}

/** A window of the view’s goods; columns that are none of ours are empty. */
export async function sheetRows(
  services: Services,
  token: string,
  { from, count, columns }: { from: number; count: number; columns: readonly string[] },
): Promise<SheetRow[]> {
  const { db } = services;
  const wanted = (await viewIds(db, token)).slice(from, from + count);
  const dictionary = await loadDictionary(db);
  const rows = await queryRows<Row>(
    db,
    sql`SELECT p.id, p.family_id AS family, f.title AS "familyTitle", p.sku, p.title, p.stock, p.facts, p.offers, t.texts
        FROM product p LEFT JOIN product f ON f.id = p.family_id LEFT JOIN product_text t ON t.product_id = p.id
        WHERE p.id = ANY(${ids(wanted)}) AND p.stands AND p.kind IN ('variant', 'single')`,
  );
  const edits = await queryRows<{ product: number; key: string; lang: string }>(
    db,
    sql`SELECT e.product_id AS product, a.key, e.lang FROM claim_edit e JOIN attribute a ON a.id = e.attribute_id
        WHERE e.product_id = ANY(${ids([...new Set(rows.flatMap(({ id, family }) => (family === null ? [id] : [id, family])))])})`,
  );
  const edited = new Set(edits.map(({ product, key, lang }) => `${product} ${lang === '' ? key : `${key}@${lang}`}`));
  const byId = new Map(rows.map((row) => [Number(row.id), row]));
  const read = columns.map((slot) => cellOf(slot, dictionary));
  const elsewhere = await cellsElsewhere(services, columns, [...byId.keys()]);
  return wanted.flatMap((id) => {
    const row = byId.get(id);
    if (!row) return [];
    return [
      {
        id,
        sku: row.sku,
        family: row.family === null ? null : { id: row.family, title: row.familyTitle },
        title: row.title,
        cells: columns.map((slot, i): Cell => {
          const other = elsewhere.get(slot);
          if (other) return other.get(id) ?? [null, 'nowhere'];
          const { text = null, isOfFamily = false } = read[i]?.(row) ?? {};
          return [text, originOf(row, slot, edited, text, isOfFamily)];
        }),
      },
    ];
  });
}

/** Cells of columns that are of other rooms, by slot, then by product; a column that none knows any more is empty. */
async function cellsElsewhere(
  services: Services,
  columns: readonly string[],
  products: readonly number[],
): Promise<Map<string, ReadonlyMap<number, Cell>>> {
  const answer = new Map<string, ReadonlyMap<number, Cell>>();
  const named = columns.flatMap((slot) => {
    const [key, name] = splitSlot(slot);
    return fieldOf(key)?.sheet && name !== undefined ? [{ slot, key, name }] : [];
  });
  for (const [key, asked] of groupBy(named, (column) => column.key)) {
    const cells = await fieldOf(key)?.sheet?.cells(
      services,
      asked.map(({ name }) => name),
      products,
    );
    for (const { slot, name } of asked) answer.set(slot, cells?.get(name) ?? new Map());
  }
  return answer;
}

function originOf(
  { id, family }: Row,
  slot: string,
  edited: ReadonlySet<string>,
  text: string | null,
  isOfFamily: boolean,
): CellOrigin {
  if (edited.has(`${id} ${slot}`)) return 'own';
  if (text === null) return 'none';
  return family !== null && (isOfFamily || edited.has(`${family} ${slot}`)) ? 'family' : 'source';
}

interface Read {
  text?: string | null;
  /** It is kept for the whole family. */
  isOfFamily?: boolean;
}

function cellOf(slot: string, { attributes, home }: Dictionary): (row: Row) => Read {
  const [key, language] = splitSlot(slot);
  if (key === 'price') return ({ offers }) => ({ text: offers[language ?? '']?.regular ?? null });
  if (key === 'salePrice') return ({ offers }) => ({ text: offers[language ?? '']?.sale?.amount ?? null });
  if (key === 'stock') return ({ stock }) => ({ text: String(stock) });
  const attribute = attributes.get(key);
  if (!attribute) return () => ({});
  const isOfFamily = attribute.level === 'family';
  return ({ facts, texts }) => {
    const value =
      language !== undefined
        ? texts?.[key]?.[language]
        : (facts[key] ?? (attribute.type === 'richText' ? texts?.[key]?.[home] : undefined));
    return { text: value === undefined ? null : typedText(value, attribute), isOfFamily };
  };
}
