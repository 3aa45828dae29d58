/** Everything that channels ask of a product, told by what of ours answers it. */
import { attributeTypes, dimensions } from '@velvet-shelf/core/values';
import { z } from 'zod';
import { endpoint, idParam } from './endpoint.js';

/** What an attribute of ours would be that feeds a field of a channel; null where none can. */
export const ownKindSchema = z.object({
  type: z.enum(attributeTypes),
  dimension: z.enum(dimensions).nullable(),
  many: z.boolean(),
  values: z.array(z.string()),
});

const askSchema = z.object({
  placeId: z.number(),
  place: z.string(),
  /** The channel's attribute. */
  field: z.string(),
  label: z.string(),
  help: z.string().nullable(),
  /** The strongest in any channel category the listings stand in. */
  need: z.enum(['required', 'recommended', 'optional']),
  own: ownKindSchema.nullable(),
  /** In words. */
  limits: z.array(z.string()),
  /** In characters; null where nothing is said. */
  atMost: z.number().nullable(),
  /** Listings asked, and those that have nothing to answer with. */
  listings: z.number(),
  missing: z.number(),
  /** What else is wrong with what is sent, worst first. */
  findings: z.array(
    z.object({ words: z.string(), severity: z.enum(['blocker', 'advice']), cause: z.string(), listings: z.number() }),
  ),
});
export type Ask = z.infer<typeof askSchema>;

const askedLineSchema = z.object({
  /** Of ours: an attribute of the dictionary with its language where it has any, or an offer (price, stock …); null where nothing of ours feeds the field. */
  attribute: z.string().nullable(),
  language: z.string().nullable(),
  label: z.string(),
  /** What the variants hold, those without a value by their numbers; null where it is no attribute of the dictionary. */
  held: z
    .object({
      of: z.number(),
      /** What all of them that have a value hold, as people read it; null where they differ or none has one. */
      same: z.string().nullable(),
      without: z.array(z.number()),
    })
    .nullable(),
  /** How a field that nothing of ours feeds is filled; null where by nothing. */
  filled: z.object({ fixed: z.string().nullable() }).nullable(),
  asks: z.array(askSchema).min(1),
});
export type AskedLine = z.infer<typeof askedLineSchema>;

export const asked = {
  ofProduct: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/products/:id/asked',
    summary: 'Everything any channel asks of a product: of a family all its listings together',
    params: idParam,
    /** Missing and required first, then what is advised, then the rest. */
    answer: z.object({ listings: z.number(), lines: z.array(askedLineSchema) }),
  }),
};
