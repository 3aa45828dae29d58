import { z } from 'zod';
import { chosenSchema } from './bulk.js';
import { effectSchema } from './effect.js';
import { cursorQuery, endpoint, idParam, page, rowNumber } from './endpoint.js';

export const proposalSchema = z.object({
  attribute: z.string(),
  label: z.string(),
  /** As one would type it. */
  text: z.string(),
  /** As people read it. */
  shown: z.string(),
  /** What the product has instead, as one would type it; null = nothing. */
  held: z.string().nullable(),
  /** A probability. */
  score: z.number(),
  /** Words it came from, with what stands around them. */
  evidence: z.object({
    language: z.string(),
    in: z.enum(['title', 'description']),
    before: z.string(),
    words: z.string(),
    after: z.string(),
  }),
});
export type ProposalAnswer = z.infer<typeof proposalSchema>;

/** A value found while many goods were gone through. */
const foundSchema = proposalSchema.extend({
  id: z.number(),
  product: z.number(),
  kind: z.enum(['family', 'variant', 'single', 'bundle']),
  sku: z.string().nullable(),
  title: z.string().nullable(),
});
export type FoundAnswer = z.infer<typeof foundSchema>;

/** Values taken or turned down at once. */
export const mostTaken = 5000;

/** Some by their numbers, or all of an attribute (or of every one) that are so likely and would fill an empty place. */
const takenSchema = z.union([
  z.strictObject({ ids: z.array(rowNumber).min(1).max(mostTaken) }),
  z.strictObject({ attribute: z.string().max(200).nullable(), least: z.number().min(0.5).max(1) }),
]);
export type TakenValues = z.output<typeof takenSchema>;

export const enrichment = {
  find: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/found',
    once: true,
    summary: 'Go through the texts of goods for values they do not have, beside the requests',
    body: z.object({ chosen: chosenSchema }),
    answer: z.object({ job: z.number(), goods: z.number() }),
  }),
  found: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/found',
    summary: 'Values found in texts that nobody has taken or turned down, the likeliest first',
    query: cursorQuery.extend({
      attribute: z.string().max(200).optional(),
      /** Those alone whose place is empty. */
      gaps: z.enum(['yes']).optional(),
    }),
    answer: page(foundSchema).extend({
      /** By attribute: how many are open, and how many of them are sure and fill an empty place. */
      attributes: z.array(z.object({ attribute: z.string(), label: z.string(), open: z.number(), sure: z.number() })),
    }),
  }),
  take: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/found/take',
    once: true,
    summary: 'Take values that were found, as one edit; what goods hold otherwise by now is left, and counted',
    body: takenSchema,
    answer: effectSchema.extend({ taken: z.number(), left: z.number() }),
  }),
  decline: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/found/decline',
    summary: 'Turn values down that were found: they are not asked about again',
    body: z.object({ ids: z.array(rowNumber).min(1).max(mostTaken) }),
    answer: z.object({}),
  }),
  proposals: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/products/:id/proposals',
    summary: 'Values that a product’s titles and descriptions say and it does not have',
    params: idParam,
    answer: z.object({ items: z.array(proposalSchema) }),
  }),
};
