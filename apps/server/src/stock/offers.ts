/** Prices and stock out of supplier records: no claims, but ledger entries and price rows with a history. */
import type { RecordOffer } from '@velvet-shelf/core/intake';
import { sql } from 'drizzle-orm';
import { refreshOffers } from '../prices/columns.js';
import { type Price, pricesOf, undoPrices, writePrices } from '../prices/prices.js';
import { type Executor, ids, json, queryRows } from '../db/client.js';
import type { Change } from '../history/record.js';
import type { Undo } from '../history/undo.js';
import { followStock } from './follow.js';
import { bookMovements, findWarehouse, followJoins, reverseMovements, supplierWarehouse } from './ledger.js';

/** Writes what records say of price and stock; answers what changed. A supplier's figures are counted in its own warehouse. */
export async function applyOffers(
  on: Executor,
  records: readonly number[],
  source: { batchId: number; actionId: number },
): Promise<Change[]> {
  const offers = await queryRows<{ product: number; isOwn: boolean; offer: RecordOffer }>(
    on,
    sql`SELECT r.product_id AS product, s.kind = 'own' AS "isOwn", c.content -> 'offer' AS offer
        FROM record r JOIN supplier s ON s.id = r.supplier_id JOIN record_content c ON c.id = r.content_id
        WHERE r.id = ANY(${ids(records)}) AND (c.content -> 'offer')::text <> '{}' AND r.product_id IS NOT NULL`,
  );
  // Of a family with a price of its own whoever names none has that.
  const priced = await queryRows<{ id: number }>(
    on,
    sql`SELECT DISTINCT p.id FROM record r JOIN product p ON p.id = r.product_id
        WHERE r.id = ANY(${ids(records)}) AND EXISTS (SELECT 1 FROM price x WHERE x.product_id = p.family_id)`,
  );
  if (offers.length === 0 && priced.length === 0) return [];
  const prices: (Price & { product: number })[] = [];
  const counts: { product: number; figure: number }[] = [];
  const suppliers: number[] = [];
  for (const { product, isOwn, offer } of offers) {
    prices.push(...pricesOf(offer).map((price) => ({ product, ...price })));
    if (offer.stock === undefined) continue;
    if (isOwn) counts.push({ product, figure: offer.stock });
    else suppliers.push(product);
  }
  const changes = new Map<number, Record<string, unknown[]>>();
  const note = (product: number, field: string, before: unknown, after: unknown) => {
    changes.set(product, { ...changes.get(product), [field]: [before, after] });
  };
  for (const { product, field, before, after } of await writePrices(on, prices)) note(product, field, before, after);
  for (const { product, before, after } of await countStock(on, counts, source)) note(product, 'stock', before, after);
  await ensureWarehouses(on, suppliers);
  await refreshOffers(on, [...new Set([...changes.keys(), ...priced.map(({ id }) => id)])]);
  return [...changes].map(([id, delta]) => ({ kind: 'product', id, delta }));
}

/** Whoever speaks for these goods has a warehouse for its figures; what stands in it follows with `followJoins`. */
async function ensureWarehouses(on: Executor, products: readonly number[]): Promise<void> {
  if (products.length === 0) return;
  const missing = await queryRows<{ id: number }>(
    on,
    sql`SELECT DISTINCT s.id FROM record r JOIN supplier s ON s.id = r.supplier_id AND s.kind = 'supplier'
        WHERE r.product_id = ANY(${ids(products)}) AND NOT EXISTS (SELECT 1 FROM warehouse w WHERE w.supplier_id = s.id)`,
  );
  for (const { id } of missing) await supplierWarehouse(on, id);
}

/** A counted figure of our own is a movement whose delta leads to it. */
async function countStock(
  on: Executor,
  counts: readonly { product: number; figure: number }[],
  { batchId, actionId }: { batchId: number; actionId: number },
): Promise<{ product: number; before: number; after: number }[]> {
  if (counts.length === 0) return [];
  const warehouse = await findWarehouse(on);
  if (warehouse === undefined) return [];
  const changed = await queryRows<{ product: number; before: number; after: number }>(
    on,
    sql`SELECT t.product, coalesce(s.on_hand, 0) AS before, t.figure AS after
        FROM jsonb_to_recordset(${json(counts)}) AS t(product bigint, figure int)
        LEFT JOIN stock_level s ON s.product_id = t.product AND s.warehouse_id = ${warehouse}
        WHERE t.figure IS DISTINCT FROM s.on_hand`,
  );
  await bookMovements(
    on,
    changed.map(({ product, before, after }) => ({ product, delta: after - before })),
    { reason: 'count', actionId, warehouse, batchId },
  );
  return changed.filter(({ before, after }) => before !== after);
}

/** Stock follows the joins of these products, and their columns follow it. */
export async function settleStock(
  on: Executor,
  products: readonly number[],
  source?: { actionId?: number | undefined; batchId?: number | undefined },
): Promise<void> {
  await refreshOffers(on, [...new Set([...products, ...(await followJoins(on, products, source))])]);
}

/** Puts back the prices and stock an action set, prices where nobody has changed them since; answers what was left. */
export async function undoOffers(on: Executor, actionId: number): Promise<{ products: number[]; left: string[] }> {
  const prices = await undoPrices(on, actionId);
  const moved = await reverseMovements(on, actionId);
  const left = prices
    .filter(({ done }) => !done)
    .map(({ product, kind, currency }) => `${kind} price ${currency} of product ${product}: changed since`);
  const followed = await followJoins(on, moved);
  const products = [...new Set([...prices.map((price) => price.product), ...moved, ...followed])];
  await refreshOffers(on, products);
  return { products, left };
}

/** The part of prices and stock in taking an action back. */
export const undoOffersOf: Undo = async ({ tx, actionId }) => {
  const { products, left } = await undoOffers(tx, actionId);
  return { left, changes: await followStock(tx, products) };
};
