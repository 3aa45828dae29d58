/** Goods put in or kept out by hand: of an assortment, or of a preset. */
import type { Handed } from '@velvet-shelf/contract';
import { type Executor, isIn } from '../db/client.js';
import { notFound } from '../http/problem.js';
import * as tables from '../db/schema/index.js';

type Hand = readonly Pick<Handed, 'product' | 'isIn'>[];

/** Refuses goods there are none of. */
export async function mustBeGoods(on: Executor, hand: Hand): Promise<void> {
  const numbers = hand.map(({ product }) => product);
  const there = await on.select({ id: tables.product.id }).from(tables.product).where(isIn(tables.product.id, numbers));
  const known = new Set(there.map(({ id }) => id));
  const lost = numbers.find((id) => !known.has(id));
  if (lost !== undefined) throw notFound(`product ${lost}`);
}

/** As people read them, by SKU; what is no more is left out. */
export async function describeHand(on: Executor, hand: Hand): Promise<Handed[]> {
  const { product } = tables;
  const goesIn = new Map(hand.map((each) => [each.product, each.isIn]));
  const rows = await on
    .select({ product: product.id, sku: product.sku, title: product.title, kind: product.kind })
    .from(product)
    .where(isIn(product.id, [...goesIn.keys()]))
    .orderBy(product.sku, product.id);
  return rows.map((row) => ({ ...row, isIn: goesIn.get(row.product) ?? true }));
}

/** In one order, whoever wrote it. */
export const plainHand = (hand: Hand): { product: number; isIn: boolean }[] =>
  [...hand].sort((a, b) => a.product - b.product).map(({ product, isIn: goesIn }) => ({ product, isIn: goesIn }));
