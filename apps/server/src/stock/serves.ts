/** Which warehouses serve which places: ours all of them, a supplier's none, unless a person says otherwise. */
import type { WarehouseAnswer } from '@velvet-shelf/contract';
import { sql, eq } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import type { Undoing, Undone } from '../history/undo.js';
import { notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import * as tables from '../db/schema/index.js';
import { z } from 'zod';
import { changesOf } from '../history/record.js';

const isServing = sql<boolean>`coalesce((SELECT v.serves FROM ${tables.serves} v
  WHERE v.warehouse_id = ${tables.warehouse.id} AND v.place_id = ${tables.place.id}), ${tables.warehouse.kind} = 'own')`;

const servingAt = (on: Executor, warehouseId: number, placeId: number) =>
  first(
    on
      .select({ name: tables.place.name, serving: isServing })
      .from(tables.place)
      .innerJoin(tables.warehouse, eq(tables.warehouse.id, warehouseId))
      .where(eq(tables.place.id, placeId)),
  );

/** Every warehouse with the places it serves. */
export async function listWarehouses(on: Executor): Promise<WarehouseAnswer[]> {
  return on
    .select({
      id: tables.warehouse.id,
      name: tables.warehouse.name,
      kind: tables.warehouse.kind,
      supplierId: tables.warehouse.supplierId,
      putAway: tables.warehouse.putAway,
      onHand: sql<number>`(SELECT coalesce(sum(s.on_hand), 0) FROM ${tables.stockLevel} s WHERE s.warehouse_id = ${tables.warehouse.id})`,
      serves: sql<
        number[]
      >`coalesce(jsonb_agg(${tables.place.id} ORDER BY ${tables.place.id}) FILTER (WHERE ${tables.place.id} IS NOT NULL AND ${isServing}), '[]')`,
    })
    .from(tables.warehouse)
    .leftJoin(tables.place, sql`true`)
    .groupBy(tables.warehouse.id)
    .orderBy(tables.warehouse.kind, tables.warehouse.id);
}

/**
 * Pieces on hand, less those reserved, that may be shown at a place, as an expression over a product named `p`; without
 * parameters, so that COPY takes it too. Where just our own warehouses serve it that is the product's own column.
 */
export async function stockAt(on: Executor, placeId: number): Promise<string> {
  const warehouses = await on
    .select({
      id: tables.warehouse.id,
      isOwn: sql<boolean>`${tables.warehouse.kind} = 'own'`,
      serving: isServing,
    })
    .from(tables.warehouse)
    .innerJoin(tables.place, eq(tables.place.id, placeId));
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
    const warehouse = await first(
      tx
        .select({ name: tables.warehouse.name, kind: tables.warehouse.kind })
        .from(tables.warehouse)
        .where(eq(tables.warehouse.id, warehouseId))
        .for('update'),
    );
    if (!warehouse) throw notFound(`warehouse ${warehouseId}`);
    const place = await servingAt(tx, warehouseId, placeId);
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
  await tx
    .insert(tables.serves)
    .values({ warehouseId, placeId, serves })
    .onConflictDoUpdate({
      target: [tables.serves.warehouseId, tables.serves.placeId],
      set: { serves: sql`excluded.serves` },
    });
  await dirtyPlace(placeId);
}

/** Takes it back where it still stands. */
export async function undoServing({ tx, actionId, dirtyPlace }: Undoing): Promise<Undone> {
  const left: string[] = [];
  const changes = await changesOf(tx, actionId, 'place', z.record(z.string(), z.tuple([z.boolean(), z.boolean()])));
  for (const { id: place, delta } of changes)
    for (const [field, [before, after]] of Object.entries(delta)) {
      const warehouse = Number(field.split(':')[1]);
      const now = await servingAt(tx, warehouse, place);
      if (now?.serving === after) await writeServing({ tx, dirtyPlace }, warehouse, place, before);
      else left.push('Whether it serves the place: changed since');
    }
  return { left };
}
