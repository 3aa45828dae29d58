/** A place for tests. */
import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { baseDictionary } from '../catalog/index.js';
import { loadRulebook } from '../checks/index.js';
import type { PlaceSetup } from './place.js';

/** A place of a channel that ships, in its first market, with nothing set up but what a test says. */
export function testPlace(channel: string, given: Partial<PlaceSetup> = {}): PlaceSetup {
  const read = loadRulebook(rulebooksOf(channel).at(0));
  if (!read.ok) throw new Error(read.faults.join());
  const { rulebook } = read;
  const [market] = rulebook.markets;
  if (!market) throw new Error(`${channel} has no market`);
  return {
    ...{ channel, rulebook, market: market.key, language: market.language, currency: market.currency },
    dictionary: new Map(baseDictionary.map((attribute) => [attribute.key, attribute])),
    assortment: { all: [] },
    categoryMap: new Map(),
    hand: new Map(),
    pins: new Map(),
    mediaAddress: 'http://x/media',
    filesAddress: 'http://x/files',
    fills: [],
    ...given,
  };
}
