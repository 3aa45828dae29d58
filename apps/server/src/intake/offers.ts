/** Prices and stock out of supplier records: no claims, but ledger entries and price rows with a history. */
import type { RecordOffer } from '@velvet-shelf/core/intake';
import { sql } from 'drizzle-orm';
import { homeCurrency } from '../catalog/dictionary.js';
import { type Executor, ids, json, rows } from '../db/client.js';
import type { Change } from '../history/record.js';
import { bookMovements, findWarehouse, followJoins, reverseMovements, supplierWarehouse } from '../stock/ledger.js';

interface Price {
  currency: string;
  kind: 'regular' | 'sale';
  amount: string;
  from: string | null;
  to: string | null;
}

/** The prices an offer names, one a currency and kind. */
export function pricesOf({ regular, sale, saleFrom, saleTo }: RecordOffer): Price[] {
  return [
    ...Object.entries(regular ?? {}).map(([currency, amount]): Price => ({
      currency,
      kind: 'regular',
      amount,
      from: null,
      to: null,
    })),
    ...Object.entries(sale ?? {}).map(([currency, amount]): Price => ({
      currency,
      kind: 'sale',
      amount,
      from: saleFrom ?? null,
      to: saleTo ?? null,
    })),
  ];
}

/** Writes what records say of price and stock; answers what changed. A supplier's figures are counted in its own warehouse. */
export async function applyOffers(
  on: Executor,
  records: readonly number[],
  source: { batchId: number; actionId: number },
): Promise<Change[]> {
  const offers = await rows<{ product: number; isOwn: boolean; offer: RecordOffer }>(
    on,
    sql`SELECT r.product_id AS product, s.kind = 'own' AS "isOwn", c.content -> 'offer' AS offer
        FROM record r JOIN supplier s ON s.id = r.supplier_id JOIN record_content c ON c.id = r.content_id
        WHERE r.id = ANY(${ids(records)}) AND (c.content -> 'offer')::text <> '{}' AND r.product_id IS NOT NULL`,
  );
  if (offers.length === 0) return [];
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
  const changedPrices = await rows<{ product: number; field: string; before: unknown; after: unknown }>(
    on,
    sql`WITH t AS (SELECT * FROM jsonb_to_recordset(${json(prices)}) AS t(product bigint, currency text, kind text, amount numeric, "from" date, "to" date)),
        old AS (SELECT t.*, p.amount AS was, p.valid_from, p.valid_to FROM t LEFT JOIN price p ON p.product_id = t.product AND p.currency = t.currency AND p.kind = t.kind),
        written AS (
          INSERT INTO price (product_id, currency, kind, amount, valid_from, valid_to)
          SELECT product, currency, kind, amount, "from", "to" FROM t
          ON CONFLICT (product_id, currency, kind) DO UPDATE SET amount = excluded.amount, valid_from = excluded.valid_from, valid_to = excluded.valid_to)
        SELECT product, kind || ' price ' || currency AS field,
          CASE WHEN was IS NULL THEN NULL ELSE jsonb_build_object('amount', trim_scale(was)::text, 'from', valid_from, 'to', valid_to) END AS before,
          jsonb_build_object('amount', trim_scale(amount)::text, 'from', "from", 'to', "to") AS after
        FROM old WHERE was IS DISTINCT FROM amount OR valid_from IS DISTINCT FROM "from" OR valid_to IS DISTINCT FROM "to"`,
  );
  for (const { product, field, before, after } of changedPrices) note(product, field, before, after);
  for (const { product, before, after } of await countStock(on, counts, source)) note(product, 'stock', before, after);
  await ensureWarehouses(on, suppliers);
  await refreshOffers(on, [...changes.keys()]);
  return [...changes].map(([id, delta]) => ({ kind: 'product', id, delta }));
}

/** Whoever speaks for these goods has a warehouse for its figures; what stands in it follows with `followJoins`. */
async function ensureWarehouses(on: Executor, products: readonly number[]): Promise<void> {
  if (products.length === 0) return;
  const missing = await rows<{ id: number }>(
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
  const changed = await rows<{ product: number; before: number; after: number }>(
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

/** Brings the typed columns of products (and of their families) in line with price rows and our own stock levels. */
export async function refreshOffers(on: Executor, products: readonly number[]): Promise<void> {
  if (products.length === 0) return;
  await on.execute(sql`
    UPDATE product p SET offers = o.offers, price = o.price, stock = coalesce((
      SELECT sum(s.on_hand) FROM stock_level s JOIN warehouse w ON w.id = s.warehouse_id AND w.kind = 'own' WHERE s.product_id = p.id), 0)
    FROM (
      SELECT q.id, coalesce(jsonb_object_agg(q.currency, q.offer) FILTER (WHERE q.currency IS NOT NULL), '{}') AS offers,
        max(q.home) AS price
      FROM (
        SELECT x.id, pr.currency,
          jsonb_strip_nulls(jsonb_build_object(
            'regular', max(trim_scale(pr.amount)::text) FILTER (WHERE pr.kind = 'regular'),
            'sale', (jsonb_agg(jsonb_strip_nulls(jsonb_build_object('amount', trim_scale(pr.amount)::text, 'from', pr.valid_from, 'to', pr.valid_to))) FILTER (WHERE pr.kind = 'sale')) -> 0)) AS offer,
          max(pr.amount) FILTER (WHERE pr.kind = 'regular' AND pr.currency = ${homeCurrency}) AS home
        FROM unnest(${ids(products)}) AS x(id) LEFT JOIN price pr ON pr.product_id = x.id GROUP BY x.id, pr.currency
      ) q GROUP BY q.id
    ) o WHERE o.id = p.id`);
  await on.execute(sql`
    UPDATE product f SET stock = s.stock FROM (
      SELECT v.family_id AS id, sum(v.stock) AS stock FROM product v
      WHERE v.family_id IN (SELECT family_id FROM product WHERE id = ANY(${ids(products)})) AND v.merged_into IS NULL GROUP BY 1
    ) s WHERE s.id = f.id AND f.stock <> s.stock`);
}

/** Puts back the prices and stock an action set, prices where nobody has changed them since; answers what was left. */
export async function undoOffers(on: Executor, actionId: number): Promise<{ products: number[]; left: string[] }> {
  const prices = await rows<{ product: number; kind: string; currency: string; done: boolean }>(
    on,
    // An action that works in chunks may have set a price more than once: from before the first to after the last.
    sql`WITH spans AS (
          SELECT c.subject_id AS product, d.key, (array_agg(d.value -> 0 ORDER BY c.at))[1] AS before, (array_agg(d.value -> 1 ORDER BY c.at DESC))[1] AS after
          FROM change c, jsonb_each(c.delta) d WHERE c.action_id = ${actionId} AND c.subject_kind = 'product' AND d.key LIKE '% price %' GROUP BY 1, 2),
        t AS MATERIALIZED (
          SELECT product, split_part(key, ' ', 1) AS kind, split_part(key, ' ', 3) AS currency, (before ->> 'amount')::numeric AS was,
            (before ->> 'from')::date AS "from", (before ->> 'to')::date AS "to", (after ->> 'amount')::numeric AS now FROM spans),
        again AS (
          INSERT INTO price (product_id, currency, kind, amount, valid_from, valid_to)
          SELECT product, currency, kind, was, "from", "to" FROM t WHERE now IS NULL AND was IS NOT NULL
          ON CONFLICT DO NOTHING RETURNING product_id, kind, currency),
        back AS (
          UPDATE price p SET amount = was, valid_from = "from", valid_to = "to" FROM t
          WHERE p.product_id = t.product AND p.kind = t.kind AND p.currency = t.currency AND p.amount = t.now AND t.was IS NOT NULL
          RETURNING p.product_id, p.kind, p.currency),
        away AS (
          DELETE FROM price p USING t
          WHERE p.product_id = t.product AND p.kind = t.kind AND p.currency = t.currency AND p.amount = t.now AND t.was IS NULL
          RETURNING p.product_id, p.kind, p.currency)
        SELECT t.product, t.kind, t.currency, d.product_id IS NOT NULL AS done FROM t
        LEFT JOIN (SELECT * FROM again UNION ALL SELECT * FROM back UNION ALL SELECT * FROM away) d
          ON d.product_id = t.product AND d.kind = t.kind AND d.currency = t.currency`,
  );
  const moved = await reverseMovements(on, actionId);
  const left = prices
    .filter(({ done }) => !done)
    .map(({ product, kind, currency }) => `${kind} price ${currency} of product ${product}: changed since`);
  const followed = await followJoins(on, moved);
  const products = [...new Set([...prices.map((one_) => one_.product), ...moved, ...followed])];
  await refreshOffers(on, products);
  return { products, left };
}
