/** What every question about causes needs: places, rulebooks, and the listings a cause touches. */
import { type Cause, type Finding, parseCause } from '@velvet-shelf/core/listings';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { sql, and, eq, count } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { type PlaceRow, listPlaces, rulebookOf } from '../channels/places.js';
import { type Database, type Executor, first, isIn } from '../db/client.js';
import { notFound } from '../http/problem.js';
import { causeFilter } from '../listings/service.js';
import { sayCause } from '@velvet-shelf/core/causes';
import * as tables from '../db/schema/index.js';

export interface Scene {
  dictionary: Dictionary;
  places: PlaceRow[];
  rulebooks: Map<number, Rulebook>;
}

export async function scene(db: Database): Promise<Scene> {
  const places = await listPlaces(db);
  const rulebooks = new Map<number, Rulebook>();
  for (const place of places) rulebooks.set(place.id, await rulebookOf(db, place));
  return { dictionary: await loadDictionary(db), places, rulebooks };
}

export const wordsOf = ({ dictionary, places, rulebooks }: Scene, key: string) => {
  const cause = parseCause(key);
  const channel = cause && 'channel' in cause ? cause.channel : undefined;
  return sayCause(
    key,
    dictionary.attributes,
    [...rulebooks.values()],
    places.find((place) => place.channel === channel)?.channelName ?? channel ?? '',
    dictionary.home,
  );
};

/** Blocking causes of a listing beside one. */
const others = sql<number>`greatest(0, coalesce(cardinality(${tables.causeSet.causes}), 0) - 1)`;

const touchedRows = (db: Executor) =>
  db
    .select({
      id: tables.listing.id,
      place_id: tables.listing.placeId,
      product: tables.product.id,
      unit: tables.product.unitId,
      sku: tables.product.sku,
      title: tables.product.title,
      /** Of the family, where it is of one. */
      unitTitle: sql<string | null>`(SELECT u.title FROM product u WHERE u.id = ${tables.product.unitId})`,
      findings: sql<
        Finding[]
      >`${tables.listing.findings} || ${tables.listing.collective} || ${tables.listing.reported}`,
      facts: tables.product.facts,
      texts: tables.productText.texts,
      offers: tables.product.offers,
      stock: tables.product.stock,
      others,
    })
    .from(tables.listing)
    .innerJoin(tables.product, eq(tables.product.id, tables.listing.variantId))
    .leftJoin(tables.productText, eq(tables.productText.productId, tables.product.id))
    .leftJoin(tables.causeSet, eq(tables.causeSet.id, tables.listing.causeSetId));

/** A listing that a cause touches, with the goods it is of. */
export type Touched = Awaited<ReturnType<typeof touchedRows>>[number];

/** Listings with a finding of this cause that nobody has muted. */
const heard = (key: string) => and(causeFilter(key), eq(tables.listing.muted, false));

/** The first listings a cause touches, those that wait for least else first. */
export async function touchedIds(db: Database, key: string, limit: number): Promise<number[]> {
  const listings = await db
    .select({ id: tables.listing.id })
    .from(tables.listing)
    .innerJoin(tables.product, eq(tables.product.id, tables.listing.variantId))
    .leftJoin(tables.causeSet, eq(tables.causeSet.id, tables.listing.causeSetId))
    .where(heard(key))
    .orderBy(others, sql`${tables.product.title} COLLATE "C"`, tables.listing.id)
    .limit(limit);
  return listings.map(({ id }) => id);
}

/** These listings in their order, with the goods they are of. */
export async function loadTouched(db: Database, list: readonly number[]): Promise<Touched[]> {
  const listings = await touchedRows(db).where(isIn(tables.listing.id, list));
  const byId = new Map(listings.map((listing) => [listing.id, listing]));
  return list.flatMap((id) => byId.get(id) ?? []);
}

export const touchedBy = async (db: Database, key: string, limit: number): Promise<Touched[]> =>
  loadTouched(db, await touchedIds(db, key, limit));

/** How many listings a cause touches, how many of them wait for nothing else, and where. */
export async function countTouched(
  db: Database,
  key: string,
): Promise<{ touched: number; alone: number; places: number[] }> {
  const found = await first(
    db
      .select({
        touched: count(),
        alone: sql<number>`count(*) FILTER (WHERE coalesce(cardinality(${tables.causeSet.causes}), 0) <= 1)`,
        places: sql<number[] | null>`array_agg(DISTINCT ${tables.listing.placeId})`,
      })
      .from(tables.listing)
      .leftJoin(tables.causeSet, eq(tables.causeSet.id, tables.listing.causeSetId))
      .where(heard(key)),
  );
  return { touched: found?.touched ?? 0, alone: found?.alone ?? 0, places: (found?.places ?? []).map(Number) };
}

export function mustParse(key: string): Cause {
  const cause = parseCause(key);
  if (!cause) throw notFound(`cause “${key}”`);
  return cause;
}

/** A place that a cause is of: the first of its channel, where it is of all markets. */
export const placeOf = ({ places }: Scene, cause: { channel: string; market: string }): PlaceRow => {
  const found = places.find(
    (place) => place.channel === cause.channel && (cause.market === '' || place.market === cause.market),
  );
  if (!found) throw notFound(`place ${cause.channel} ${cause.market}`);
  return found;
};
