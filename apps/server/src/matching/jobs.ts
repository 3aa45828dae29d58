/** What matching has done beside the requests. */
import { z } from 'zod';
import { defineJob } from '../jobs/define.js';

export const findMatches = defineJob({
  kind: 'find-matches',
  input: z.object({}),
  // What began earlier would write over what was found later.
  isAlone: true,
  run: async (context) => (await import('./propose.js')).findMatches(context),
});

const numbersInput = z.object({ supplier: z.number(), action: z.number() });
export type NumbersInput = z.infer<typeof numbersInput>;
export const joinNumbers = defineJob({
  kind: 'join-numbers',
  input: numbersInput,
  run: async (context) => (await import('./numbers.js')).joinNumbers(context),
});

export const matchingJobs = [findMatches, joinNumbers];
