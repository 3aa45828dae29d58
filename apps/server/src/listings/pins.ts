/** Values set by hand for one listing: they stand before every fill, for that listing alone. */
import { z } from 'zod';
import { type ChannelAttribute, readChannelText } from '@velvet-shelf/core/rulebooks';
import { groupBy } from '@velvet-shelf/core/values';
import type { Effect } from '@velvet-shelf/contract';
import { and, sql, eq } from 'drizzle-orm';
import { loadDictionary } from '../dictionary/dictionary.js';
import { compileFor } from '../channels/setup.js';
import { type PlaceRow, getPlace } from '../channels/places.js';
import { type Executor, first, isIn, json, queryRows } from '../db/client.js';
import { act } from '../history/act.js';
import { type Change, changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import * as tables from '../db/schema/index.js';

/** What a listing's attribute is to be pinned to; null lets it follow its fill again. */
export interface WantedPin {
  listing: number;
  key: string;
  before: string | null;
  after: string | null;
}

/** Pins a value, or lets the listing follow its fill again (`text: null`). */
export async function setPin(
  services: Services,
  user: User,
  listingId: number,
  key: string,
  { text, madeAgainst }: { text: string | null; madeAgainst: string | null },
): Promise<void> {
  await act(services, user, { kind: 'pin' }, async (on) => {
    const { tx } = on;
    const listing = await first(
      tx
        .select({ place: tables.listing.placeId, unit: tables.listing.unitId, sku: tables.product.sku })
        .from(tables.listing)
        .innerJoin(tables.product, eq(tables.product.id, tables.listing.variantId))
        .where(eq(tables.listing.id, listingId))
        .for('update', { of: tables.listing }),
    );
    if (!listing) throw notFound(`listing ${listingId}`);
    const place = await getPlace(tx, listing.place);
    const { setup } = await compileFor(tx, place, await loadDictionary(tx), services.config.address);
    const attribute = setup.rulebook.attributes.find((attribute) => attribute.key === key);
    if (!attribute) throw badRequest(`${place.channelName} has no attribute “${key}”`);
    const wanted: WantedPin = {
      listing: listingId,
      key,
      before: (await pinsOf(tx, [{ listing: listingId, key }])).get(pinKey(listingId, key)) ?? null,
      after: text === null ? null : readPin(text, attribute, place.currency),
    };
    refuseStale(wanted, attribute.label, { text, madeAgainst });
    on.change(...(await writePins(tx, [wanted])));
    on.say(
      `${text === null ? 'Unpinned' : 'Pinned'} ${attribute.label} of ${listing.sku ?? 'a product'} on ${place.name}`,
    );
    await on.dirty([listing.unit]);
  });
}

/** Refuses a pin that was made against another one than is held. */
export function refuseStale(
  { before }: WantedPin,
  label: string,
  { text, madeAgainst }: { text?: string | null | undefined; madeAgainst: string | null },
): void {
  if (before !== madeAgainst)
    throw stale(`${label} was pinned meanwhile: it is now “${before ?? 'following its fill'}”`, {
      current: before,
      yours: text ?? null,
      attribute: label,
    });
}

export function readPin(text: string, attribute: ChannelAttribute, currency: string): string {
  const { label, type, limits } = attribute;
  const read = readChannelText(text, { label, type, values: limits.values }, currency);
  if (read.ok) return read.text;
  const detail = `${label}: ${read.reason}`;
  throw badRequest(detail, [{ pointer: '/body/text', detail }]);
}

export const pinKey = (listing: number, key: string): string => `${listing} ${key}`;

/** What is pinned now, by listing and attribute. */
export async function pinsOf(
  tx: Executor,
  pins: readonly { listing: number; key: string }[],
): Promise<Map<string, string>> {
  const held = await queryRows<{ listing: number; key: string; value: string }>(
    tx,
    sql`SELECT p.listing_id AS listing, p.attribute AS key, p.value FROM pin p
        JOIN jsonb_to_recordset(${json(pins)}) AS t(listing bigint, key text) ON t.listing = p.listing_id AND t.key = p.attribute`,
  );
  return new Map(held.map(({ listing, key, value }) => [pinKey(Number(listing), key), value]));
}

/** Writes pins as a set; answers what it changes. */
export async function writePins(tx: Executor, wanted: readonly WantedPin[]): Promise<Change[]> {
  const changed = wanted.filter(({ before, after }) => before !== after);
  const table = (list: readonly WantedPin[]) =>
    sql`jsonb_to_recordset(${json(list)}) AS t(listing bigint, key text, after text)`;
  const unpinned = changed.filter(({ after }) => after === null);
  if (unpinned.length > 0)
    await tx.execute(
      sql`DELETE FROM pin p USING ${table(unpinned)} WHERE p.listing_id = t.listing AND p.attribute = t.key`,
    );
  const pinned = changed.filter(({ after }) => after !== null);
  if (pinned.length > 0)
    await tx.execute(sql`
      INSERT INTO pin (listing_id, attribute, value) SELECT t.listing, t.key, t.after FROM ${table(pinned)}
      ON CONFLICT (listing_id, attribute) DO UPDATE SET value = excluded.value`);
  const byListing = groupBy(changed, ({ listing }) => listing);
  return [...byListing].map(([id, pins]) => ({
    kind: 'listing',
    id,
    delta: Object.fromEntries(pins.map(({ key, before, after }) => [key, [before, after]])),
  }));
}

/** Lets the listings of these variants at a place follow the fill of an attribute again. */
export async function unpin(
  services: Services,
  user: User,
  place: PlaceRow,
  { attribute, label, variants }: { attribute: string; label: string; variants: readonly number[] },
): Promise<Effect> {
  const { effect } = await act(services, user, { kind: 'pin' }, async (on) => {
    const rows = await on.tx
      .select({ id: tables.listing.id, unit: tables.listing.unitId })
      .from(tables.listing)
      .where(and(isIn(tables.listing.variantId, variants), eq(tables.listing.placeId, place.id)))
      .orderBy(tables.listing.id)
      .for('update');
    const slots = rows.map(({ id }) => ({ listing: id, key: attribute }));
    const held = await pinsOf(on.tx, slots);
    const wanted = slots.flatMap(({ listing, key }) => {
      const before = held.get(pinKey(listing, key));
      return before === undefined ? [] : [{ listing, key, before, after: null }];
    });
    if (wanted.length === 0) return;
    on.change(...(await writePins(on.tx, wanted)));
    on.say(`Unpinned ${label} of ${wanted.length} ${wanted.length === 1 ? 'listing' : 'listings'} on ${place.name}`);
    await on.dirty([...new Set(rows.map(({ unit }) => unit))]);
  });
  return effect;
}

/** By channel attribute: what was pinned before and after. */
const pinDelta = z.record(z.string(), z.tuple([z.string().nullable(), z.string().nullable()]));

/** Puts pins of an action back where nobody has changed them since. */
export async function undoPins({ tx, actionId, dirty }: Undoing): Promise<Undone> {
  const changes = await changesOf(tx, actionId, 'listing', pinDelta);
  if (changes.length === 0) return { left: [] };
  const units = await tx
    .selectDistinct({ unit: tables.listing.unitId })
    .from(tables.listing)
    .where(
      isIn(
        tables.listing.id,
        changes.map(({ id }) => id),
      ),
    );
  const made = changes.flatMap(({ id, delta }) =>
    Object.entries(delta).map(([key, [before, after]]) => ({ listing: id, key, before, after })),
  );
  const now = await pinsOf(tx, made);
  const isStill = (pin: WantedPin) => (now.get(pinKey(pin.listing, pin.key)) ?? null) === pin.after;
  await writePins(
    tx,
    made.filter(isStill).map(({ before, after, ...pin }) => ({ ...pin, before: after, after: before })),
  );
  await dirty(units.map(({ unit }) => unit));
  return { left: made.filter((pin) => !isStill(pin)).map(({ key }) => `${key}: changed since`) };
}
