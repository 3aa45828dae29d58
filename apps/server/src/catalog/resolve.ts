/** Resolution: the one writer of products. Claims of records and people in; typed columns, facts and texts out. */
import { completeness, familyTitle, isLongText } from '@velvet-shelf/core/catalog';
import {
  type Edited,
  type Slots,
  type SourceRecord,
  type UnitClaims,
  empty,
  resolveUnit,
  splitSlot,
} from '@velvet-shelf/core/claims';
import { type Attribute, type Media, type Value, canonical, foldText, sortKeys } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { type Executor, ids, json, numbers, rows, texts } from '../db/client.js';
import type { Change } from '../history/record.js';
import type { Dictionary } from './dictionary.js';

export interface ProductRow {
  id: number;
  kind: 'family' | 'variant' | 'single' | 'bundle';
  family_id: number | null;
  unit_id: number;
  sku: string | null;
  title: string | null;
  brand: string | null;
  category: string | null;
  gtin: string | null;
  state: string | null;
  picture: string | null;
  price: string | null;
  stock: number;
  options: [string, string][];
  facts: Record<string, Value>;
  offers: Record<string, { regular?: string; sale?: { amount: string; from?: string; to?: string } }>;
  complete: number;
  version: number;
  texts: Record<string, Record<string, string>> | null;
}

export interface UnitSources {
  products: ProductRow[];
  claims: UnitClaims;
  /** By product: suppliers whose whole list no longer has it. */
  droppedBy: Map<number, string[]>;
}

/** Products, records and edits of units, ready for `resolveUnit`. */
export async function loadUnits(on: Executor, units: readonly number[]): Promise<Map<number, UnitSources>> {
  const products = await rows<ProductRow>(
    on,
    sql`SELECT p.id, p.kind, p.family_id, p.unit_id, p.sku, p.title, p.brand, p.category, p.gtin, p.state, p.picture,
          p.price::text, p.stock, p.options, p.facts, p.offers, p.complete, p.version, t.texts
        FROM product p LEFT JOIN product_text t ON t.product_id = p.id
        WHERE p.unit_id = ANY(${ids(units)}) AND p.merged_into IS NULL ORDER BY p.unit_id, p.id`,
  );
  const all = products.map((one) => one.id);
  const records = await rows<
    Omit<SourceRecord, 'values' | 'options'> & {
      product: number;
      dropped: boolean;
      content: { values: Record<string, Value>; options?: [string, string][] };
    }
  >(
    on,
    sql`SELECT r.id, r.product_id AS product, s.name AS supplier, s.rank, lpad(v.batch_id::text, 12, '0') AS at, c.content, r.dropped
        FROM record r JOIN supplier s ON s.id = r.supplier_id JOIN record_content c ON c.id = r.content_id
        CROSS JOIN LATERAL (SELECT max(batch_id) AS batch_id FROM record_version WHERE record_id = r.id AND content_id = r.content_id) v
        WHERE r.product_id = ANY(${ids(all)}) ORDER BY r.id`,
  );
  const edits = await rows<{
    product: number;
    key: string;
    lang: string;
    value: Value | null;
    at: string;
    by: string | null;
  }>(
    on,
    sql`SELECT coalesce(p.merged_into, p.id) AS product, a.key, e.lang, e.value, e.at, u.name AS by
        FROM claim_edit e JOIN product p ON p.id = e.product_id JOIN attribute a ON a.id = e.attribute_id
        LEFT JOIN user_account u ON u.id = e.actor
        WHERE p.id = ANY(${ids(all)}) OR p.merged_into = ANY(${ids(all)})
        ORDER BY (p.merged_into IS NOT NULL), e.at DESC`,
  );
  const recordsOf = groupBy(records, (one) => one.product);
  const editsOf = groupBy(edits, (one) => one.product);
  const units_ = new Map<number, UnitSources>();
  for (const [unit, members] of groupBy(products, (one) => one.unit_id)) {
    const editsFor = (id: number): Edited[] => {
      const seen = new Set<string>();
      return (editsOf.get(id) ?? []).flatMap((edit) => {
        const slot = edit.lang === '' ? edit.key : `${edit.key}@${edit.lang}`;
        if (seen.has(slot)) return [];
        seen.add(slot);
        return [{ slot, value: edit.value ?? empty, at: edit.at, by: edit.by ?? 'somebody' }];
      });
    };
    const dropped = members.flatMap(({ id }) => {
      const list = (recordsOf.get(id) ?? []).filter((one) => one.dropped).map((one) => one.supplier);
      return list.length > 0 ? [[id, list] as const] : [];
    });
    units_.set(unit, {
      products: members,
      droppedBy: new Map(dropped),
      claims: {
        familyEdits: members.filter((one) => one.kind === 'family').flatMap((one) => editsFor(one.id)),
        variants: members
          .filter((one) => one.kind !== 'family')
          .map(({ id }) => ({
            id,
            edits: editsFor(id),
            records: (recordsOf.get(id) ?? []).map(({ id: record, supplier, rank, at, content }) => ({
              id: record,
              supplier,
              rank,
              at,
              values: content.values,
              options: content.options ?? [],
            })),
          })),
      },
    });
  }
  return units_;
}

export function groupBy<T, K>(list: readonly T[], key: (one: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const one of list) {
    const k = key(one);
    const group = groups.get(k);
    if (group) group.push(one);
    else groups.set(k, [one]);
  }
  return groups;
}

type Draft = Omit<ProductRow, 'version' | 'unit_id' | 'family_id'> & {
  texts: Record<string, Record<string, string>>;
  search: string;
};

/** Resolves units anew and writes what differs. Answers what changed in each product, for the history. */
export async function resolveUnits(on: Executor, units: readonly number[], dictionary: Dictionary): Promise<Change[]> {
  const loaded = await loadUnits(on, units);
  const sizes = await measuredPictures(on, loaded);
  const changes: Change[] = [];
  const writes: { before: ProductRow; after: Draft }[] = [];
  const gone: number[] = [];
  for (const { products, claims, droppedBy } of loaded.values()) {
    const resolved = resolveUnit(claims, dictionary.attributes, dictionary.policies);
    const byId = new Map(resolved.variants.map((one) => [one.id, one]));
    const sourced = new Set(
      claims.variants.filter((one) => one.records.length > 0 || one.edits.length > 0).map((one) => one.id),
    );
    const kept = products.filter((one) => one.kind === 'family' || sourced.has(one.id));
    gone.push(...products.filter((one) => one.kind !== 'family' && !sourced.has(one.id)).map((one) => one.id));
    const variants = kept
      .filter((one) => one.kind !== 'family')
      .map((before) => {
        const { slots, options } = byId.get(before.id) ?? { slots: new Map() as Slots, options: [] };
        const after = draftVariant(before, slots, options, dictionary, sizes);
        const gone = droppedBy.get(before.id);
        if (gone) after.facts.droppedBy = gone;
        return { before, after };
      });
    writes.push(...variants);
    for (const family of kept.filter((one) => one.kind === 'family')) {
      if (variants.length === 0) gone.push(family.id);
      else
        writes.push({
          before: family,
          after: draftFamily(
            family,
            variants.map((one) => one.after),
            resolved.family,
            dictionary,
            sizes,
          ),
        });
    }
  }
  const dirty = writes.filter(({ before, after }) => printDraft(before) !== printDraft(after) || before.version === 0);
  for (const { before, after } of dirty)
    changes.push({ kind: 'product', id: before.id, delta: deltaOf(before, after) });
  await writeProducts(on, dirty, dictionary);
  await removeProducts(on, gone);
  return changes;
}

/** Attributes whose pictures are given their measures. */
const pictureSlots: ReadonlySet<string> = new Set(['pictures', 'morePictures']);

async function measuredPictures(on: Executor, loaded: Map<number, UnitSources>): Promise<Map<string, Media>> {
  const names = new Set<string>();
  const collect = (value: unknown) => {
    if (Array.isArray(value)) for (const one of value as Media[]) names.add(one.name);
  };
  for (const { claims } of loaded.values()) {
    for (const edit of claims.familyEdits) if (pictureSlots.has(edit.slot)) collect(edit.value);
    for (const { records, edits } of claims.variants) {
      for (const record of records) for (const slot of pictureSlots) collect(record.values[slot]);
      for (const edit of edits) if (pictureSlots.has(edit.slot)) collect(edit.value);
    }
  }
  const found = await rows<Required<Media>>(
    on,
    sql`SELECT name, width, height FROM media WHERE name IN (SELECT jsonb_array_elements_text(${json([...names])}))`,
  );
  return new Map(found.map((one) => [one.name, one]));
}

function draftVariant(
  before: ProductRow,
  slots: Slots,
  options: [string, string][],
  dictionary: Dictionary,
  sizes: Map<string, Media>,
): Draft {
  const facts: Record<string, Value> = {};
  const texts: Record<string, Record<string, string>> = {};
  for (const [slot, { value }] of slots) {
    if (value === undefined) continue;
    const [key, language] = splitSlot(slot);
    if (language !== undefined) texts[key] = { ...texts[key], [language]: String(value) };
    else if (dictionary.attributes.get(key)?.type === 'richText') texts[key] = { [dictionary.home]: String(value) };
    else facts[key] = pictureSlots.has(key) ? (value as Media[]).map((one) => sizes.get(one.name) ?? one) : value;
  }
  const text = (key: string) => (typeof facts[key] === 'string' ? (facts[key] as string) : null);
  const title = texts.title?.[dictionary.home] ?? Object.values(texts.title ?? {})[0] ?? null;
  const pictures = facts.pictures as Media[] | undefined;
  const has = (slot: string) =>
    slot === 'price'
      ? before.price !== null
      : slot === 'title' || slot === 'description'
        ? texts[slot]?.[dictionary.home] !== undefined
        : facts[slot] !== undefined;
  return {
    id: before.id,
    kind: before.kind,
    options,
    facts,
    texts,
    title,
    sku: text('sku'),
    brand: text('brand'),
    category: text('category'),
    gtin: text('gtin'),
    state: text('state'),
    picture: pictures?.[0]?.name ?? null,
    price: before.price,
    stock: before.stock,
    offers: before.offers,
    complete: completeness(has),
    search: foldText(
      [
        title,
        text('sku'),
        text('gtin'),
        text('mpn'),
        text('brand'),
        text('category'),
        ...options.map(([, value]) => value),
      ]
        .filter(Boolean)
        .join(' '),
    ),
  };
}

function draftFamily(
  before: ProductRow,
  variants: Draft[],
  slots: Slots,
  dictionary: Dictionary,
  sizes: Map<string, Media>,
): Draft {
  const own = draftVariant(before, slots, [], dictionary, sizes);
  const usual = (key: 'brand' | 'category' | 'state') => {
    const counts = new Map<string, number>();
    for (const one of variants) if (one[key] !== null) counts.set(one[key], (counts.get(one[key]) ?? 0) + 1);
    return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
  };
  const titles = variants.flatMap((one) => one.title ?? []);
  const title = own.title ?? familyTitle(titles) ?? titles[0] ?? null;
  return {
    ...own,
    title,
    brand: own.brand ?? usual('brand'),
    category: own.category ?? usual('category'),
    state: own.state ?? (variants.some((one) => one.state === 'selling') ? 'selling' : usual('state')),
    picture: own.picture ?? variants.find((one) => one.picture !== null)?.picture ?? null,
    price: null,
    stock: variants.reduce((sum, one) => sum + one.stock, 0),
    complete: Math.round(variants.reduce((sum, one) => sum + one.complete, 0) / Math.max(1, variants.length)),
    search: foldText([title, own.brand, ...variants.map((one) => one.search)].filter(Boolean).join(' ')).slice(0, 4000),
  };
}

function printDraft(product: ProductRow | Draft): string {
  const { sku, title, brand, category, gtin, state, picture, stock, complete, options, facts, texts } = product;
  return canonical([sku, title, brand, category, gtin, state, picture, stock, complete, options, facts, texts ?? {}]);
}

function deltaOf(before: ProductRow, after: Draft): Record<string, unknown[]> {
  if (before.title === null && Object.keys(before.facts).length === 0) return { created: [true] };
  const delta: Record<string, unknown[]> = {};
  const flat = (product: ProductRow | Draft) => {
    const fields = new Map<string, unknown>(Object.entries(product.facts));
    for (const [key, byLanguage] of Object.entries(product.texts ?? {}))
      for (const [language, text] of Object.entries(byLanguage)) fields.set(`${key}@${language}`, text);
    if (product.options.length > 0) fields.set('options', product.options);
    return fields;
  };
  const [old, now] = [flat(before), flat(after)];
  for (const field of new Set([...old.keys(), ...now.keys()])) {
    const [was, is] = [old.get(field) ?? null, now.get(field) ?? null];
    if (canonical(was) !== canonical(is)) delta[field] = [was, is];
  }
  return delta;
}

async function writeProducts(
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
async function removeProducts(on: Executor, gone: readonly number[]): Promise<void> {
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
