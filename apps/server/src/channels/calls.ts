/** What a place's set-up has worked out in a thread while a request waits: its fills on every listing of the place. */
import type { ChannelAttributeAnswer } from '@velvet-shelf/contract';
import type { Services } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { showFills } from './fills.js';
import type { SetupChange } from './setup.js';

interface FillsInput {
  placeId: number;
  only?: string;
  change?: SetupChange;
}

export const fillsCall = (services: Services, { placeId, only, change }: FillsInput) =>
  showFills(services, placeId, only, change);

export const fillsApart = (services: Services, input: FillsInput): Promise<ChannelAttributeAnswer[]> =>
  apart('show-fills', input, () => fillsCall(services, input));
