/** What listings have worked out in a thread while a request waits: fills, or a change of set-up, on every listing of a place. */
import type { Effect } from '@velvet-shelf/contract';
import type { SetupChange } from '../channels/setup.js';
import { defineCall } from '../jobs/define.js';
import type { FillCounts } from './fill-counts.js';

export interface CountInput {
  placeId: number;
  only?: string;
  change?: SetupChange;
}
export const countFills = defineCall<CountInput, FillCounts>({
  name: 'count-fills',
  run: async (services, { placeId, only, change }) =>
    (await import('./fill-counts.js')).countFills(services, placeId, only, change),
});

/** What a change of set-up would do to the listings of a place; nothing is written. */
export const tryChange = defineCall<{ placeId: number; change: SetupChange }, Effect>({
  name: 'try-change',
  run: async (services, { placeId, change }) => (await import('./what-if.js')).effectOf(services, placeId, change),
});

export const listingCalls = [countFills, tryChange];
