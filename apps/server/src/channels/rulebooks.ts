/** A channel’s rulebooks: read, taken in, tried on our goods, taken. */
import { type Rulebook, compareRulebooks, loadRulebook } from '@velvet-shelf/core/rulebooks';
import { sql } from 'drizzle-orm';
import { json, queryOne, queryRows } from '../db/client.js';
import { act } from '../history/act.js';
import type { Undoing, Undone } from '../history/undo.js';
import { todayText } from '../db/clock.js';
import type { Effect } from '@velvet-shelf/contract';
import { badRequest, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { getPlace } from './setup.js';
import { placesOf } from './service.js';

export async function showRulebooks({ db }: Services, placeId: number) {
  const place = await getPlace(db, placeId);
  const rulebooks = await queryRows<{ id: number; version: string; body: Rulebook }>(
    db,
    sql`SELECT id, version, body FROM rulebook WHERE channel_id = ${place.channelId} ORDER BY valid_from, version`,
  );
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

export async function addRulebook(
  services: Services,
  user: User,
  placeId: number,
  given: unknown,
): Promise<{ version: string }> {
  const place = await getPlace(services.db, placeId);
  const read = loadRulebook(given);
  if (!read.ok)
    throw badRequest(
      `This is no rulebook we can use: ${read.faults.slice(0, 5).join('; ')}`,
      read.faults.map((detail) => ({ pointer: '/body/rulebook', detail })),
    );
  const { rulebook } = read;
  if (rulebook.channel !== place.channel)
    throw badRequest(`This rulebook is for “${rulebook.channel}”, the place is on “${place.channel}”`);
  await act(services, user, { kind: 'load-rulebook' }, async (on) => {
    const made = await queryRows(
      on.tx,
      sql`INSERT INTO rulebook (channel_id, version, valid_from, body) VALUES (${place.channelId}, ${rulebook.version}, ${rulebook.validFrom}, ${json(rulebook)}) ON CONFLICT DO NOTHING RETURNING id`,
    );
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
    const rulebook = await queryOne<{ version: string; validFrom: string }>(
      tx,
      sql`SELECT version, body ->> 'validFrom' AS "validFrom" FROM rulebook WHERE id = ${rulebookId} AND channel_id = ${place.channelId}`,
    );
    if (!rulebook) throw notFound(`rulebook ${rulebookId} of ${place.channelName}`);
    if (rulebook.validFrom > todayText() && !early)
      throw conflict(
        `Version ${rulebook.version} holds from ${rulebook.validFrom}. Until then the channel checks by the one in use: see what this one would block, and say that you take it early`,
      );
    await tx.execute(sql`UPDATE channel SET rulebook_id = ${rulebookId} WHERE id = ${place.channelId}`);
    on.say(`${place.channelName} is now checked against rulebook ${rulebook.version}`);
    on.change({ kind: 'channel', id: place.channelId, delta: { rulebook: [place.rulebookId, rulebookId] } });
    for (const id of await placesOf(tx, place.channelId)) await on.dirtyPlace(id);
  });
  return effect;
}

/** Goes back to the rulebook that was in use before, where the one taken still is. */
export async function undoRulebook({ tx, actionId, dirtyPlace }: Undoing): Promise<Undone> {
  const taken = await queryOne<{ channel: number; rulebook: [number | null, number] }>(
    tx,
    sql`SELECT subject_id AS channel, delta -> 'rulebook' AS rulebook FROM change WHERE action_id = ${actionId} AND subject_kind = 'channel'`,
  );
  if (!taken) return { left: [] };
  const [before, after] = taken.rulebook;
  const back = await queryRows(
    tx,
    sql`UPDATE channel SET rulebook_id = ${before} WHERE id = ${taken.channel} AND rulebook_id = ${after} RETURNING id`,
  );
  if (back.length === 0) return { left: ['The rulebook: another one was taken since'] };
  for (const id of await placesOf(tx, taken.channel)) await dirtyPlace(id);
  return { left: [] };
}
