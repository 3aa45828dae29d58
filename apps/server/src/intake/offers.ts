/** Prices and stock out of supplier records: no claims, but ledger entries and price rows with a history. */
import type { RecordOffer } from '@velvet-shelf/core/intake';
import { sql } from 'drizzle-orm';
import { type Executor, ids, json, one, rows } from '../db/client.js';
import type { Change } from '../history/record.js';

interface PriceLine {
  product: number;
  currency: string;
  kind: 'regular' | 'sale';
  amount: string;
  from: string | null;
  to: string | null;
}

/** Writes what records say of price and stock; answers what changed. */
export async function applyOffers(on: Executor, records: readonly number[], batchId: number): Promise<Change[]> {
  const offers = await rows<{ product: number; offer: RecordOffer }>(
    on,
    sql`SELECT r.product_id AS product, c.content -> 'offer' AS offer FROM record r JOIN record_content c ON c.id = r.content_id
        WHERE r.id = ANY(${ids(records)}) AND c.content -> 'offer' <> '{}'::jsonb AND r.product_id IS NOT NULL`,
  );
  if (offers.length === 0) return [];
  const prices: PriceLine[] = [];
  const counts: { product: number; figure: number }[] = [];
  for (const { product, offer } of offers) {
    for (const [currency, amount] of Object.entries(offer.regular ?? {}))
      prices.push({ product, currency, kind: 'regular', amount, from: null, to: null });
    for (const [currency, amount] of Object.entries(offer.sale ?? {}))
      prices.push({ product, currency, kind: 'sale', amount, from: offer.saleFrom ?? null, to: offer.saleTo ?? null });
    if (offer.stock !== undefined) counts.push({ product, figure: offer.stock });
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
  for (const { product, before, after } of await countStock(on, counts, batchId)) note(product, 'stock', before, after);
  await refreshOffers(on, [...changes.keys()]);
  return [...changes].map(([id, delta]) => ({ kind: 'product', id, delta }));
}

/** A counted figure is a movement whose delta leads to it. */
async function countStock(on: Executor, counts: { product: number; figure: number }[], batchId: number) {
  const warehouse = await one<{ id: number }>(on, sql`SELECT id FROM warehouse ORDER BY id LIMIT 1`);
  if (!warehouse || counts.length === 0) return [];
  return rows<{ product: number; before: number; after: number }>(
    on,
    sql`WITH t AS (SELECT * FROM jsonb_to_recordset(${json(counts)}) AS t(product bigint, figure int)),
        old AS (SELECT t.*, coalesce(s.on_hand, 0) AS was FROM t LEFT JOIN stock_level s ON s.product_id = t.product AND s.warehouse_id = ${warehouse.id}),
        moved AS (
          INSERT INTO movement (product_id, warehouse_id, delta, reason, batch_id)
          SELECT product, ${warehouse.id}, figure - was, 'count', ${batchId} FROM old WHERE figure <> was),
        level AS (
          INSERT INTO stock_level (product_id, warehouse_id, on_hand) SELECT product, ${warehouse.id}, figure FROM old
          ON CONFLICT (product_id, warehouse_id) DO UPDATE SET on_hand = excluded.on_hand)
        SELECT product, was AS before, figure AS after FROM old WHERE figure <> was`,
  );
}

/** Brings the typed columns of products (and of their families) in line with price rows and stock levels. */
export async function refreshOffers(on: Executor, products: readonly number[]): Promise<void> {
  if (products.length === 0) return;
  await on.execute(sql`
    UPDATE product p SET offers = o.offers, price = o.price, stock = coalesce((SELECT sum(on_hand) FROM stock_level s WHERE s.product_id = p.id), 0)
    FROM (
      SELECT q.id, coalesce(jsonb_object_agg(q.currency, q.offer) FILTER (WHERE q.currency IS NOT NULL), '{}') AS offers,
        max(q.home) AS price
      FROM (
        SELECT x.id, pr.currency,
          jsonb_strip_nulls(jsonb_build_object(
            'regular', max(trim_scale(pr.amount)::text) FILTER (WHERE pr.kind = 'regular'),
            'sale', (jsonb_agg(jsonb_strip_nulls(jsonb_build_object('amount', trim_scale(pr.amount)::text, 'from', pr.valid_from, 'to', pr.valid_to))) FILTER (WHERE pr.kind = 'sale')) -> 0)) AS offer,
          max(pr.amount) FILTER (WHERE pr.kind = 'regular' AND pr.currency = 'GBP') AS home
        FROM unnest(${ids(products)}) AS x(id) LEFT JOIN price pr ON pr.product_id = x.id GROUP BY x.id, pr.currency
      ) q GROUP BY q.id
    ) o WHERE o.id = p.id`);
  await on.execute(sql`
    UPDATE product f SET stock = s.stock FROM (
      SELECT v.family_id AS id, sum(v.stock) AS stock FROM product v
      WHERE v.family_id IN (SELECT family_id FROM product WHERE id = ANY(${ids(products)})) AND v.merged_into IS NULL GROUP BY 1
    ) s WHERE s.id = f.id AND f.stock <> s.stock`);
}

/** Puts back the prices and stock an action set, where nobody has changed them since; answers what was left. */
export async function undoOffers(on: Executor, actionId: number): Promise<{ products: number[]; left: string[] }> {
  const set = await rows<{
    product: number;
    field: string;
    before: { amount: string; from: string | null; to: string | null } | number | null;
    after: { amount: string } | number;
  }>(
    on,
    sql`SELECT c.subject_id AS product, d.key AS field, d.value -> 0 AS before, d.value -> 1 AS after
        FROM change c, jsonb_each(c.delta) d
        WHERE c.action_id = ${actionId} AND c.subject_kind = 'product' AND (d.key = 'stock' OR d.key LIKE '% price %')`,
  );
  const left: string[] = [];
  for (const { product, field, before, after } of set) {
    if (field === 'stock') {
      const delta = Number(before ?? 0) - Number(after);
      await on.execute(sql`
        WITH w AS (SELECT warehouse_id FROM stock_level WHERE product_id = ${product} ORDER BY 1 LIMIT 1),
        m AS (INSERT INTO movement (product_id, warehouse_id, delta, reason) SELECT ${product}, warehouse_id, ${delta}, 'undo' FROM w)
        UPDATE stock_level s SET on_hand = on_hand + ${delta} FROM w WHERE s.product_id = ${product} AND s.warehouse_id = w.warehouse_id`);
      continue;
    }
    const [kind, , currency] = field.split(' ');
    const amount = (after as { amount: string }).amount;
    const was = before as { amount: string; from: string | null; to: string | null } | null;
    const done = was
      ? await rows(
          on,
          sql`UPDATE price SET amount = ${was.amount}, valid_from = ${was.from}, valid_to = ${was.to}
          WHERE product_id = ${product} AND kind = ${kind} AND currency = ${currency} AND amount = ${amount} RETURNING 1`,
        )
      : await rows(
          on,
          sql`DELETE FROM price WHERE product_id = ${product} AND kind = ${kind} AND currency = ${currency} AND amount = ${amount} RETURNING 1`,
        );
    if (done.length === 0) left.push(`${field} of product ${product}: changed since`);
  }
  const products = [...new Set(set.map((one) => one.product))];
  await refreshOffers(on, products);
  return { products, left };
}
