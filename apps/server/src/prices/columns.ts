/** The columns of products that price rows and stock levels lead to. */
import { sql } from 'drizzle-orm';
import { type Executor, ids } from '../db/client.js';

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
          max(pr.amount) FILTER (WHERE pr.kind = 'regular' AND pr.currency = (SELECT currencies[1] FROM company)) AS home
        FROM unnest(${ids(products)}) AS x(id) LEFT JOIN price pr ON pr.product_id = x.id GROUP BY x.id, pr.currency
      ) q GROUP BY q.id
    ) o WHERE o.id = p.id`);
  await on.execute(sql`
    UPDATE product f SET stock = s.stock FROM (
      SELECT v.family_id AS id, sum(v.stock) AS stock FROM product v
      WHERE v.family_id IN (SELECT family_id FROM product WHERE id = ANY(${ids(products)})) AND v.stands GROUP BY 1
    ) s WHERE s.id = f.id AND f.stock <> s.stock`);
}
