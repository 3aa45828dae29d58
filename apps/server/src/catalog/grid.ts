/** The grid: a view is opened once and answered by its ordered ids; windows of rows and the counts come apart. */
import { randomBytes } from 'node:crypto';
import { type GridRow, type View, mostBulk } from '@velvet-shelf/contract';
import { type Comparison, type Condition, comparisonKey, listedKeys, soughtText } from '@velvet-shelf/core/conditions';
import { type ClosedList, type Value, closedList, foldText, formatValue, listOf } from '@velvet-shelf/core/values';
import { type SQL, eq, lt, sql } from 'drizzle-orm';
import { type Database, type Executor, containing, ids, json, texts, queryOne, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import type { Services } from '../http/route.js';
import { kept, nameOf } from '../kept/keep.js';
import { badRequest, notFound } from '../http/problem.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';

/** A view as it was opened: where no goods have the words of its search, it is of those that have words like them. */
export interface LookedAt extends View {
  isLike?: boolean;
}

interface Opened {
  view: LookedAt;
  ids: readonly number[];
}

/** Views this server was asked for lately, the latest used last; the table has them all, for every server. */
const lately = new Map<string, Opened>();
const mostLately = 64;

/** Of a row of `set_aside` as a: it still holds. */
const asideNow = sql`(a.until IS NULL OR a.until > CURRENT_DATE)`;
/** Goods somebody has put out of sight. */
const outOfSight = sql`EXISTS (SELECT 1 FROM set_aside a WHERE a.product_id = p.id AND a.sight AND ${asideNow})`;

/** Variants with a value missing or wrong in the catalog that keeps one of their listings back. */
export const toComplete = sql`SELECT l.variant_id FROM listing l
  WHERE NOT l.muted AND NOT EXISTS (SELECT 1 FROM set_aside a WHERE a.product_id = l.variant_id AND a.gaps AND ${asideNow}) AND l.cause_set_id IN (
  SELECT s.id FROM cause_set s WHERE s.causes && (SELECT coalesce(array_agg(c.id), '{}') FROM cause c WHERE c.kind = 'catalog'))`;

const completing = (view: View) => (view.toComplete ? sql`p.id IN (${toComplete})` : sql`true`);
const goods = sql`p.kind IN ('variant', 'single') AND p.stands`;
/** States of goods that nobody sees every day. */
export const idleStates = ['paused', 'withdrawn'];
const everyday = sql`coalesce(p.state, '') <> ALL(${texts(idleStates)})`;

/** Of rows of the table `product` as p: the view shows them. */
export const viewFilter = (view: LookedAt, dictionary: Dictionary): SQL =>
  sql`${goods} AND ${completing(view)} AND ${view.everything ? sql`true` : sql`${everyday} AND NOT ${outOfSight}`} AND ${conditionSql(view.condition, dictionary)} AND ${searchSql(view)}`;

export async function openView(db: Database, view: View): Promise<{ token: string; rows: number; isLike: boolean }> {
  const dictionary = await loadDictionary(db);
  const opened = await openAs(db, view, dictionary);
  if (opened.rows > 0 || !wordsOf(view.search).some(isLong)) return { ...opened, isLike: false };
  const like = await openAs(db, { ...view, isLike: true }, dictionary);
  return like.rows === 0 ? { ...opened, isLike: false } : { ...like, isLike: true };
}

async function openAs(db: Database, view: LookedAt, dictionary: Dictionary): Promise<{ token: string; rows: number }> {
  const filter = viewFilter(view, dictionary);
  const token = randomBytes(18).toString('base64url');
  // Back as one text of numbers: a row each would cost as much as finding them.
  const made = await queryOne<{ list: string }>(
    db,
    sql`INSERT INTO opened_view (token, view, ids) SELECT ${token}, ${json(view)}, ARRAY(${orderedIds(view, filter, dictionary)})
        RETURNING array_to_string(ids, ' ') AS list`,
  );
  const ordered = made?.list ? made.list.split(' ').map(Number) : [];
  remember(token, { view, ids: ordered });
  return { token, rows: ordered.length };
}

function remember(token: string, opened: Opened): Opened {
  lately.delete(token);
  lately.set(token, opened);
  for (const old of lately.keys()) {
    if (lately.size <= mostLately) break;
    lately.delete(old);
  }
  return opened;
}

/** A view by its token, whichever server opened it; one that has gone is opened again by whoever looks at it. */
export async function openedView(db: Executor, token: string): Promise<Opened> {
  const held = lately.get(token);
  if (held) return remember(token, held);
  const [row] = await db
    .select({ view: tables.openedView.view, ids: tables.openedView.ids })
    .from(tables.openedView)
    .where(eq(tables.openedView.token, token));
  if (!row) throw notFound('such view any more; open it again');
  return remember(token, row);
}

/** Ordered ids of an opened view. */
export const viewIds = async (db: Executor, token: string): Promise<readonly number[]> =>
  (await openedView(db, token)).ids;

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

const sortColumns: Record<string, SQL> = {
  sku: sql`p.sku COLLATE "C"`,
  title: sql`lower(p.title)`,
  brand: sql`lower(p.brand)`,
  gtin: sql`p.gtin COLLATE "C"`,
  state: sql`p.state`,
  price: sql`p.price`,
  stock: sql`p.stock`,
  complete: sql`p.complete`,
};

/** Where a value stands in its list. */
const placeOf = (list: ClosedList, key: SQL) =>
  sql`array_position(${texts(list.values.map((value) => value.key))}, ${key}::text)`;

function orderedIds(view: View, filter: SQL, dictionary: Dictionary): SQL {
  const descending = view.sort.startsWith('-');
  const key = view.sort.replace(/^-/, '');
  const direction = descending ? sql`DESC NULLS LAST` : sql`ASC NULLS LAST`;
  if (key === 'family') {
    const variants = sql`SELECT p.id, p.unit_id FROM product p WHERE ${filter}`;
    const which =
      view.show === 'variants'
        ? sql`SELECT id, unit_id FROM m`
        : view.show === 'families'
          ? sql`SELECT DISTINCT unit_id AS id, unit_id FROM m`
          : sql`SELECT id, unit_id FROM m UNION SELECT unit_id, unit_id FROM m`;
    return sql`WITH m AS MATERIALIZED (${variants}) SELECT x.id FROM (${which}) x JOIN product u ON u.id = x.unit_id
      ORDER BY lower(u.title) ${direction}, x.unit_id, (x.id <> x.unit_id), x.id`;
  }
  const attribute = dictionary.attributes.get(key);
  const attributeId = attribute && dictionary.ids.get(attribute.key);
  const column = Object.hasOwn(sortColumns, key)
    ? sortColumns[key]
    : key === 'category'
      ? placeOf(listOf(dictionary.attributes, 'category'), sql`p.category`)
      : undefined;
  const list = attribute && closedList(attribute);
  if (view.show === 'families') {
    if (!column) throw badRequest(`Families cannot be sorted by “${key}”`);
    return sql`SELECT p.id FROM product p WHERE p.id IN (SELECT p.unit_id FROM product p WHERE ${filter}) ORDER BY ${column} ${direction}, p.id`;
  }
  if (column) return sql`SELECT p.id FROM product p WHERE ${filter} ORDER BY ${column} ${direction}, p.id`;
  if (attributeId === undefined) throw badRequest(`There is no column “${key}” to sort by`);
  if (list) {
    const place = placeOf(list, sql`f.key`);
    return sql`SELECT p.id FROM product p LEFT JOIN (SELECT f.product_id, min(${place}) AS place FROM fact f WHERE f.attribute_id = ${attributeId} GROUP BY 1) f ON f.product_id = p.id
      WHERE ${filter} ORDER BY f.place ${direction}, p.id`;
  }
  return sql`SELECT p.id FROM product p LEFT JOIN (SELECT product_id, min(num) AS num, min(key) AS key FROM fact WHERE attribute_id = ${attributeId} GROUP BY 1) f ON f.product_id = p.id
    WHERE ${filter} ORDER BY f.num ${direction}, f.key ${direction}, p.id`;
}

const wordsOf = (search: string): string[] => foldText(search).split(' ').filter(Boolean);

/** Shorter words are like too many others. */
const isLong = (word: string): boolean => word.length >= 4;

function searchSql({ search, isLike = false }: LookedAt): SQL {
  const words = wordsOf(search);
  if (words.length === 0) return sql`true`;
  return sql.join(
    words.map((word) => {
      if (isLike && isLong(word)) return sql`p.search %> ${word}`;
      const like = containing(word);
      // The index knows threes of letters: with fewer it would be gone through whole, and slower than the goods.
      return word.length < 3 ? sql`p.search || '' LIKE ${like}` : sql`p.search LIKE ${like}`;
    }),
    sql` AND `,
  );
}

/** The condition language as SQL over `fact`: the same keys core compares. */
export function conditionSql(condition: Condition, dictionary: Dictionary): SQL {
  if ('all' in condition)
    return condition.all.length === 0
      ? sql`true`
      : sql`(${sql.join(
          condition.all.map((part) => conditionSql(part, dictionary)),
          sql` AND `,
        )})`;
  if ('any' in condition)
    return condition.any.length === 0
      ? sql`false`
      : sql`(${sql.join(
          condition.any.map((part) => conditionSql(part, dictionary)),
          sql` OR `,
        )})`;
  if ('not' in condition) return sql`NOT ${conditionSql(condition.not, dictionary)}`;
  return comparisonSql(condition, dictionary);
}

function comparisonSql(condition: Comparison, dictionary: Dictionary): SQL {
  const attribute = dictionary.attributes.get(condition.attribute);
  const id = attribute && dictionary.ids.get(attribute.key);
  if (!attribute || id === undefined) throw badRequest(`There is no attribute “${condition.attribute}”`);
  const language = attribute.perLanguage ? (condition.language ?? dictionary.home) : '';
  const having = (test: SQL) =>
    sql`p.id IN (SELECT product_id FROM fact WHERE attribute_id = ${id} AND lang = ${language} AND ${test})`;
  const sought = soughtText(condition, attribute);
  if (sought !== undefined)
    return sql`p.id IN (SELECT product_id FROM product_text t
      WHERE position(${sought} in t.sought -> ${attribute.key}::text ->> ${language}::text) > 0)`;
  if (condition.op === 'isEmpty') return sql`NOT ${having(sql`true`)}`;
  if (condition.op === 'isNotEmpty') return having(sql`true`);
  const listed = listedKeys(condition, attribute);
  if (listed) return having(sql`key = ANY(${texts([...listed])})`);
  const key = comparisonKey(condition, attribute);
  if (key === undefined) return sql`false`;
  const column = typeof key === 'number' ? sql`num` : sql`key`;
  switch (condition.op) {
    case 'is':
      return having(sql`${column} = ${key}`);
    case 'isNot':
      return having(sql`${column} <> ${key}`);
    case 'atLeast':
      return having(sql`${column} >= ${key}`);
    case 'atMost':
      return having(sql`${column} <= ${key}`);
    case 'contains':
      return having(sql`position(${String(key)} in coalesce(key, num::text)) > 0`);
    case 'under':
      return typeof key === 'number'
        ? having(sql`num = ${key}`)
        : having(sql`(key = ${key} OR starts_with(key, ${`${key}/`}))`);
  }
}

type Bare = Omit<GridRow, 'values' | 'places' | 'category'> & { category: string | null; facts: Record<string, Value> };

export async function windowOf(
  db: Database,
  token: string,
  { from, count, columns, locale }: { from: number; count: number; columns: string[]; locale?: string | undefined },
): Promise<(GridRow | null)[]> {
  const wanted = (await openedView(db, token)).ids.slice(from, from + count);
  const { attributes, home, reader } = await loadDictionary(db, locale);
  const found = await queryRows<Bare>(
    db,
    sql`SELECT p.id, p.kind, p.family_id AS "familyId", p.sku, p.title, p.brand, p.category, p.gtin, p.state, p.picture, trim_scale(p.price)::text AS price,
          p.stock, p.complete, p.facts, CASE WHEN p.kind = 'family' THEN (SELECT count(*) FROM product v WHERE v.family_id = p.id AND v.stands)::int END AS variants
        FROM product p WHERE p.id = ANY(${ids(wanted)}) AND p.stands`,
  );
  const places = await queryRows<{
    product: number;
    placeId: number;
    readiness: string;
    channelState: string;
    listings: number;
  }>(
    db,
    sql`SELECT product, place_id AS "placeId", readiness, channel_state AS "channelState", count(*)::int AS listings FROM (
          SELECT l.variant_id AS product, l.place_id, l.readiness, l.channel_state FROM listing l WHERE l.variant_id = ANY(${ids(wanted)})
          UNION ALL
          SELECT v.family_id, l.place_id, l.readiness, l.channel_state FROM product v JOIN listing l ON l.variant_id = v.id
          WHERE v.family_id = ANY(${ids(wanted)})) x GROUP BY 1, 2, 3, 4`,
  );
  const tree = listOf(attributes, 'category');
  const byId = new Map(found.map((row) => [row.id, row]));
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
      places: places.filter((place) => place.product === id).map(({ product: _, ...rest }) => rest),
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
export async function countsOf(services: Services, token: string) {
  const { view } = await openedView(services.db, token);
  return kept(services, nameOf('view', view), () => countView(services.db, view));
}

async function countView(db: Database, view: View) {
  const dictionary = await loadDictionary(db);
  const reason = sql`CASE
    WHEN NOT (${completing(view)}) THEN 'with nothing to complete'
    WHEN NOT (${conditionSql(view.condition, dictionary)}) THEN 'outside the conditions'
    WHEN NOT (${searchSql(view)}) THEN 'not found by the search'
    WHEN NOT (${view.everything ? sql`true` : everyday}) THEN p.state
    WHEN ${view.everything ? sql`false` : outOfSight} THEN 'set aside' ELSE 'shown' END`;
  const found = await queryRows<{ reason: string; variants: number; stock: number }>(
    db,
    sql`SELECT reason, count(*) AS variants, count(*) FILTER (WHERE stock > 0) AS stock FROM (SELECT p.stock, ${reason} AS reason FROM product p WHERE ${goods}) r GROUP BY 1`,
  );
  const families = await queryOne<{ n: number }>(
    db,
    sql`SELECT count(DISTINCT p.unit_id) AS n FROM product p WHERE ${goods} AND ${reason} = 'shown'`,
  );
  return {
    variants: found.find((row) => row.reason === 'shown')?.variants ?? 0,
    families: families?.n ?? 0,
    leftOut: found
      .filter((row) => row.reason !== 'shown')
      .map(({ reason: why, variants, stock }) => ({ reason: why, variants, withStock: stock })),
  };
}
