/** One value set by hand for many listings at once, or let go, as one action; tried by the same steps, taken back. */
import type { Effect } from '@velvet-shelf/contract';
import { mostBulk } from '@velvet-shelf/contract';
import { groupBy } from '@velvet-shelf/core/values';
import { and, eq, not } from 'drizzle-orm';
import { getPlace, rulebookOf } from '../channels/places.js';
import { type Executor, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Acting, act, tryAct } from '../history/act.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { type WantedPin, pinKey, pinsOf, readPin, writePins } from './pins.js';
import { type ListingFilter, listingsOf } from './service.js';

export interface PinMany {
  which: { ids: readonly number[] } | { all: ListingFilter; except: readonly number[] };
  attribute: string;
  text: string | null;
}

export interface Pinned {
  changed: number;
  same: number;
  without: number;
}

/** Listings by number, locked until the action ends; refused where there are more than one action takes. */
async function chosen(tx: Executor, which: PinMany['which']) {
  const { listing, product } = tables;
  const where =
    'ids' in which
      ? isIn(listing.id, [...which.ids])
      : and(listingsOf(which.all), not(isIn(listing.id, [...which.except])));
  const found = await tx
    .select({ id: listing.id, place: listing.placeId, unit: listing.unitId })
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

/** The work of it: what it changes, and how many it leaves. */
const pinning =
  ({ which, attribute: key, text }: PinMany, done: Pinned) =>
  async (on: Acting): Promise<void> => {
    const { tx } = on;
    const listings = await chosen(tx, which);
    const held = await pinsOf(
      tx,
      listings.map(({ id }) => ({ listing: id, key })),
    );
    const wanted: WantedPin[] = [];
    let label: string | undefined;
    for (const [placeId, of] of groupBy(listings, ({ place }) => place)) {
      const place = await getPlace(tx, placeId);
      const attribute = (await rulebookOf(tx, place)).attributes.find((row) => row.key === key);
      if (!attribute) {
        done.without += of.length;
        continue;
      }
      label = attribute.label;
      const after = text === null ? null : readPin(text, attribute, place.currency);
      for (const { id } of of) wanted.push({ listing: id, key, before: held.get(pinKey(id, key)) ?? null, after });
    }
    if (label === undefined) throw badRequest(`None of these channels has an attribute “${key}”`);
    const changed = wanted.filter(({ before, after }) => before !== after);
    done.changed = changed.length;
    done.same = wanted.length - changed.length;
    if (changed.length === 0) return;
    on.change(...(await writePins(tx, changed)));
    on.say(
      `${text === null ? 'Unpinned' : 'Pinned'} ${label} of ${changed.length} ${changed.length === 1 ? 'listing' : 'listings'}`,
    );
    const touched = new Set(changed.map(({ listing }) => listing));
    await on.dirty([...new Set(listings.flatMap(({ id, unit }) => (touched.has(id) ? [unit] : [])))]);
  };

const none = (): Pinned => ({ changed: 0, same: 0, without: 0 });

export async function pinMany(services: Services, user: User, input: PinMany): Promise<Effect & Pinned> {
  const done = none();
  const { effect } = await act(services, user, { kind: 'pin' }, pinning(input, done));
  return { ...effect, ...done };
}

/** For a thread of its own. */
export async function tryPins(
  services: Pick<Services, 'db' | 'config'>,
  { user, input }: { user: Pick<User, 'id'>; input: PinMany },
): Promise<Effect & Pinned> {
  const done = none();
  const tried = await tryAct(services, user, { kind: 'pin' }, pinning(input, done));
  const { listingsChanged, becameReady, becameBlocked } = tried;
  return { listingsChanged, becameReady, becameBlocked, ...done };
}
