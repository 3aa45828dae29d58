/** One action on many listings that somebody chose: done, or tried by the same steps. */
import type { Effect } from '@velvet-shelf/contract';
import { mostBulk } from '@velvet-shelf/contract';
import { and, eq, not } from 'drizzle-orm';
import { type Executor, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type ActionKind, type Acting, act, tryAct } from '../history/act.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { type ListingFilter, listingsOf } from './service.js';

/** By number, or all that are like something but some. */
export type WhichListings = { ids: readonly number[] } | { all: ListingFilter; except: readonly number[] };

/** Listings by number, locked until the action ends; refused where there are more than one action takes. */
export async function chosenListings(tx: Executor, which: WhichListings) {
  const { listing, product } = tables;
  const where =
    'ids' in which
      ? isIn(listing.id, [...which.ids])
      : and(listingsOf(which.all), not(isIn(listing.id, [...which.except])));
  const found = await tx
    .select({ id: listing.id, place: listing.placeId, unit: listing.unitId, variant: listing.variantId })
    .from(listing)
    .innerJoin(product, eq(product.id, listing.variantId))
    .where(where)
    .orderBy(listing.id)
    .limit(mostBulk + 1)
    .for('update', { of: listing });
  if (found.length > mostBulk) throw badRequest(`More than ${mostBulk} listings at once: narrow them down first`);
  if (found.length === 0) throw badRequest('No listing is chosen, or none is like this any more');
  return found;
}

/** How many it changes, how many are so already, and how many have nothing of the kind. */
export interface Counted {
  changed: number;
  same: number;
  without: number;
}

/** `work` counts into what it is given. What is tried is for a thread of its own. */
export function actOnMany<Input>(
  kind: ActionKind,
  work: (input: Input, done: Counted) => (on: Acting) => Promise<void>,
) {
  const none = (): Counted => ({ changed: 0, same: 0, without: 0 });
  return {
    async act(services: Services, user: User, input: Input): Promise<Effect & Counted> {
      const done = none();
      const { effect } = await act(services, user, kind, work(input, done));
      return { ...effect, ...done };
    },
    async try(
      services: Pick<Services, 'db' | 'config'>,
      { user, input }: { user: Pick<User, 'id'>; input: Input },
    ): Promise<Effect & Counted> {
      const done = none();
      const { listingsChanged, becameReady, becameBlocked } = await tryAct(services, user, kind, work(input, done));
      return { listingsChanged, becameReady, becameBlocked, ...done };
    },
  };
}
