/** Places, their rulebook in force, and how set-up is written. */
import { type FeedFormat, formats } from '@velvet-shelf/core/feeds';
import type { PlaceAnswer } from '@velvet-shelf/contract';
import { type Rulebook } from '@velvet-shelf/core/rulebooks';
import { sql } from 'drizzle-orm';
import { type Executor, queryOne, queryRows } from '../db/client.js';
import { notFound } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { dirtyCount } from '../history/dirty.js';
import { type PlaceRow, listPlaces } from './setup.js';

export async function showPlaces({ db }: Services): Promise<PlaceAnswer[]> {
  const totals = await queryRows<{ place: number; readiness: string; channelState: string; listings: number }>(
    db,
    sql`SELECT place_id AS place, readiness, channel_state AS "channelState", listings FROM place_total WHERE listings > 0`,
  );
  const versions = await queryRows<{ id: number; version: string; formats: FeedFormat[] }>(
    db,
    sql`SELECT id, version, body -> 'exchange' -> 'formats' AS formats FROM rulebook`,
  );
  return Promise.all(
    (await listPlaces(db)).map(async (place) => {
      const rulebook = versions.find((row) => row.id === place.rulebookId);
      return {
        id: place.id,
        channel: place.channel,
        channelName: place.channelName,
        market: place.market,
        name: place.name,
        language: place.language,
        currency: place.currency,
        accountState: place.accountState,
        rulebookVersion: rulebook?.version ?? '',
        formats: (rulebook?.formats ?? []).map((key) => ({ key, label: formats[key].label })),
        totals: totals.filter((row) => row.place === place.id).map(({ place: _, ...rest }) => rest),
        rechecking: await dirtyCount(db, place.id),
      };
    }),
  );
}

export async function rulebookOf(on: Executor, place: PlaceRow): Promise<Rulebook> {
  const rulebook = await queryOne<{ body: Rulebook }>(
    on,
    sql`SELECT body FROM rulebook WHERE id = ${place.rulebookId}`,
  );
  if (!rulebook) throw notFound(`rulebook for ${place.name}`);
  return rulebook.body;
}

export const placesOf = async (on: Executor, channelId: number) =>
  (
    await queryRows<{ id: number }>(
      on,
      sql`SELECT p.id FROM place p JOIN account a ON a.id = p.account_id WHERE a.channel_id = ${channelId}`,
    )
  ).map((place) => place.id);
