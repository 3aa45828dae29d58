/** Category maps: of each own category, the channel's, for all its markets or for one. */
import type { ClosedList } from '@velvet-shelf/core/values';
import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { type Executor, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import type { Acting } from '../history/act.js';
import { type PlaceRow, placesOf } from './places.js';

/**
 * Maps that hold at a place, by our category: those of its own market before those of every market, and a category's own
 * before that of one that was made one with it.
 */
export async function mapsOf(
  on: Executor,
  { channelId, market }: Pick<PlaceRow, 'channelId' | 'market'>,
  own: ClosedList,
): Promise<Map<string, string>> {
  const rows = await on
    .select({ category: tables.categoryMap.category, target: tables.categoryMap.target })
    .from(tables.categoryMap)
    .where(and(eq(tables.categoryMap.channelId, channelId), inArray(tables.categoryMap.market, ['', market])))
    .orderBy(desc(tables.categoryMap.market), tables.categoryMap.id);
  const maps = new Map<string, string>();
  const put = (category: string, target: string) => maps.has(category) || maps.set(category, target);
  for (const { category, target } of rows) if (!own.merged.has(category)) put(category, target);
  for (const { category, target } of rows) put(own.current(category), target);
  return maps;
}

/** Our categories that are mapped for the market of a place alone. */
export const mappedInMarket = async (
  on: Executor,
  { channelId, market }: Pick<PlaceRow, 'channelId' | 'market'>,
): Promise<string[]> =>
  (
    await on
      .select({ category: tables.categoryMap.category })
      .from(tables.categoryMap)
      .where(and(eq(tables.categoryMap.channelId, channelId), eq(tables.categoryMap.market, market)))
  ).map(({ category }) => category);

const mapSchema = z.object({
  /** Ours. */
  category: z.string(),
  /** Empty: for every market. */
  market: z.string(),
  /** The channel's; null where it is mapped to none. */
  target: z.string().nullable(),
});
export type CategoryMap = z.infer<typeof mapSchema>;

/** What an action did to maps: as they were, and as they are. */
export const mapDelta = (before: CategoryMap[], after: CategoryMap[]) => ({
  maps: [before, after] as [CategoryMap[], CategoryMap[]],
});
export const mapDeltaSchema = z.object({ maps: z.tuple([z.array(mapSchema), z.array(mapSchema)]) });

const isMap = (channelId: number, { category, market }: Omit<CategoryMap, 'target'>) =>
  and(
    eq(tables.categoryMap.channelId, channelId),
    eq(tables.categoryMap.market, market),
    eq(tables.categoryMap.category, category),
  );

/** What a category is mapped to in just this slot. */
export async function mapOf(
  on: Executor,
  channelId: number,
  slot: Omit<CategoryMap, 'target'>,
): Promise<string | null> {
  const map = await first(
    on.select({ target: tables.categoryMap.target }).from(tables.categoryMap).where(isMap(channelId, slot)),
  );
  return map?.target ?? null;
}

/** Writes maps, and marks the goods of their categories at the places of the channel. */
export async function writeMaps(
  { tx, dirtyPlace }: Pick<Acting, 'tx' | 'dirtyPlace'>,
  channelId: number,
  maps: readonly CategoryMap[],
): Promise<void> {
  for (const { category, market, target } of maps)
    if (target === null) await tx.delete(tables.categoryMap).where(isMap(channelId, { category, market }));
    else
      await tx
        .insert(tables.categoryMap)
        .values({ channelId, market, category, target })
        .onConflictDoUpdate({
          target: [tables.categoryMap.channelId, tables.categoryMap.market, tables.categoryMap.category],
          set: { target: sql`excluded.target` },
        });
  for (const place of await placesOf(tx, channelId)) {
    const categories = maps.flatMap(({ category, market }) =>
      market === '' || market === place.market ? [category] : [],
    );
    if (categories.length > 0) await dirtyPlace(place.id, { categories });
  }
}
