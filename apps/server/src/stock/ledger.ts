/** The stock ledger: movements, and the totals that are kept of them. Fresh goods' first counts go in by COPY (`fresh-lines`). */
import { sql } from 'drizzle-orm';
import { type Executor, json, one, rows } from '../db/client.js';

export interface Movement {
  product: number;
  delta: number;
}

/** Why pieces move, and on whose word. */
export interface Booking {
  reason: string;
  /** What is undone with it. */
  actionId: number;
  warehouse: number;
  batchId?: number | undefined;
  actor?: number | undefined;
}

/** This warehouse, or the first, where pieces are counted when nobody says where; undefined where there is none. */
export async function findWarehouse(on: Executor, wanted?: number): Promise<number | undefined> {
  const which = wanted === undefined ? sql`true` : sql`id = ${wanted}`;
  return (await one<{ id: number }>(on, sql`SELECT id FROM warehouse WHERE ${which} ORDER BY id LIMIT 1`))?.id;
}

/** Books movements, one a product; the totals follow, a first 0 included. Products' own columns are `refreshOffers`' matter. */
export async function bookMovements(
  tx: Executor,
  list: readonly Movement[],
  { reason, actionId, warehouse, batchId, actor }: Booking,
): Promise<void> {
  if (list.length === 0) return;
  await tx.execute(sql`
    WITH t AS (SELECT * FROM jsonb_to_recordset(${json(list)}) AS t(product bigint, delta int)),
      m AS (
        INSERT INTO movement (product_id, warehouse_id, delta, reason, action_id, batch_id, actor)
        SELECT product, ${warehouse}::bigint, delta, ${reason}, ${actionId}::bigint, ${batchId ?? null}::bigint, ${actor ?? null}::bigint FROM t WHERE delta <> 0)
    INSERT INTO stock_level (product_id, warehouse_id, on_hand) SELECT product, ${warehouse}, delta FROM t
    ON CONFLICT (product_id, warehouse_id) DO UPDATE SET on_hand = stock_level.on_hand + excluded.on_hand`);
}

/** Books the opposite of all that an action moved, where it moved it; answers the products. */
export async function reverseMovements(tx: Executor, actionId: number): Promise<number[]> {
  const back = await rows<{ product: number }>(
    tx,
    sql`WITH t AS (
          SELECT m.product_id AS product, m.warehouse_id AS warehouse, sum(m.delta)::int AS delta FROM movement m
          JOIN stock_level s ON s.product_id = m.product_id AND s.warehouse_id = m.warehouse_id
          WHERE m.action_id = ${actionId} GROUP BY 1, 2 HAVING sum(m.delta) <> 0),
        m AS (INSERT INTO movement (product_id, warehouse_id, delta, reason) SELECT product, warehouse, -delta, 'undo' FROM t)
        UPDATE stock_level s SET on_hand = s.on_hand - t.delta FROM t WHERE s.product_id = t.product AND s.warehouse_id = t.warehouse
        RETURNING t.product`,
  );
  return [...new Set(back.map((one_) => one_.product))];
}
