/** Which warehouses serve which places: ours all of them, a supplier's none, unless a person says otherwise. */
import type { WarehouseAnswer } from '@velvet-shelf/contract';
import { sql } from 'drizzle-orm';
import { type Executor, queryOne, queryRows } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import type { Undoing, Undone } from '../history/undo.js';
import { notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';

const isServing = sql`coalesce((SELECT v.serves FROM serves v WHERE v.warehouse_id = w.id AND v.place_id = p.id), w.kind = 'own')`;

/** Every warehouse with the places it serves. */
export async function listWarehouses(on: Executor): Promise<WarehouseAnswer[]> {
  return queryRows<WarehouseAnswer>(
    on,
    sql`SELECT w.id, w.name, w.kind, w.supplier_id AS "supplierId",
          coalesce((SELECT jsonb_agg(p.id ORDER BY p.id) FROM place p WHERE ${isServing}), '[]') AS serves
        FROM warehouse w ORDER BY w.kind, w.id`,
  );
}

/**
 * Pieces on hand, less those reserved, that may be shown at a place, as an expression over a product named `p`; without
 * parameters, so that COPY takes it too. Where just our own warehouses serve it that is the product's own column.
 */
export async function stockAt(on: Executor, placeId: number): Promise<string> {
  const warehouses = await queryRows<{ id: number; isOwn: boolean; serving: boolean }>(
    on,
    sql`SELECT w.id, w.kind = 'own' AS "isOwn", ${isServing} AS serving FROM warehouse w, place p WHERE p.id = ${placeId}`,
  );
  if (warehouses.every(({ isOwn, serving }) => isOwn === serving)) return 'p.stock';
  const serving = warehouses.filter((warehouse) => warehouse.serving).map(({ id }) => Number(id));
  return `coalesce((SELECT sum(s.on_hand - s.reserved)::int FROM stock_level s WHERE s.product_id = p.id AND s.warehouse_id = ANY('{${serving.join(',')}}'::bigint[])), 0)`;
}

/** Says whether a warehouse serves a place; the listings there are evaluated again. */
export async function setServing(
  services: Services,
  user: User,
  warehouseId: number,
  { placeId, serves }: { placeId: number; serves: boolean },
): Promise<void> {
  await act(services, user, { kind: 'serves' }, async (on) => {
    const { tx } = on;
    const warehouse = await queryOne<{ name: string; kind: 'own' | 'supplier' }>(
      tx,
      sql`SELECT name, kind FROM warehouse WHERE id = ${warehouseId} FOR UPDATE`,
    );
    if (!warehouse) throw notFound(`warehouse ${warehouseId}`);
    const place = await queryOne<{ name: string; serving: boolean }>(
      tx,
      sql`SELECT p.name, ${isServing} AS serving FROM place p, warehouse w WHERE p.id = ${placeId} AND w.id = ${warehouseId}`,
    );
    if (!place) throw notFound(`place ${placeId}`);
    if (place.serving === serves) return;
    await writeServing(on, warehouseId, placeId, serves);
    on.say(`${warehouse.name} serves ${place.name}${serves ? '' : ' no more'}`);
    on.change({ kind: 'place', id: placeId, delta: { [`serves:${warehouseId}`]: [place.serving, serves] } });
  });
}

async function writeServing(
  { tx, dirtyPlace }: Pick<Acting, 'tx' | 'dirtyPlace'>,
  warehouseId: number,
  placeId: number,
  serves: boolean,
): Promise<void> {
  await tx.execute(sql`
    INSERT INTO serves (warehouse_id, place_id, serves) VALUES (${warehouseId}, ${placeId}, ${serves})
    ON CONFLICT (warehouse_id, place_id) DO UPDATE SET serves = excluded.serves`);
  await dirtyPlace(placeId);
}

/** Takes it back where it still stands. */
export async function undoServing({ tx, actionId, dirtyPlace }: Undoing): Promise<Undone> {
  const left: string[] = [];
  const changes = await queryRows<{ place: number; delta: Record<string, [boolean, boolean]> }>(
    tx,
    sql`SELECT subject_id AS place, delta FROM change WHERE action_id = ${actionId} AND subject_kind = 'place'`,
  );
  for (const { place, delta } of changes)
    for (const [field, [before, after]] of Object.entries(delta)) {
      const warehouse = Number(field.split(':')[1]);
      const now = await queryOne<{ serving: boolean }>(
        tx,
        sql`SELECT ${isServing} AS serving FROM place p, warehouse w WHERE p.id = ${place} AND w.id = ${warehouse}`,
      );
      if (now?.serving === after) await writeServing({ tx, dirtyPlace }, warehouse, place, before);
      else left.push('Whether it serves the place: changed since');
    }
  return { left };
}
