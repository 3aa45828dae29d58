/** Fills: the rule that says how one channel attribute gets its value. */
import { type Fill, comparedBy } from '@velvet-shelf/core/fills';
import { comparables } from '@velvet-shelf/core/listings';
import { sql, eq, and } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../catalog/dictionary.js';
import { type Executor, first } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import type { Effect } from '@velvet-shelf/contract';
import { getPlace, rulebookOf } from './setup.js';
import { placesOf } from './service.js';
import * as tables from '../db/schema/index.js';

export async function saveFill(
  services: Services,
  user: User,
  placeId: number,
  attribute: string,
  fill: Fill | null,
): Promise<Effect> {
  const { db } = services;
  const place = await getPlace(db, placeId);
  const rulebook = await rulebookOf(db, place);
  const known = rulebook.attributes.find((row) => row.key === attribute);
  if (!known) throw notFound(`attribute “${attribute}” on ${place.channelName}`);
  mustCompare(await loadDictionary(db), fill);
  const { effect } = await act(services, user, { kind: 'fill' }, async (on) => {
    const before = await currentFill(on.tx, place.channelId, attribute);
    await writeFill(on, place.channelId, attribute, fill);
    on.say(
      fill === null
        ? `Took the fill of ${known.label} on ${place.channelName} away`
        : `Changed how ${known.label} is filled on ${place.channelName}`,
    );
    on.change({ kind: 'channel', id: place.channelId, delta: { [`fill:${attribute}`]: [before, fill] } });
  });
  return effect;
}

const isFill = (channelId: number, attribute: string) =>
  and(
    eq(tables.fill.channelId, channelId),
    eq(tables.fill.market, ''),
    eq(tables.fill.category, ''),
    eq(tables.fill.attribute, attribute),
  );

/** Writes a fill for all markets of a channel and marks its places. */
export async function writeFill(
  { tx, dirtyPlace }: Pick<Acting, 'tx' | 'dirtyPlace'>,
  channelId: number,
  attribute: string,
  fill: Fill | null,
): Promise<void> {
  if (fill === null) await tx.delete(tables.fill).where(isFill(channelId, attribute));
  else
    await tx
      .insert(tables.fill)
      .values({ channelId, attribute, fill })
      .onConflictDoUpdate({
        target: [tables.fill.channelId, tables.fill.market, tables.fill.category, tables.fill.attribute],
        set: { fill: sql`excluded.fill` },
      });
  for (const placeId of await placesOf(tx, channelId)) await dirtyPlace(placeId);
}

export async function currentFill(on: Executor, channelId: number, attribute: string): Promise<Fill | null> {
  const held = await first(on.select({ fill: tables.fill.fill }).from(tables.fill).where(isFill(channelId, attribute)));
  return held?.fill ?? null;
}

/** Refuses a fill one of whose cases compares what is no attribute: it would never hold. */
export function mustCompare({ attributes }: Dictionary, fill: Fill | null): void {
  const known = comparables(attributes);
  const unknown = fill && comparedBy(fill.rule).find((name) => !known.has(name));
  if (typeof unknown === 'string')
    throw badRequest(`A case compares “${unknown}”, which is no attribute: choose the attribute it is about`);
}
