/** What a channel takes of a place: the listings that were in it first stay, those beyond are found too many. */
import type { CompiledPlace } from '@velvet-shelf/core/listings';
import { and, asc, eq, gte, isNull, lt } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';

export interface Quota {
  /** Number of the first listing beyond; undefined: there is room for all. */
  beyond: number | undefined;
  /** Listings that came to be beyond, or are no more. */
  crossing: number[];
}

/** Where the channel's room ended when it was last looked at. */
export const heldOf = (tx: Executor, placeId: number) =>
  first(tx.select().from(tables.quota).where(eq(tables.quota.placeId, placeId)));

/** Whether the channel takes more or fewer than when this was last looked at. */
export async function isQuotaOther(tx: Executor, { quota }: CompiledPlace, placeId: number): Promise<boolean> {
  return (await heldOf(tx, placeId))?.most !== quota?.most;
}

/** Looks where the channel's room ends now, if listings came or went (`isMoved`), and keeps it. Under the place's lock. */
export async function settleQuota(
  tx: Executor,
  { quota }: CompiledPlace,
  placeId: number,
  isMoved: boolean,
): Promise<Quota> {
  const held = await heldOf(tx, placeId);
  const before = held?.beyond ?? undefined;
  if (held?.most === quota?.most && !isMoved) return { beyond: before, crossing: [] };
  const { listing } = tables;
  const here = and(eq(listing.placeId, placeId), isNull(listing.notFor));
  const beyond =
    quota &&
    (
      await first(
        tx.select({ id: listing.id }).from(listing).where(here).orderBy(asc(listing.id)).offset(quota.most).limit(1),
      )
    )?.id;
  if (!quota) await tx.delete(tables.quota).where(eq(tables.quota.placeId, placeId));
  else {
    const row = { most: quota.most, beyond: beyond ?? null };
    await tx
      .insert(tables.quota)
      .values({ placeId, ...row })
      .onConflictDoUpdate({ target: tables.quota.placeId, set: row });
  }
  const isSame = held?.most === quota?.most;
  const ends = [before, beyond].flatMap((end) => end ?? []);
  if (ends.length === 0 || (isSame && before === beyond)) return { beyond, crossing: [] };
  // With another bound, what is said of all beyond it is another.
  const until = isSame && ends.length === 2 ? lt(listing.id, Math.max(...ends)) : undefined;
  const crossing = await tx
    .select({ id: listing.id })
    .from(listing)
    .where(and(here, gte(listing.id, Math.min(...ends)), until));
  return { beyond, crossing: crossing.map(({ id }) => id) };
}
