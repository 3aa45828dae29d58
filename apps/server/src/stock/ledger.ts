/** The stock ledger: movements, and the totals that are kept of them. Fresh goods' first counts go in by COPY (`fresh-lines`). */
import { type SQL, sql, eq, and } from 'drizzle-orm';
import { type Executor, ids, json, queryOne, queryRows, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';

export interface Movement {
  product: number;
  delta: number;
}

/** Why pieces move, and on whose word. */
export interface Booking {
  reason: string;
  /** What is undone with it; absent where it follows from something else. */
  actionId?: number | undefined;
  warehouse: number;
  batchId?: number | undefined;
  actor?: number | undefined;
}

/** Of our own warehouses this one, or the first, where pieces are counted when nobody says where; undefined where there is none. */
export async function findWarehouse(on: Executor, wanted?: number): Promise<number | undefined> {
  const which = wanted === undefined ? sql`true` : sql`id = ${wanted}`;
  const warehouse = await first(
    on
      .select({ id: tables.warehouse.id })
      .from(tables.warehouse)
      .where(and(eq(tables.warehouse.kind, 'own'), eq(tables.warehouse.putAway, false), which))
      .orderBy(tables.warehouse.id)
      .limit(1),
  );
  return warehouse?.id;
}

/** The warehouse a supplier's own figures stand in; made when first needed. */
export async function supplierWarehouse(on: Executor, supplier: number): Promise<number> {
  const made = await queryOne<{ id: number }>(
    on,
    sql`WITH made AS (
          INSERT INTO warehouse (key, name, kind, supplier_id) SELECT 'supplier-' || id, name, 'supplier', id FROM supplier WHERE id = ${supplier}
          ON CONFLICT (supplier_id) DO NOTHING RETURNING id)
        SELECT id FROM made UNION ALL SELECT id FROM warehouse WHERE supplier_id = ${supplier} LIMIT 1`,
  );
  return made?.id ?? 0;
}

/** Where a source's figures are counted: those of the own sheet in our first warehouse, a supplier's in theirs. */
export async function warehouseOf(
  on: Executor,
  source: { id: number; kind: 'own' | 'supplier' },
): Promise<number | undefined> {
  return source.kind === 'own' ? findWarehouse(on) : supplierWarehouse(on, source.id);
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
        SELECT product, ${warehouse}::bigint, delta, ${reason}, ${actionId ?? null}::bigint, ${batchId ?? null}::bigint, ${actor ?? null}::bigint FROM t WHERE delta <> 0)
    INSERT INTO stock_level (product_id, warehouse_id, on_hand) SELECT product, ${warehouse}, delta FROM t
    ON CONFLICT (product_id, warehouse_id) DO UPDATE SET on_hand = stock_level.on_hand + excluded.on_hand`);
}

/** Movements that `from` (columns product, warehouse, delta, and what else a movement has) gives; totals follow. Answers the products. */
async function book(tx: Executor, from: SQL, reason: string, besides: 'reverses' | 'joined_to'): Promise<number[]> {
  const moved = await queryRows<{ product: number }>(
    tx,
    sql`WITH t AS MATERIALIZED (${from}),
          m AS (
            INSERT INTO movement (product_id, warehouse_id, delta, reason, ${sql.identifier(besides)})
            SELECT product, warehouse, delta, ${reason}, besides FROM t WHERE delta <> 0)
        INSERT INTO stock_level (product_id, warehouse_id, on_hand) SELECT product, warehouse, sum(delta) FROM t GROUP BY 1, 2
        ON CONFLICT (product_id, warehouse_id) DO UPDATE SET on_hand = stock_level.on_hand + excluded.on_hand
        RETURNING product_id AS product`,
  );
  return [...new Set(moved.map(({ product }) => product))];
}

/**
 * Books the opposite of what an action moved in our warehouses, less what was taken back of it before: done twice it does
 * nothing more. A supplier's warehouse follows its records (`followJoins`). Answers the products.
 */
export async function reverseMovements(tx: Executor, actionId: number): Promise<number[]> {
  return book(
    tx,
    sql`SELECT m.product_id AS product, m.warehouse_id AS warehouse, -sum(m.delta)::int AS delta, ${actionId}::bigint AS besides
        FROM movement m JOIN warehouse w ON w.id = m.warehouse_id AND w.kind = 'own'
        WHERE (m.action_id = ${actionId} OR m.reverses = ${actionId}) AND EXISTS (SELECT 1 FROM product p WHERE p.id = m.product_id)
        GROUP BY 1, 2 HAVING sum(m.delta) <> 0`,
    'undo',
    'reverses',
  );
}

/** A chain of goods joined to goods that were joined is seldom longer. */
const longestChain = 20;

/**
 * Brings the ledger in line with joins and records. A supplier's warehouse holds what its records say, wherever they stand
 * now; our own pieces go over to the product theirs was joined to, and come back when it is split off: as many as went
 * over, or as are left. Pieces are neither made nor lost. Answers the products whose stock moved.
 */
export async function followJoins(
  tx: Executor,
  products: readonly number[],
  source: { actionId?: number | undefined; batchId?: number | undefined } = {},
): Promise<number[]> {
  if (products.length === 0) return [];
  const around = await queryRows<{ id: number }>(
    tx,
    sql`WITH RECURSIVE x AS (
          SELECT unnest(${ids(products)}) AS id
          UNION SELECT n.id FROM x CROSS JOIN LATERAL (
            SELECT p.id FROM product p WHERE p.merged_into = x.id
            UNION ALL SELECT p.merged_into FROM product p WHERE p.id = x.id AND p.merged_into IS NOT NULL
            UNION ALL SELECT m.joined_to FROM movement m WHERE m.product_id = x.id AND m.joined_to IS NOT NULL) n)
        SELECT id FROM x`,
  );
  const scope = ids(around.map(({ id }) => id));
  const moved = new Set<number>();
  for (const product of await recount(tx, scope, source)) moved.add(product);
  for (let i = 0; i < longestChain; i++) {
    const touched = [...(await giveBack(tx, scope)), ...(await handOver(tx, scope))];
    if (touched.length === 0) break;
    for (const product of touched) moved.add(product);
  }
  return [...moved];
}

/** Suppliers' warehouses hold what their records say. */
async function recount(
  tx: Executor,
  scope: SQL,
  { actionId, batchId }: { actionId?: number | undefined; batchId?: number | undefined },
): Promise<number[]> {
  const wrong = await queryRows<{ product: number; warehouse: number; delta: number }>(
    tx,
    sql`WITH due AS (
          SELECT r.product_id AS product, w.id AS warehouse, sum((c.content -> 'offer' ->> 'stock')::int) AS figure
          FROM record r JOIN record_content c ON c.id = r.content_id JOIN warehouse w ON w.supplier_id = r.supplier_id
          WHERE r.product_id = ANY(${scope}) AND c.content -> 'offer' ->> 'stock' IS NOT NULL GROUP BY 1, 2),
        held AS (
          SELECT s.product_id AS product, s.warehouse_id AS warehouse, s.on_hand FROM stock_level s
          JOIN warehouse w ON w.id = s.warehouse_id AND w.kind = 'supplier' WHERE s.product_id = ANY(${scope}))
        SELECT product, warehouse, (coalesce(figure, 0) - coalesce(on_hand, 0))::int AS delta FROM due FULL JOIN held USING (product, warehouse)
        WHERE figure IS DISTINCT FROM on_hand AND (figure IS NOT NULL OR on_hand <> 0)`,
  );
  const byWarehouse = new Map<number, Movement[]>();
  for (const { warehouse, ...movement } of wrong)
    byWarehouse.set(warehouse, [...(byWarehouse.get(warehouse) ?? []), movement]);
  for (const [warehouse, list] of byWarehouse)
    await bookMovements(tx, list, { reason: 'count', warehouse, actionId, batchId });
  return wrong.map(({ product }) => product);
}

/** Goods that were joined to others and are no more get back what went over, as far as it is still there. */
async function giveBack(tx: Executor, scope: SQL): Promise<number[]> {
  return book(
    tx,
    sql`SELECT x.product, x.warehouse, x.delta, x.besides FROM (
          SELECT m.product_id AS giver, m.joined_to AS holder, m.warehouse_id AS warehouse, -sum(m.delta)::int AS pieces
          FROM movement m JOIN product p ON p.id = m.product_id
          WHERE m.product_id = ANY(${scope}) AND m.joined_to IS NOT NULL AND p.merged_into IS DISTINCT FROM m.joined_to
          GROUP BY 1, 2, 3 HAVING sum(m.delta) <> 0) due
        LEFT JOIN stock_level s ON s.product_id = due.holder AND s.warehouse_id = due.warehouse
        CROSS JOIN LATERAL (SELECT CASE WHEN due.pieces < 0 THEN due.pieces ELSE greatest(0, least(due.pieces, coalesce(s.on_hand, 0))) END AS back) b
        CROSS JOIN LATERAL (VALUES
          (due.giver, due.warehouse, due.pieces, due.holder),
          (due.giver, due.warehouse, b.back - due.pieces, NULL),
          (due.holder, due.warehouse, -b.back, NULL)) x(product, warehouse, delta, besides)
        WHERE x.product IN (SELECT id FROM product)`,
    'split off',
    'joined_to',
  );
}

/** What stands on goods that were joined to others stands on those. */
async function handOver(tx: Executor, scope: SQL): Promise<number[]> {
  return book(
    tx,
    sql`SELECT x.product, x.warehouse, x.delta, x.besides FROM stock_level s JOIN product p ON p.id = s.product_id JOIN warehouse w ON w.id = s.warehouse_id
        CROSS JOIN LATERAL (VALUES (p.id, s.warehouse_id, -s.on_hand, p.merged_into), (p.merged_into, s.warehouse_id, s.on_hand, NULL)) x(product, warehouse, delta, besides)
        WHERE s.product_id = ANY(${scope}) AND p.merged_into IS NOT NULL AND w.kind = 'own' AND s.on_hand <> 0`,
    'joined',
    'joined_to',
  );
}
