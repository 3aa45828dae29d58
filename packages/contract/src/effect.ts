/** What becomes of listings. */
import { z } from 'zod';

export const effectSchema = z.object({
  listingsChanged: z.number(),
  becameReady: z.number(),
  becameBlocked: z.number(),
});
export type Effect = z.infer<typeof effectSchema>;
