/** What the catalog has done beside the requests. */
import { z } from 'zod';
import { defineJob } from '../jobs/define.js';

const resolveInput = z.object({ action: z.number() });
export type ResolveInput = z.infer<typeof resolveInput>;

export const resolveEverything = defineJob({
  kind: 'resolve-all',
  input: resolveInput,
  run: async (context) => (await import('./resolve-all.js')).resolveAll(context),
});

export const catalogJobs = [resolveEverything];
