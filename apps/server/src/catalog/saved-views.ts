/** Views of the catalog that people keep under a name: each its owner’s, seen by others where she says so. */
import type { KeptFields, SavedView } from '@velvet-shelf/contract';
import { foldText } from '@velvet-shelf/core/values';
import { conditionAttributes } from '@velvet-shelf/core/conditions';
import { and, asc, eq, inArray, or } from 'drizzle-orm';
import { type Database, type Executor, first } from '../db/client.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { act } from '../history/act.js';
import { deltaOfFields, takeRowsBack } from '../history/fields.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest, conflict, nameTaken, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import * as tables from '../db/schema/index.js';

const { savedView, userAccount } = tables;

/** As many as one person keeps. */
const mostViews = 200;

export async function listSavedViews(db: Database, user: User): Promise<SavedView[]> {
  const rows = await db
    .select({
      id: savedView.id,
      name: savedView.name,
      isShared: savedView.isShared,
      isToHand: savedView.isToHand,
      view: savedView.view,
      columns: savedView.columns,
      ownerId: savedView.ownerId,
      owner: userAccount.name,
    })
    .from(savedView)
    .innerJoin(userAccount, eq(userAccount.id, savedView.ownerId))
    .where(or(eq(savedView.ownerId, user.id), eq(savedView.isShared, true)))
    .orderBy(asc(savedView.name), asc(savedView.id));
  return rows.map(({ ownerId, ...row }) => ({ ...row, isMine: ownerId === user.id }));
}

export async function keepView(services: Services, user: User, given: KeptFields): Promise<number> {
  const { answer } = await act(services, user, { kind: 'view', tells: ['views'] }, async (on) => {
    await expectUsable(on.tx, user, given);
    const mine = await on.tx.select({ id: savedView.id }).from(savedView).where(eq(savedView.ownerId, user.id));
    if (mine.length >= mostViews) throw conflict(`You keep ${mostViews} views already: remove one first`);
    const made = await first(
      on.tx
        .insert(savedView)
        .values({ ...given, ownerId: user.id })
        .returning({ id: savedView.id }),
    );
    if (!made) throw new Error('No view was made');
    on.change({ kind: 'view', id: made.id, delta: { created: [true] } });
    on.say(`Kept the view ${given.name}`);
    return made.id;
  });
  return answer;
}

/** Refuses a name that the person has for another of hers, and conditions over attributes there are none of. */
async function expectUsable(
  tx: Executor,
  user: User,
  { name, view }: Partial<KeptFields>,
  except?: number,
): Promise<void> {
  if (name !== undefined) {
    const mine = await tx
      .select({ id: savedView.id, name: savedView.name })
      .from(savedView)
      .where(eq(savedView.ownerId, user.id))
      .for('update');
    if (mine.some((other) => other.id !== except && foldText(other.name) === foldText(name)))
      throw nameTaken(`You have a view named ${name} already`);
  }
  if (!view) return;
  const { attributes } = await loadDictionary(tx);
  const unknown = conditionAttributes(view.condition).find((key) => !attributes.has(key));
  if (unknown !== undefined) throw badRequest(`There is no attribute “${unknown}”`);
}

async function heldView(tx: Executor, user: User, id: number) {
  const held = await first(tx.select().from(savedView).where(eq(savedView.id, id)).for('update'));
  if (!held || (held.ownerId !== user.id && !held.isShared)) throw notFound(`view ${id}`);
  if (held.ownerId !== user.id) throw conflict('It is somebody else’s: keep one of your own from it');
  return held;
}

export async function changeView(
  services: Services,
  user: User,
  id: number,
  { to, was }: { to: Partial<KeptFields>; was: Partial<KeptFields> },
): Promise<void> {
  await act(services, user, { kind: 'view', tells: ['views'] }, async (on) => {
    const held = await heldView(on.tx, user, id);
    await expectUsable(on.tx, user, to, id);
    const delta = deltaOfFields(held, to, was);
    if (Object.keys(delta).length === 0) return;
    await on.tx.update(savedView).set(to).where(eq(savedView.id, id));
    on.change({ kind: 'view', id, delta });
    on.say(`Changed the view ${held.name}`);
  });
}

export async function removeView(services: Services, user: User, id: number): Promise<void> {
  await act(services, user, { kind: 'remove-view', tells: ['views'] }, async (on) => {
    const { name } = await heldView(on.tx, user, id);
    await on.tx.delete(savedView).where(and(eq(savedView.id, id), eq(savedView.ownerId, user.id)));
    on.say(`Removed the view ${name}`);
  });
}

export async function undoView(undoing: Undoing): Promise<Undone> {
  const { tx } = undoing;
  const { left } = await takeRowsBack(undoing, 'view', {
    load: (id) => first(tx.select().from(savedView).where(eq(savedView.id, id)).for('update')),
    say: ({ name }) => name,
    stays: () => Promise.resolve(undefined),
    remove: (ids) => tx.delete(savedView).where(inArray(savedView.id, ids)),
    set: ({ id }, to) => tx.update(savedView).set(to).where(eq(savedView.id, id)),
  });
  return { left };
}
