/** What becomes of listings, and effects put together. */
import type { Effect } from '@velvet-shelf/contract';

/** A new one each time: effects are added to where they are counted. */
export const noEffect = (): Effect => ({ listingsChanged: 0, becameReady: 0, becameBlocked: 0 });

export const addEffects = (a: Effect, b: Effect): Effect => ({
  listingsChanged: a.listingsChanged + b.listingsChanged,
  becameReady: a.becameReady + b.becameReady,
  becameBlocked: a.becameBlocked + b.becameBlocked,
});
