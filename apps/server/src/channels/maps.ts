/** Category maps: of each own category, the channel's, for all its markets or for one. */
import { categorySplitSchema } from '@velvet-shelf/contract';
import type { ClosedList } from '@velvet-shelf/core/values';
import type { CategoryTarget } from '@velvet-shelf/core/listings';
import { and, desc, eq, inArray } from 'drizzle-orm';
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
): Promise<Map<string, CategoryTarget>> {
  const rows = await on
    .select({
      category: tables.categoryMap.category,
      target: tables.categoryMap.target,
      second: tables.categoryMap.second,
      splits: tables.categoryMap.splits,
    })
    .from(tables.categoryMap)
    .where(and(eq(tables.categoryMap.channelId, channelId), inArray(tables.categoryMap.market, ['', market])))
    .orderBy(desc(tables.categoryMap.market), tables.categoryMap.id);
  const maps = new Map<string, CategoryTarget>();
  const put = (category: string, { target, second, splits }: (typeof rows)[number]) =>
    maps.has(category) || maps.set(category, { target, second: second ?? undefined, splits });
  for (const row of rows) if (!own.merged.has(row.category)) put(row.category, row);
  for (const row of rows) put(own.current(row.category), row);
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

/** Where the goods of one of our categories stand. */
const mappedSchema = z.object({
  /** The channel's; null where it is mapped to none. */
  target: z.string().nullable(),
  second: z.string().nullable().default(null),
  splits: z.array(categorySplitSchema).default([]),
});
export type Mapped = z.infer<typeof mappedSchema>;

const mapSchema = mappedSchema.extend({
  /** Ours. */
  category: z.string(),
  /** Empty: for every market. */
  market: z.string(),
});
export type CategoryMap = z.infer<typeof mapSchema>;
type MapSlot = Pick<CategoryMap, 'category' | 'market'>;

export const unmapped: Mapped = { target: null, second: null, splits: [] };

/** What somebody says of a category; what is not said stays as it is. */
export type MapChange = Pick<Mapped, 'target'> & Partial<Mapped>;

/** The map it makes; taken away, it is gone whole. */
export const changedMap = (
  before: CategoryTarget | Mapped | undefined,
  { target, second, splits }: MapChange,
): Mapped =>
  target === null
    ? unmapped
    : {
        target,
        second: second === undefined ? (before?.second ?? null) : second,
        splits: splits ?? [...(before?.splits ?? [])],
      };

/** The parts of it, to be compared. */
export const mappedOf = ({ target, second, splits }: Mapped): Mapped => ({ target, second, splits });

/** What an action did to maps: as they were, and as they are. */
export const mapDelta = (before: CategoryMap[], after: CategoryMap[]) => ({
  maps: [before, after] as [CategoryMap[], CategoryMap[]],
});
export const mapDeltaSchema = z.object({ maps: z.tuple([z.array(mapSchema), z.array(mapSchema)]) });

const isMap = (channelId: number, { category, market }: MapSlot) =>
  and(
    eq(tables.categoryMap.channelId, channelId),
    eq(tables.categoryMap.market, market),
    eq(tables.categoryMap.category, category),
  );

/** What a category is mapped to in just this slot. */
export async function mapOf(on: Executor, channelId: number, slot: MapSlot): Promise<Mapped> {
  const { target, second, splits } = tables.categoryMap;
  const map = await first(on.select({ target, second, splits }).from(tables.categoryMap).where(isMap(channelId, slot)));
  return map ?? unmapped;
}

/** Writes maps, and marks the goods of their categories at the places of the channel. */
export async function writeMaps(
  { tx, dirtyPlace }: Pick<Acting, 'tx' | 'dirtyPlace'>,
  channelId: number,
  maps: readonly CategoryMap[],
): Promise<void> {
  for (const { category, market, target, second, splits } of maps)
    if (target === null) await tx.delete(tables.categoryMap).where(isMap(channelId, { category, market }));
    else
      await tx
        .insert(tables.categoryMap)
        .values({ channelId, market, category, target, second, splits })
        .onConflictDoUpdate({
          target: [tables.categoryMap.channelId, tables.categoryMap.market, tables.categoryMap.category],
          set: { target, second, splits },
        });
  for (const place of await placesOf(tx, channelId)) {
    const categories = maps.flatMap(({ category, market }) =>
      market === '' || market === place.market ? [category] : [],
    );
    if (categories.length > 0) await dirtyPlace(place.id, { categories });
  }
}
