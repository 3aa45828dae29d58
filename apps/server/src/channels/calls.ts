/** What a place's set-up has worked out in a thread while a request waits: its fills, or a change of it, on every listing of the place. */
import type { Effect } from '@velvet-shelf/contract';
import { loadDictionary } from '../catalog/dictionary.js';
import type { Services } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { type FillCounts, countFills } from './fill-counts.js';
import { type SetupChange, getPlace } from './setup.js';
import { tryChange } from './what-if.js';

interface CountInput {
  placeId: number;
  only?: string;
  change?: SetupChange;
}

export const countCall = (services: Services, { placeId, only, change }: CountInput) =>
  countFills(services, placeId, only, change);

interface ChangeInput {
  placeId: number;
  change: SetupChange;
}

/** What a change of set-up would do to the listings of a place; nothing is written. */
export async function changeCall({ db, config }: Services, { placeId, change }: ChangeInput): Promise<Effect> {
  const place = await getPlace(db, placeId);
  const { effect } = await tryChange(db, place, await loadDictionary(db), config.address, change);
  return effect;
}

export const changeApart = (services: Services, input: ChangeInput): Promise<Effect> =>
  apart('try-change', input, () => changeCall(services, input));

export const countApart = (services: Services, input: CountInput): Promise<FillCounts> =>
  apart('count-fills', input, () => countCall(services, input));
