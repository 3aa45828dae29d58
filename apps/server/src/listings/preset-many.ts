/** Goods of many listings put into a preset at once, or kept out of it, as one action; tried by the same steps, taken back. */
import type { Effect } from '@velvet-shelf/contract';
import { getPlace } from '../channels/places.js';
import { changePresets } from '../channels/presets.js';
import { type Acting, act, tryAct } from '../history/act.js';
import { notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { type WhichListings, chosenListings } from './chosen.js';

export interface PresetMany {
  which: WhichListings;
  preset: number;
  isIn: boolean;
}

export interface Placed {
  changed: number;
  /** So already. */
  same: number;
  /** Of another channel than the preset’s. */
  without: number;
}

const placing =
  ({ which, preset, isIn }: PresetMany, done: Placed) =>
  async (on: Acting): Promise<void> => {
    const { tx } = on;
    const listings = await chosenListings(tx, which);
    const places = await Promise.all([...new Set(listings.map(({ place }) => place))].map((id) => getPlace(tx, id)));
    for (const channelId of new Set(places.map((place) => place.channelId))) {
      const here = new Set(places.flatMap((place) => (place.channelId === channelId ? [place.id] : [])));
      const of = new Set(listings.flatMap(({ place, variant }) => (here.has(place) ? [variant] : [])));
      await changePresets(on, channelId, (held) => {
        const known = held.find(({ id }) => id === preset);
        if (!known) {
          done.without += of.size;
          return held;
        }
        const changed = [...of].filter(
          (product) => !known.hand.some((each) => each.product === product && each.isIn === isIn),
        );
        done.changed = changed.length;
        done.same = of.size - changed.length;
        on.say(`${isIn ? 'Put' : 'Kept'} ${changed.length} goods ${isIn ? 'into' : 'out of'} “${known.name}”`);
        const hand = [
          ...known.hand.filter(({ product }) => !changed.includes(product)),
          ...changed.map((product) => ({ product, isIn })),
        ];
        return held.map((each) => (each.id === preset ? { ...each, hand } : each));
      });
    }
    if (done.changed + done.same === 0) throw notFound(`preset ${preset} on the channels of these listings`);
  };

const none = (): Placed => ({ changed: 0, same: 0, without: 0 });

export async function presetMany(services: Services, user: User, input: PresetMany): Promise<Effect & Placed> {
  const done = none();
  const { effect } = await act(services, user, { kind: 'presets', tells: ['channels'] }, placing(input, done));
  return { ...effect, ...done };
}

/** For a thread of its own. */
export async function tryPresetMany(
  services: Pick<Services, 'db' | 'config'>,
  { user, input }: { user: Pick<User, 'id'>; input: PresetMany },
): Promise<Effect & Placed> {
  const done = none();
  const tried = await tryAct(services, user, { kind: 'presets' }, placing(input, done));
  const { listingsChanged, becameReady, becameBlocked } = tried;
  return { listingsChanged, becameReady, becameBlocked, ...done };
}
