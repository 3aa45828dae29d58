/** Files as people look at them: which there are, who names them, which have not come; brought in and thrown away. */
import { randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { StoredFileAnswer } from '@velvet-shelf/contract';
import { foldText, textKey } from '@velvet-shelf/core/values';
import { type SQL, and, asc, eq, gt, ne, sql } from 'drizzle-orm';
import { type Database, type Executor, containing, first, ids, isIn, iso, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { Problem, conflict, notFound } from '../http/problem.js';
import { refuseBeyond } from '../http/receive.js';
import type { Services } from '../http/route.js';
import { Unreachable, download } from '../outgoing/reach.js';
import { fileAt, takeFile } from './take.js';

const { product, storedFile } = tables;

/** Of one file, in bytes, where it is fetched. */
const largest = 100_000_000;
/** Of those that have not come. */
const mostShown = 200;

async function attributeIds(on: Executor): Promise<number[]> {
  const { attributes, ids: byKey } = await loadDictionary(on);
  return [...attributes.values()].flatMap(({ key, type }) => (type === 'file' ? (byKey.get(key) ?? []) : []));
}

const naming = (attributes: readonly number[]): SQL =>
  sql`fact f WHERE f.attribute_id = ANY(${ids(attributes)}) AND f.key = ${storedFile.key}`;
const isUnused = (attributes: readonly number[]): SQL => sql`NOT EXISTS (SELECT 1 FROM ${naming(attributes)})`;

const columns = (attributes: readonly number[]) => ({
  id: storedFile.id,
  name: storedFile.name,
  type: storedFile.type,
  bytes: storedFile.bytes,
  at: storedFile.at,
  used: sql<number>`(SELECT count(DISTINCT f.product_id)::int FROM ${naming(attributes)})`,
  product: sql<number | null>`(SELECT min(f.product_id)::int FROM ${naming(attributes)})`,
});

const shown = <Row extends { at: string }>(row: Row): Row => ({ ...row, at: iso(row.at) });

export async function listFiles(
  db: Database,
  query: { search?: string | undefined; unused?: 'yes' | undefined; cursor?: string | undefined; limit: number },
) {
  const named = await attributeIds(db);
  const rows = await db
    .select(columns(named))
    .from(storedFile)
    .where(
      and(
        query.search ? sql`${storedFile.key} LIKE ${containing(foldText(query.search))}` : undefined,
        query.unused ? isUnused(named) : undefined,
        query.cursor === undefined ? undefined : gt(storedFile.name, query.cursor),
      ),
    )
    .orderBy(asc(storedFile.name))
    .limit(query.limit + 1);
  const counted = await first(
    db
      .select({
        all: sql<number>`count(*)::int`,
        unused: sql<number>`(count(*) FILTER (WHERE ${isUnused(named)}))::int`,
      })
      .from(storedFile),
  );
  const items = rows.slice(0, query.limit).map(shown);
  return {
    items,
    next: rows.length > query.limit ? (items.at(-1)?.name ?? null) : null,
    all: counted?.all ?? 0,
    unused: counted?.unused ?? 0,
  };
}

/** Files that goods name and that have not come; those at outside addresses are none. */
export async function listMissingFiles(db: Database) {
  const named = await attributeIds(db);
  const rows = await queryRows<{ key: string; goods: number; product: number }>(
    db,
    sql`SELECT f.key, count(DISTINCT f.product_id)::int AS goods, min(f.product_id)::int AS product FROM fact f
        WHERE f.attribute_id = ANY(${ids(named)}) AND f.key IS NOT NULL AND f.key !~ '^(https?:)?//'
          AND NOT EXISTS (SELECT 1 FROM stored_file s WHERE s.key = f.key)
        GROUP BY f.key ORDER BY 2 DESC, 1 LIMIT ${mostShown}`,
  );
  const goods = await db
    .select({ id: product.id, facts: product.facts })
    .from(product)
    .where(
      isIn(
        product.id,
        rows.map((row) => row.product),
      ),
    );
  const factsOf = new Map(goods.map(({ id, facts }) => [id, facts]));
  // Facts hold the name folded: as it is written it stands with the goods.
  return rows.map((row) => {
    const written = Object.values(factsOf.get(row.product) ?? {})
      .flat()
      .find((value): value is string => typeof value === 'string' && textKey(value) === row.key);
    return { name: written ?? row.key, goods: row.goods, product: row.product };
  });
}

async function fileOf(db: Executor, id: number): Promise<StoredFileAnswer> {
  const row = await first(
    db
      .select(columns(await attributeIds(db)))
      .from(storedFile)
      .where(eq(storedFile.id, id)),
  );
  if (!row) throw notFound(`file ${id}`);
  return shown(row);
}

export async function keepFile(
  { db, config }: Services,
  file: { path: string; name: string; sha256: string },
): Promise<StoredFileAnswer> {
  try {
    const held = await first(
      db.select({ bytes: sql<number>`coalesce(sum(${storedFile.bytes}), 0)::float8` }).from(storedFile),
    );
    refuseBeyond(config.quota, held?.bytes ?? 0);
    const taken = await db.transaction((tx) => takeFile(tx, config, file));
    return await fileOf(db, taken.id);
  } finally {
    await rm(file.path, { force: true });
  }
}

/** Fetches one from an address anybody may name. */
export async function fetchFile(services: Services, address: string): Promise<StoredFileAnswer> {
  const directory = join(services.config.files, 'arriving');
  await mkdir(directory, { recursive: true });
  const path = join(directory, randomUUID());
  try {
    const { ok, status, name, sha256 } = await download(services.config, address, path, { limit: largest });
    if (!ok) throw new Problem(422, 'Nothing was fetched', `${address} answered ${status}`);
    return await keepFile(services, { path, name: name === '' ? 'file' : name, sha256 });
  } catch (error) {
    if (error instanceof Unreachable) throw new Problem(422, 'Nothing was fetched', `${address} ${error.message}`);
    throw error;
  } finally {
    await rm(path, { force: true });
  }
}

/** Throws one away that no goods name; its content goes with the last name it has. */
export async function removeFile({ db, config }: Services, id: number): Promise<void> {
  const last = await db.transaction(async (tx) => {
    const held = await first(tx.select().from(storedFile).where(eq(storedFile.id, id)).for('update'));
    if (!held) throw notFound(`file ${id}`);
    const { used } = await fileOf(tx, id);
    if (used > 0)
      throw conflict(
        `“${held.name}” is a file of ${used} ${used === 1 ? 'product' : 'products'}: take it out there first`,
      );
    await tx.delete(storedFile).where(eq(storedFile.id, id));
    const [other] = await tx
      .select({ id: storedFile.id })
      .from(storedFile)
      .where(and(eq(storedFile.hash, held.hash), ne(storedFile.id, id)));
    return other ? undefined : held;
  });
  if (last) await rm(fileAt(config, last), { force: true });
}
