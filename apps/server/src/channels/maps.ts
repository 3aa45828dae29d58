/** Category maps: of each own category, the channel's, for all its markets or for one. */
import { and, eq, inArray, sql } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';

/** Maps that hold at a place, those of its own market after those of every market. */
export const mapsOf = (on: Executor, { channelId, market }: { channelId: number; market: string }) =>
  on
    .select({ category: tables.categoryMap.category, target: tables.categoryMap.target })
    .from(tables.categoryMap)
    .where(and(eq(tables.categoryMap.channelId, channelId), inArray(tables.categoryMap.market, ['', market])))
    .orderBy(tables.categoryMap.market);

const isMap = (channelId: number, category: string) =>
  and(
    eq(tables.categoryMap.channelId, channelId),
    eq(tables.categoryMap.market, ''),
    eq(tables.categoryMap.category, category),
  );

/** What one category is mapped to for all markets, where it is. */
export async function mapOf(on: Executor, channelId: number, category: string): Promise<string | null> {
  const map = await first(
    on.select({ target: tables.categoryMap.target }).from(tables.categoryMap).where(isMap(channelId, category)),
  );
  return map?.target ?? null;
}

/** Maps a category for all markets; null takes its map away. */
export async function writeMap(
  on: Executor,
  channelId: number,
  category: string,
  target: string | null,
): Promise<void> {
  if (target === null) await on.delete(tables.categoryMap).where(isMap(channelId, category));
  else
    await on
      .insert(tables.categoryMap)
      .values({ channelId, category, target })
      .onConflictDoUpdate({
        target: [tables.categoryMap.channelId, tables.categoryMap.market, tables.categoryMap.category],
        set: { target: sql`excluded.target` },
      });
}
