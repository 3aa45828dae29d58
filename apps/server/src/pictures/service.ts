/** Pictures as people look at them: which there are, who names them, which have not come; brought in, described, thrown away. */
import { randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { PictureAnswer } from '@velvet-shelf/contract';
import { type Media, foldText, textKey } from '@velvet-shelf/core/values';
import { type SQL, and, asc, eq, gt, ne, sql } from 'drizzle-orm';
import { pictureKeys } from '../catalog/draft.js';
import { resolveAndFollow } from '../catalog/resolve-all.js';
import { unitsOf } from '../catalog/units.js';
import { type Database, type Executor, containing, first, ids, iso, isIn, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { markDirty } from '../history/dirty.js';
import { settle } from '../history/settle.js';
import { Problem, badRequest, conflict, notFound } from '../http/problem.js';
import { refuseBeyond } from '../http/receive.js';
import type { Services } from '../http/route.js';
import { Unreachable, download } from '../outgoing/reach.js';
import { type Picture, pathOf, takePicture } from './take.js';

const { media, product } = tables;

/** Of one picture, in bytes, where it is fetched. */
const largest = 60_000_000;
/** Of those that have not come, and of the goods that name one. */
const mostShown = 200;

const attributeIds = (dictionary: Dictionary): number[] =>
  [...pictureKeys(dictionary)].flatMap((key) => dictionary.ids.get(key) ?? []);

/** How many goods name a picture of the row. */
const usedBy = (attributes: readonly number[]): SQL<number> =>
  sql<number>`(SELECT count(DISTINCT f.product_id)::int FROM fact f WHERE f.attribute_id = ANY(${ids(attributes)}) AND f.key = media.key)`;

const isUnused = (attributes: readonly number[]): SQL =>
  sql`NOT EXISTS (SELECT 1 FROM fact f WHERE f.attribute_id = ANY(${ids(attributes)}) AND f.key = media.key)`;

const columns = (attributes: readonly number[]) => ({
  id: media.id,
  name: media.name,
  format: media.format,
  bytes: media.bytes,
  width: media.width,
  height: media.height,
  plain: media.plain,
  blank: media.blank,
  changes: media.changes,
  alt: media.alt,
  at: media.at,
  used: usedBy(attributes),
});

export async function listPictures(
  db: Database,
  query: { search?: string | undefined; unused?: 'yes' | undefined; cursor?: string | undefined; limit: number },
) {
  const named = attributeIds(await loadDictionary(db));
  const rows = await db
    .select(columns(named))
    .from(media)
    .where(
      and(
        query.search ? sql`${media.key} LIKE ${containing(foldText(query.search))}` : undefined,
        query.unused ? isUnused(named) : undefined,
        query.cursor === undefined ? undefined : gt(media.name, query.cursor),
      ),
    )
    .orderBy(asc(media.name))
    .limit(query.limit + 1);
  const counted = await first(
    db
      .select({
        all: sql<number>`count(*)::int`,
        unused: sql<number>`(count(*) FILTER (WHERE ${isUnused(named)}))::int`,
      })
      .from(media),
  );
  const items = rows.slice(0, query.limit).map(shown);
  return {
    items,
    next: rows.length > query.limit ? (items.at(-1)?.name ?? null) : null,
    all: counted?.all ?? 0,
    unused: counted?.unused ?? 0,
    missing: await countMissing(db, named),
  };
}

/** Facts that name pictures which have not come; those at outside addresses are none. */
const namingMissing = (attributes: readonly number[]): SQL =>
  sql`fact f WHERE f.attribute_id = ANY(${ids(attributes)}) AND f.key IS NOT NULL AND f.key !~ '^(https?:)?//'
        AND NOT EXISTS (SELECT 1 FROM media m WHERE m.key = f.key)`;

async function countMissing(db: Database, attributes: readonly number[]): Promise<number> {
  const [row] = await queryRows<{ n: number }>(
    db,
    sql`SELECT count(*)::int AS n FROM (SELECT DISTINCT f.key FROM ${namingMissing(attributes)}) AS named`,
  );
  return row?.n ?? 0;
}

/** As facts have their names, those most goods name first. */
const missingKeys = (db: Database, attributes: readonly number[]) =>
  queryRows<{ key: string; goods: number; product: number }>(
    db,
    sql`SELECT f.key, count(DISTINCT f.product_id)::int AS goods, min(f.product_id) AS product FROM ${namingMissing(attributes)}
        GROUP BY f.key ORDER BY 2 DESC, 1 LIMIT ${mostShown}`,
  );

export async function listMissing(db: Database) {
  const dictionary = await loadDictionary(db);
  const keys = await missingKeys(db, attributeIds(dictionary));
  const pictured = pictureKeys(dictionary);
  const goods = await db
    .select({ id: product.id, facts: product.facts })
    .from(product)
    .where(
      isIn(
        product.id,
        keys.map((row) => row.product),
      ),
    );
  const factsOf = new Map(goods.map(({ id, facts }) => [id, facts]));
  return keys.map((row) => {
    const named = [...pictured].flatMap((key) => (factsOf.get(row.product)?.[key] ?? []) as Media[]);
    const name = named.find((each) => textKey(each.name) === row.key)?.name;
    return { name: name ?? row.key, goods: row.goods, product: row.product };
  });
}

export async function showPicture(db: Database, id: number) {
  const named = attributeIds(await loadDictionary(db));
  const row = await pictureOf(db, id, named);
  const goods = await db
    .select({ id: product.id, kind: product.kind, sku: product.sku, title: product.title })
    .from(product)
    .where(
      and(
        eq(product.stands, true),
        sql`${product.id} IN (SELECT f.product_id FROM fact f JOIN media m ON m.key = f.key WHERE m.id = ${id} AND f.attribute_id = ANY(${ids(named)}))`,
      ),
    )
    .orderBy(asc(product.kind), asc(product.sku), asc(product.id))
    .limit(mostShown);
  return { ...row, goods };
}

async function pictureOf(db: Executor, id: number, attributes: readonly number[]): Promise<PictureAnswer> {
  const row = await first(db.select(columns(attributes)).from(media).where(eq(media.id, id)));
  if (!row) throw notFound(`picture ${id}`);
  return shown(row);
}

const shown = <Row extends { at: string }>(row: Row): Row => ({ ...row, at: iso(row.at) });

/** Keeps a file that came as a picture; goods that named it before it came have it from now on. */
export async function keepPicture(
  services: Services,
  file: { path: string; name: string; sha256: string },
): Promise<PictureAnswer> {
  const { db, config, notify } = services;
  const dictionary = await loadDictionary(db);
  try {
    const held = await first(db.select({ bytes: sql<number>`coalesce(sum(${media.bytes}), 0)::float8` }).from(media));
    refuseBeyond(config.quota, held?.bytes ?? 0);
    const picture = await db.transaction(async (tx) => {
      const taken = await takePicture(tx, config, file);
      await followPicture(tx, taken, dictionary);
      return taken;
    });
    await settle(services);
    notify('catalog');
    notify('listings');
    return await pictureOf(db, picture.id, attributeIds(dictionary));
  } finally {
    await rm(file.path, { force: true });
  }
}

/** Goods that name a picture follow what it has become. */
async function followPicture(tx: Executor, { key }: Picture, dictionary: Dictionary): Promise<void> {
  const waiting = await queryRows<{ id: number }>(
    tx,
    sql`SELECT DISTINCT f.product_id AS id FROM fact f JOIN product p ON p.id = f.product_id AND p.stands
        WHERE f.attribute_id = ANY(${ids(attributeIds(dictionary))}) AND f.key = ${key}`,
  );
  if (waiting.length === 0) return;
  const units = await unitsOf(
    tx,
    waiting.map(({ id }) => id),
  );
  await resolveAndFollow(tx, units, dictionary);
  await markDirty(tx, units);
}

/** Fetches one from an address anybody may name: what it is, is looked at once it is here. */
export async function fetchPicture(services: Services, address: string): Promise<PictureAnswer> {
  const directory = join(services.config.files, 'arriving');
  await mkdir(directory, { recursive: true });
  const path = join(directory, randomUUID());
  try {
    const { ok, status, name, sha256 } = await download(services.config, address, path, { limit: largest });
    if (!ok) throw new Problem(422, 'Nothing was fetched', `${address} answered ${status}`);
    return await keepPicture(services, { path, name: name === '' ? 'picture' : name, sha256 });
  } catch (error) {
    if (error instanceof Unreachable) throw new Problem(422, 'Nothing was fetched', `${address} ${error.message}`);
    throw error;
  } finally {
    await rm(path, { force: true });
  }
}

/** Says what is seen on it; a language with no words is one without. */
export async function describePicture(
  services: Services,
  id: number,
  alt: Readonly<Record<string, string>>,
): Promise<PictureAnswer> {
  const { db, notify } = services;
  const dictionary = await loadDictionary(db);
  const { languages } = dictionary;
  const unknown = Object.keys(alt).find((language) => !languages.includes(language));
  if (unknown !== undefined) throw badRequest(`Texts are not kept in ${unknown}`);
  const said = Object.fromEntries(Object.entries(alt).filter(([, words]) => words !== ''));
  await db.transaction(async (tx) => {
    const [described] = await tx.update(media).set({ alt: said }).where(eq(media.id, id)).returning();
    if (described) await followPicture(tx, described, dictionary);
  });
  await settle(services);
  notify('catalog');
  notify('listings');
  return pictureOf(db, id, attributeIds(dictionary));
}

/** Throws one away that no goods name; its content goes with the last name it has. */
export async function removePicture({ db, config }: Services, id: number): Promise<void> {
  const named = attributeIds(await loadDictionary(db));
  const last = await db.transaction(async (tx) => {
    const held = await first(tx.select().from(media).where(eq(media.id, id)).for('update'));
    if (!held) throw notFound(`picture ${id}`);
    const { used } = await pictureOf(tx, id, named);
    if (used > 0)
      throw conflict(
        `“${held.name}” is a picture of ${used} ${used === 1 ? 'product' : 'products'}: take it out there first`,
      );
    await tx.delete(media).where(eq(media.id, id));
    const [other] = await tx
      .select({ id: media.id })
      .from(media)
      .where(and(eq(media.hash, held.hash), ne(media.id, id)));
    return other ? undefined : held;
  });
  if (last) await rm(pathOf(config, last), { force: true });
}
