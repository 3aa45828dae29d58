/** Parts of the world that a channel keeps apart. */
import type { ChannelAnswer } from '@velvet-shelf/contract';

type Regions = ChannelAnswer['regions'];

export const sayRegion = (regions: Regions, region: string): string =>
  regions.find(({ key }) => key === region)?.name ?? region;

/** To be chosen from. */
export const regionOptions = (regions: Regions): [key: string, words: string][] => [
  ['', 'not chosen yet'],
  ...regions.map(({ key, name }): [string, string] => [key, name]),
];
