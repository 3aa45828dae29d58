/** Taking a rulebook version: at once, or by itself on a day; going back to the one before. */
import type { Effect } from '@velvet-shelf/contract';
import { and, asc, eq, lte } from 'drizzle-orm';
import { z } from 'zod';
import { todayText } from '../db/clock.js';
import { type Executor, first } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest, conflict } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { followMarkets, getPlace, placesOf } from './places.js';
import { versionOf } from './rulebooks.js';
import * as tables from '../db/schema/index.js';

export async function takeRulebook(
  services: Services,
  user: User,
  placeId: number,
  rulebookId: number,
  { early = false }: { early?: boolean } = {},
): Promise<Effect> {
  const place = await getPlace(services.db, placeId);
  const { effect } = await act(services, user, { kind: 'take-rulebook' }, async (on) => {
    const rulebook = await versionOf(on.tx, place, rulebookId);
    if (rulebook.validFrom > todayText() && !early)
      throw conflict(
        `Version ${rulebook.version} holds from ${rulebook.validFrom}. Until then the channel checks by the one in use: see what this one would block, and say that you take it early`,
      );
    await on.tx.update(tables.rulebook).set(unplanned).where(eq(tables.rulebook.id, rulebookId));
    await take(on, place, rulebookId);
    on.say(`${place.channelName} is now checked against rulebook ${rulebook.version}`);
  });
  return effect;
}

async function take(
  on: Pick<Acting, 'tx' | 'change' | 'dirtyPlace'>,
  { channelId, rulebookId: before }: { channelId: number; rulebookId: number },
  rulebookId: number,
): Promise<void> {
  await use(on, channelId, rulebookId);
  on.change({ kind: 'channel', id: channelId, delta: { rulebook: [before, rulebookId] } });
}

/** From now on a channel is checked against this version; its places follow what it says of their markets. */
async function use(
  { tx, dirtyPlace }: Pick<Acting, 'tx' | 'dirtyPlace'>,
  channelId: number,
  rulebookId: number | null,
): Promise<void> {
  await tx.update(tables.channel).set({ rulebookId }).where(eq(tables.channel.id, channelId));
  if (rulebookId !== null) await followMarkets(tx, channelId);
  for (const { id } of await placesOf(tx, channelId)) await dirtyPlace(id);
}

const unplanned = { takeOn: null, takeFor: null };

/** Has a version taken by itself on a day that is to come; null: not any more. Of one channel, any number of versions can wait. */
export async function planRulebook(
  services: Services,
  user: User,
  placeId: number,
  rulebookId: number,
  takeOn: string | null,
): Promise<void> {
  const place = await getPlace(services.db, placeId);
  if (takeOn !== null && takeOn <= todayText())
    throw badRequest('That day is not to come any more', [
      { pointer: '/body/takeOn', detail: 'Choose a later day, or take the version now' },
    ]);
  await act(services, user, { kind: 'load-rulebook', tells: ['channels'] }, async (on) => {
    const { version } = await versionOf(on.tx, place, rulebookId);
    if (rulebookId === (await getPlace(on.tx, placeId)).rulebookId && takeOn !== null)
      throw conflict(`Version ${version} is in use already`);
    await on.tx
      .update(tables.rulebook)
      .set(takeOn === null ? unplanned : { takeOn, takeFor: user.id })
      .where(eq(tables.rulebook.id, rulebookId));
    on.say(
      takeOn === null
        ? `${place.channelName}’s rulebook ${version} is not taken by itself any more`
        : `${place.channelName}’s rulebook ${version} is taken by itself on ${takeOn}`,
    );
    on.change({ kind: 'channel', id: place.channelId, delta: { takeOn: [null, takeOn] } });
  });
}

/** Takes the versions whose day has come, the earliest first, for whoever wanted it; of two servers one does. */
export async function takeDueRulebooks(services: Services): Promise<void> {
  const { rulebook, userAccount, channel } = tables;
  const today = todayText();
  const due = await services.db
    .select({ id: rulebook.id, channelId: rulebook.channelId, user: userAccount })
    .from(rulebook)
    .innerJoin(userAccount, eq(userAccount.id, rulebook.takeFor))
    .where(lte(rulebook.takeOn, today))
    .orderBy(asc(rulebook.takeOn), asc(rulebook.id));
  for (const { id, channelId, user } of due)
    await act(services, user, { kind: 'take-rulebook' }, async (on) => {
      const [taken] = await on.tx
        .update(rulebook)
        .set(unplanned)
        .where(and(eq(rulebook.id, id), lte(rulebook.takeOn, today)))
        .returning({ version: rulebook.version });
      const held = await first(on.tx.select().from(channel).where(eq(channel.id, channelId)).for('update'));
      if (!taken || !held || held.rulebookId === null || held.rulebookId === id) return;
      await take(on, { channelId, rulebookId: held.rulebookId }, id);
      on.say(`${held.name} is now checked against rulebook ${taken.version}, as it was planned for this day`);
    });
}

/** Goes back to the rulebook that was in use before, where the one taken still is. */
export async function undoRulebook(undoing: Undoing): Promise<Undone> {
  const { tx, actionId } = undoing;
  const [taken] = await changesOf(
    tx,
    actionId,
    'channel',
    z.object({ rulebook: z.tuple([z.number().nullable(), z.number()]) }),
  );
  if (!taken) return { left: [] };
  const [before, after] = taken.delta.rulebook;
  if (!(await isUsed(tx, taken.id, after))) return { left: ['The rulebook: another one was taken since'] };
  await use(undoing, taken.id, before);
  return { left: [] };
}

const isUsed = async (tx: Executor, channelId: number, rulebookId: number): Promise<boolean> =>
  (await first(tx.select().from(tables.channel).where(eq(tables.channel.id, channelId)).for('update')))?.rulebookId ===
  rulebookId;
