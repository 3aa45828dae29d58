/** One value set by hand for many listings at once, or let go, as one action; tried by the same steps, taken back. */
import { groupBy } from '@velvet-shelf/core/values';
import { getPlace, rulebookOf } from '../channels/places.js';
import type { Acting } from '../history/act.js';
import { badRequest } from '../http/problem.js';
import { type Counted, type WhichListings, actOnMany, chosenListings } from './many.js';
import { type WantedPin, pinKey, pinsOf, readPin, writePins } from './pins.js';

export interface PinMany {
  which: WhichListings;
  attribute: string;
  text: string | null;
}

/** The work of it: what it changes, and how many it leaves. */
const pinning =
  ({ which, attribute: key, text }: PinMany, done: Counted) =>
  async (on: Acting): Promise<void> => {
    const { tx } = on;
    const listings = await chosenListings(tx, which);
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

export const { act: pinMany, try: tryPins } = actOnMany({ kind: 'pin' }, pinning);
