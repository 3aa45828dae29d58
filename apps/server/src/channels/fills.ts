/** Fills: the rule that says how one channel attribute gets its value. */
import { type Fill, changedWords, comparedBy, keysMeant } from '@velvet-shelf/core/fills';
import { comparables } from '@velvet-shelf/core/listings';
import { type Rulebook, isUnder } from '@velvet-shelf/core/rulebooks';
import { canonical, closedList, listOf } from '@velvet-shelf/core/values';
import { sql, eq, and, isNull } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { type Executor, first } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import type { Touches } from '../history/dirty.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import type { Effect } from '@velvet-shelf/contract';
import { mapsOf } from './maps.js';
import { type PlaceRow, getPlace, placesOf, rulebookOf } from './places.js';
import { presetsOf } from './presets.js';
import { type FillChange, type FillSlot, changeSchema } from './slots.js';
import { z } from 'zod';
import * as tables from '../db/schema/index.js';

export async function saveFill(
  services: Services,
  user: User,
  placeId: number,
  { fill, ...slot }: FillChange,
): Promise<Effect> {
  const { db } = services;
  const place = await getPlace(db, placeId);
  const rulebook = await rulebookOf(db, place);
  const known = rulebook.attributes.find((row) => row.key === slot.attribute);
  if (!known) throw notFound(`attribute “${slot.attribute}” on ${place.channelName}`);
  mustCompare(await loadDictionary(db), fill);
  const named = await mustBeThere(db, { place, rulebook }, slot);
  const { effect } = await act(services, user, { kind: 'fill' }, async (on) => {
    const before = await currentFill(on.tx, place.channelId, slot);
    await writeFill(on, place.channelId, slot, fill);
    const where = `${sayWhere(rulebook, slot)}${named === undefined ? '' : ` by the preset “${named}”`}`;
    on.say(
      fill === null
        ? `Took the fill of ${known.label} on ${place.channelName}${where} away`
        : `Changed how ${known.label} is filled on ${place.channelName}${where}`,
    );
    on.change({
      kind: 'channel',
      id: place.channelId,
      delta: fillsDelta([{ ...slot, fill: before }], [{ ...slot, fill }]),
    });
  });
  return effect;
}

/** Refuses a fill for a category, a market or a preset that is none of the place’s; answers the preset’s name, if any. */
export async function mustBeThere(
  on: Executor,
  { place, rulebook }: { place: PlaceRow; rulebook: Rulebook },
  { market, category, preset }: Omit<FillSlot, 'attribute'>,
): Promise<string | undefined> {
  if (category !== '' && !rulebook.categories.some(({ path }) => path === category))
    throw badRequest(`${place.channelName} has no category “${category}”`);
  if (market !== '' && market !== place.market) throw badRequest(`${place.name} is not in the market “${market}”`);
  if (preset === null) return undefined;
  const held = (await presetsOf(on, place.channelId)).find(({ id }) => id === preset);
  if (!held) throw notFound(`preset ${preset} of ${place.channelName}`);
  return held.name;
}

/** “ for Pots and tubs in GB alone”; nothing where it is for all goods. */
function sayWhere({ categories }: Rulebook, { market, category }: FillSlot): string {
  const name = categories.find(({ path }) => path === category)?.name;
  return `${name === undefined ? '' : ` for ${name}`}${market === '' ? '' : ` in ${market} alone`}`;
}

/** Saves several fills as one action, each where there is none: what somebody has said stays, unless it is to be written over. */
export async function saveFills(
  services: Services,
  user: User,
  placeId: number,
  { fills, over }: { fills: readonly (FillSlot & { fill: Fill })[]; over: boolean },
): Promise<Effect> {
  const place = await getPlace(services.db, placeId);
  const rulebook = await rulebookOf(services.db, place);
  const dictionary = await loadDictionary(services.db);
  const { effect } = await act(services, user, { kind: 'fill' }, async (on) => {
    const before: FillChange[] = [];
    const after: FillChange[] = [];
    for (const { fill, ...slot } of fills) {
      if (!rulebook.attributes.some(({ key }) => key === slot.attribute))
        throw notFound(`attribute “${slot.attribute}” on ${place.channelName}`);
      mustCompare(dictionary, fill);
      await mustBeThere(on.tx, { place, rulebook }, slot);
      const now = await currentFill(on.tx, place.channelId, slot);
      if (now !== null && (!over || canonical(now) === canonical(fill))) continue;
      await writeFill(on, place.channelId, slot, fill);
      before.push({ ...slot, fill: now });
      after.push({ ...slot, fill });
    }
    if (after.length === 0) return;
    on.say(`Filled ${after.length} ${after.length === 1 ? 'field' : 'fields'} of ${place.channelName}`);
    on.change({ kind: 'channel', id: place.channelId, delta: fillsDelta(before, after) });
  });
  return effect;
}

/** What an action did to fills: each as it was, and as it is. Older actions changed one. */
const fillsDelta = (before: FillChange[], after: FillChange[]) => ({
  fills: [before, after] as [FillChange[], FillChange[]],
});
export const fillDeltaSchema = z.union([
  z.object({ fills: z.tuple([z.array(changeSchema), z.array(changeSchema)]) }),
  z
    .object({ fill: z.tuple([changeSchema, changeSchema]) })
    .transform(({ fill: [before, after] }) => ({ fills: [[before], [after]] as [FillChange[], FillChange[]] })),
]);

const isFill = (channelId: number, { attribute, market, category, preset }: FillSlot) =>
  and(
    eq(tables.fill.channelId, channelId),
    preset === null ? isNull(tables.fill.presetId) : eq(tables.fill.presetId, preset),
    eq(tables.fill.market, market),
    eq(tables.fill.category, category),
    eq(tables.fill.attribute, attribute),
  );

/** Writes a fill, and marks what reads it at the places of the channel. */
export async function writeFill(
  { tx, dirtyPlace }: Pick<Acting, 'tx' | 'dirtyPlace'>,
  channelId: number,
  { preset, ...slot }: FillSlot,
  fill: Fill | null,
): Promise<void> {
  const at = { preset, ...slot };
  const before = await currentFill(tx, channelId, at);
  if (fill === null) await tx.delete(tables.fill).where(isFill(channelId, at));
  else
    await tx
      .insert(tables.fill)
      .values({ channelId, presetId: preset, ...slot, fill })
      .onConflictDoUpdate({
        target: [
          ...[tables.fill.channelId, tables.fill.presetId, tables.fill.market],
          ...[tables.fill.category, tables.fill.attribute],
        ],
        set: { fill: sql`excluded.fill` },
      });
  const holding = await holdingChanged(tx, before, fill);
  for (const place of await placesOf(tx, channelId))
    if (slot.market === '' || slot.market === place.market)
      await dirtyPlace(place.id, { offered: true, holding, ...(await readingCategories(tx, place, at)) });
}

/** Where just words of a translation changed: the values of ours that they stand for. */
async function holdingChanged(tx: Executor, before: Fill | null, after: Fill | null): Promise<Touches['holding']> {
  const changed = changedWords(before, after);
  const attribute = changed && (await loadDictionary(tx)).attributes.get(changed.from);
  // A product's category stands in a column of its own, and lists of values are texts to a translation.
  if (!changed || !attribute || attribute.many || attribute.role === 'category') return undefined;
  const list = closedList(attribute);
  return list && { attribute: attribute.key, keys: keysMeant(changed.words, list) };
}

/** Own categories whose goods read the fill, where it is asked for in some of the channel's only. */
async function readingCategories(
  tx: Executor,
  place: PlaceRow,
  { attribute, category }: FillSlot,
): Promise<Pick<Touches, 'categories'>> {
  const { attributes } = await rulebookOf(tx, place);
  const asked = attributes.find(({ key }) => key === attribute)?.categories;
  const roots = [...(category === '' ? [] : [[category]]), ...(asked ? [asked] : [])];
  if (roots.length === 0) return {};
  const maps = await mapsOf(tx, place, listOf((await loadDictionary(tx)).attributes, 'category'));
  return {
    categories: [...maps].flatMap(([own, { target, splits = [] }]) =>
      [target, ...splits.map((split) => split.target)].some((to) => roots.every((root) => isUnder(to, root)))
        ? [own]
        : [],
    ),
  };
}

export async function currentFill(on: Executor, channelId: number, slot: FillSlot): Promise<Fill | null> {
  const held = await first(on.select({ fill: tables.fill.fill }).from(tables.fill).where(isFill(channelId, slot)));
  return held?.fill ?? null;
}

/** Refuses a fill one of whose cases compares what is no attribute: it would never hold. */
export function mustCompare({ attributes }: Dictionary, fill: Fill | null): void {
  const known = comparables(attributes);
  const unknown = fill && comparedBy(fill.rule).find((name) => !known.has(name));
  if (typeof unknown === 'string')
    throw badRequest(`A case compares “${unknown}”, which is no attribute: choose the attribute it is about`);
}
