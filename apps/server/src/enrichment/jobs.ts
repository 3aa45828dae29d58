/** What enrichment has done beside the requests. */
import { z } from 'zod';
import { defineJob } from '../jobs/define.js';

const findInput = z.object({
  /** Units whose variants, and themselves, are gone through. */
  units: z.array(z.number()),
});
export type FindInput = z.infer<typeof findInput>;

export const findValues = defineJob({
  kind: 'find-values',
  input: findInput,
  run: async (context) => (await import('./find.js')).findValues(context),
});

export const enrichmentJobs = [findValues];
