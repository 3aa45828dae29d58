/** Stock is a ledger: pieces come and go by movements with a reason; what is kept back no channel is shown. */
import type { StockAnswer, StockChange } from '@velvet-shelf/contract';
import { shownStock } from '@velvet-shelf/core/stock';
import { sql, eq, and, or, desc, isNotNull, count } from 'drizzle-orm';
import { type Executor, iso, first } from '../db/client.js';
import { act } from '../history/act.js';
import type { Undoing, Undone } from '../history/undo.js';
import { type Problem, badRequest, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { refreshOffers } from '../prices/columns.js';
import { followStock } from './follow.js';
import { bookMovements, findWarehouse } from './ledger.js';
import * as tables from '../db/schema/index.js';

/** Offered before anybody has used one of their own. */
const usualReasons = ['received', 'returned', 'damaged', 'lost', 'found', 'sold at the counter'];
/** Written by files, edits and undoing; not for a person to choose. */
const ownReasons = new Set(['count', 'correction', 'undo', 'joined', 'split off']);
const mostMovements = 30;

async function held(on: Executor, id: number, lock = false) {
  const query = on
    .select({
      sku: tables.product.sku,
      title: tables.product.title,
      kind: tables.product.kind,
      unit: tables.product.unitId,
      onHand: tables.product.stock,
      keptBack: tables.product.keptBack,
      reserved: sql<number>`(SELECT coalesce(sum(s.reserved), 0)::int FROM ${tables.stockLevel} s WHERE s.product_id = ${id})`,
    })
    .from(tables.product)
    .where(and(eq(tables.product.id, id), eq(tables.product.stands, true)));
  const found = await first(lock ? query.for('update', { of: tables.product }) : query);
  if (!found) throw notFound(`product ${id}`);
  if (found.kind === 'family') throw badRequest('A family has no stock of its own; its variants have');
  return found;
}

export async function showStock(on: Executor, id: number): Promise<StockAnswer> {
  const { onHand, reserved, keptBack } = await held(on, id);
  const movements = await on
    .select({
      id: tables.movement.id,
      at: tables.movement.at,
      delta: tables.movement.delta,
      reason: tables.movement.reason,
      warehouse: tables.warehouse.name,
      by: tables.userAccount.name,
      batchId: tables.movement.batchId,
    })
    .from(tables.movement)
    .innerJoin(tables.warehouse, eq(tables.warehouse.id, tables.movement.warehouseId))
    .leftJoin(tables.userAccount, eq(tables.userAccount.id, tables.movement.actor))
    .where(eq(tables.movement.productId, id))
    .orderBy(desc(tables.movement.id))
    .limit(mostMovements);
  const used = await on
    .select({ reason: tables.movement.reason })
    .from(tables.movement)
    .where(isNotNull(tables.movement.actor))
    .groupBy(tables.movement.reason)
    .orderBy(desc(count()))
    .limit(50);
  return {
    productId: id,
    onHand,
    reserved,
    keptBack,
    shown: shownStock({ onHand, reserved, keptBack }),
    warehouses: await on
      .select({
        id: tables.warehouse.id,
        name: tables.warehouse.name,
        kind: tables.warehouse.kind,
        onHand: sql<number>`coalesce(${tables.stockLevel.onHand}, 0)`,
      })
      .from(tables.warehouse)
      .leftJoin(
        tables.stockLevel,
        and(eq(tables.stockLevel.warehouseId, tables.warehouse.id), eq(tables.stockLevel.productId, id)),
      )
      .where(or(eq(tables.warehouse.kind, 'own'), isNotNull(tables.stockLevel.onHand)))
      .orderBy(tables.warehouse.kind, tables.warehouse.id),
    reasons: [...new Set([...usualReasons, ...used.map((movement) => movement.reason)])].filter(
      (text) => !ownReasons.has(text),
    ),
    movements: movements.map((movement) => ({ ...movement, at: iso(movement.at) })),
  };
}

/** Books a movement, keeps pieces back, or both, as one action; listings follow before it answers. */
export async function changeStock(
  services: Services,
  user: User,
  id: number,
  { delta = 0, reason, warehouseId, keptBack, madeAgainst }: StockChange,
): Promise<StockAnswer> {
  if (delta !== 0 && !reason)
    throw badRequest('Say why pieces come or go', [{ pointer: '/body/reason', detail: 'is missing' }]);
  if (delta === 0 && keptBack === undefined) throw badRequest('Nothing is to be changed');
  await act(services, user, { kind: 'stock', tells: ['catalog'] }, async (on) => {
    const { tx } = on;
    const now = await held(tx, id, true);
    if (now.onHand !== madeAgainst.onHand || now.keptBack !== madeAgainst.keptBack)
      throw stale(`Stock was changed meanwhile: ${now.onHand} on hand, ${now.keptBack} kept back`, {
        current: `${now.onHand} on hand, ${now.keptBack} kept back`,
        yours: `${madeAgainst.onHand + delta} on hand, ${keptBack ?? madeAgainst.keptBack} kept back`,
        attribute: 'stock',
      });
    const changed: Record<string, unknown[]> = {};
    const said: string[] = [];
    if (delta !== 0) {
      const warehouse = await findWarehouse(tx, warehouseId);
      if (warehouse === undefined) throw await noWarehouse(tx, warehouseId);
      await bookMovements(tx, [{ product: id, delta }], {
        reason: reason ?? '',
        actionId: on.id,
        warehouse,
        actor: user.id,
      });
      await refreshOffers(tx, [id]);
      on.change(...(await followStock(tx, [id])));
      changed.stock = [now.onHand, now.onHand + delta];
      said.push(`${delta > 0 ? '+' : '−'}${Math.abs(delta)} ${reason}`);
    }
    if (keptBack !== undefined && keptBack !== now.keptBack) {
      await tx.update(tables.product).set({ keptBack }).where(eq(tables.product.id, id));
      changed.keptBack = [now.keptBack, keptBack];
      said.push(`${keptBack} kept back`);
    }
    if (said.length === 0) return;
    on.say(`Stock of ${now.sku ?? now.title ?? 'a product'}: ${said.join(', ')}`);
    on.change({ kind: 'product', id, delta: changed });
    await on.dirty([now.unit]);
  });
  return showStock(services.db, id);
}

async function noWarehouse(tx: Executor, wanted: number | undefined): Promise<Problem> {
  const theirs = await first(
    tx
      .select({ id: tables.warehouse.id })
      .from(tables.warehouse)
      .where(eq(tables.warehouse.id, wanted ?? 0)),
  );
  return theirs
    ? badRequest('Pieces are booked in a warehouse of ours; what a supplier has follows its own lists', [
        { pointer: '/body/warehouseId', detail: 'is no warehouse of ours' },
      ])
    : notFound(wanted === undefined ? 'warehouse of ours' : `warehouse ${wanted}`);
}

/** Takes a stock action back by the opposite movement; what is kept back returns where nobody has changed it since. */
export async function undoStock({ tx, actionId, dirty }: Undoing): Promise<Undone> {
  const left: string[] = [];
  const changes = await tx
    .select({
      id: tables.product.id,
      unit: tables.product.unitId,
      kept: sql<[number, number] | null>`${tables.change.delta} -> 'keptBack'`,
    })
    .from(tables.change)
    .innerJoin(tables.product, eq(tables.product.id, tables.change.subjectId))
    .where(and(eq(tables.change.actionId, actionId), eq(tables.change.subjectKind, 'product')));
  for (const { id, kept } of changes) {
    if (!kept) continue;
    const done = await tx
      .update(tables.product)
      .set({ keptBack: kept[0] })
      .where(and(eq(tables.product.id, id), eq(tables.product.keptBack, kept[1])))
      .returning({ id: tables.product.id });
    if (done.length === 0) left.push('Kept back: changed since');
  }
  await dirty(changes.map(({ unit }) => unit));
  return { left };
}
