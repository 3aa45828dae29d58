/** Pictures as people look at them: which there are, who names them, which have not come; brought in, described, thrown away. */
import { rm } from 'node:fs/promises';
import type { PictureAnswer } from '@velvet-shelf/contract';
import { and, asc, eq, sql } from 'drizzle-orm';
import { resolveAndFollow } from '../catalog/resolve-all.js';
import { unitsOf } from '../catalog/units.js';
import { type Database, type Executor, first, ids, iso, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import {
  type Named,
  type NamedQuery,
  countMissing,
  countNamed,
  fetchNamed,
  isAskedFor,
  listMissing,
  mostShown,
  namedBy,
  pageOf,
  removeNamed,
  usedBy,
} from '../files/named.js';
import { markDirty } from '../history/dirty.js';
import { settle } from '../history/settle.js';
import { badRequest, notFound } from '../http/problem.js';
import { refuseBeyond } from '../http/receive.js';
import type { Services } from '../http/route.js';
import { type Picture, pathOf, takePicture } from './take.js';

const { media, product } = tables;

/** Of one picture, in bytes, where it is fetched. */
const largest = 60_000_000;

const namedPictures = (dictionary: Dictionary): Named => namedBy(media, 'media', dictionary);

const columns = (named: Named) => ({
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
  used: usedBy(named),
});

export async function listPictures(db: Database, query: NamedQuery) {
  const named = namedPictures(await loadDictionary(db));
  const rows = await db
    .select(columns(named))
    .from(media)
    .where(isAskedFor(named, query))
    .orderBy(asc(media.name))
    .limit(query.limit + 1);
  return {
    ...pageOf(rows.map(shown), query),
    ...(await countNamed(db, named)),
    missing: await countMissing(db, named),
  };
}

export const listMissingPictures = async (db: Database) => listMissing(db, namedPictures(await loadDictionary(db)));

export async function showPicture(db: Database, id: number) {
  const named = namedPictures(await loadDictionary(db));
  const row = await pictureOf(db, id, named);
  const goods = await db
    .select({ id: product.id, kind: product.kind, sku: product.sku, title: product.title })
    .from(product)
    .where(
      and(
        eq(product.stands, true),
        sql`${product.id} IN (SELECT f.product_id FROM fact f JOIN media m ON m.key = f.key WHERE m.id = ${id} AND f.attribute_id = ANY(${ids(named.ids)}))`,
      ),
    )
    .orderBy(asc(product.kind), asc(product.sku), asc(product.id))
    .limit(mostShown);
  return { ...row, goods };
}

async function pictureOf(db: Executor, id: number, named: Named): Promise<PictureAnswer> {
  const row = await first(db.select(columns(named)).from(media).where(eq(media.id, id)));
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
    return await pictureOf(db, picture.id, namedPictures(dictionary));
  } finally {
    await rm(file.path, { force: true });
  }
}

/** Goods that name a picture follow what it has become. */
async function followPicture(tx: Executor, { key }: Picture, dictionary: Dictionary): Promise<void> {
  const waiting = await queryRows<{ id: number }>(
    tx,
    sql`SELECT DISTINCT f.product_id AS id FROM fact f JOIN product p ON p.id = f.product_id AND p.stands
        WHERE f.attribute_id = ANY(${ids(namedPictures(dictionary).ids)}) AND f.key = ${key}`,
  );
  if (waiting.length === 0) return;
  const units = await unitsOf(
    tx,
    waiting.map(({ id }) => id),
  );
  await resolveAndFollow(tx, units, dictionary);
  await markDirty(tx, units);
}

export const fetchPicture = (services: Services, address: string): Promise<PictureAnswer> =>
  fetchNamed(services, address, { what: 'picture', limit: largest }, (file) => keepPicture(services, file));

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
  return pictureOf(db, id, namedPictures(dictionary));
}

/** Throws one away that no goods name; its content goes with the last name it has. */
export async function removePicture({ db, config }: Services, id: number): Promise<void> {
  const named = namedPictures(await loadDictionary(db));
  const last = await db.transaction(async (tx) => {
    const held = await first(tx.select().from(media).where(eq(media.id, id)).for('update'));
    if (!held) throw notFound(`picture ${id}`);
    const { used } = await pictureOf(tx, id, named);
    return (await removeNamed(tx, named, { ...held, used }, 'picture')) ? held : undefined;
  });
  if (last) await rm(pathOf(config, last), { force: true });
}
