/** Warehouses of one's own: made, renamed, put away. */
import { foldText } from '@velvet-shelf/core/values';
import { and, count, eq, inArray, ne, sql } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import { act } from '../history/act.js';
import { deltaOfFields, sayKept, takeRowsBack } from '../history/fields.js';
import type { Undoing, Undone } from '../history/undo.js';
import { conflict, nameTaken, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import * as tables from '../db/schema/index.js';

const { warehouse, stockLevel } = tables;

async function expectFree(on: Executor, name: string, except = 0): Promise<void> {
  const held = await on.select({ id: warehouse.id, name: warehouse.name }).from(warehouse);
  if (!held.some(({ id, name: other }) => id !== except && foldText(other) === foldText(name))) return;
  throw nameTaken(`There is a warehouse named ${name} already`);
}

/** New warehouses of ours; where one cannot be made, none is. */
export async function addWarehouses(services: Services, user: User, names: readonly string[]): Promise<number[]> {
  const { answer } = await act(services, user, { kind: 'warehouse', tells: ['stock'] }, async (on) => {
    await on.tx.execute(sql`LOCK TABLE warehouse IN SHARE ROW EXCLUSIVE MODE`);
    const ids: number[] = [];
    for (const name of names) {
      await expectFree(on.tx, name);
      const made = await first(
        on.tx
          .insert(warehouse)
          .values({ key: sql`'own-' || currval(pg_get_serial_sequence('warehouse', 'id'))`, name })
          .returning({ id: warehouse.id }),
      );
      if (!made) throw new Error('No warehouse was made');
      on.change({ kind: 'warehouse', id: made.id, delta: { created: [name] } });
      ids.push(made.id);
    }
    on.say(names.length === 1 ? `New warehouse ${names[0]}` : `${names.length} new warehouses`);
    return ids;
  });
  return answer;
}

const holds = async (on: Executor, id: number): Promise<boolean> =>
  (
    await on
      .select({ id: stockLevel.productId })
      .from(stockLevel)
      .where(and(eq(stockLevel.warehouseId, id), ne(stockLevel.onHand, 0)))
      .limit(1)
  ).length > 0;

type Fields = { name?: string | undefined; putAway?: boolean | undefined };

/** One that holds pieces stays, and so does the last one of ours: counts go there. */
export async function changeWarehouse(
  services: Services,
  user: User,
  id: number,
  { to, was }: { to: Fields; was: Fields },
): Promise<void> {
  await act(services, user, { kind: 'warehouse', tells: ['stock'] }, async (on) => {
    await on.tx.execute(sql`LOCK TABLE warehouse IN SHARE ROW EXCLUSIVE MODE`);
    const held = await first(on.tx.select().from(warehouse).where(eq(warehouse.id, id)));
    if (!held) throw notFound(`warehouse ${id}`);
    if (to.name !== undefined) await expectFree(on.tx, to.name, id);
    if (to.putAway) {
      if (await holds(on.tx, id)) throw conflict(`${held.name} holds pieces: move them or count them down first`);
      const [others] = await on.tx
        .select({ n: count() })
        .from(warehouse)
        .where(and(eq(warehouse.kind, 'own'), eq(warehouse.putAway, false), ne(warehouse.id, id)));
      if (held.kind === 'own' && (others?.n ?? 0) === 0)
        throw conflict('The last warehouse of ours stays: counts go there');
    }
    const delta = deltaOfFields(held, to, was);
    if (Object.keys(delta).length === 0) return;
    await on.tx.update(warehouse).set(to).where(eq(warehouse.id, id));
    on.say(sayKept(`the warehouse ${held.name}`, to));
    on.change({ kind: 'warehouse', id, delta });
  });
}

export async function undoWarehouse(undoing: Undoing): Promise<Undone> {
  const { tx } = undoing;
  const { movement } = tables;
  const { left } = await takeRowsBack(undoing, 'warehouse', {
    load: (id) => first(tx.select().from(warehouse).where(eq(warehouse.id, id)).for('update')),
    say: ({ name }) => name,
    stays: async ({ id, name }) => {
      const moved = tx.select({ id: movement.id }).from(movement).where(eq(movement.warehouseId, id)).limit(1);
      return (await first(moved)) && `${name}: pieces have moved there`;
    },
    remove: (ids) => tx.delete(warehouse).where(inArray(warehouse.id, ids)),
    set: ({ id }, to) => tx.update(warehouse).set(to).where(eq(warehouse.id, id)),
  });
  return { left };
}
