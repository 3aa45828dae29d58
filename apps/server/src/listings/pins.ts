/** Values set by hand for one listing: they stand before every fill, for that listing alone. */
import { z } from 'zod';
import { changesOf } from '../history/record.js';
import type { ChannelAttribute } from '@velvet-shelf/core/rulebooks';
import { exponentOf, fromMinor, parseDecimal, parseMoney, plainStyle } from '@velvet-shelf/core/values';
import { sql, eq, and } from 'drizzle-orm';
import { loadDictionary } from '../dictionary/dictionary.js';
import { compileFor } from '../channels/setup.js';
import { getPlace } from '../channels/places.js';
import { type Executor, first, isIn } from '../db/client.js';
import { act } from '../history/act.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import * as tables from '../db/schema/index.js';

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
    const before = await pinned(tx, listingId, key);
    if (before !== madeAgainst)
      throw stale(`${attribute.label} was pinned meanwhile: it is now “${before ?? 'following its fill'}”`, {
        current: before,
        yours: text,
        attribute: key,
      });
    const after = text === null ? null : readPin(text, attribute, place.currency);
    await writePin(tx, listingId, key, after);
    on.say(
      `${after === null ? 'Unpinned' : 'Pinned'} ${attribute.label} of ${listing.sku ?? 'a product'} on ${place.name}`,
    );
    on.change({ kind: 'listing', id: listingId, delta: { [key]: [before, after] } });
    await on.dirty([listing.unit]);
  });
}

async function pinned(tx: Executor, listingId: number, key: string): Promise<string | null> {
  const pin = await first(tx.select({ value: tables.pin.value }).from(tables.pin).where(isPin(listingId, key)));
  return pin?.value ?? null;
}

const isPin = (listingId: number, key: string) =>
  and(eq(tables.pin.listingId, listingId), eq(tables.pin.attribute, key));

async function writePin(tx: Executor, listingId: number, key: string, value: string | null): Promise<void> {
  if (value === null) await tx.delete(tables.pin).where(isPin(listingId, key));
  else
    await tx
      .insert(tables.pin)
      .values({ listingId, attribute: key, value })
      .onConflictDoUpdate({
        target: [tables.pin.listingId, tables.pin.attribute],
        set: { value: sql`excluded.value` },
      });
}

/** What a person typed as the channel's type has it: amounts and numbers as plain decimals. Limits are left to the checks. */
function readPin(text: string, { key, label, type, limits }: ChannelAttribute, currency: string): string {
  const cell = text.trim();
  const no = (detail: string) => badRequest(`${label}: ${detail}`, [{ pointer: '/body/text', detail }]);
  if (cell === '') throw no('type a value, or unpin it');
  if (type === 'category') throw no('the category follows from the category map');
  if (type === 'money' || type === 'number') {
    if (type === 'number') {
      const read = parseDecimal(cell, plainStyle);
      if (!read.ok) throw no(read.reason);
      return read.value;
    }
    const read = parseMoney(cell, { ...plainStyle, currency });
    if (!read.ok) throw no(read.reason);
    const { amount } = read.value;
    const digits = exponentOf(currency);
    if (amount.startsWith('-') || (amount.split('.')[1] ?? '').length > digits)
      throw no(`“${cell}” is not a price in ${currency}; write ${fromMinor(29 * 10 ** digits, currency)}`);
    return amount;
  }
  if (limits.values && !limits.values.includes(cell))
    throw no(`${key} takes one of ${limits.values.slice(0, 12).join(', ')}`);
  return cell;
}

/** By channel attribute: what was pinned before and after. */
const pinDelta = z.record(z.string(), z.tuple([z.string().nullable(), z.string().nullable()]));

/** Puts pins of an action back where nobody has changed them since. */
export async function undoPins({ tx, actionId, dirty }: Undoing): Promise<Undone> {
  const changes = await changesOf(tx, actionId, 'listing', pinDelta);
  const units = await tx
    .selectDistinct({ unit: tables.listing.unitId })
    .from(tables.listing)
    .where(
      isIn(
        tables.listing.id,
        changes.map(({ id }) => id),
      ),
    );
  const left: string[] = [];
  for (const { id, delta } of changes)
    for (const [key, [before, after]] of Object.entries(delta))
      if ((await pinned(tx, id, key)) === after) await writePin(tx, id, key, before);
      else left.push(`${key}: changed since`);
  await dirty(units.map(({ unit }) => unit));
  return { left };
}
