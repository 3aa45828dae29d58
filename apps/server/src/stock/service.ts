/** Stock is a ledger: pieces come and go by movements with a reason; what is kept back no channel is shown. */
import type { StockAnswer, StockChange } from '@velvet-shelf/contract';
import { shownStock } from '@velvet-shelf/core/stock';
import { sql } from 'drizzle-orm';
import { type Executor, iso, queryOne, queryRows } from '../db/client.js';
import { act } from '../history/act.js';
import type { Undoing, Undone } from '../history/undo.js';
import { type Problem, badRequest, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { refreshOffers } from '../prices/columns.js';
import { bookMovements, findWarehouse } from './ledger.js';

/** Offered before anybody has used one of their own. */
const usualReasons = ['received', 'returned', 'damaged', 'lost', 'found', 'sold at the counter'];
/** Written by files, edits and undoing; not for a person to choose. */
const ownReasons = new Set(['count', 'correction', 'undo', 'joined', 'split off']);
const mostMovements = 30;

interface Held {
  sku: string | null;
  title: string | null;
  kind: string;
  unit: number;
  onHand: number;
  reserved: number;
  keptBack: number;
}

async function held(on: Executor, id: number, lock = false): Promise<Held> {
  const found = await queryOne<Held>(
    on,
    sql`SELECT p.sku, p.title, p.kind, p.unit_id AS unit, p.stock AS "onHand", p.kept_back AS "keptBack",
          coalesce((SELECT sum(reserved) FROM stock_level s WHERE s.product_id = p.id), 0)::int AS reserved
        FROM product p WHERE p.id = ${id} AND p.merged_into IS NULL ${lock ? sql`FOR UPDATE OF p` : sql``}`,
  );
  if (!found) throw notFound(`product ${id}`);
  if (found.kind === 'family') throw badRequest('A family has no stock of its own; its variants have');
  return found;
}

export async function showStock(on: Executor, id: number): Promise<StockAnswer> {
  const { onHand, reserved, keptBack } = await held(on, id);
  const movements = await queryRows<StockAnswer['movements'][number]>(
    on,
    sql`SELECT m.id, m.at, m.delta, m.reason, w.name AS warehouse, u.name AS by, m.batch_id AS "batchId"
        FROM movement m JOIN warehouse w ON w.id = m.warehouse_id LEFT JOIN user_account u ON u.id = m.actor
        WHERE m.product_id = ${id} ORDER BY m.id DESC LIMIT ${mostMovements}`,
  );
  const used = await queryRows<{ reason: string }>(
    on,
    sql`SELECT reason FROM movement WHERE actor IS NOT NULL GROUP BY 1 ORDER BY count(*) DESC LIMIT 50`,
  );
  return {
    productId: id,
    onHand,
    reserved,
    keptBack,
    shown: shownStock({ onHand, reserved, keptBack }),
    warehouses: await queryRows(
      on,
      sql`SELECT w.id, w.name, w.kind, coalesce(s.on_hand, 0) AS "onHand" FROM warehouse w
          LEFT JOIN stock_level s ON s.warehouse_id = w.id AND s.product_id = ${id}
          WHERE w.kind = 'own' OR s.on_hand IS NOT NULL ORDER BY w.kind, w.id`,
    ),
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
      changed.stock = [now.onHand, now.onHand + delta];
      said.push(`${delta > 0 ? '+' : '−'}${Math.abs(delta)} ${reason}`);
    }
    if (keptBack !== undefined && keptBack !== now.keptBack) {
      await tx.execute(sql`UPDATE product SET kept_back = ${keptBack} WHERE id = ${id}`);
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
  const theirs = await queryOne(tx, sql`SELECT 1 FROM warehouse WHERE id = ${wanted ?? 0}`);
  return theirs
    ? badRequest('Pieces are booked in a warehouse of ours; what a supplier has follows its own lists', [
        { pointer: '/body/warehouseId', detail: 'is no warehouse of ours' },
      ])
    : notFound(wanted === undefined ? 'warehouse of ours' : `warehouse ${wanted}`);
}

/** Takes a stock action back by the opposite movement; what is kept back returns where nobody has changed it since. */
export async function undoStock({ tx, actionId, dirty }: Undoing): Promise<Undone> {
  const left: string[] = [];
  const changes = await queryRows<{ id: number; unit: number; kept: [number, number] | null }>(
    tx,
    sql`SELECT c.subject_id AS id, p.unit_id AS unit, c.delta -> 'keptBack' AS kept FROM change c JOIN product p ON p.id = c.subject_id
        WHERE c.action_id = ${actionId} AND c.subject_kind = 'product'`,
  );
  for (const { id, kept } of changes) {
    if (!kept) continue;
    const done = await queryRows(
      tx,
      sql`UPDATE product SET kept_back = ${kept[0]} WHERE id = ${id} AND kept_back = ${kept[1]} RETURNING 1`,
    );
    if (done.length === 0) left.push('Kept back: changed since');
  }
  await dirty(changes.map(({ unit }) => unit));
  return { left };
}
