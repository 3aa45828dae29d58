import { z } from 'zod';
import { endpoint, idParam } from './endpoint.js';

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

export const enrichment = {
  proposals: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/products/:id/proposals',
    summary: 'Values that a product’s titles and descriptions say and it does not have',
    params: idParam,
    answer: z.object({ items: z.array(proposalSchema) }),
  }),
};
