/** In which order a view shows its goods: all of them, or the first at once. */
import { type View, windowRows } from '@velvet-shelf/contract';
import { type ClosedList, closedList, listOf } from '@velvet-shelf/core/values';
import { type SQL, sql } from 'drizzle-orm';
import { type Executor, queryRows, texts } from '../db/client.js';
import type { Dictionary } from '../dictionary/dictionary.js';
import { badRequest } from '../http/problem.js';
import { type LookedAt, viewFilter } from './filter.js';

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

const sortOf = ({ sort }: View) => ({
  key: sort.replace(/^-/, ''),
  direction: sort.startsWith('-') ? sql`DESC NULLS LAST` : sql`ASC NULLS LAST`,
});

/** The first ids in the order of `orderedIds`, without putting all of them in order. */
export async function firstIds(db: Executor, view: LookedAt, dictionary: Dictionary): Promise<number[]> {
  const filter = viewFilter(view, dictionary);
  const { key, direction } = sortOf(view);
  const limit = sql`LIMIT ${windowRows}`;
  if (key !== 'family') {
    const valued = await firstValued(db, view, filter, dictionary);
    if (valued) return valued;
    const found = await queryRows<{ id: number }>(db, sql`${orderedIds(view, filter, dictionary)} ${limit}`);
    return found.map(({ id }) => id);
  }
  const unitOrder = sql`lower(u.title) ${direction}, u.id`;
  if (view.show === 'families') {
    const found = await queryRows<{ id: number }>(
      db,
      sql`SELECT u.id FROM product u WHERE u.id = u.unit_id AND EXISTS (SELECT 1 FROM product p WHERE p.unit_id = u.id AND ${filter})
          ORDER BY ${unitOrder} ${limit}`,
    );
    return found.map(({ id }) => id);
  }
  const found = await queryRows<{ id: number; unit: number }>(
    db,
    sql`SELECT p.id, u.id AS unit FROM product u JOIN product p ON p.unit_id = u.id WHERE u.id = u.unit_id AND ${filter}
        ORDER BY ${unitOrder}, p.id ${limit}`,
  );
  if (view.show === 'variants') return found.map(({ id }) => id);
  return [...new Set(found.flatMap(({ id, unit }) => [unit, id]))].slice(0, windowRows);
}

/** The first by a value of theirs, along its index; undefined where that does not fill the first rows. */
async function firstValued(
  db: Executor,
  view: View,
  filter: SQL,
  { attributes, ids: numbers }: Dictionary,
): Promise<number[] | undefined> {
  const { key, direction } = sortOf(view);
  const attribute = attributes.get(key);
  if (!attribute || Object.hasOwn(sortColumns, key) || view.show === 'families') return undefined;
  if (attribute.many || attribute.perLanguage || closedList(attribute)) return undefined;
  for (const column of [sql`f.num`, sql`f.key`]) {
    const found = await queryRows<{ id: number }>(
      db,
      sql`SELECT p.id FROM fact f JOIN product p ON p.id = f.product_id
          WHERE f.attribute_id = ${numbers.get(key)} AND ${column} IS NOT NULL AND ${filter}
          ORDER BY ${column} ${direction}, p.id LIMIT ${windowRows}`,
    );
    if (found.length === windowRows) return found.map(({ id }) => id);
  }
  return undefined;
}

export function orderedIds(view: View, filter: SQL, dictionary: Dictionary): SQL {
  const { key, direction } = sortOf(view);
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
