/** The one writer of products: typed columns, texts, and the facts that conditions and sorts use. */
import { isLongText } from '@velvet-shelf/core/catalog';
import { type Attribute, canonical, sortKeys } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { type Executor, ids, json, numbers, texts } from '../db/client.js';
import type { Dictionary } from './dictionary.js';
import type { Draft, ProductRow } from './draft.js';

/** Writes rows, texts and facts that differ. */
export async function writeProducts(
  on: Executor,
  writes: { before: ProductRow; after: Draft }[],
  dictionary: Dictionary,
): Promise<void> {
  if (writes.length === 0) return;
  await on.execute(sql`
    UPDATE product p SET sku = t.sku, title = t.title, brand = t.brand, category = t.category, gtin = t.gtin, state = t.state,
      picture = t.picture, stock = t.stock, options = t.options, facts = t.facts, search = t.search, complete = t.complete,
      version = p.version + 1, updated_at = now()
    FROM jsonb_to_recordset(${json(writes.map(({ after }) => after))}) AS t(id bigint, sku text, title text, brand text, category text,
      gtin text, state text, picture text, stock int, options jsonb, facts jsonb, search text, complete int)
    WHERE p.id = t.id`);
  const texts = writes.filter(({ before, after }) => canonical(before.texts ?? {}) !== canonical(after.texts));
  await on.execute(sql`
    INSERT INTO product_text (product_id, texts)
    SELECT id, texts FROM jsonb_to_recordset(${json(texts.map(({ after }) => ({ id: after.id, texts: after.texts })))}) AS t(id bigint, texts jsonb)
    ON CONFLICT (product_id) DO UPDATE SET texts = excluded.texts`);
  await writeFacts(on, writes, dictionary);
}

/** `fact` rows only for attributes whose value changed. */
async function writeFacts(
  on: Executor,
  writes: { before: ProductRow; after: Draft }[],
  dictionary: Dictionary,
): Promise<void> {
  const stale: { product: number; attribute: number }[] = [];
  const fresh: { product: number; attribute: number; lang: string; num: number | null; key: string | null }[] = [];
  for (const { before, after } of writes) {
    const keys = new Set([
      ...Object.keys(before.facts),
      ...Object.keys(after.facts),
      ...Object.keys(before.texts ?? {}),
      ...Object.keys(after.texts),
    ]);
    for (const key of keys) {
      const attribute = dictionary.attributes.get(key);
      const attributeId = dictionary.ids.get(key);
      if (!attribute || attributeId === undefined) continue;
      if (canonical([before.facts[key], before.texts?.[key]]) === canonical([after.facts[key], after.texts[key]]))
        continue;
      if (before.facts[key] !== undefined || before.texts?.[key] !== undefined)
        stale.push({ product: after.id, attribute: attributeId });
      fresh.push(...factRows(after, key, attribute, attributeId));
    }
  }
  if (stale.length > 0)
    await on.execute(sql`
      DELETE FROM fact f USING unnest(${ids(stale.map((one) => one.product))}, ${ids(stale.map((one) => one.attribute))}) AS t(product, attribute)
      WHERE f.product_id = t.product AND f.attribute_id = t.attribute`);
  fresh.sort((x, y) => x.attribute - y.attribute);
  if (fresh.length > 0)
    await on.execute(sql`
      INSERT INTO fact (attribute_id, lang, num, key, product_id)
      SELECT * FROM unnest(${ids(fresh.map((one) => one.attribute))}, ${texts(fresh.map((one) => one.lang))}, ${numbers(fresh.map((one) => one.num))},
        ${texts(fresh.map((one) => one.key))}, ${ids(fresh.map((one) => one.product))})`);
}

function factRows(product: Draft, key: string, attribute: Attribute, attributeId: number) {
  const row = (lang: string, sortKey: number | string) => ({
    product: product.id,
    attribute: attributeId,
    lang,
    num: typeof sortKey === 'number' ? sortKey : null,
    key: typeof sortKey === 'string' ? sortKey : null,
  });
  const value = product.facts[key];
  if (value !== undefined) return sortKeys(value, attribute).map((sortKey) => row('', sortKey));
  return Object.entries(product.texts[key] ?? {}).map(([language, text]) =>
    row(language, isLongText(attribute) ? text.slice(0, 60) : (sortKeys(text, attribute)[0] ?? '')),
  );
}

/** Products that no source and no person speaks for any more; those a channel knows are kept, empty. */
export async function removeProducts(on: Executor, gone: readonly number[]): Promise<void> {
  if (gone.length === 0) return;
  await on.execute(sql`UPDATE family_key SET product_id = NULL WHERE product_id = ANY(${ids(gone)})`);
  await on.execute(sql`UPDATE record SET made_product_id = NULL WHERE made_product_id = ANY(${ids(gone)})`);
  await on.execute(sql`DELETE FROM fact WHERE product_id = ANY(${ids(gone)})`);
  await on.execute(sql`
    UPDATE product SET state = 'withdrawn', family_id = NULL, kind = 'single', unit_id = id WHERE id = ANY(${ids(gone)})
      AND EXISTS (SELECT 1 FROM listing l WHERE l.variant_id = product.id AND (l.external_id IS NOT NULL OR l.channel_state <> 'none'))`);
  await on.execute(sql`
    DELETE FROM product p WHERE p.id = ANY(${ids(gone)})
      AND NOT EXISTS (SELECT 1 FROM listing l WHERE l.variant_id = p.id AND (l.external_id IS NOT NULL OR l.channel_state <> 'none'))
      AND NOT EXISTS (SELECT 1 FROM product v WHERE v.family_id = p.id)
      AND NOT EXISTS (SELECT 1 FROM product m WHERE m.merged_into = p.id)
      AND NOT EXISTS (SELECT 1 FROM claim_edit e WHERE e.product_id = p.id)`);
}
