/** What goods name by a file's name, pictures and other files alike: who names each, which have not come, under which name one is kept. */
import { randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { type Attribute, type Media, foldText, members, textKey } from '@velvet-shelf/core/values';
import { type SQL, and, eq, gt, ne, sql } from 'drizzle-orm';
import { type Database, type Executor, containing, first, ids, isIn, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import type { Dictionary } from '../dictionary/dictionary.js';
import { Problem, conflict } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { Unreachable, download } from '../outgoing/reach.js';

const { product } = tables;

/** Of those that have not come, and of the goods that name one. */
export const mostShown = 200;

/** A table of what goes by a name, and the attributes whose values are such names. */
export interface Named {
  table: typeof tables.media | typeof tables.storedFile;
  attributes: readonly Attribute[];
  ids: readonly number[];
}

export function namedBy(table: Named['table'], type: 'media' | 'file', dictionary: Dictionary): Named {
  const attributes = [...dictionary.attributes.values()].filter((attribute) => attribute.type === type);
  return { table, attributes, ids: attributes.flatMap(({ key }) => dictionary.ids.get(key) ?? []) };
}

/** A column with its table, wherever it stands: beside `fact`, a bare name would be the fact's own. */
const keyOf = ({ table }: Named): SQL => sql`${table}.${sql.identifier(table.key.name)}`;

/** Facts that name the row. */
const naming = (named: Named): SQL =>
  sql`fact f WHERE f.attribute_id = ANY(${ids(named.ids)}) AND f.key = ${keyOf(named)}`;

/** How many goods name the row, and one of them. */
export const usedBy = (named: Named): SQL<number> =>
  sql<number>`(SELECT count(DISTINCT f.product_id)::int FROM ${naming(named)})`;
export const oneOf = (named: Named): SQL<number | null> =>
  sql<number | null>`(SELECT min(f.product_id)::int FROM ${naming(named)})`;

const isUnused = (named: Named): SQL => sql`NOT EXISTS (SELECT 1 FROM ${naming(named)})`;

export interface NamedQuery {
  search?: string | undefined;
  unused?: 'yes' | undefined;
  cursor?: string | undefined;
  limit: number;
}

/** Rows that a page asks for, in the order of their names. */
export const isAskedFor = (named: Named, { search, unused, cursor }: NamedQuery): SQL | undefined =>
  and(
    search ? sql`${named.table.key} LIKE ${containing(foldText(search))}` : undefined,
    unused ? isUnused(named) : undefined,
    cursor === undefined ? undefined : gt(named.table.name, cursor),
  );

/** A page of the rows found, of which one more than asked for was looked for. */
export function pageOf<Row extends { name: string }>(rows: readonly Row[], { limit }: NamedQuery) {
  const items = rows.slice(0, limit);
  return { items, next: rows.length > limit ? (items.at(-1)?.name ?? null) : null };
}

export async function countNamed(db: Database, named: Named): Promise<{ all: number; unused: number }> {
  const counted = await first(
    db
      .select({
        all: sql<number>`count(*)::int`,
        unused: sql<number>`(count(*) FILTER (WHERE ${isUnused(named)}))::int`,
      })
      .from(named.table),
  );
  return { all: counted?.all ?? 0, unused: counted?.unused ?? 0 };
}

/** Facts that name what has not come; what stands at an outside address is none. */
const namingMissing = ({ table, ids: attributes }: Named): SQL =>
  sql`fact f WHERE f.attribute_id = ANY(${ids(attributes)}) AND f.key IS NOT NULL AND f.key !~ '^(https?:)?//'
        AND NOT EXISTS (SELECT 1 FROM ${table} m WHERE m.key = f.key)`;

export async function countMissing(db: Database, named: Named): Promise<number> {
  const [row] = await queryRows<{ n: number }>(
    db,
    sql`SELECT count(*)::int AS n FROM (SELECT DISTINCT f.key FROM ${namingMissing(named)}) AS named`,
  );
  return row?.n ?? 0;
}

/** What has not come, that which most goods name first, as the goods write it. */
export async function listMissing(db: Database, named: Named) {
  const rows = await queryRows<{ key: string; goods: number; product: number }>(
    db,
    sql`SELECT f.key, count(DISTINCT f.product_id)::int AS goods, min(f.product_id)::int AS product FROM ${namingMissing(named)}
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
  return rows.map(({ key, goods: count, product: id }) => {
    const names = named.attributes.flatMap((attribute) => {
      const value = factsOf.get(id)?.[attribute.key];
      return value === undefined
        ? []
        : members(value).map((one) => (typeof one === 'string' ? one : (one as Media).name));
    });
    return { name: names.find((name) => textKey(name) === key) ?? key, goods: count, product: id };
  });
}

/** Fetches one from an address anybody may name, and hands it on; what it is, is looked at once it is here. `what` is its name where it has none. */
export async function fetchNamed<Kept>(
  { config }: Services,
  address: string,
  { what, limit }: { what: string; limit: number },
  keep: (file: { path: string; name: string; sha256: string }) => Promise<Kept>,
): Promise<Kept> {
  const directory = join(config.files, 'arriving');
  await mkdir(directory, { recursive: true });
  const path = join(directory, randomUUID());
  try {
    const { ok, status, name, sha256 } = await download(config, address, path, { limit });
    if (!ok) throw new Problem(422, 'Nothing was fetched', `${address} answered ${status}`);
    return await keep({ path, name: name === '' ? what : name, sha256 });
  } catch (error) {
    if (error instanceof Unreachable) throw new Problem(422, 'Nothing was fetched', `${address} ${error.message}`);
    throw error;
  } finally {
    await rm(path, { force: true });
  }
}

/** A name without its path and without marks that an address or a list of names would trip over, no longer than a disk takes. */
export function cleanName(name: string): { stem: string; end: string } {
  const base = name
    .replace(/^.*[/\\]/, '')
    .replace(/[\p{Cc}|,;?#%"]+/gu, '-')
    .trim();
  const end = extname(base);
  return { stem: base.slice(0, base.length - end.length).slice(0, 180), end: end.slice(0, 20) };
}

/**
 * Makes a row under the name, or the first with a figure that no other content has; where this content has one of them already,
 * that row. Of two of one name at one moment the second finds it taken.
 */
export async function underFreeName<Row extends { hash: string }>(
  { stem, end }: { stem: string; end: string },
  hash: string,
  { insert, held }: { insert(name: string): Promise<Row | undefined>; held(name: string): Promise<Row | undefined> },
): Promise<Row> {
  for (let n = 1; ; n++) {
    const name = n === 1 ? `${stem}${end}` : `${stem}-${n}${end}`;
    const made = await insert(name);
    if (made) return made;
    const there = await held(name);
    if (there?.hash === hash) return there;
  }
}

/** Takes a row away that no goods name; answers whether its content goes with it, for it had no other name. */
export async function removeNamed(
  tx: Executor,
  { table }: Named,
  { id, name, hash, used }: { id: number; name: string; hash: string; used: number },
  what: string,
): Promise<boolean> {
  if (used > 0)
    throw conflict(`“${name}” is a ${what} of ${used} ${used === 1 ? 'product' : 'products'}: take it out there first`);
  await tx.delete(table).where(eq(table.id, id));
  const other = await first(
    tx
      .select({ id: table.id })
      .from(table)
      .where(and(eq(table.hash, hash), ne(table.id, id)))
      .limit(1),
  );
  return other === undefined;
}
