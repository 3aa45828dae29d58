/** The grid: a view is opened once and answered by its ordered ids; windows of rows and the counts come apart. */
import { randomBytes } from 'node:crypto';
import { type GridRow, type View, mostBulk, windowRows } from '@velvet-shelf/contract';
import { type Value, formatValue, groupBy, listOf } from '@velvet-shelf/core/values';
import { and, eq, isNull, lt, sql } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { type Database, type Executor, ids, queryOne, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { notFound } from '../http/problem.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import {
  type LookedAt,
  completing,
  conditionSql,
  everyday,
  goods,
  isLong,
  outOfSight,
  searchSql,
  wordsOf,
} from './filter.js';
import { allOf, countsIn, firstOf } from './views/ask.js';

interface Opened {
  view: LookedAt;
  /** Undefined until they are asked for. */
  ids: readonly number[] | undefined;
}

/** Views this server was asked for lately; the table has them all, for every server. */
const lately = new LRUCache<string, Opened>({ max: 64 });

interface Shown {
  columns: readonly string[];
  locale?: string | undefined;
}

/** Opens a view by its first rows alone: what there is of it in all is found when somebody asks. */
export async function openView(db: Database, view: View, { columns, locale }: Shown) {
  const dictionary = await loadDictionary(db, locale);
  let looked: LookedAt = view;
  let first = await firstOf(view);
  if (first.length === 0 && wordsOf(view.search).some(isLong)) {
    looked = { ...view, isLike: true };
    first = await firstOf(looked);
  }
  const isLike = looked.isLike === true && first.length > 0;
  const opened: Opened = { view: isLike ? looked : view, ids: first.length < windowRows ? first : undefined };
  const token = randomBytes(18).toString('base64url');
  const [rows] = await Promise.all([
    rowsOf(db, first, columns, dictionary),
    db.insert(tables.openedView).values({ token, view: opened.view, ids: opened.ids ? [...opened.ids] : null }),
  ]);
  remember(token, opened);
  return { token, first: rows, rows: opened.ids?.length ?? null, isLike };
}

function remember(token: string, opened: Opened): Opened {
  lately.set(token, opened);
  return opened;
}

/** A view by its token, whichever server opened it; one that has gone is opened again by whoever looks at it. */
export async function openedView(db: Executor, token: string): Promise<Opened> {
  const held = lately.get(token);
  if (held) return held;
  const [row] = await db
    .select({ view: tables.openedView.view, ids: tables.openedView.ids })
    .from(tables.openedView)
    .where(eq(tables.openedView.token, token));
  if (!row) throw notFound('such view any more; open it again');
  return remember(token, { view: row.view, ids: row.ids ?? undefined });
}

/**
 * Keeps the ordered ids of an opened view where nobody has yet: for all servers, and for good unless the transaction is rolled
 * back. Two that ask at once see the same order. Answers what it kept; undefined where others had.
 */
export async function storeIds(db: Executor, token: string): Promise<readonly number[] | undefined> {
  const { openedView: kept } = tables;
  const [row] = await db
    .select({ isOpen: sql<boolean>`${kept.ids} IS NULL` })
    .from(kept)
    .where(eq(kept.token, token));
  if (!row) throw notFound('such view any more; open it again');
  if (!row.isOpen) return undefined;
  const { view, ids: known } = await openedView(db, token);
  const found = known ?? (await allOf(view));
  const stored = await db
    .update(kept)
    .set({ ids: sql`${ids(found)}` })
    .where(and(eq(kept.token, token), isNull(kept.ids)));
  return stored.rowCount === 1 ? found : undefined;
}

/** Ordered ids of an opened view. */
export async function viewIds(db: Executor, token: string): Promise<readonly number[]> {
  const { view, ids: known } = await openedView(db, token);
  if (known) return known;
  const ordered = (await storeIds(db, token)) ?? (await storedIds(db, token));
  remember(token, { view, ids: ordered });
  return ordered;
}

async function storedIds(db: Executor, token: string): Promise<number[]> {
  // As one text of numbers: a row each would cost as much as finding them.
  const found = await queryOne<{ list: string }>(
    db,
    sql`SELECT array_to_string(ids, ' ') AS list FROM opened_view WHERE token = ${token}`,
  );
  return found?.list ? found.list.split(' ').map(Number) : [];
}

/** Where a product stands in an opened view, and its neighbours there. */
export async function besideOf(db: Database, token: string, id: number) {
  const order = await viewIds(db, token);
  const at = order.indexOf(id);
  const there = (place: number) => (at < 0 ? null : (order[place] ?? null));
  return { at: at < 0 ? null : at, of: order.length, before: there(at - 1), next: there(at + 1) };
}

/** Hours a view stays open that nobody asks for. */
const openHours = 24;

export async function forgetViews(db: Database): Promise<void> {
  await db.delete(tables.openedView).where(lt(tables.openedView.at, sql`now() - make_interval(hours => ${openHours})`));
}

type Bare = Omit<GridRow, 'values' | 'places' | 'category'> & { category: string | null; facts: Record<string, Value> };

export async function windowOf(
  db: Database,
  token: string,
  { from, count, columns, locale }: Shown & { from: number; count: number },
): Promise<(GridRow | null)[]> {
  const wanted = (await viewIds(db, token)).slice(from, from + count);
  return rowsOf(db, wanted, columns, await loadDictionary(db, locale));
}

/** Rows of goods in their order; null where they have gone. */
async function rowsOf(
  db: Database,
  wanted: readonly number[],
  columns: readonly string[],
  { attributes, home, reader }: Dictionary,
): Promise<(GridRow | null)[]> {
  const [found, places] = await Promise.all([
    queryRows<Bare>(
      db,
      sql`SELECT p.id, p.kind, p.family_id AS "familyId", p.sku, p.title, p.brand, p.category, p.gtin, p.state, p.picture, trim_scale(p.price)::text AS price,
            p.stock, p.complete, p.facts, CASE WHEN p.kind = 'family' THEN (SELECT count(*) FROM product v WHERE v.family_id = p.id AND v.stands)::int END AS variants
          FROM product p WHERE p.id = ANY(${ids(wanted)}) AND p.stands`,
    ),
    queryRows<{ product: number; placeId: number; readiness: string; channelState: string; listings: number }>(
      db,
      sql`SELECT product, place_id AS "placeId", readiness, channel_state AS "channelState", count(*)::int AS listings FROM (
            SELECT l.variant_id AS product, l.place_id, l.readiness, l.channel_state FROM listing l WHERE l.variant_id = ANY(${ids(wanted)})
            UNION ALL
            SELECT v.family_id, l.place_id, l.readiness, l.channel_state FROM product v JOIN listing l ON l.variant_id = v.id
            WHERE v.family_id = ANY(${ids(wanted)})) x GROUP BY 1, 2, 3, 4`,
    ),
  ]);
  const tree = listOf(attributes, 'category');
  const byId = new Map(found.map((row) => [row.id, row]));
  const placesOf = groupBy(places, (place) => place.product);
  return wanted.map((id) => {
    const row = byId.get(id);
    if (!row) return null;
    const { facts, ...bare } = row;
    const values: Record<string, string> = {};
    for (const key of columns) {
      const [value, attribute] = [facts[key], attributes.get(key)];
      if (value !== undefined && attribute) values[key] = formatValue(value, attribute, reader);
    }
    return {
      ...bare,
      category: bare.category === null ? null : tree.names(bare.category, home),
      values,
      places: (placesOf.get(id) ?? []).map(({ product: _, ...rest }) => rest),
    };
  });
}

/** Variants that a view leaves out although there are pieces of them: just for being idle or out of sight. */
export async function stockLeftOut(db: Database, token: string): Promise<number[]> {
  const { view } = await openedView(db, token);
  if (view.everything) return [];
  const dictionary = await loadDictionary(db);
  const found = await queryRows<{ id: number }>(
    db,
    sql`SELECT p.id FROM product p WHERE ${goods} AND p.stock > 0 AND NOT (${everyday} AND NOT ${outOfSight})
          AND ${completing(view)} AND ${conditionSql(view.condition, dictionary)} AND ${searchSql(view)} ORDER BY p.id LIMIT ${mostBulk}`,
  );
  return found.map(({ id }) => id);
}

/** What the view shows and what it leaves out, each variant under the first reason that holds. */
export async function countsOf(db: Database, token: string) {
  const { view } = await openedView(db, token);
  return countsIn(view);
}
