/** What is offered where goods have run out, and what goes with them: what is kept of both, and what could stand in. */
import type { OtherGoods, OtherGoodsAnswer } from '@velvet-shelf/contract';
import { alike } from '@velvet-shelf/core/catalog';
import { type Attribute, type Role, members, withRole } from '@velvet-shelf/core/values';
import { type SQL, sql } from 'drizzle-orm';
import { type Executor, isAmong, queryRows } from '../db/client.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import type { ProductRow } from './draft.js';
import { everyday, goods, outOfSight } from './filter.js';
import { heldBy } from './held.js';

const mostProposed = 5;
/** Of one category, the nearest in price, that are looked at. */
const mostLookedAt = 500;
/** Less alike is no substitute. */
const leastAlike = 0.5;

export async function otherGoodsOf(on: Executor, id: number, locale?: string): Promise<OtherGoodsAnswer> {
  const dictionary = await loadDictionary(on, locale);
  const { product, slots } = (await heldBy(on, [id], dictionary))(id);
  const kept = (role: Role): { attribute: Attribute | undefined; skus: string[] } => {
    const [attribute] = withRole(dictionary.attributes, role);
    const value = attribute && slots.get(attribute.key)?.value;
    return { attribute, skus: value === undefined ? [] : members(value).map(String) };
  };
  const [instead, beside] = [kept('substitutes'), kept('related')];
  const named = await ofSkus(on, [...instead.skus, ...beside.skus], dictionary);
  const known = ({ attribute, skus }: typeof instead) => ({
    attribute: attribute ? { key: attribute.key, label: attribute.label } : null,
    kept: skus.map((sku) => ({ sku, goods: named.get(sku) ?? null })),
  });
  return {
    substitutes: known(instead),
    related: known(beside),
    proposed: product.kind === 'family' ? [] : await proposed(on, product, new Set(instead.skus), dictionary),
  };
}

type Row = Pick<ProductRow, 'id' | 'sku' | 'title' | 'picture' | 'stock' | 'facts' | 'offers' | 'family_id'>;

const rowsOf = (on: Executor, rest: SQL): Promise<Row[]> =>
  queryRows<Row>(
    on,
    sql`SELECT p.id, p.sku, p.title, p.picture, p.stock, p.facts, p.offers, p.family_id FROM product p ${rest}`,
  );

const shown = ({ id, sku, title, picture, stock, offers }: Row, { currency }: Dictionary): OtherGoods => ({
  ...{ id, sku, title, picture, stock },
  price: offers[currency]?.regular ?? null,
});

async function ofSkus(on: Executor, skus: readonly string[], dictionary: Dictionary): Promise<Map<string, OtherGoods>> {
  if (skus.length === 0) return new Map();
  const rows = await rowsOf(on, sql`WHERE ${isAmong(sql`p.sku`, skus)} AND ${goods} ORDER BY p.id DESC`);
  return new Map(rows.map((row) => [row.sku ?? '', shown(row, dictionary)]));
}

/** The most alike of its category that can be sold now, best first. */
async function proposed(
  on: Executor,
  product: ProductRow,
  kept: ReadonlySet<string>,
  dictionary: Dictionary,
): Promise<OtherGoodsAnswer['proposed']> {
  if (product.category === null) return [];
  const price = product.offers[dictionary.currency]?.regular ?? null;
  const rows = await rowsOf(
    on,
    sql`WHERE p.category = ${product.category} AND p.id <> ${product.id} AND p.stock > 0 AND NOT p.hidden AND p.sku IS NOT NULL
        AND ${goods} AND ${everyday} AND NOT ${outOfSight} ORDER BY abs(p.price - ${price}::numeric) NULLS LAST, p.id LIMIT ${mostLookedAt}`,
  );
  const mine = { facts: product.facts, price, family: product.family_id };
  return rows
    .filter(({ sku }) => !kept.has(sku ?? ''))
    .map((row) => {
      const other = shown(row, dictionary);
      return {
        goods: other,
        ...alike(mine, { facts: row.facts, price: other.price, family: row.family_id }, dictionary.attributes),
      };
    })
    .filter(({ score }) => score >= leastAlike)
    .sort((a, b) => b.score - a.score || a.goods.id - b.goods.id)
    .slice(0, mostProposed);
}
