/** What enrichment has done beside the requests. */
import { z } from 'zod';
import type { ComposedAnswer, ProposedFamilies, WantedText, WishedFamilies } from '@velvet-shelf/contract';
import { defineCall, defineJob } from '../jobs/define.js';

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

export const proposeGathering = defineCall<WishedFamilies, ProposedFamilies>({
  name: 'propose-families',
  run: async ({ db }, wished) => (await import('./gather.js')).proposeFamilies(db, wished),
});

export const tryText = defineCall<WantedText, ComposedAnswer>({
  name: 'try-text',
  run: async ({ db }, wanted) => (await import('./compose.js')).tryComposing(db, wanted),
});

export const enrichmentJobs = [findValues];
export const enrichmentCalls = [proposeGathering, tryText];
