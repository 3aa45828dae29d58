/** To which goods pictures belong: by the numbers in their names, and as somebody says. */
import type { Effect, PlacedFile } from '@velvet-shelf/contract';
import { bareNumber, numbersIn, placeFiles } from '@velvet-shelf/core/catalog';
import { type Media, withRole } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { type ProductEdits, saveEdits } from '../catalog/edit.js';
import { heldBy } from '../catalog/held.js';
import { typedText } from '../catalog/product.js';
import { type Database, isAmong, isIn, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { noEffect } from '../history/effect.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';

const { product } = tables;

interface Numbered {
  product: number;
  number: string;
}

/** Goods by SKU, GTIN and suppliers' numbers, of those that stand in these file names. */
export async function placePictures(db: Database, names: readonly string[]): Promise<PlacedFile[]> {
  const dictionary = await loadDictionary(db);
  const sought = [...new Set(names.flatMap(numbersIn))];
  const goods = await goodsNumbered(db, sought);
  const placed = placeFiles(names, goods);
  const known = placed.flatMap((file) => file.product ?? []);
  const rows = await db
    .select({ id: product.id, kind: product.kind, sku: product.sku, title: product.title, facts: product.facts })
    .from(product)
    .where(isIn(product.id, known));
  const rowOf = new Map(rows.map((row) => [row.id, row]));
  const keys = withRole(dictionary.attributes, 'pictures').map(({ key }) => key);
  return placed.map(({ name, product: id, number, among }) => {
    const row = id === undefined ? undefined : rowOf.get(id);
    const named = keys.flatMap((key) => ((row?.facts[key] ?? []) as Media[]).map((each) => each.name));
    return {
      name,
      product: row ? { id: row.id, kind: row.kind, sku: row.sku, title: row.title } : null,
      why: row
        ? `its name holds ${number ?? ''}`
        : among > 1
          ? `${among} products have the number ${number ?? ''}`
          : 'no number of ours stands in its name',
      held: named.includes(name),
    };
  });
}

async function goodsNumbered(db: Database, sought: readonly string[]): Promise<Map<string, Numbered[]>> {
  const bare = (column: string) => sql.raw(`lower(regexp_replace(${column}, '[^[:alnum:]]+', '', 'g'))`);
  const found = await queryRows<Numbered>(
    db,
    sql`SELECT p.id AS product, p.sku AS number FROM product p WHERE p.stands AND p.kind IN ('variant', 'single') AND ${isAmong(bare('p.sku'), sought)}
        UNION SELECT p.id, p.gtin FROM product p WHERE p.stands AND p.kind IN ('variant', 'single') AND ${isAmong(bare('p.gtin'), sought)}
        UNION SELECT r.product_id, coalesce(nullif(r.written, ''), r.key) FROM record r JOIN product p ON p.id = r.product_id AND p.stands
          WHERE ${isAmong(bare(`coalesce(nullif(r.written, ''), r.key)`), sought)}`,
  );
  const goods = new Map<string, Numbered[]>();
  for (const one of found) {
    const key = bareNumber(one.number);
    const list = goods.get(key) ?? [];
    goods.set(key, list);
    list.push(one);
  }
  return goods;
}

/** Puts pictures behind those that goods have, as one edit; what goods have already is not given twice. */
export async function givePictures(
  services: Services,
  user: User,
  given: readonly { name: string; product: number }[],
): Promise<Effect & { goods: number }> {
  const { db } = services;
  const dictionary = await loadDictionary(db);
  const [attribute] = withRole(dictionary.attributes, 'pictures');
  if (!attribute) throw badRequest('No attribute of yours holds pictures: make one whose role is pictures');
  await expectThere(db, [...new Set(given.map(({ name }) => name))]);
  const target = await targetsOf(
    db,
    given.map((one) => one.product),
    attribute.level,
  );
  const byGoods = new Map<number, string[]>();
  for (const { name, product: id } of given) {
    const goods = target(id);
    byGoods.set(goods, [...(byGoods.get(goods) ?? []), name]);
  }
  const held = await heldBy(db, [...byGoods.keys()], dictionary);
  const edits = [...byGoods].flatMap(([productId, names]): ProductEdits[] => {
    const value = held(productId).slots.get(attribute.key)?.value;
    const before = (value ?? []) as Media[];
    const fresh = [...new Set(names)].filter((name) => !before.some((each) => each.name === name));
    if (fresh.length === 0) return [];
    const after = [...before, ...fresh.map((name) => ({ name }))];
    return [
      {
        productId,
        edits: [
          {
            attribute: attribute.key,
            language: null,
            text: typedText(after, attribute),
            madeAgainst: value === undefined ? null : typedText(value, attribute),
          },
        ],
      },
    ];
  });
  if (edits.length === 0) return { ...noEffect(), goods: 0 };
  const words = `Gave ${given.length} ${given.length === 1 ? 'picture' : 'pictures'} to ${edits.length} ${edits.length === 1 ? 'product' : 'products'}`;
  return { ...(await saveEdits(services, user, edits, words)), goods: edits.length };
}

/** What is given has come: a name that nothing stands behind is a slip. */
async function expectThere(db: Database, names: readonly string[]): Promise<void> {
  const there = await db
    .select({ name: tables.media.name })
    .from(tables.media)
    .where(isAmong(tables.media.name, names));
  const known = new Set(there.map(({ name }) => name));
  const missing = names.find((name) => !known.has(name));
  if (missing !== undefined) throw notFound(`picture “${missing}”`);
}

/** Who says what is given to a product: itself, or its family where the attribute is the family's. */
async function targetsOf(
  db: Database,
  products: readonly number[],
  level: 'family' | 'variant',
): Promise<(id: number) => number> {
  const rows = await db
    .select({ id: product.id, unit: product.unitId })
    .from(product)
    .where(isIn(product.id, products));
  const unitOf = new Map(rows.map(({ id, unit }) => [id, unit]));
  return (id) => {
    const unit = unitOf.get(id);
    if (unit === undefined) throw notFound(`product ${id}`);
    return level === 'family' ? unit : id;
  };
}
