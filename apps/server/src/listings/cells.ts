/** Listings in the sheet: a column for each attribute of each place, where a value is pinned for the listing of a row or follows its fill. */
import type { SheetColumn } from '@velvet-shelf/contract';
import { type ChannelAttribute, typedChannelText } from '@velvet-shelf/core/rulebooks';
import { groupBy } from '@velvet-shelf/core/values';
import { and, eq } from 'drizzle-orm';
import type { Cell, EditField, FieldEdit } from '../catalog/fields.js';
import { compileFor } from '../channels/setup.js';
import { type PlaceRow, getPlace, listPlaces, rulebookOf } from '../channels/places.js';
import { type Executor, isIn } from '../db/client.js';
import { todayText } from '../db/clock.js';
import * as tables from '../db/schema/index.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { badRequest } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { loadFamilies } from './families.js';
import { readPlaceCells } from './jobs.js';
import { type WantedPin, pinKey, pinsOf, readPin, refuseStale, writePins } from './pins.js';

/** What stands behind the `@` of a slot: the place, and the attribute with what a list of slots could not hold written otherwise. */
export const columnName = (placeId: number, key: string) => `${placeId}/${encodeURIComponent(key)}`;

function splitName(name: string): { placeId: number; key: string } {
  const [, place, key] = /^(\d+)\/(.*)$/.exec(name) ?? [];
  if (place === undefined || key === undefined) throw badRequest(`“${name}” names no attribute of a place`);
  try {
    return { placeId: Number(place), key: decodeURIComponent(key) };
  } catch {
    throw badRequest(`“${name}” names no attribute of a place`);
  }
}

/** The attribute that pins are set by in a sheet. */
export const pinAttribute = 'pin';

const isOfMarket = ({ markets, type }: ChannelAttribute, { market }: PlaceRow) =>
  type !== 'category' && (!markets || markets.includes(market));

async function columns({ db }: Services): Promise<SheetColumn[]> {
  const answer: SheetColumn[] = [];
  for (const place of await listPlaces(db)) {
    const { attributes } = await rulebookOf(db, place);
    for (const attribute of attributes.filter((each) => isOfMarket(each, place))) {
      const { key, label, type, limits } = attribute;
      const name = columnName(place.id, key);
      answer.push({
        slot: `${pinAttribute}@${name}`,
        label,
        group: place.name,
        attribute: pinAttribute,
        language: name,
        read: null,
        pin: {
          ...{ placeId: place.id, key },
          place: place.name,
          currency: place.currency,
          label,
          type,
          ...(limits.values ? { values: limits.values } : {}),
        },
      });
    }
  }
  return answer;
}

async function cells(services: Services, names: readonly string[], products: readonly number[]) {
  const byPlace = groupBy(names.map(splitName), ({ placeId }) => placeId);
  const answer = new Map<string, ReadonlyMap<number, Cell>>();
  const known = new Set((await listPlaces(services.db)).map(({ id }) => id));
  for (const [placeId, asked] of byPlace) {
    // A place taken away since the sheet was opened: its columns are empty.
    if (!known.has(placeId)) continue;
    const keys = asked.map(({ key }) => key);
    const rows = await apart(readPlaceCells, services, { placeId, keys, products: [...products] });
    keys.forEach((key, i) =>
      answer.set(
        columnName(placeId, key),
        new Map(rows.flatMap(({ product, cells: held }) => (held[i] ? [[product, held[i]] as const] : []))),
      ),
    );
  }
  return answer;
}

/** Cells of goods that have a listing at the place: what is pinned, else what its fill gives. */
export async function cellsAt(
  { db, config }: Pick<Services, 'db' | 'config'>,
  { placeId, keys, products }: { placeId: number; keys: readonly string[]; products: readonly number[] },
): Promise<{ product: number; cells: Cell[] }[]> {
  const listed = await db
    .select({ product: tables.listing.variantId, unit: tables.listing.unitId })
    .from(tables.listing)
    .where(and(eq(tables.listing.placeId, placeId), isIn(tables.listing.variantId, products)));
  const compiled = await compileFor(db, await getPlace(db, placeId), await loadDictionary(db), config.address);
  const families = await loadFamilies(db, placeId, [...new Set(listed.map(({ unit }) => unit))]);
  const results = new Map(
    families.flatMap((family) => compiled.evaluate(family, todayText()).map((result) => [result.variant, result])),
  );
  return listed.map(({ product }) => ({
    product,
    cells: keys.map((key): Cell => {
      const pinned = compiled.setup.pins.get(product)?.[key];
      if (pinned !== undefined) return [pinned, 'own'];
      const value = results.get(product)?.values[key];
      return [value === undefined ? null : typedChannelText(value), 'fill'];
    }),
  }));
}

/** Listings of these goods at these places, held until the action has ended. */
async function listingsOf(tx: Executor, edits: readonly FieldEdit[]): Promise<Map<string, number>> {
  const rows = await tx
    .select({ id: tables.listing.id, place: tables.listing.placeId, variant: tables.listing.variantId })
    .from(tables.listing)
    .where(
      and(
        isIn(
          tables.listing.variantId,
          edits.map(({ productId }) => productId),
        ),
        isIn(tables.listing.placeId, [...new Set(edits.map(({ edit }) => splitName(edit.language ?? '').placeId))]),
      ),
    )
    .orderBy(tables.listing.id)
    .for('update');
  return new Map(rows.map(({ id, place, variant }) => [`${variant} ${place}`, id]));
}

export const editPins: EditField<WantedPin> = {
  reader: async (tx, edits) => {
    const listings = await listingsOf(tx, edits);
    const places = new Map((await listPlaces(tx)).map((place) => [place.id, place]));
    const attributes = new Map<number, ReadonlyMap<string, ChannelAttribute>>();
    const wanted = edits.flatMap(({ productId, edit }) => {
      const { placeId, key } = splitName(edit.language ?? '');
      const listing = listings.get(`${productId} ${placeId}`);
      return listing === undefined ? [] : [{ listing, key, placeId }];
    });
    for (const placeId of new Set(wanted.map((each) => each.placeId))) {
      const place = places.get(placeId);
      if (!place) continue;
      const book = await rulebookOf(tx, place);
      attributes.set(
        placeId,
        new Map(book.attributes.filter((each) => isOfMarket(each, place)).map((each) => [each.key, each])),
      );
    }
    const held = await pinsOf(tx, wanted);
    return ({ productId, edit }) => {
      const { placeId, key } = splitName(edit.language ?? '');
      const place = places.get(placeId);
      const listing = listings.get(`${productId} ${placeId}`);
      if (!place || listing === undefined)
        throw badRequest(
          `This product has no listing at ${place?.name ?? `place ${placeId}`}: nothing can be pinned there`,
        );
      const attribute = attributes.get(placeId)?.get(key);
      if (!attribute) throw badRequest(`${place.channelName} has no attribute “${key}”`);
      const label = `${attribute.label} on ${place.name}`;
      const text = edit.letGo ? null : (edit.text ?? null);
      const pin: WantedPin = {
        listing,
        key,
        before: held.get(pinKey(listing, key)) ?? null,
        after: text === null || text.trim() === '' ? null : readPin(text, attribute, place.currency),
      };
      refuseStale(pin, label, edit);
      return { label, wanted: pin };
    };
  },
  write: writePins,
  sheet: { columns, cells },
};
