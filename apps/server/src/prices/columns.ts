/** The columns of products that price rows and stock levels lead to. */
import { sql } from 'drizzle-orm';
import { type Executor, ids } from '../db/client.js';

/**
 * Brings the typed columns of products (and of their families) in line with price rows and our own stock levels. In a currency
 * in which a variant has no price of its own it has the family's, with what its options add; variants of families follow.
 */
export async function refreshOffers(on: Executor, products: readonly number[]): Promise<void> {
  if (products.length === 0) return;
  await on.execute(sql`
    WITH asked AS (
      SELECT id FROM unnest(${ids(products)}) AS x(id)
      UNION SELECT v.id FROM product v WHERE v.family_id = ANY(${ids(products)}) AND v.stands),
    held AS (
      SELECT a.id, pr.currency, pr.kind, pr.amount, pr.valid_from, pr.valid_to FROM asked a JOIN price pr ON pr.product_id = a.id
      UNION ALL
      SELECT a.id, pr.currency, pr.kind, greatest(0, pr.amount + coalesce((v.surcharge ->> pr.currency)::numeric, 0)), pr.valid_from, pr.valid_to
      FROM asked a JOIN product v ON v.id = a.id JOIN price pr ON pr.product_id = v.family_id
      WHERE NOT EXISTS (SELECT 1 FROM price own WHERE own.product_id = a.id AND own.currency = pr.currency))
    UPDATE product p SET offers = o.offers, price = o.price, stock = CASE WHEN p.kind = 'family' THEN p.stock ELSE coalesce((
      SELECT sum(s.on_hand) FROM stock_level s JOIN warehouse w ON w.id = s.warehouse_id AND w.kind = 'own' WHERE s.product_id = p.id), 0) END
    FROM (
      SELECT q.id, coalesce(jsonb_object_agg(q.currency, q.offer) FILTER (WHERE q.currency IS NOT NULL), '{}') AS offers,
        max(q.home) AS price
      FROM (
        SELECT a.id, h.currency,
          jsonb_strip_nulls(jsonb_build_object(
            'regular', max(trim_scale(h.amount)::text) FILTER (WHERE h.kind = 'regular'),
            'sale', (jsonb_agg(jsonb_strip_nulls(jsonb_build_object('amount', trim_scale(h.amount)::text, 'from', h.valid_from, 'to', h.valid_to))) FILTER (WHERE h.kind = 'sale')) -> 0)) AS offer,
          max(h.amount) FILTER (WHERE h.kind = 'regular' AND h.currency = (SELECT currencies[1] FROM company)) AS home
        FROM asked a LEFT JOIN held h ON h.id = a.id GROUP BY a.id, h.currency
      ) q GROUP BY q.id
    ) o WHERE o.id = p.id`);
  // Summed once, whatever statistics say: planned as if `product` were empty, it would be summed anew for every row of it.
  await on.execute(sql`
    WITH asked AS MATERIALIZED (
      SELECT DISTINCT family_id AS id FROM product WHERE id = ANY(${ids(products)}) AND family_id IS NOT NULL),
    summed AS MATERIALIZED (
      SELECT v.family_id AS id, sum(v.stock) AS stock FROM asked a JOIN product v ON v.family_id = a.id WHERE v.stands GROUP BY 1)
    UPDATE product f SET stock = s.stock FROM summed s WHERE s.id = f.id AND f.stock <> s.stock`);
}
