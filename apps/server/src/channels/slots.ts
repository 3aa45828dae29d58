/** Where fills stand: for one attribute of the channel, for all goods or some of them. */
import { fillSchema } from '@velvet-shelf/core/fills';
import { z } from 'zod';

export const slotSchema = z.object({
  attribute: z.string(),
  /** One market alone; empty: all of them. */
  market: z.string(),
  /** One of the channel's categories with all below it; empty: all goods. */
  category: z.string(),
});
export type FillSlot = z.infer<typeof slotSchema>;

/** A fill as it stands, or is to stand, in its slot; null = none there. */
export const changeSchema = slotSchema.extend({ fill: fillSchema.nullable() });
export type FillChange = z.infer<typeof changeSchema>;

/** The slot of the fill that holds wherever no other is said. */
export const everywhere = (attribute: string): FillSlot => ({ attribute, market: '', category: '' });

/** Tells a slot from every other. */
export const slotKey = ({ attribute, market, category }: FillSlot): string =>
  JSON.stringify([attribute, market, category]);
