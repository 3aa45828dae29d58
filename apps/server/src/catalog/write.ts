/** The one writer of products: typed columns, texts, and the facts that conditions and sorts use. */
import { splitSlot } from '@velvet-shelf/core/claims';
import { searchedText } from '@velvet-shelf/core/conditions';
import { sortKeys } from '@velvet-shelf/core/values';
import { type SQL, sql } from 'drizzle-orm';
import { type Executor, ids, numbers, queryRows, texts, verbatim, isIn } from '../db/client.js';
import type { Dictionary } from '../dictionary/dictionary.js';
import type { Draft, ProductRow } from './draft.js';
import * as tables from '../db/schema/index.js';

/** A product as it is and as it shall be, and what differs by field. */
export interface ProductWrite {
  before: ProductRow;
  after: Draft;
  delta: Record<string, unknown[]>;
}

/** Writes rows, texts and facts that differ. */
export async function writeProducts(
  on: Executor,
  writes: readonly ProductWrite[],
  dictionary: Dictionary,
): Promise<void> {
  if (writes.length === 0) return;
  await on.execute(sql`
    UPDATE product p SET sku = t.sku, title = t.title, brand = t.brand, category = t.category, gtin = t.gtin, state = t.state,
      picture = t.picture, stock = t.stock, options = t.options, hidden = t.hidden, surcharge = t.surcharge, facts = t.facts, search = t.search, complete = t.complete,
      version = p.version + 1, updated_at = now()
    FROM json_to_recordset(${verbatim(writes.map(({ after }) => after))}) AS t(id bigint, sku text, title text, brand text, category text,
      gtin text, state text, picture text, stock int, options json, hidden boolean, surcharge jsonb, facts json, search text, complete int)
    WHERE p.id = t.id`);
  const texts = writes.filter(({ delta }) => delta.created || Object.keys(delta).some((field) => field.includes('@')));
  await on.execute(sql`
    INSERT INTO product_text (product_id, texts, sought)
    SELECT id, texts, sought FROM json_to_recordset(${verbatim(texts.map(({ after }) => ({ id: after.id, texts: after.texts, sought: soughtTexts(after.texts, dictionary) })))})
      AS t(id bigint, texts json, sought json)
    ON CONFLICT (product_id) DO UPDATE SET texts = excluded.texts, sought = excluded.sought`);
  await writeFacts(on, writes, dictionary);
}

/** Long texts as conditions search them in the database: what core compares, word for word. */
export function soughtTexts(texts: Draft['texts'], { attributes }: Dictionary): Draft['texts'] {
  const long = Object.entries(texts).filter(([key]) => attributes.get(key)?.type === 'richText');
  return Object.fromEntries(
    long.map(([key, byLanguage]) => [
      key,
      Object.fromEntries(Object.entries(byLanguage).map(([language, text]) => [language, searchedText(text)])),
    ]),
  );
}

/** `fact` rows only for attributes whose value changed. */
async function writeFacts(on: Executor, writes: readonly ProductWrite[], dictionary: Dictionary): Promise<void> {
  const stale: FactRow[] = [];
  const fresh: FactRow[] = [];
  for (const { before, after, delta } of writes) {
    const keys = delta.created
      ? [...Object.keys(before.texts ?? {}), ...Object.keys(after.facts), ...Object.keys(after.texts)]
      : Object.keys(delta).map((field) => splitSlot(field)[0]);
    for (const key of new Set(keys)) {
      stale.push(...factRows(before, key, dictionary));
      fresh.push(...factRows(after, key, dictionary));
    }
  }
  await removeFacts(on, stale);
  fresh.sort((x, y) => x.attribute - y.attribute);
  if (fresh.length > 0)
    await on.execute(
      sql`INSERT INTO fact (attribute_id, lang, num, key, product_id) SELECT * FROM ${factTable(fresh)}`,
    );
}

function factTable(list: readonly FactRow[]) {
  return sql`unnest(${ids(list.map((fact) => fact.attribute))}, ${texts(list.map((fact) => fact.lang))}, ${numbers(list.map((fact) => fact.num))},
    ${texts(list.map((fact) => fact.key))}, ${ids(list.map((fact) => fact.product))})`;
}

/** Takes rows away by what they say: the two indexes that conditions use find them, and no third is needed. */
async function removeFacts(on: Executor, stale: readonly FactRow[]): Promise<void> {
  if (stale.length === 0) return;
  const table = sql`${factTable(stale)} AS t(attribute, lang, num, key, product)`;
  for (const column of [sql`key`, sql`num`])
    await on.execute(sql`
      DELETE FROM fact f USING ${table}
      WHERE t.${column} IS NOT NULL AND f.attribute_id = t.attribute AND f.${column} = t.${column} AND f.product_id = t.product`);
}

interface FactRow {
  product: number;
  attribute: number;
  lang: string;
  num: number | null;
  key: string | null;
}

const noRows = () => [];

/** The rows that conditions and sorts find a product's value of one attribute by. */
export function compileFacts(
  key: string,
  dictionary: Dictionary,
): (product: Pick<ProductRow, 'id' | 'facts' | 'texts'>) => FactRow[] {
  const [attribute, attributeId] = [dictionary.attributes.get(key), dictionary.ids.get(key)];
  if (!attribute || attributeId === undefined) return noRows;
  const row = (product: number, lang: string, sortKey: number | string): FactRow => ({
    product,
    attribute: attributeId,
    lang,
    num: typeof sortKey === 'number' ? sortKey : null,
    key: typeof sortKey === 'string' ? sortKey : null,
  });
  return ({ id, facts, texts }) => {
    const value = facts[key];
    if (value !== undefined) return sortKeys(value, attribute).map((sortKey) => row(id, '', sortKey));
    return Object.entries(texts?.[key] ?? {}).map(([language, text]) =>
      row(id, language, sortKeys(text, attribute)[0] ?? ''),
    );
  };
}

const factRows = (product: Pick<ProductRow, 'id' | 'facts' | 'texts'>, key: string, dictionary: Dictionary) =>
  compileFacts(key, dictionary)(product);

/**
 * Products that no source and no person speaks for any more go, and with them what had been joined to them; those a channel
 * knows are kept, empty.
 */
export async function removeProducts(
  on: Executor,
  products: readonly ProductRow[],
  dictionary: Dictionary,
): Promise<void> {
  if (products.length === 0) return;
  const named = products.map((product) => product.id);
  const below = sql`below AS (
    SELECT id, id AS root FROM unnest(${ids(named)}) AS t(id) UNION ALL SELECT m.id, below.root FROM product m JOIN below ON m.merged_into = below.id)`;
  const joined = await queryRows<Pick<ProductRow, 'id' | 'facts' | 'texts'>>(
    on,
    sql`WITH RECURSIVE ${below} SELECT p.id, p.facts, t.texts FROM product p LEFT JOIN product_text t ON t.product_id = p.id
        WHERE p.id IN (SELECT id FROM below WHERE id <> root) AND p.id <> ALL(${ids(named)})`,
  );
  const gone = [...named, ...joined.map((product) => product.id)];
  await on.update(tables.familyKey).set({ productId: null }).where(isIn(tables.familyKey.productId, gone));
  await on.update(tables.record).set({ madeProductId: null }).where(isIn(tables.record.madeProductId, gone));
  await removeFacts(
    on,
    [...products, ...joined].flatMap((product) =>
      [...Object.keys(product.facts), ...Object.keys(product.texts ?? {})].flatMap((key) =>
        factRows(product, key, dictionary),
      ),
    ),
  );
  const isKnown = (product: SQL) =>
    sql`EXISTS (SELECT 1 FROM listing l WHERE l.variant_id = ${product} AND (l.external_id IS NOT NULL OR l.channel_state <> 'none'))`;
  await on.execute(sql`
    UPDATE product SET state = 'withdrawn', family_id = NULL, kind = 'single', unit_id = id
    WHERE id = ANY(${ids(named)}) AND ${isKnown(sql`product.id`)}`);
  await on.execute(sql`
    WITH RECURSIVE ${below},
    kept AS (
      SELECT root FROM below b WHERE ${isKnown(sql`b.id`)} OR EXISTS (SELECT 1 FROM product v WHERE v.family_id = b.id AND v.removed_by IS NULL)
        OR EXISTS (SELECT 1 FROM claim_edit e WHERE e.product_id = b.id)
        OR EXISTS (SELECT 1 FROM option_edit e WHERE e.product_id = b.id) OR EXISTS (SELECT 1 FROM family_plan f WHERE f.family_id = b.id)),
    away AS (DELETE FROM product p USING below b WHERE p.id = b.id AND b.root NOT IN (SELECT root FROM kept) RETURNING p.id),
    texts AS (DELETE FROM product_text t USING away WHERE t.product_id = away.id),
    prices AS (DELETE FROM price t USING away WHERE t.product_id = away.id),
    levels AS (DELETE FROM stock_level t USING away WHERE t.product_id = away.id)
    DELETE FROM movement t USING away WHERE t.product_id = away.id`);
}
