/** Places, their rulebook in force, and how set-up is written. */
import { mostInFamily } from '@velvet-shelf/core/checks';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { type FeedFormat, formats } from '@velvet-shelf/core/feeds';
import type { PlaceAnswer } from '@velvet-shelf/contract';
import { sql, eq, gt } from 'drizzle-orm';
import type { Services } from '../http/route.js';
import { dirtyCount } from '../history/dirty.js';
import { listPlaces } from './places.js';
import * as tables from '../db/schema/index.js';

export async function showPlaces({ db }: Services): Promise<PlaceAnswer[]> {
  const totals = await db
    .select({
      place: tables.placeTotal.placeId,
      readiness: tables.placeTotal.readiness,
      channelState: tables.placeTotal.channelState,
      listings: tables.placeTotal.listings,
    })
    .from(tables.placeTotal)
    .where(gt(tables.placeTotal.listings, 0));
  const versions = await db
    .select({
      id: tables.rulebook.id,
      version: tables.rulebook.version,
      rules: sql<Rulebook['rules']>`${tables.rulebook.body} -> 'rules'`,
      formats: sql<FeedFormat[]>`${tables.rulebook.body} -> 'exchange' -> 'formats'`,
    })
    .from(tables.rulebook);
  const building = await db
    .select({ place: tables.feed.placeId })
    .from(tables.run)
    .innerJoin(tables.feed, eq(tables.feed.id, tables.run.feedId))
    .where(eq(tables.run.state, 'running'));
  return Promise.all(
    (await listPlaces(db)).map(async (place) => {
      const rulebook = versions.find((row) => row.id === place.rulebookId);
      return {
        id: place.id,
        accountId: place.accountId,
        channel: place.channel,
        channelName: place.channelName,
        market: place.market,
        name: place.name,
        language: place.language,
        currency: place.currency,
        accountState: place.accountState,
        rulebookVersion: rulebook?.version ?? '',
        mostInFamily: mostInFamily({ rules: rulebook?.rules ?? [] }) ?? null,
        formats: (rulebook?.formats ?? []).map((key) => ({ key, label: formats[key].label })),
        totals: totals.filter((row) => row.place === place.id).map(({ place: _, ...rest }) => rest),
        rechecking: await dirtyCount(db, place.id),
        isBuilding: building.some((row) => row.place === place.id),
      };
    }),
  );
}
