/** What a person says of families: goods made one, put into another, taken out, and families broken up. */
import type { Effect, GatheredGoods, PlacedGoods } from '@velvet-shelf/contract';
import { canonical, foldText } from '@velvet-shelf/core/values';
import { and, asc, eq, or, sql } from 'drizzle-orm';
import { z } from 'zod';
import { sayOptions, saidOptions } from '../catalog/plans.js';
import { resolveAndFollow } from '../catalog/resolve-all.js';
import { type Executor, ids, isIn, json, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { type Acting, type ActionKind, act } from '../history/act.js';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { lockJoins, regroup } from './joins.js';

/** Others wait for the joins meanwhile: what follows is evaluated once they are let go. */
const placing: ActionKind = { kind: 'families', tells: ['catalog', 'matches'], settlesAfter: true };

/** Where a person says a product belongs: a family's key, or nowhere; null where nobody says anything. */
type Placed = { key: number | null } | null;

/** Makes families of these goods, or puts them into families there are, each with what it has on their axes. */
export async function gatherGoods(
  services: Services,
  user: User,
  gathered: GatheredGoods,
): Promise<Effect & { families: number[] }> {
  const { answer, effect } = await act(services, user, placing, async (on) => {
    const { tx } = on;
    await lockJoins(tx);
    const members = gathered.families.flatMap((family) => family.members);
    const goods = await lockGoods(
      tx,
      members.map(({ id }) => id),
    );
    for (const family of gathered.families) refuseTwice(family, goods);
    const placed = new Map<number, Placed>();
    const keys: number[] = [];
    for (const { into, members: list } of gathered.families) {
      const key = into === null ? await newKey(tx) : await keyOfFamily(tx, into);
      keys.push(key);
      for (const { id } of list) placed.set(id, { key });
    }
    const values = gathered.families.flatMap(({ axes, members: list }) =>
      list.flatMap(({ id, values: said }) =>
        axes.flatMap((axis, i) => (said[i] == null ? [] : [{ variant: id, axis, said: { value: said[i] } }])),
      ),
    );
    const before = await saidOptions(
      tx,
      values.map(({ variant }) => variant),
    );
    on.change(
      ...values.map(({ variant, axis, said }) => ({
        kind: 'product' as const,
        id: variant,
        delta: { [`#option ${axis}`]: [before(variant, axis), said] },
      })),
    );
    await sayOptions(tx, values, user.id);
    await place(on, placed);
    on.say(sayGathered(gathered, goods));
    return familiesOf(tx, keys);
  });
  return { ...effect, families: answer };
}

/** Takes goods out of their families; each stands alone from now on, whatever its sources say. */
export async function takeOut(services: Services, user: User, { products }: PlacedGoods): Promise<Effect> {
  const { effect } = await act(services, user, placing, async (on) => {
    await lockJoins(on.tx);
    const goods = await lockGoods(on.tx, products);
    const alone = [...goods.values()].find(({ family }) => family === null);
    if (alone) throw badRequest(`${alone.said} is of no family`);
    await place(on, new Map(products.map((id) => [id, { key: null }])));
    on.say(`Took ${sayGoods([...goods.values()])} out of ${goods.size === 1 ? 'its family' : 'their families'}`);
  });
  return effect;
}

/** Breaks a family up: its variants stand alone, and so does what its sources bring of it later. */
export async function breakUp(services: Services, user: User, family: number): Promise<Effect> {
  const { effect } = await act(services, user, placing, async (on) => {
    const { tx } = on;
    await lockJoins(tx);
    const { title, variants } = await standingFamily(tx, family);
    const keys = await tx
      .update(tables.familyKey)
      .set({ parted: true })
      .where(eq(tables.familyKey.productId, family))
      .returning({ id: tables.familyKey.id });
    on.change({ kind: 'product', id: family, delta: { '#parted': [[], keys.map(({ id }) => id)] } });
    await place(on, new Map(variants.map((id) => [id, { key: null }])));
    on.say(`Broke up ${title}, ${variants.length} ${variants.length === 1 ? 'variant' : 'variants'}`);
  });
  return effect;
}

interface Good {
  id: number;
  family: number | null;
  said: string;
}

/** Variants and singles, nobody else changing them meanwhile; refuses what is none, and what is named twice. */
async function lockGoods(tx: Executor, products: readonly number[]): Promise<Map<number, Good>> {
  const { product } = tables;
  const rows = await tx
    .select({
      id: product.id,
      kind: product.kind,
      family: product.familyId,
      said: sql<string>`coalesce(${product.sku}, ${product.title}, 'a product')`,
    })
    .from(product)
    .where(and(isIn(product.id, products), eq(product.stands, true)))
    .orderBy(product.id)
    .for('update');
  const goods = new Map(rows.filter(({ kind }) => kind === 'variant' || kind === 'single').map((row) => [row.id, row]));
  const missing = products.find((id) => !goods.has(id));
  if (missing !== undefined) {
    const named = rows.find(({ id }) => id === missing);
    throw named ? badRequest(`${named.said} is no variant and no single product`) : notFound(`product ${missing}`);
  }
  if (goods.size < products.length) throw badRequest('One of these goods is named twice');
  return goods;
}

/** Two of a family with all the same values are one thing to a buyer. */
function refuseTwice({ axes, members }: GatheredGoods['families'][number], goods: ReadonlyMap<number, Good>): void {
  if (new Set(axes.map(foldText)).size < axes.length) throw badRequest('An axis is named twice');
  const seen = new Map<string, number>();
  for (const { id, values } of members) {
    if (values.length !== axes.length) throw badRequest('Each of the goods has a value, or none, on each axis');
    if (axes.length === 0 || values.some((value) => value === null)) continue;
    const key = JSON.stringify(values.map((value) => foldText(value ?? '')));
    const other = seen.get(key);
    if (other !== undefined)
      throw badRequest(
        `${goods.get(other)?.said ?? ''} and ${goods.get(id)?.said ?? ''} would both be ${values.join(', ')}: give one of them another value, or leave it out`,
      );
    seen.set(key, id);
  }
}

async function newKey(tx: Executor): Promise<number> {
  const [made] = await tx.insert(tables.familyKey).values({ key: '' }).returning({ id: tables.familyKey.id });
  return made?.id ?? 0;
}

/** The key of a family that its best-ranked source has; whatever is put there goes with it. */
async function keyOfFamily(tx: Executor, family: number): Promise<number> {
  await standingFamily(tx, family);
  const [key] = await tx
    .select({ id: tables.familyKey.id })
    .from(tables.familyKey)
    .leftJoin(tables.supplier, eq(tables.supplier.id, tables.familyKey.supplierId))
    .where(and(eq(tables.familyKey.productId, family), eq(tables.familyKey.parted, false)))
    .orderBy(sql`${tables.supplier.rank} NULLS LAST`, asc(tables.familyKey.id))
    .limit(1);
  if (!key) throw notFound(`family ${family}`);
  return key.id;
}

async function standingFamily(tx: Executor, id: number): Promise<{ title: string; variants: number[] }> {
  const { product } = tables;
  const rows = await tx
    .select({ id: product.id, kind: product.kind, title: product.title })
    .from(product)
    .where(and(or(eq(product.id, id), eq(product.familyId, id)), eq(product.stands, true)))
    .orderBy(product.id)
    .for('update');
  const family = rows.find((row) => row.id === id);
  if (family?.kind !== 'family') throw notFound(`family ${id}`);
  return { title: family.title ?? 'a family', variants: rows.filter((row) => row.id !== id).map((row) => row.id) };
}

const familiesOf = async (tx: Executor, keys: readonly number[]): Promise<number[]> => {
  const rows = await tx
    .select({ id: tables.familyKey.id, family: tables.familyKey.productId })
    .from(tables.familyKey)
    .where(isIn(tables.familyKey.id, keys));
  const familyOf = new Map(rows.map(({ id, family }) => [id, family]));
  return [...new Set(keys.flatMap((key) => familyOf.get(key) ?? []))];
};

/** Writes where goods belong; families, values and listings follow. */
async function place(on: Acting, placed: ReadonlyMap<number, Placed>): Promise<void> {
  const { tx } = on;
  const products = [...placed.keys()];
  const before = await placedNow(tx, products);
  on.change(
    ...[...placed].map(([id, after]) => ({
      kind: 'product' as const,
      id,
      delta: { '#family': [before.get(id) ?? null, after] },
    })),
  );
  await writePlaced(tx, placed);
  on.change(...(await followPlaced(on, products, on.id)));
}

async function placedNow(tx: Executor, products: readonly number[]): Promise<Map<number, Placed>> {
  const rows = await tx.select().from(tables.placement).where(isIn(tables.placement.productId, products));
  return new Map(rows.map(({ productId, familyKeyId }) => [productId, { key: familyKeyId }]));
}

async function writePlaced(tx: Executor, placed: ReadonlyMap<number, Placed>): Promise<void> {
  const silent = [...placed].filter(([, said]) => said === null).map(([id]) => id);
  const said = [...placed].flatMap(([product, where]) => (where ? [{ product, key: where.key }] : []));
  await tx.delete(tables.placement).where(isIn(tables.placement.productId, silent));
  if (said.length > 0)
    await tx.execute(sql`
      INSERT INTO placement (product_id, family_key_id)
      SELECT product, key FROM jsonb_to_recordset(${json(said)}) AS t(product bigint, key bigint)
      ON CONFLICT (product_id) DO UPDATE SET family_key_id = excluded.family_key_id`);
}

/** Families, values, prices and listings as they follow from where goods belong; answers what changed in them. */
async function followPlaced({ tx, dirty }: Pick<Acting, 'tx' | 'dirty'>, products: readonly number[], action: number) {
  const units = await regroup(tx, products);
  await hideEmptied(tx, units, action);
  const changes = await resolveAndFollow(tx, units, await loadDictionary(tx));
  await dirty(units);
  return changes;
}

/** A family that nothing is of any more is hidden with what was said of it, until something is of it again. */
async function hideEmptied(tx: Executor, units: readonly number[], action: number): Promise<void> {
  await tx.execute(sql`
    UPDATE product f SET removed_by = ${action} WHERE f.id = ANY(${ids(units)}) AND f.kind = 'family' AND f.stands
      AND NOT EXISTS (SELECT 1 FROM product v WHERE v.family_id = f.id AND v.stands)`);
}

const sayGoods = (goods: readonly Good[]): string =>
  goods.length === 1 ? (goods[0]?.said ?? 'a product') : `${goods.length} products`;

function sayGathered({ families }: GatheredGoods, goods: ReadonlyMap<number, Good>): string {
  const all = sayGoods([...goods.values()]);
  const made = families.filter(({ into }) => into === null).length;
  if (made === 0) return `Put ${all} into ${families.length === 1 ? 'a family' : `${families.length} families`}`;
  return made === 1 && families.length === 1 ? `Made a family of ${all}` : `Made ${families.length} families of ${all}`;
}

const placedSchema = z.object({ key: z.number().nullable() }).nullable();
const placedDelta = z.object({
  '#family': z.tuple([placedSchema, placedSchema]).optional(),
  '#parted': z.tuple([z.array(z.number()), z.array(z.number())]).optional(),
});

/** Goods belong where they did before; what was placed anew since stays, and is told. */
export async function undoPlacing({ tx, actionId, by, dirty }: Undoing): Promise<Undone> {
  await lockJoins(tx);
  const changed = await changesOf(tx, actionId, 'product', placedDelta);
  const products = changed.flatMap(({ id, delta }) => (delta['#family'] ? [id] : []));
  const now = await placedNow(tx, products);
  const back = new Map<number, Placed>();
  const left: string[] = [];
  const parted: number[] = [];
  for (const { id, delta } of changed) {
    parted.push(...(delta['#parted']?.[1] ?? []));
    if (!delta['#family']) continue;
    const [before, after] = delta['#family'];
    if (canonical(now.get(id) ?? null) === canonical(after)) back.set(id, before);
    else left.push('The family of a product: changed since');
  }
  await tx.update(tables.familyKey).set({ parted: false }).where(isIn(tables.familyKey.id, parted));
  await writePlaced(tx, back);
  const held = await queryRows<{ id: number }>(
    tx,
    sql`SELECT DISTINCT product_id AS id FROM record WHERE family_key_id = ANY(${ids(parted)}) AND product_id IS NOT NULL`,
  );
  const touched = [...new Set([...products, ...held.map(({ id }) => id)])];
  return { left, changes: await followPlaced({ tx, dirty }, touched, by) };
}
