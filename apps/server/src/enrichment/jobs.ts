/** What enrichment has done beside the requests. */
import { z } from 'zod';
import type { ComposedAnswer, ProposedFamilies, WantedText, WishedFamilies } from '@velvet-shelf/contract';
import { defineCall, defineJob } from '../jobs/define.js';

const unitsInput = z.object({
  /** Units whose variants, and themselves, are gone through. */
  units: z.array(z.number()),
});
export type UnitsInput = z.infer<typeof unitsInput>;

export const findValues = defineJob({
  kind: 'find-values',
  input: unitsInput,
  run: async (context) => (await import('./find.js')).findValues(context),
});

export const proofread = defineJob({
  kind: 'proofread',
  input: unitsInput,
  run: async (context) => (await import('./proofread.js')).proofread(context),
});

export const proposeGathering = defineCall<WishedFamilies, ProposedFamilies>({
  name: 'propose-families',
  run: async ({ db }, wished) => (await import('./gather.js')).proposeFamilies(db, wished),
});

export const tryText = defineCall<WantedText, ComposedAnswer>({
  name: 'try-text',
  run: async ({ db }, wanted) => (await import('./compose.js')).tryComposing(db, wanted),
});

export const enrichmentJobs = [findValues, proofread];
export const enrichmentCalls = [proposeGathering, tryText];
