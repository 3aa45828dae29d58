/** Which places of a channel a change of set-up reaches: a map or a fill is of all its markets, unless it is said for one. */
import type { Executor } from '../db/client.js';
import { mappedInMarket } from './maps.js';
import { type PlaceRow, placesOf } from './places.js';
import type { SetupChange } from './setup.js';

export interface Reached {
  place: PlaceRow;
  /** What of the change holds there. */
  change: SetupChange;
}

/** The place itself first, whatever holds there; of the others, those at which anything does. */
export async function reached(on: Executor, place: PlaceRow, change: SetupChange): Promise<Reached[]> {
  const { unpinned } = change;
  const at = { ...(await holdingAt(on, place, change)), ...(unpinned ? { unpinned } : {}) };
  const elsewhere: Reached[] = [];
  for (const other of await placesOf(on, place.channelId)) {
    if (other.id === place.id) continue;
    const holding = await holdingAt(on, other, change);
    if (isAny(holding)) elsewhere.push({ place: other, change: holding });
  }
  return [{ place, change: at }, ...elsewhere];
}

/** Of what is said of a channel; what is set by hand for listings of a place, or which goods it gets, is that place’s. */
async function holdingAt(on: Executor, place: PlaceRow, change: SetupChange): Promise<SetupChange> {
  const { rulebook, presets, fills, categories, mapsIn } = change;
  const isHere = mapsIn === undefined || mapsIn === place.market;
  const own = categories && mapsIn === undefined ? new Set(await mappedInMarket(on, place)) : new Set<string>();
  return {
    ...(rulebook ? { rulebook } : {}),
    ...(presets ? { presets } : {}),
    ...(fills ? { fills: fills.filter(({ market }) => market === '' || market === place.market) } : {}),
    ...(mapsIn === undefined ? {} : { mapsIn }),
    ...(categories ? { categories: new Map([...categories].filter(([name]) => isHere && !own.has(name))) } : {}),
  };
}

const isAny = ({ rulebook, presets, fills = [], categories }: SetupChange): boolean =>
  rulebook !== undefined || presets !== undefined || fills.length > 0 || (categories?.size ?? 0) > 0;
