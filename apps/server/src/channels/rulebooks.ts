/** A channel’s rulebooks: read, taken in, tried on our goods, taken. */
import { loadRulebook } from '@velvet-shelf/core/checks';
import { type Rulebook, compareRulebooks } from '@velvet-shelf/core/rulebooks';
import { eq, and } from 'drizzle-orm';
import { first } from '../db/client.js';
import { act } from '../history/act.js';
import type { Undoing, Undone } from '../history/undo.js';
import { todayText } from '../db/clock.js';
import type { Effect } from '@velvet-shelf/contract';
import { badRequest, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { getPlace, placesOf } from './places.js';
import * as tables from '../db/schema/index.js';
import { z } from 'zod';
import { changesOf } from '../history/record.js';

export async function showRulebooks({ db }: Services, placeId: number) {
  const place = await getPlace(db, placeId);
  const rulebooks = await db
    .select({ id: tables.rulebook.id, version: tables.rulebook.version, body: tables.rulebook.body })
    .from(tables.rulebook)
    .where(eq(tables.rulebook.channelId, place.channelId))
    .orderBy(tables.rulebook.validFrom, tables.rulebook.version);
  const used = rulebooks.find((rulebook) => rulebook.id === place.rulebookId);
  return rulebooks.map(({ id, version, body }) => ({
    id,
    version,
    validFrom: body.validFrom,
    inUse: id === place.rulebookId,
    summary: body.summary ?? null,
    categories: body.categories.length,
    attributes: body.attributes.length,
    changes: used && id !== used.id ? compareRulebooks(used.body, body) : [],
  }));
}

/** A rulebook somebody gives; says what is wrong with it where it cannot be used. */
export function readRulebook(given: unknown, pointer: string): Rulebook {
  const read = loadRulebook(given);
  if (read.ok) return read.rulebook;
  throw badRequest(
    `This is no rulebook we can use: ${read.faults.slice(0, 5).join('; ')}`,
    read.faults.map((detail) => ({ pointer, detail })),
  );
}

export async function addRulebook(
  services: Services,
  user: User,
  placeId: number,
  given: unknown,
): Promise<{ version: string }> {
  const place = await getPlace(services.db, placeId);
  const rulebook = readRulebook(given, '/body/rulebook');
  if (rulebook.channel !== place.channel)
    throw badRequest(`This rulebook is for “${rulebook.channel}”, the place is on “${place.channel}”`);
  await act(services, user, { kind: 'load-rulebook' }, async (on) => {
    const made = await on.tx
      .insert(tables.rulebook)
      .values({ channelId: place.channelId, version: rulebook.version, validFrom: rulebook.validFrom, body: rulebook })
      .onConflictDoNothing()
      .returning({ id: tables.rulebook.id });
    if (made.length === 0) throw badRequest(`Version ${rulebook.version} is loaded already`);
    on.say(`Loaded ${place.channelName}’s rulebook ${rulebook.version}`);
    on.change({ kind: 'channel', id: place.channelId, delta: { rulebook: [null, rulebook.version] } });
  });
  return { version: rulebook.version };
}

export async function takeRulebook(
  services: Services,
  user: User,
  placeId: number,
  rulebookId: number,
  { early = false }: { early?: boolean } = {},
): Promise<Effect> {
  const place = await getPlace(services.db, placeId);
  const { effect } = await act(services, user, { kind: 'take-rulebook' }, async (on) => {
    const { tx } = on;
    const rulebook = await first(
      tx
        .select({ version: tables.rulebook.version, validFrom: tables.rulebook.validFrom })
        .from(tables.rulebook)
        .where(and(eq(tables.rulebook.id, rulebookId), eq(tables.rulebook.channelId, place.channelId))),
    );
    if (!rulebook) throw notFound(`rulebook ${rulebookId} of ${place.channelName}`);
    if (rulebook.validFrom > todayText() && !early)
      throw conflict(
        `Version ${rulebook.version} holds from ${rulebook.validFrom}. Until then the channel checks by the one in use: see what this one would block, and say that you take it early`,
      );
    await tx.update(tables.channel).set({ rulebookId }).where(eq(tables.channel.id, place.channelId));
    on.say(`${place.channelName} is now checked against rulebook ${rulebook.version}`);
    on.change({ kind: 'channel', id: place.channelId, delta: { rulebook: [place.rulebookId, rulebookId] } });
    for (const { id } of await placesOf(tx, place.channelId)) await on.dirtyPlace(id);
  });
  return effect;
}

/** Goes back to the rulebook that was in use before, where the one taken still is. */
export async function undoRulebook({ tx, actionId, dirtyPlace }: Undoing): Promise<Undone> {
  const [taken] = await changesOf(
    tx,
    actionId,
    'channel',
    z.object({ rulebook: z.tuple([z.number().nullable(), z.number()]) }),
  );
  if (!taken) return { left: [] };
  const [before, after] = taken.delta.rulebook;
  const back = await tx
    .update(tables.channel)
    .set({ rulebookId: before })
    .where(and(eq(tables.channel.id, taken.id), eq(tables.channel.rulebookId, after)))
    .returning({ id: tables.channel.id });
  if (back.length === 0) return { left: ['The rulebook: another one was taken since'] };
  for (const { id } of await placesOf(tx, taken.id)) await dirtyPlace(id);
  return { left: [] };
}
