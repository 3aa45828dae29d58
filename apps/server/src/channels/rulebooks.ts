/** A channel’s rulebooks: read, taken in, compared with the one in use. */
import { loadRulebook } from '@velvet-shelf/core/checks';
import {
  type Rulebook,
  compareRulebooks,
  fromJsonSchema,
  rulebookSchema,
  toJsonSchema,
  unsaidBySchema,
  withCategory,
} from '@velvet-shelf/core/rulebooks';
import { eq, and } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import { act } from '../history/act.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { type PlaceRow, getPlace } from './places.js';
import * as tables from '../db/schema/index.js';
import { z } from 'zod';

export async function showRulebooks({ db }: Services, placeId: number) {
  const place = await getPlace(db, placeId);
  const rulebooks = await db
    .select()
    .from(tables.rulebook)
    .where(eq(tables.rulebook.channelId, place.channelId))
    .orderBy(tables.rulebook.validFrom, tables.rulebook.version);
  const used = rulebooks.find((rulebook) => rulebook.id === place.rulebookId);
  return rulebooks.map(({ id, version, takeOn, body }) => ({
    ...{ id, version, takeOn },
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

/** How a rulebook is written, as JSON Schema. */
export const rulebookFormat = () =>
  z.toJSONSchema(rulebookSchema, { io: 'input', unrepresentable: 'any', cycles: 'ref' });

/** One version of the channel of a place. */
export async function versionOf(on: Executor, place: PlaceRow, rulebookId: number): Promise<Rulebook> {
  const { rulebook } = tables;
  const found = await first(
    on
      .select({ body: rulebook.body })
      .from(rulebook)
      .where(and(eq(rulebook.id, rulebookId), eq(rulebook.channelId, place.channelId))),
  );
  if (!found) throw notFound(`rulebook ${rulebookId} of ${place.channelName}`);
  return found.body;
}

export function mustHave(rulebook: Rulebook, category: string | undefined): void {
  if (category !== undefined && !rulebook.categories.some(({ path }) => path === category))
    throw badRequest(`Version ${rulebook.version} has no category “${category}”`);
}

/** What a category asks for at a place, as JSON Schema, and what that cannot say. */
export async function categorySchema(services: Services, placeId: number, rulebookId: number, category?: string) {
  const place = await getPlace(services.db, placeId);
  const rulebook = await versionOf(services.db, place, rulebookId);
  mustHave(rulebook, category);
  return {
    schema: toJsonSchema(rulebook, category, place.market),
    left: unsaidBySchema(rulebook, category, place.market),
  };
}

/** Loads a version that is another in one category: it asks there for what a JSON Schema says. */
export async function readCategorySchema(
  services: Services,
  user: User,
  { placeId, rulebookId }: { placeId: number; rulebookId: number },
  { category, version, schema }: { category: string; version: string; schema: unknown },
): Promise<{ version: string; attributes: number; left: string[] }> {
  const rulebook = await versionOf(services.db, await getPlace(services.db, placeId), rulebookId);
  mustHave(rulebook, category);
  const read = fromJsonSchema(schema);
  if (!read.ok)
    throw badRequest(
      `This is no JSON Schema of goods: ${read.faults.slice(0, 5).join('; ')}`,
      read.faults.map((detail) => ({ pointer: '/body/schema', detail })),
    );
  const next = withCategory(rulebook, { category, version, attributes: read.attributes });
  await addRulebook(services, user, placeId, next);
  return { version, attributes: read.attributes.length, left: read.left };
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
