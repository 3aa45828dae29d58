/** What another version of a rulebook asks of our goods, category by category of the channel's tree. */
import { compareInCategory, namesOf } from '@velvet-shelf/core/rulebooks';
import { and, count, desc, eq, isNotNull, ne } from 'drizzle-orm';
import * as tables from '../db/schema/index.js';
import type { Services } from '../http/route.js';
import { getPlace, rulebookOf } from './places.js';
import { versionOf } from './rulebooks.js';

/** Categories that goods of the place are in and that the version asks otherwise of, or does not have; most goods first. */
export async function comparedInCategories({ db }: Services, placeId: number, rulebookId: number) {
  const place = await getPlace(db, placeId);
  const [used, other] = [await rulebookOf(db, place), await versionOf(db, place, rulebookId)];
  const { listing } = tables;
  const held = await db
    .select({ category: listing.category, listings: count() })
    .from(listing)
    .where(
      and(eq(listing.placeId, placeId), isNotNull(listing.category), ne(listing.readiness, 'not for this channel')),
    )
    .groupBy(listing.category)
    .orderBy(desc(count()), listing.category);
  const names = namesOf(used);
  const known = new Set(other.categories.map(({ path }) => path));
  return held.flatMap(({ category: path, listings }) => {
    if (path === null) return [];
    const changes = compareInCategory(used, other, { category: path, market: place.market });
    const isGone = !known.has(path);
    return isGone || changes.length > 0 ? [{ path, names: names(path), listings, isGone, changes }] : [];
  });
}
