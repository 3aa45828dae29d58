/** Resolution: claims of records and people in; what products hold out. */
import {
  type Edited,
  type Slots,
  type SourceRecord,
  type UnitClaims,
  currentSaid,
  currentSlot,
  currentSlots,
  empty,
  addComputed,
  resolveSaid,
  resolveUnit,
  splitSlot,
} from '@velvet-shelf/core/claims';
import { type Media, type Value, groupBy } from '@velvet-shelf/core/values';
import { type SQL, count, sql, eq, and, or, desc } from 'drizzle-orm';
import { type Executor, ids, queryRows, isAmong, isIn } from '../db/client.js';
import type { Change } from '../history/record.js';
import type { Dictionary } from '../dictionary/dictionary.js';
import {
  type Draft,
  type ProductRow,
  type Speaking,
  deltaOf,
  differInColumns,
  draftFamily,
  draftVariant,
  keptFamily,
  noOptions,
  pictureKeys,
} from './draft.js';
import { loadOptions } from './plans.js';
import { removeProducts, writeProducts } from './write.js';
import * as tables from '../db/schema/index.js';

export interface UnitSources {
  products: ProductRow[];
  claims: UnitClaims;
  /** By product: who speaks for it. */
  speaking: Map<number, Speaking[]>;
}

interface RecordRow {
  id: number;
  product: number;
  supplier: string;
  rank: number;
  at: string;
  dropped: boolean;
  isOwn: boolean;
  number: string;
  content: { values: Record<string, Value>; options?: [string, string][] };
}

function loadProducts(on: Executor, which: SQL): Promise<ProductRow[]> {
  return queryRows<ProductRow>(
    on,
    sql`SELECT p.id, p.kind, p.family_id, p.unit_id, p.sku, p.title, p.brand, p.category, p.gtin, p.state, p.picture,
          p.price::text, p.stock, p.options, p.hidden, p.surcharge, p.facts, p.offers, p.complete, p.version, t.texts
        FROM product p LEFT JOIN product_text t ON t.product_id = p.id
        WHERE ${which} AND p.stands ORDER BY p.unit_id, p.id`,
  );
}

function loadRecords(on: Executor, products: readonly number[]): Promise<RecordRow[]> {
  return queryRows<RecordRow>(
    on,
    sql`SELECT r.id, r.product_id AS product, s.name AS supplier, s.rank, lpad(v.batch_id::text, 12, '0') AS at, c.content, r.dropped, s.kind = 'own' AS "isOwn", coalesce(nullif(r.written, ''), r.key) AS number
        FROM record r JOIN supplier s ON s.id = r.supplier_id JOIN record_content c ON c.id = r.content_id
        CROSS JOIN LATERAL (SELECT max(batch_id) AS batch_id FROM record_version WHERE record_id = r.id AND content_id = r.content_id) v
        WHERE r.product_id = ANY(${ids(products)}) ORDER BY r.id`,
  );
}

interface EditRow {
  product: number;
  key: string;
  lang: string;
  value: Value | null;
  at: string;
  by: string | null;
}

function loadEdits(on: Executor, products: readonly number[]): Promise<EditRow[]> {
  return on
    .select({
      product: sql<number>`coalesce(${tables.product.mergedInto}, ${tables.product.id})`,
      key: tables.attribute.key,
      lang: tables.claimEdit.lang,
      value: tables.claimEdit.value,
      at: tables.claimEdit.at,
      by: tables.userAccount.name,
    })
    .from(tables.claimEdit)
    .innerJoin(tables.product, eq(tables.product.id, tables.claimEdit.productId))
    .innerJoin(tables.attribute, eq(tables.attribute.id, tables.claimEdit.attributeId))
    .leftJoin(tables.userAccount, eq(tables.userAccount.id, tables.claimEdit.actor))
    .where(or(isIn(tables.product.id, products), isIn(tables.product.mergedInto, products)))
    .orderBy(sql`(${tables.product.mergedInto} IS NOT NULL)`, desc(tables.claimEdit.at));
}

/** The newest edit of each slot, those of a product before those of one that was joined to it. */
function editsByProduct(edits: readonly EditRow[], dictionary: Dictionary): Map<number, Edited[]> {
  const byProduct = new Map<number, Edited[]>();
  for (const [product, list] of groupBy(edits, (edit) => edit.product)) {
    const seen = new Set<string>();
    byProduct.set(
      product,
      list.flatMap((edit) => {
        const written = edit.lang === '' ? edit.key : `${edit.key}@${edit.lang}`;
        const slot = currentSlot(written, dictionary.merged);
        if (seen.has(slot)) return [];
        const value = edit.value === null ? empty : currentSaid(written, edit.value, dictionary.merged);
        if (value === undefined) return [];
        seen.add(slot);
        return [{ slot, value, at: edit.at, by: edit.by ?? 'somebody' }];
      }),
    );
  }
  return byProduct;
}

const toSource = ({ id, supplier, rank, at, content }: RecordRow, dictionary: Dictionary): SourceRecord => ({
  id,
  supplier,
  rank,
  at,
  values: currentSlots(content.values, dictionary.merged),
  options: content.options ?? [],
});

const speakingOf = (records: readonly RecordRow[]): Speaking[] =>
  [...records].sort((a, b) => a.rank - b.rank || a.id - b.id);

/** Products, records and edits of units, ready for `resolveUnit`. */
export async function loadUnits(
  on: Executor,
  units: readonly number[],
  dictionary: Dictionary,
): Promise<Map<number, UnitSources>> {
  const products = await loadProducts(on, sql`p.unit_id = ANY(${ids(units)})`);
  const all = products.map((product) => product.id);
  const recordsOf = groupBy(await loadRecords(on, all), (record) => record.product);
  const editsOf = editsByProduct(await loadEdits(on, all), dictionary);
  const saidOf = await loadOptions(on, all);
  const row = new Map<number, UnitSources>();
  for (const [unit, members] of groupBy(products, (product) => product.unit_id))
    row.set(unit, {
      products: members,
      speaking: new Map(members.map(({ id }) => [id, speakingOf(recordsOf.get(id) ?? [])])),
      claims: {
        familyEdits: members
          .filter((product) => product.kind === 'family')
          .flatMap((product) => editsOf.get(product.id) ?? []),
        plan: members.map(({ id }) => saidOf.plans.get(id)).find((plan) => plan !== undefined),
        variants: members
          .filter((product) => product.kind !== 'family')
          .map(({ id, stock }) => ({
            id,
            stock,
            edits: editsOf.get(id) ?? [],
            options: saidOf.options.get(id),
            records: (recordsOf.get(id) ?? []).map((record) => toSource(record, dictionary)),
          })),
      },
    });
  return row;
}

/** Resolves units anew and writes what differs. Answers what changed in each product, for the history. */
export const resolveUnits = async (on: Executor, units: readonly number[], dictionary: Dictionary): Promise<Change[]> =>
  resolveLoaded(on, [...(await loadUnits(on, units, dictionary)).values()], dictionary);

/** The same of units that are loaded, with the claims they are loaded with. */
export async function resolveLoaded(
  on: Executor,
  loaded: readonly UnitSources[],
  dictionary: Dictionary,
): Promise<Change[]> {
  const claims = loaded.map((unitSources) => unitSources.claims);
  const sizes = await measuredPictures(
    on,
    claims.flatMap((claim) => claim.variants.flatMap(({ records }) => records.map(({ values }) => values))),
    claims.flatMap((claim) => [...claim.familyEdits, ...claim.variants.flatMap(({ edits }) => edits)]),
    dictionary,
  );
  const changes: Change[] = [];
  const writes: { before: ProductRow; after: Draft }[] = [];
  const gone: ProductRow[] = [];
  for (const { products, claims, speaking } of loaded) {
    const resolved = resolveUnit(claims, dictionary.attributes, dictionary.policies);
    const byId = new Map(resolved.variants.map((variant) => [variant.id, variant]));
    const sourced = new Set(
      claims.variants
        .filter((variant) => variant.records.length > 0 || variant.edits.length > 0)
        .map((variant) => variant.id),
    );
    const kept = products.filter((product) => product.kind === 'family' || sourced.has(product.id));
    gone.push(...products.filter((product) => product.kind !== 'family' && !sourced.has(product.id)));
    const variants = kept
      .filter((product) => product.kind !== 'family')
      .map((before) => {
        const { slots, ...optioned } = byId.get(before.id) ?? { slots: new Map() as Slots, ...noOptions };
        return { before, after: draftVariant(before, slots, optioned, dictionary, sizes, speaking.get(before.id)) };
      });
    writes.push(...variants);
    for (const family of kept.filter((product) => product.kind === 'family')) {
      if (variants.length === 0) gone.push(family);
      else
        writes.push({
          before: family,
          after: draftFamily(
            draftVariant(family, resolved.family, noOptions, dictionary, sizes),
            variants.map((variant) => variant.after),
            dictionary,
          ),
        });
    }
  }
  changes.push(...(await writeChanged(on, writes, dictionary)));
  await removeProducts(on, gone, dictionary);
  return changes;
}

async function writeChanged(
  on: Executor,
  drafted: { before: ProductRow; after: Draft }[],
  dictionary: Dictionary,
): Promise<Change[]> {
  const writes = drafted
    .map(({ before, after }) => ({ before, after, delta: deltaOf(before, after) }))
    .filter(({ before, after, delta }) => Object.keys(delta).length > 0 || differInColumns(before, after));
  await writeProducts(on, writes, dictionary);
  return writes.map(({ before, delta }) => ({ kind: 'product', id: before.id, delta }));
}

/**
 * Resolves single variants whose families stay as they are: no family-level claim, no join and no option changed. Siblings
 * are neither loaded nor resolved; families only count their variants up again.
 */
export async function resolveVariants(
  on: Executor,
  products: readonly number[],
  dictionary: Dictionary,
): Promise<Change[]> {
  const own = await loadProducts(on, sql`p.id = ANY(${ids(products)})`);
  const recordsOf = groupBy(await loadRecords(on, products), (record) => record.product);
  const families = [...new Set(own.flatMap((product) => product.family_id ?? []))];
  const editsOf = editsByProduct(await loadEdits(on, [...products, ...families]), dictionary);
  const sizes = await measuredPictures(
    on,
    [...recordsOf.values()].flat().map((record) => record.content.values),
    [...editsOf.values()].flat(),
    dictionary,
  );
  const sizeOf = await variantsIn(on, families);
  const isFamilyLevel = (slot: string) => dictionary.attributes.get(splitSlot(slot)[0])?.level === 'family';
  const writes = own.map((before) => {
    const records = (recordsOf.get(before.id) ?? []).map((record) => toSource(record, dictionary));
    const resolved = resolveSaid(
      {
        familyEdits: (editsOf.get(before.family_id ?? 0) ?? []).filter((edit) => !isFamilyLevel(edit.slot)),
        variants: [{ id: before.id, records, edits: editsOf.get(before.id) ?? [] }],
      },
      dictionary.attributes,
      dictionary.policies,
    );
    const slots: Slots = new Map(
      [...(resolved.variants[0]?.slots ?? [])].filter(
        ([slot, row]) => !isFamilyLevel(slot) || row.origin.from === 'edit',
      ),
    );
    for (const [slot, value] of heldSlots(before))
      if (isFamilyLevel(slot) && !slots.has(slot)) slots.set(slot, { ...inheritedSlot, against: [], value });
    addComputed(slots, dictionary.attributes, {
      variants: sizeOf.get(before.family_id ?? 0) ?? 1,
      stock: before.stock,
    });
    const speaking = speakingOf(recordsOf.get(before.id) ?? []);
    const { options, hidden: isHidden, surcharge } = before;
    const optioned = { options, isHidden, surcharge };
    return { before, after: draftVariant(before, slots, optioned, dictionary, sizes, speaking) };
  });
  const changes = await writeChanged(on, writes, dictionary);
  const counted = new Set(
    writes.flatMap(({ before, after }) =>
      before.family_id !== null && differInColumns(before, after) ? [before.family_id] : [],
    ),
  );
  if (counted.size === 0) return changes;
  const members = await on
    .select({
      family: sql<number>`${tables.product.familyId}`,
      title: tables.product.title,
      brand: tables.product.brand,
      category: tables.product.category,
      state: tables.product.state,
      picture: tables.product.picture,
      stock: tables.product.stock,
      complete: tables.product.complete,
    })
    .from(tables.product)
    .where(and(isIn(tables.product.familyId, [...counted]), eq(tables.product.stands, true)))
    .orderBy(tables.product.familyId, tables.product.id);
  const membersOf = groupBy(members, (row) => row.family);
  const above = (await loadProducts(on, sql`p.id = ANY(${ids([...counted])})`)).map((before) => ({
    before,
    after: draftFamily(keptFamily(before, dictionary), membersOf.get(before.id) ?? [], dictionary),
  }));
  return [...changes, ...(await writeChanged(on, above, dictionary))];
}

/** How many variants families have. */
async function variantsIn(on: Executor, families: readonly number[]): Promise<Map<number, number>> {
  if (families.length === 0) return new Map();
  const counted = await on
    .select({ family: sql<number>`${tables.product.familyId}`, n: count() })
    .from(tables.product)
    .where(and(isIn(tables.product.familyId, families), eq(tables.product.stands, true)))
    .groupBy(tables.product.familyId);
  return new Map(counted.map(({ family, n }) => [family, n]));
}

const inheritedSlot = { origin: { from: 'record', record: 0, source: '' }, why: '', inherited: true } as const;

/** What a product holds, slot by slot. */
function* heldSlots({ facts, texts }: ProductRow): Generator<[string, Value]> {
  for (const [key, value] of Object.entries(facts)) yield [key, value];
  for (const [key, byLanguage] of Object.entries(texts ?? {}))
    for (const [language, text] of Object.entries(byLanguage)) yield [`${key}@${language}`, text];
}

/** Pictures named by these values or edits, with their measures, where they have arrived. */
export async function measuredPictures(
  on: Executor,
  values: readonly Record<string, Value>[],
  edits: readonly Edited[],
  dictionary: Dictionary,
): Promise<Map<string, Media>> {
  const names = new Set<string>();
  const collect = (value: unknown) => {
    if (Array.isArray(value)) for (const media of value as Media[]) names.add(media.name);
  };
  const pictured = pictureKeys(dictionary);
  for (const value of values) for (const key of pictured) collect(value[key]);
  for (const edit of edits) if (pictured.has(edit.slot)) collect(edit.value);
  const found = await on
    .select({
      name: tables.media.name,
      width: tables.media.width,
      height: tables.media.height,
      format: tables.media.format,
      plain: tables.media.plain,
      alt: tables.media.alt,
    })
    .from(tables.media)
    .where(isAmong(tables.media.name, [...names]));
  return new Map(
    found.map(({ alt, ...media }) => [media.name, { ...media, ...(Object.keys(alt).length > 0 ? { alt } : {}) }]),
  );
}
