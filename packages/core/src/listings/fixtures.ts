/** A place for tests. */
import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { baseDictionary } from '../catalog/index.js';
import { loadRulebook } from '../checks/index.js';
import type { PlaceSetup } from './place.js';

const read = loadRulebook(rulebooksOf('orrivane').at(0));
if (!read.ok) throw new Error(read.faults.join());

/** A place of a channel that ships, with nothing set up but what a test says. */
export const testPlace = (given: Partial<PlaceSetup> = {}): PlaceSetup => ({
  channel: 'orrivane',
  market: 'GB',
  language: 'en-GB',
  currency: 'GBP',
  rulebook: read.rulebook,
  dictionary: new Map(baseDictionary.map((attribute) => [attribute.key, attribute])),
  assortment: { all: [] },
  categoryMap: new Map(),
  hand: new Map(),
  pins: new Map(),
  mediaAddress: 'http://x/media',
  filesAddress: 'http://x/files',
  fills: [],
  ...given,
});
