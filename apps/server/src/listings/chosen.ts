/** Listings that somebody chose: by number, or all that are like something but some. */
import { mostBulk } from '@velvet-shelf/contract';
import { and, eq, not } from 'drizzle-orm';
import { type Executor, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { badRequest } from '../http/problem.js';
import { type ListingFilter, listingsOf } from './service.js';

export type WhichListings = { ids: readonly number[] } | { all: ListingFilter; except: readonly number[] };

/** Listings by number, locked until the action ends; refused where there are more than one action takes. */
export async function chosenListings(tx: Executor, which: WhichListings) {
  const { listing, product } = tables;
  const where =
    'ids' in which
      ? isIn(listing.id, [...which.ids])
      : and(listingsOf(which.all), not(isIn(listing.id, [...which.except])));
  const found = await tx
    .select({ id: listing.id, place: listing.placeId, unit: listing.unitId, variant: listing.variantId })
    .from(listing)
    .innerJoin(product, eq(product.id, listing.variantId))
    .where(where)
    .orderBy(listing.id)
    .limit(mostBulk + 1)
    .for('update', { of: listing });
  if (found.length > mostBulk) throw badRequest(`More than ${mostBulk} listings at once: narrow them down first`);
  if (found.length === 0) throw badRequest('No listing is chosen, or none is like this any more');
  return found;
}
