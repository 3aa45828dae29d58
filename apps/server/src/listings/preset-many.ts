/** Goods of many listings put into a preset at once, or kept out of it, as one action; tried by the same steps, taken back. */
import { mostInHand } from '@velvet-shelf/contract';
import { groupBy } from '@velvet-shelf/core/values';
import { getPlace } from '../channels/places.js';
import { type HeldPreset, changePresets } from '../channels/presets.js';
import type { Acting } from '../history/act.js';
import { badRequest, notFound } from '../http/problem.js';
import { type Counted, type WhichListings, actOnMany, chosenListings } from './many.js';

export interface PresetMany {
  which: WhichListings;
  preset: number;
  isIn: boolean;
}

/** The goods put in or kept out by hand with these, and how many of them are others than before. */
function withGoods({ name, hand }: HeldPreset, goods: ReadonlySet<number>, isIn: boolean) {
  const held = new Map(hand.map((each) => [each.product, each.isIn]));
  const changed = [...goods].filter((product) => held.get(product) !== isIn);
  for (const product of changed) held.set(product, isIn);
  if (held.size > mostInHand)
    throw badRequest(`“${name}” takes ${mostInHand} goods by hand: choose fewer, or say a condition`);
  return { changed: changed.length, hand: [...held].map(([product, goesIn]) => ({ product, isIn: goesIn })) };
}

const placing =
  ({ which, preset, isIn }: PresetMany, done: Counted) =>
  async (on: Acting): Promise<void> => {
    const { tx } = on;
    const listings = await chosenListings(tx, which);
    const places = await Promise.all([...new Set(listings.map(({ place }) => place))].map((id) => getPlace(tx, id)));
    const channelOf = new Map(places.map(({ id, channelId }) => [id, channelId]));
    for (const [channelId, of] of groupBy(listings, ({ place }) => channelOf.get(place) ?? 0))
      await changePresets(on, channelId, (held) => {
        const goods = new Set(of.map(({ variant }) => variant));
        const known = held.find(({ id }) => id === preset);
        if (!known) {
          done.without += goods.size;
          return undefined;
        }
        const { changed, hand } = withGoods(known, goods, isIn);
        done.changed = changed;
        done.same = goods.size - changed;
        return {
          to: held.map((each) => (each.id === preset ? { ...each, hand } : each)),
          words: `${isIn ? 'Put' : 'Kept'} ${changed} goods ${isIn ? 'into' : 'out of'} “${known.name}”`,
        };
      });
    if (done.changed + done.same === 0) throw notFound(`preset ${preset} on the channels of these listings`);
  };

export const { act: presetMany, try: tryPresetMany } = actOnMany({ kind: 'presets', tells: ['channels'] }, placing);
