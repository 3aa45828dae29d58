/** How a file is read: found out from its bytes, shown with what decided it, and open to correction. */
import { z } from 'zod';
import { readingSchema } from './formats/index.js';

const pathChoice = z.object({ path: z.string(), objects: z.number() });

/** What was found, and for each setting a sentence that says what decided it. */
export const detectionSchema = z.object({
  reading: readingSchema,
  why: z.record(z.string(), z.string()),
  /** Other lists the document holds, for correcting `itemPath` and `variantPath`. */
  itemPaths: z.array(pathChoice),
  variantPaths: z.array(pathChoice),
  /** What a careful reader would mention: hidden columns, merged cells. */
  notes: z.array(z.string()),
});
export type Detection = z.infer<typeof detectionSchema>;
