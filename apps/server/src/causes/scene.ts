/** What every question about causes needs: places, rulebooks, and the listings a cause touches. */
import { type Cause, type Finding, parseCause } from '@velvet-shelf/core/listings';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { sql } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../catalog/dictionary.js';
import { type PlaceRow, listPlaces } from '../channels/setup.js';
import { type Database, ids, queryOne, queryRows } from '../db/client.js';
import { notFound } from '../http/problem.js';
import { causeFilter } from '../listings/service.js';
import type { Value } from '@velvet-shelf/core/values';
import { sayCause } from '@velvet-shelf/core/causes';
import { rulebookOf } from '../channels/service.js';

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

export interface Touched {
  id: number;
  place_id: number;
  product: number;
  unit: number;
  sku: string | null;
  title: string | null;
  findings: Finding[];
  facts: Record<string, Value>;
  texts: Record<string, Record<string, string>> | null;
  offers: Record<string, { regular?: string; sale?: { amount: string } }>;
  stock: number;
  others: number;
}

/** The first listings a cause touches, those that wait for least else first. */
export async function touchedIds(db: Database, key: string, limit: number): Promise<number[]> {
  const listings = await queryRows<{ id: number }>(
    db,
    sql`SELECT l.id FROM listing l JOIN product p ON p.id = l.variant_id LEFT JOIN cause_set s ON s.id = l.cause_set_id
        WHERE ${causeFilter(key)} ORDER BY greatest(0, coalesce(cardinality(s.causes), 0) - 1), p.title COLLATE "C", l.id LIMIT ${limit}`,
  );
  return listings.map(({ id }) => id);
}

/** These listings in their order, with the goods they are of. */
export async function loadTouched(db: Database, list: readonly number[]): Promise<Touched[]> {
  const listings = await queryRows<Touched>(
    db,
    sql`SELECT l.id, l.place_id, p.id AS product, p.unit_id AS unit, p.sku, p.title, l.findings || l.collective || l.reported AS findings, p.facts, t.texts, p.offers, p.stock,
          greatest(0, coalesce(cardinality(s.causes), 0) - 1) AS others
        FROM listing l JOIN product p ON p.id = l.variant_id LEFT JOIN product_text t ON t.product_id = p.id LEFT JOIN cause_set s ON s.id = l.cause_set_id
        WHERE l.id = ANY(${ids(list)})`,
  );
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
  const found = await queryOne<{ touched: number; alone: number; places: number[] | null }>(
    db,
    sql`SELECT count(*) AS touched, count(*) FILTER (WHERE coalesce(cardinality(s.causes), 0) <= 1) AS alone, array_agg(DISTINCT l.place_id) AS places
        FROM listing l LEFT JOIN cause_set s ON s.id = l.cause_set_id WHERE ${causeFilter(key)}`,
  );
  return { touched: found?.touched ?? 0, alone: found?.alone ?? 0, places: (found?.places ?? []).map(Number) };
}

export function mustParse(key: string): Cause {
  const cause = parseCause(key);
  if (!cause) throw notFound(`cause “${key}”`);
  return cause;
}

export const placeOf = ({ places }: Scene, cause: { channel: string; market: string }): PlaceRow => {
  const found = places.find((place) => place.channel === cause.channel && place.market === cause.market);
  if (!found) throw notFound(`place ${cause.channel} ${cause.market}`);
  return found;
};
