/** What if: the same pipeline with a set-up that is not saved, over the listings it touches. */
import { type CompiledPlace, compilePlace } from '@velvet-shelf/core/listings';
import type { Variant } from '@velvet-shelf/core/catalog';
import { keyOf } from '@velvet-shelf/core/values';
import { sql, eq, and, inArray } from 'drizzle-orm';
import type { Effect } from '@velvet-shelf/contract';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { type Executor, ids, queryRows } from '../db/client.js';
import { loadFamilies } from './families.js';
import { type Standing, Together } from './together.js';
import { todayText } from '../db/clock.js';
import type { Services } from '../http/route.js';
import { type Assortment, type SetupChange, loadSetup } from '../channels/setup.js';
import { type PlaceRow, getPlace } from '../channels/places.js';
import { type Reached, reached } from '../channels/reach.js';
import { addEffects, noEffect } from '../history/effect.js';
import * as tables from '../db/schema/index.js';

export interface Tried {
  effect: Effect;
  listings: number;
  /** Blocking causes that would be new, with how many listings they touch. */
  newCauses: Map<string, number>;
  /** By our category: listings that stand elsewhere by each of its splits, in their order. */
  splits: Map<string, number[]>;
}

/** Tries a change of set-up on these families, or on the whole assortment; nothing is written. */
export async function tryChange(
  on: Executor,
  place: PlaceRow,
  dictionary: Dictionary,
  address: string,
  change: SetupChange,
  units?: readonly number[],
): Promise<Tried> {
  const compiled = compilePlace(await loadSetup(on, place, dictionary, address, change));
  const wanted =
    units ??
    (
      await on
        .selectDistinct({ unit: tables.listing.unitId })
        .from(tables.listing)
        .where(eq(tables.listing.placeId, place.id))
        .orderBy(tables.listing.unitId)
    ).map((listing) => listing.unit);
  const tried = { listings: 0, splits: new Map<string, number[]>() };
  const together = new Together();
  for (let from = 0; from < wanted.length; from += 500) {
    const some = wanted.slice(from, from + 500);
    const before = await loadStanding(on, place.id, some);
    for (const family of await loadFamilies(on, place.id, some)) {
      for (const [at, result] of compiled.evaluate(family, todayText()).entries()) {
        if (result.standing === 'left') continue;
        const was = before.get(result.variant);
        tried.listings++;
        countSplit(tried.splits, compiled, family.variants[at]);
        together.add(was, family.id, result);
      }
    }
  }
  return { ...tried, ...(await together.settle(on, compiled, place.id, units === undefined)) };
}

/** The same at each place that the change reaches, the one it is made at first. */
async function tryReached(
  on: Executor,
  places: readonly Reached[],
  dictionary: Dictionary,
  address: string,
): Promise<Tried[]> {
  const tried: Tried[] = [];
  for (const { place, change } of places) tried.push(await tryChange(on, place, dictionary, address, change));
  return tried;
}

const sumEffects = (tried: readonly Tried[]): Effect =>
  tried.reduce((sum, { effect }) => addEffects(sum, effect), noEffect());

/** The same at all of them together; splits are told of the place it is made at. */
export async function tryEverywhere(
  on: Executor,
  place: PlaceRow,
  dictionary: Dictionary,
  address: string,
  change: SetupChange,
): Promise<Tried> {
  const tried = await tryReached(on, await reached(on, place, change), dictionary, address);
  const newCauses = new Map<string, number>();
  for (const there of tried)
    for (const [cause, touched] of there.newCauses) newCauses.set(cause, (newCauses.get(cause) ?? 0) + touched);
  return {
    effect: sumEffects(tried),
    listings: tried.reduce((sum, { listings }) => sum + listings, 0),
    newCauses,
    splits: tried[0]?.splits ?? new Map(),
  };
}

/** What becomes of listings at the other places that a change reaches. */
export const effectElsewhere = async (
  on: Executor,
  place: PlaceRow,
  dictionary: Dictionary,
  address: string,
  change: SetupChange,
): Promise<Effect> =>
  sumEffects(await tryReached(on, (await reached(on, place, change)).slice(1), dictionary, address));

function countSplit(splits: Tried['splits'], { mapped, setup }: CompiledPlace, variant: Variant | undefined): void {
  const split = variant && mapped(variant).split;
  if (variant?.category === undefined || split === undefined) return;
  const known = setup.categoryMap.get(variant.category)?.splits ?? [];
  const counts = splits.get(variant.category) ?? known.map(() => 0);
  counts[split] = (counts[split] ?? 0) + 1;
  splits.set(variant.category, counts);
}

/** The same by number: what becomes of listings, and which splits they stand by. */
export async function effectOf(
  { db, config }: Services,
  placeId: number,
  change: SetupChange,
): Promise<Effect & { splits: Record<string, number[]> }> {
  const place = await getPlace(db, placeId);
  const { effect, splits } = await tryEverywhere(db, place, await loadDictionary(db), config.address, change);
  return { ...effect, splits: Object.fromEntries(splits) };
}

/** Samples of what joins and leaves. */
const mostSamples = 12;

/** What another assortment would add to a place and take away from it; nothing is written. */
export async function tryAssortment({ db, config }: Services, placeId: number, assortment: Assortment) {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const compiled = compilePlace(await loadSetup(db, place, dictionary, config.address, { assortment }));
  const listed = await db
    .select({ variant: tables.listing.variantId, print: tables.listing.print, state: tables.listing.channelState })
    .from(tables.listing)
    .where(eq(tables.listing.placeId, placeId));
  const now = new Map(listed.filter(({ print }) => print !== 'left').map(({ variant, state }) => [variant, state]));
  const tried = { joins: 0, leaves: 0, stays: 0, sentLeave: 0 };
  const samples: { id: number; sku: string | null; title: string | null; joins: boolean }[] = [];
  const units = await db
    .selectDistinct({ unit: tables.product.unitId })
    .from(tables.product)
    .where(and(eq(tables.product.stands, true), inArray(tables.product.kind, ['variant', 'single'])))
    .orderBy(tables.product.unitId);
  for (let from = 0; from < units.length; from += 500) {
    const some = units.slice(from, from + 500).map(({ unit }) => unit);
    for (const family of await loadFamilies(db, place.id, some))
      for (const variant of family.variants) {
        const is = now.has(variant.id);
        const becomes = compiled.isWanted(family, variant);
        if (is && becomes) tried.stays++;
        if (is === becomes) continue;
        tried[becomes ? 'joins' : 'leaves']++;
        if (is && now.get(variant.id) !== 'none') tried.sentLeave++;
        if (samples.filter(({ joins }) => joins === becomes).length < mostSamples)
          samples.push({
            id: variant.id,
            sku: variant.sku ?? null,
            title: titleOf(variant, dictionary),
            joins: becomes,
          });
      }
  }
  return { ...tried, samples };
}

/** In this language where there is one. */
export const titleOf = (
  { texts }: Variant,
  { attributes, home }: Dictionary,
  language: string = home,
): string | null => {
  const titles = texts[keyOf(attributes, 'title') ?? ''] ?? {};
  return titles[language] ?? titles[home] ?? Object.values(titles)[0] ?? null;
};

/** How listings of these units stand, by variant, with the causes that keep them back. */
export async function loadStanding(
  on: Executor,
  placeId: number,
  units: readonly number[],
): Promise<Map<number, Standing>> {
  const current = await queryRows<Standing & { variant: number }>(
    on,
    sql`SELECT l.variant_id AS variant, l.id AS listing, l.unit_id AS unit, l.readiness, l.collective,
          (SELECT array_agg(c.key) FROM cause_set s, unnest(s.causes) x JOIN cause c ON c.id = x WHERE s.id = l.cause_set_id) AS causes
        FROM listing l WHERE l.place_id = ${placeId} AND l.unit_id = ANY(${ids(units)})`,
  );
  return new Map(current.map(({ variant, ...standing }) => [variant, standing]));
}
