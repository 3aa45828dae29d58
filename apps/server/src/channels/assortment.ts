/** Which goods a place gets: kept, and taken back. What a change would add and take away is worked out by `listings`. */
import type { AssortmentBody, Effect } from '@velvet-shelf/contract';
import { conditionSchema } from '@velvet-shelf/core/conditions';
import { canonical } from '@velvet-shelf/core/values';
import { count, eq } from 'drizzle-orm';
import { z } from 'zod';
import { loadDictionary } from '../dictionary/dictionary.js';
import { type Executor, first } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { mustKnow } from './comparing.js';
import { describeHand, mustBeGoods, plainHand } from './hand.js';
import { getPlace } from './places.js';
import { handOf } from './setup.js';
import * as tables from '../db/schema/index.js';

export async function showAssortment(on: Executor, placeId: number) {
  const place = await getPlace(on, placeId);
  const hand = await describeHand(on, await handOf(on, placeId));
  const listed = await first(on.select({ n: count() }).from(tables.listing).where(eq(tables.listing.placeId, placeId)));
  return { condition: place.assortment, hand, listings: listed?.n ?? 0 };
}

const held = async (on: Executor, placeId: number): Promise<AssortmentBody> => ({
  condition: (await getPlace(on, placeId)).assortment,
  hand: await handOf(on, placeId),
});

const isSame = (a: AssortmentBody, b: AssortmentBody) =>
  canonical([a.condition, plainHand(a.hand)]) === canonical([b.condition, plainHand(b.hand)]);

/** Refuses a condition over attributes there are none of. */
export const expectKnown = async (on: Executor, { condition }: Pick<AssortmentBody, 'condition'>): Promise<void> =>
  mustKnow((await loadDictionary(on)).attributes, [{ condition, pointer: '/body/condition' }]);

export async function saveAssortment(
  services: Services,
  user: User,
  placeId: number,
  { to, was }: { to: AssortmentBody; was: AssortmentBody },
): Promise<Effect> {
  const { effect } = await act(services, user, { kind: 'assortment', tells: ['channels'] }, async (on) => {
    await on.tx.select({ id: tables.place.id }).from(tables.place).where(eq(tables.place.id, placeId)).for('update');
    const now = await held(on.tx, placeId);
    if (!isSame(now, was))
      throw stale('Somebody changed what goes there meanwhile: look at it as it is now', { current: now });
    if (isSame(now, to)) return;
    await expectKnown(on.tx, to);
    await write(on, placeId, to);
    on.say(`Changed which goods go to ${(await getPlace(on.tx, placeId)).name}`);
    on.change({ kind: 'place', id: placeId, delta: { assortment: [now, to] } });
  });
  return effect;
}

async function write({ tx, dirtyPlace }: Pick<Acting, 'tx' | 'dirtyPlace'>, placeId: number, to: AssortmentBody) {
  await tx.update(tables.place).set({ assortment: to.condition }).where(eq(tables.place.id, placeId));
  await tx.delete(tables.handPicked).where(eq(tables.handPicked.placeId, placeId));
  if (to.hand.length > 0) {
    await mustBeGoods(tx, to.hand);
    await tx
      .insert(tables.handPicked)
      .values(to.hand.map(({ product, isIn: goesIn }) => ({ placeId, productId: product, isIn: goesIn })))
      .onConflictDoNothing();
  }
  await dirtyPlace(placeId);
}

const kept = z.object({
  condition: conditionSchema,
  hand: z.array(z.object({ product: z.number(), isIn: z.boolean() })),
});

/** Puts back what went there before, where nobody has changed it since. */
export async function undoAssortment({ tx, actionId, dirtyPlace }: Undoing): Promise<Undone> {
  const left: string[] = [];
  const changes = await changesOf(tx, actionId, 'place', z.object({ assortment: z.tuple([kept, kept]) }));
  for (const { id, delta } of changes) {
    const [before, after] = delta.assortment;
    if (isSame(await held(tx, id), after)) await write({ tx, dirtyPlace }, id, before);
    else left.push('Which goods go there: changed since');
  }
  return { left };
}
