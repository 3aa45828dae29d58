/** Goes through the listings of a place as their fills make them, with what gives each value: for counts, and for the goods behind a count. */
import type { Effect, FillPart, FillSample } from '@velvet-shelf/contract';
import type { Family, Variant } from '@velvet-shelf/core/catalog';
import { checkMeta } from '@velvet-shelf/core/checks';
import {
  type CompiledPlace,
  type Evaluated,
  type Giving,
  type PlacedFill,
  compilePlace,
} from '@velvet-shelf/core/listings';
import { type ChannelAttribute, isUnder, sayChannelValue } from '@velvet-shelf/core/rulebooks';
import { and, eq, gt, ne } from 'drizzle-orm';
import { type PlaceRow, getPlace } from '../channels/places.js';
import { type SetupChange, loadSetup } from '../channels/setup.js';
import { goodsOf } from '../channels/slots.js';
import { todayText } from '../db/clock.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { noEffect } from '../history/effect.js';
import type { Services } from '../http/route.js';
import { loadFamilies } from './families.js';
import { Together, besideOthers } from './together.js';
import { loadStanding, titleOf } from './what-if.js';

export interface WalkInput {
  placeId: number;
  /** Evaluated as if this were saved. */
  change?: SetupChange | undefined;
  /** Listings in this category of the channel, or below it, alone. */
  within?: string | undefined;
  /** Some of the goods alone, from all over the place: for first figures. */
  few?: boolean | undefined;
}

export interface FillWalk {
  place: PlaceRow;
  dictionary: Dictionary;
  compiled: CompiledPlace;
  /** What becomes of the listings where a change is tried: told once all were gone through. */
  effect: Effect;
  /** Listings with what they would be, family after family, of units after this one. */
  listings(after?: number): AsyncGenerator<Walked>;
}

export interface Walked {
  family: Family;
  variant: Variant;
  result: Evaluated;
  /** What gives it its value of an attribute. */
  giving(attribute: string): Giving;
  /** Fills of an attribute that are for it, the one that wins first. */
  fitting(attribute: string): PlacedFill[];
  /** Presets applied to it, by number. */
  presets(): number[];
  stands: Pick<FillSample, 'listingId' | 'was' | 'becomes'>;
  /** In the category that is asked about, where one is. */
  isWithin: boolean;
}

/** Units read at once, and those that first figures are of. */
const atOnce = 500;
const aFew = 250;

export async function walkFills(
  { db, config }: Services,
  { placeId, change, within, few }: WalkInput,
): Promise<FillWalk> {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const compiled = compilePlace(await loadSetup(db, place, dictionary, config.address, change ?? {}));
  const effect = noEffect();
  const today = todayText();
  const { listing } = tables;
  async function* listings(after = 0): AsyncGenerator<Walked> {
    const all = await db
      .selectDistinct({ unit: listing.unitId })
      .from(listing)
      .where(
        and(eq(listing.placeId, placeId), ne(listing.readiness, 'not for this channel'), gt(listing.unitId, after)),
      )
      .orderBy(listing.unitId);
    const apart = few ? Math.ceil(all.length / aFew) : 1;
    const units = apart > 1 ? all.filter((_, i) => i % apart === 0) : all;
    const together = change && after === 0 ? new Together() : undefined;
    for (let from = 0; from < units.length; from += atOnce) {
      const some = units.slice(from, from + atOnce).map(({ unit }) => unit);
      const standing = await loadStanding(db, placeId, some);
      for (const family of await loadFamilies(db, placeId, some))
        for (const [at, result] of compiled.evaluate(family, today).entries()) {
          const variant = family.variants[at];
          if (!variant || result.standing === 'left') continue;
          const isWithin =
            within === undefined || (result.category !== undefined && isUnder(result.category, [within]));
          const was = standing.get(variant.id);
          together?.add(was, family.id, result);
          const becomes = besideOthers(was, result.readiness);
          yield {
            ...{ family, variant, result, isWithin },
            giving: (attribute) => compiled.giving(family, variant, attribute, today),
            fitting: (attribute) => compiled.fitting(family, variant, attribute),
            presets: () => compiled.presets(family, variant),
            stands: { listingId: was?.listing ?? 0, was: was?.readiness ?? becomes, becomes },
          };
        }
    }
    // Once all are known, what they share is judged too; of a few it is not known what the others would share with them.
    if (together)
      Object.assign(effect, apart > 1 ? together.apart() : (await together.settle(db, compiled, placeId, true)).effect);
  }
  return { place, dictionary, compiled, effect, listings };
}

/** The part of a fill's goods that a value is of. */
export function partOf(giving: Giving): FillPart {
  if (giving.by === 'pin') return { at: null, path: [] };
  return { at: goodsOf(giving.placed), path: [...giving.path] };
}

/** Tells parts apart. */
export const partKey = ({ at, path }: FillPart): string => JSON.stringify([at?.preset, at?.market, at?.category, path]);

export const refusalOf = ({ findings, values }: Evaluated, attribute: string) =>
  values[attribute] === undefined
    ? undefined
    : findings.find((finding) => finding.attribute === attribute && finding.severity === 'blocker');

/** One of the goods with what an attribute gets, as people read it. */
export function sampleOf(
  { place, dictionary, compiled }: FillWalk,
  { family, variant, result, stands }: Walked,
  attribute: ChannelAttribute,
): FillSample {
  const value = result.values[attribute.key];
  const fault = refusalOf(result, attribute.key) ?? result.findings.find((each) => each.attribute === attribute.key);
  const source = compiled
    .trace(family, variant, attribute.key, todayText())
    .find(({ at, label }) => at === 'catalog' && label !== undefined);
  return {
    ...stands,
    title: titleOf(variant, dictionary, place.language) ?? variant.sku ?? '',
    from: source ? { label: source.label ?? '', value: source.value ?? null } : null,
    value: value === undefined ? null : sayChannelValue(value),
    fault: fault ? (checkMeta.get(fault.check)?.say(fault.params, attribute.label) ?? fault.check) : null,
  };
}
