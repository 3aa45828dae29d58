/** What becomes of listings. */
import { z } from 'zod';

export const effectSchema = z.object({
  listingsChanged: z.number(),
  becameReady: z.number(),
  becameBlocked: z.number(),
});
export type Effect = z.infer<typeof effectSchema>;

/** Of what is only tried: whether it was tried on all goods it concerns. */
export const triedEffectSchema = effectSchema.extend({ whole: z.boolean() });
export type TriedEffect = z.infer<typeof triedEffectSchema>;
