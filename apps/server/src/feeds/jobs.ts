/** What feeds have done beside the requests: files are built, and a channel's report is waited for. */
import { z } from 'zod';
import { defineJob } from '../jobs/define.js';

const runInput = z.object({ run: z.number(), feed: z.number() });
export type RunInput = z.infer<typeof runInput>;
export const buildFeed = defineJob({
  kind: 'build-feed',
  input: runInput,
  run: async (context) => (await import('./service.js')).buildFeed(context),
  failed: async (context, fault) => (await import('./service.js')).buildFailed(context, fault),
});

const offerInput = runInput.extend({ user: z.number() });
export type OfferInput = z.infer<typeof offerInput>;
export const offerFeed = defineJob({
  kind: 'offer-feed',
  input: offerInput,
  run: async (context) => (await import('./report.js')).awaitReport(context),
});

export const feedJobs = [buildFeed, offerFeed];
