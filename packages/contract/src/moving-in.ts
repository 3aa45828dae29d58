/** From nothing to a first feed: the company is made, and what is set and what is next is told. */
import { z } from 'zod';
import { companySchema } from './company.js';
import { endpoint } from './endpoint.js';

/** What a company may begin with: common attributes, or none. */
export const starts = ['common', 'nothing'] as const;

export const stepSchema = z.object({
  step: z.enum(['company', 'goods', 'channel', 'place', 'fit', 'feed']),
  isDone: z.boolean(),
  /** What is set, or what it takes. */
  words: z.string(),
  /** Where it is done, and gone back to. */
  to: z.string(),
  verb: z.string(),
});
export type Step = z.infer<typeof stepSchema>;

export const movingIn = {
  found: endpoint({
    role: 'owner',
    method: 'POST',
    path: '/api/company',
    summary: 'Make the company, with what it begins with; once',
    body: companySchema.extend({ start: z.enum(starts) }),
    answer: z.object({}),
  }),
  change: endpoint({
    role: 'owner',
    method: 'PUT',
    path: '/api/company',
    summary: 'Change the company’s settings, its languages and currencies too, with goods already in',
    body: companySchema.extend({ version: z.number().int() }),
    answer: z.object({ job: z.number().nullable() }),
  }),
  steps: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/moving-in',
    summary: 'What is set and what is next, on the way to a first feed',
    answer: z.object({ items: z.array(stepSchema), headline: z.string() }),
  }),
};
