/** The set-up of a place as core wants it, compiled once per version of it. */
import { createHash } from 'node:crypto';
import type { Condition } from '@velvet-shelf/core/conditions';
import {
  type CompiledPlace,
  type PlaceSetup,
  type PlacedFill,
  type Preset,
  compilePlace,
} from '@velvet-shelf/core/listings';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { listOf } from '@velvet-shelf/core/values';
import { eq, and } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { ratesTo } from '../company/rates.js';
import type { Dictionary } from '../dictionary/dictionary.js';
import { type Executor } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { asPreset, presetsOf } from './presets.js';
import { type FillChange, asPlaced, fillsAt, slotKey } from './slots.js';
import { type MapChange, changedMap, mappedInMarket, mapsOf } from './maps.js';
import { type PlaceRow, forAccount, rulebookOf } from './places.js';

/** Which goods a place gets: a condition, and what is put in or kept out by hand. */
export interface Assortment {
  condition: Condition;
  hand: readonly { product: number; isIn: boolean }[];
}

export const handOf = (on: Executor, placeId: number): Promise<{ product: number; isIn: boolean }[]> =>
  on
    .select({ product: tables.handPicked.productId, isIn: tables.handPicked.isIn })
    .from(tables.handPicked)
    .where(eq(tables.handPicked.placeId, placeId))
    .orderBy(tables.handPicked.productId);

/** What may be changed for a what-if, before it is compiled. */
export interface SetupChange {
  rulebook?: Rulebook;
  /** By our category: what is said of it; of what is not said, what there is stays. */
  categories?: ReadonlyMap<string, MapChange>;
  /** The market these maps are of; all where it is left out. */
  mapsIn?: string;
  fills?: readonly FillChange[];
  /** Variants whose value of an attribute follows its fill again. */
  unpinned?: { attribute: string; variants: readonly number[] };
  assortment?: Assortment;
  presets?: readonly Preset[];
}

export async function loadSetup(
  on: Executor,
  place: PlaceRow,
  dictionary: Dictionary,
  address: string,
  change: SetupChange = {},
): Promise<PlaceSetup> {
  const rulebook = change.rulebook ? await forAccount(on, place, change.rulebook) : await rulebookOf(on, place);
  const { language, currency } = rulebook.markets.find(({ key }) => key === place.market) ?? place;
  const fills = await fillsAt(on, place);
  const pins = await on
    .select({ variant: tables.listing.variantId, attribute: tables.pin.attribute, value: tables.pin.value })
    .from(tables.pin)
    .innerJoin(tables.listing, eq(tables.listing.id, tables.pin.listingId))
    .where(eq(tables.listing.placeId, place.id));
  const own = listOf(dictionary.attributes, 'category');
  const categoryMap = await mapsOf(on, place, own);
  // Where a map of one market is taken away, that of all holds again.
  const general = change.mapsIn === undefined ? undefined : await mapsOf(on, { ...place, market: '' }, own);
  for (const [category, to] of change.categories ?? []) {
    const { target, second, splits } = changedMap(categoryMap.get(category), to);
    const left = general?.get(category);
    if (target !== null) categoryMap.set(category, { target, second: second ?? undefined, splits });
    else if (left) categoryMap.set(category, left);
    else categoryMap.delete(category);
  }
  const byVariant = new Map<number, Record<string, string>>();
  const following = new Set(change.unpinned?.variants);
  for (const { variant, attribute, value } of pins) {
    if (attribute === change.unpinned?.attribute && following.has(variant)) continue;
    byVariant.set(variant, { ...byVariant.get(variant), [attribute]: value });
  }
  return {
    channel: place.channel,
    market: place.market,
    ...{ language, currency, rulebook },
    dictionary: dictionary.attributes,
    assortment: change.assortment?.condition ?? place.assortment,
    hand: new Map(
      (change.assortment?.hand ?? (await handOf(on, place.id))).map(({ product, isIn }) => [product, isIn]),
    ),
    categoryMap,
    ownMaps: new Set(await mappedInMarket(on, place)),
    fills: placeFills(fills, change.fills),
    presets: change.presets ?? (await presetsOf(on, place.channelId)).map(asPreset),
    pins: byVariant,
    rates: await ratesTo(on, currency),
    exempt: await on
      .select({ attribute: tables.exemption.attribute, condition: tables.exemption.condition })
      .from(tables.exemption)
      .where(and(eq(tables.exemption.accountId, place.accountId), eq(tables.exemption.state, 'granted'))),
    mediaAddress: `${address}/media`,
    filesAddress: `${address}/files`,
  };
}

/** What was compiled lately, by place and what it was compiled of. */
const compiled = new LRUCache<string, CompiledPlace>({ max: 24 });

const prints = new WeakMap<Dictionary['attributes'], string>();

/** Tells dictionaries apart by what they say. */
function printOf(attributes: Dictionary['attributes']): string {
  const known = prints.get(attributes);
  if (known !== undefined) return known;
  const print = createHash('md5')
    .update(JSON.stringify([...attributes.values()]))
    .digest('base64url');
  prints.set(attributes, print);
  return print;
}

/** A place ready to evaluate; compiled once for each version of its set-up, its rulebook and the dictionary. */
export async function compileFor(
  on: Executor,
  place: PlaceRow,
  dictionary: Dictionary,
  address: string,
): Promise<CompiledPlace> {
  const { id, setupVersion, rulebookId } = place;
  const key = [id, setupVersion, rulebookId, address, printOf(dictionary.attributes)].join(' ');
  const held = compiled.get(key);
  if (held) return held;
  const answer = compilePlace(await loadSetup(on, place, dictionary, address));
  compiled.set(key, answer);
  return answer;
}

/** All fills that are for a place, with what is changed; core chooses the most specific one. */
function placeFills(held: readonly FillChange[], changed: readonly FillChange[] = []): PlacedFill[] {
  const slots = new Map([...held, ...changed].map((each) => [slotKey(each), each]));
  return [...slots.values()].flatMap(({ fill, ...slot }) => (fill === null ? [] : asPlaced({ ...slot, fill })));
}
