/** Presets of a channel: named bundles of fills, for goods that a condition holds of, and those put in by hand. */
import { namesOf } from '@velvet-shelf/core/rulebooks';
import type { Effect, PresetBody } from '@velvet-shelf/contract';
import { conditionSchema } from '@velvet-shelf/core/conditions';
import type { Preset } from '@velvet-shelf/core/listings';
import { canonical, groupBy } from '@velvet-shelf/core/values';
import { and, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { loadDictionary } from '../dictionary/dictionary.js';
import { type Executor, isIn } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { mustKnow } from './comparing.js';
import { describeHand, mustBeGoods, plainHand } from './hand.js';
import { getPlace, placesOf, rulebookOf } from './places.js';
import { fillsAt } from './slots.js';
import * as tables from '../db/schema/index.js';

export type HeldPreset = PresetBody & { id: number };

/** Those that stand, in the order they are asked. */
export async function presetsOf(on: Executor, channelId: number): Promise<HeldPreset[]> {
  const { preset, presetHand } = tables;
  const rows = await on
    .select({ id: preset.id, name: preset.name, condition: preset.condition })
    .from(preset)
    .where(and(eq(preset.channelId, channelId), eq(preset.stands, true)))
    .orderBy(preset.position, preset.id);
  if (rows.length === 0) return [];
  const hands = await on
    .select({ preset: presetHand.presetId, product: presetHand.productId, isIn: presetHand.isIn })
    .from(presetHand)
    .where(
      inArray(
        presetHand.presetId,
        rows.map(({ id }) => id),
      ),
    )
    .orderBy(presetHand.productId);
  const byPreset = groupBy(hands, (row) => row.preset);
  return rows.map((row) => ({
    ...row,
    hand: (byPreset.get(row.id) ?? []).map(({ product, isIn: goesIn }) => ({ product, isIn: goesIn })),
  }));
}

/** As core has it. One that is not kept yet has no fills, and any number. */
export const asPreset = ({ id, name, condition, hand }: PresetBody, place = 0): Preset => ({
  id: id ?? -1 - place,
  name,
  ...(condition === null ? {} : { condition }),
  hand: new Map(hand.map(({ product, isIn: goesIn }) => [product, goesIn])),
});

/** With the goods that were put in by hand as people read them, and the fills each brings. */
export async function describePresets(on: Executor, placeId: number) {
  const place = await getPlace(on, placeId);
  const rulebook = await rulebookOf(on, place);
  const presets = await presetsOf(on, place.channelId);
  const fills = await fillsAt(on, place);
  const labels = new Map(rulebook.attributes.map(({ key, label }) => [key, label]));
  const names = namesOf(rulebook);
  const hands = await Promise.all(presets.map(({ hand }) => describeHand(on, hand)));
  return presets.map((preset, i) => ({
    ...preset,
    hand: hands[i] ?? [],
    fills: fills.flatMap(({ attribute, market, category, preset: of, fill }) =>
      of === preset.id
        ? [
            {
              ...{ attribute, market, category, fill },
              label: labels.get(attribute) ?? attribute,
              names: category === '' ? [] : names(category),
            },
          ]
        : [],
    ),
  }));
}

/** Refuses conditions over attributes there are none of. */
export const expectPresets = async (
  on: Executor,
  presets: readonly PresetBody[],
  field: 'to' | 'presets',
): Promise<void> =>
  mustKnow(
    (await loadDictionary(on)).attributes,
    presets.flatMap(({ condition }, i) => (condition ? [{ condition, pointer: `/body/${field}/${i}/condition` }] : [])),
  );

const plain = (presets: readonly PresetBody[]) =>
  presets.map(({ id, name, condition, hand }) => ({ id, name, condition, hand: plainHand(hand) }));
const isSame = (a: readonly PresetBody[], b: readonly PresetBody[]) => canonical(plain(a)) === canonical(plain(b));

export async function savePresets(
  services: Services,
  user: User,
  placeId: number,
  { to, was }: { to: readonly PresetBody[]; was: readonly PresetBody[] },
): Promise<Effect> {
  const { channelId, channelName } = await getPlace(services.db, placeId);
  await expectPresets(services.db, to, 'to');
  const { effect } = await act(services, user, { kind: 'presets', tells: ['channels'] }, (on) =>
    changePresets(on, channelId, (now) => {
      if (!isSame(now, was))
        throw stale('Somebody changed the presets meanwhile: look at them as they are now', { current: now });
      const known = new Set(now.map(({ id }) => id));
      const lost = to.find(({ id }) => id !== null && !known.has(id));
      if (lost) throw notFound(`preset “${lost.name}”`);
      return { to, words: sayChange(now, to, channelName) };
    }),
  );
  return effect;
}

/** Makes of the presets of a channel what `change` does, in its words; where that is nothing, nothing happens. One after another. */
export async function changePresets(
  on: Acting,
  channelId: number,
  change: (held: readonly HeldPreset[]) => { to: readonly PresetBody[]; words: string } | undefined,
): Promise<void> {
  await on.tx.select().from(tables.channel).where(eq(tables.channel.id, channelId)).for('update');
  const now = await presetsOf(on.tx, channelId);
  const changed = change(now);
  if (!changed || isSame(now, changed.to)) return;
  const kept = await writePresets(on, channelId, changed.to);
  on.say(changed.words);
  on.change({ kind: 'channel', id: channelId, delta: { presets: [plain(now), plain(kept)] } });
}

function sayChange(before: readonly HeldPreset[], after: readonly PresetBody[], channelName: string): string {
  const named = (all: readonly PresetBody[], but: readonly PresetBody[]) =>
    all.filter(({ id }) => !but.some((other) => other.id === id)).map(({ name }) => `“${name}”`);
  const [made, gone] = [named(after, before), named(before, after)];
  const parts = [
    ...(made.length > 0 ? [`made ${made.join(', ')}`] : []),
    ...(gone.length > 0 ? [`took ${gone.join(', ')} away`] : []),
  ];
  return `Changed the presets of ${channelName}${parts.length > 0 ? `: ${parts.join(', ')}` : ''}`;
}

/** Leaves just these standing, in this order; answers them with their numbers. Marks what they are or were applied to. */
async function writePresets(
  { tx, dirtyPlace }: Pick<Acting, 'tx' | 'dirtyPlace'>,
  channelId: number,
  to: readonly PresetBody[],
): Promise<HeldPreset[]> {
  const { preset, presetHand } = tables;
  const before = await presetsOf(tx, channelId);
  const handBefore = new Map(before.map(({ id, hand }) => [id, canonical(plainHand(hand))]));
  await tx.update(preset).set({ stands: false }).where(eq(preset.channelId, channelId));
  const kept: HeldPreset[] = [];
  for (const [position, { id, name, condition, hand }] of to.entries()) {
    const row = { channelId, name, condition, position, stands: true };
    const [written] =
      id === null
        ? await tx.insert(preset).values(row).returning({ id: preset.id })
        : await tx
            .update(preset)
            .set(row)
            .where(and(eq(preset.id, id), eq(preset.channelId, channelId)))
            .returning({ id: preset.id });
    if (!written) throw notFound(`preset “${name}”`);
    kept.push({ id: written.id, name, condition, hand });
    if (handBefore.get(written.id) === canonical(plainHand(hand))) continue;
    await tx.delete(presetHand).where(eq(presetHand.presetId, written.id));
    if (hand.length === 0) continue;
    await mustBeGoods(tx, hand);
    await tx
      .insert(presetHand)
      .values(hand.map(({ product, isIn: goesIn }) => ({ presetId: written.id, productId: product, isIn: goesIn })))
      .onConflictDoNothing();
  }
  const units = await unitsChanged(tx, before, kept);
  for (const place of await placesOf(tx, channelId))
    await dirtyPlace(place.id, { offered: true, ...(units ? { units } : {}) });
  return kept;
}

/** Where nothing but goods put in by hand changed: the families and singles of these. */
async function unitsChanged(
  on: Executor,
  before: readonly HeldPreset[],
  after: readonly HeldPreset[],
): Promise<number[] | undefined> {
  const rest = (all: readonly HeldPreset[]) => canonical(all.map(({ id, condition }) => [id, condition]));
  if (rest(before) !== rest(after)) return undefined;
  const written = (all: readonly HeldPreset[]) =>
    new Map(all.flatMap(({ id, hand }) => hand.map((each) => [`${id} ${each.product} ${each.isIn}`, each.product])));
  const [was, is] = [written(before), written(after)];
  const products = [...was, ...is].flatMap(([key, product]) => (was.has(key) && is.has(key) ? [] : [product]));
  const rows = await on
    .selectDistinct({ unit: tables.product.unitId })
    .from(tables.product)
    .where(isIn(tables.product.id, products));
  return rows.map(({ unit }) => unit);
}

const keptSchema = z.array(
  z.object({
    id: z.number(),
    name: z.string(),
    condition: conditionSchema.nullable(),
    hand: z.array(z.object({ product: z.number(), isIn: z.boolean() })),
  }),
);

/** Puts back the presets as they were, with the fills of those that come back, where nobody has changed them since. */
export async function undoPresets(undoing: Undoing): Promise<Undone> {
  const left: string[] = [];
  const delta = z.object({ presets: z.tuple([keptSchema, keptSchema]) });
  for (const { id, delta: changed } of await changesOf(undoing.tx, undoing.actionId, 'channel', delta)) {
    const [before, after] = changed.presets;
    if (isSame(await presetsOf(undoing.tx, id), after)) await writePresets(undoing, id, before);
    else left.push('Presets: changed since');
  }
  return { left };
}
