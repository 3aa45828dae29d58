/** Where fills stand: for one attribute of the channel, for all goods or some of them. */
import { type Fill, fillSchema } from '@velvet-shelf/core/fills';
import type { PlacedFill } from '@velvet-shelf/core/listings';
import { and, eq, inArray, isNull, or } from 'drizzle-orm';
import { z } from 'zod';
import type { Executor } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import type { PlaceRow } from './places.js';

export const slotSchema = z.object({
  attribute: z.string(),
  /** One market alone; empty: all of them. */
  market: z.string(),
  /** One of the channel's categories with all below it; empty: all goods. */
  category: z.string(),
  /** The preset it belongs to; null: none, for all goods. Older actions do not tell. */
  preset: z.number().nullable().default(null),
});
export type FillSlot = z.infer<typeof slotSchema>;

/** A fill as it stands, or is to stand, in its slot; null = none there. */
export const changeSchema = slotSchema.extend({ fill: fillSchema.nullable() });
export type FillChange = z.infer<typeof changeSchema>;

/** The slot of the fill that holds wherever no other is said. */
export const everywhere = (attribute: string): FillSlot => ({ attribute, market: '', category: '', preset: null });

/** Tells a slot from every other. */
export const slotKey = ({ attribute, market, category, preset }: FillSlot): string =>
  JSON.stringify([attribute, market, category, preset]);

/** As core has it: what is for all is not said. */
export const asPlaced = ({ attribute, category, market, preset, fill }: FillSlot & { fill: Fill }): PlacedFill => ({
  ...{ attribute, fill },
  ...(preset === null ? {} : { preset }),
  ...(category === '' ? {} : { category }),
  ...(market === '' ? {} : { market }),
});

/** For which goods a fill holds, in the words of slots; all of them where there is none. */
export const goodsOf = (placed: Partial<PlacedFill> = {}): Omit<FillSlot, 'attribute'> => ({
  market: placed.market ?? '',
  category: placed.category ?? '',
  preset: placed.preset ?? null,
});

/** All fills that hold at a place, those of presets too: those for all markets, then those of its own. */
export const fillsAt = (
  on: Executor,
  { channelId, market }: Pick<PlaceRow, 'channelId' | 'market'>,
): Promise<(FillSlot & { fill: Fill })[]> => {
  const { fill, preset } = tables;
  return on
    .select({
      ...{ attribute: fill.attribute, market: fill.market, category: fill.category, preset: fill.presetId },
      fill: fill.fill,
    })
    .from(fill)
    .leftJoin(preset, eq(preset.id, fill.presetId))
    .where(
      and(
        eq(fill.channelId, channelId),
        inArray(fill.market, ['', market]),
        or(isNull(fill.presetId), eq(preset.stands, true)),
      ),
    )
    .orderBy(fill.market, fill.attribute, fill.category);
};

/** The same but for those of presets. */
export const generalFillsAt = async (...asked: Parameters<typeof fillsAt>): ReturnType<typeof fillsAt> =>
  (await fillsAt(...asked)).filter(({ preset }) => preset === null);
