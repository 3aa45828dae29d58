import { z } from 'zod';
import { effectSchema } from './effect.js';
import { fillAtSchema } from './fills.js';
import { endpoint, rowNumber, rowNumberText } from './endpoint.js';
import { optionSchema } from './catalog.js';

export const causeSchema = z.object({
  key: z.string(),
  kind: z.enum(['map-category', 'fill', 'translate', 'fit', 'catalog', 'report', 'pin', 'axis', 'assortment']),
  /** A sentence in plain words. */
  words: z.string(),
  places: z.array(z.string()),
  touched: z.number(),
  /** Up to how many listings fixing this alone would unlock. */
  unlocks: z.number(),
});
export type CauseAnswer = z.infer<typeof causeSchema>;

const option = z.object({
  value: z.string(),
  label: z.string(),
  score: z.number().nullable(),
  evidence: z.array(z.string()),
});

/** What can be done about a cause, in place. */
export const remedySchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('choose'),
    placeId: z.number(),
    question: z.string(),
    options: z.array(option),
    suggested: z.array(option),
    /** Where it is one word of a field among others: the field, where all of them are translated. */
    field: fillAtSchema.extend({ attribute: z.string(), label: z.string() }).nullable(),
  }),
  z.object({
    kind: z.literal('fill'),
    placeId: z.number(),
    attribute: z.string(),
    label: z.string(),
    sources: z.array(z.object({ name: z.string(), label: z.string() })),
    values: z.array(z.string()).nullable(),
  }),
  z.object({
    kind: z.literal('cells'),
    /** Ours, whose values are shown and can be corrected; null where no single one of ours gives what the channel is sent. */
    attribute: z.string().nullable(),
    language: z.string().nullable(),
    label: z.string(),
    type: z.string(),
    /** It holds a list: of pictures, the first stands for the product. */
    many: z.boolean(),
    choices: z.array(optionSchema).nullable(),
    /** A fit step that would clear them all, where there is one. */
    fit: z.object({ placeId: z.number(), attribute: z.string(), words: z.string() }).nullable(),
  }),
  z.object({
    kind: z.literal('families'),
    words: z.string(),
    /** Families whose options are to be put right, those with most listings first. */
    families: z.array(z.object({ id: z.number(), title: z.string(), listings: z.number() })),
    more: z.number(),
  }),
  z.object({ kind: z.literal('assortment'), placeId: z.number(), words: z.string() }),
  z.object({ kind: z.literal('none'), words: z.string() }),
]);

export const causeDetailSchema = causeSchema.extend({
  severity: z.enum(['blocker', 'advice']),
  remedy: remedySchema,
  /** Accounts that can be asked to let goods go without what is missing, with the maker most of these are of. */
  exempt: z.array(
    z.object({ accountId: z.number(), channel: z.string(), attribute: z.string(), maker: z.string().nullable() }),
  ),
  /** Listings it touches, the first hundred. */
  listings: z.array(
    z.object({
      id: z.number(),
      productId: z.number(),
      sku: z.string().nullable(),
      title: z.string().nullable(),
      place: z.string(),
      finding: z.string(),
      /** Present catalog value, for cells. */
      text: z.string().nullable(),
      /** Other causes that would still block it. */
      others: z.number(),
    }),
  ),
});
export type CauseDetail = z.infer<typeof causeDetailSchema>;

/** A fix for a cause: a choice, a fill, or catalog cells. */
export const fixSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('choose'), value: z.string() }),
  z.object({ kind: z.literal('fill'), source: z.string().optional(), fixed: z.string().optional() }),
  z.object({ kind: z.literal('fit') }),
  z.object({
    kind: z.literal('cells'),
    cells: z.array(z.object({ productId: rowNumber, text: z.string(), madeAgainst: z.string().nullable() })).min(1),
  }),
]);
export type Fix = z.infer<typeof fixSchema>;

const keyQuery = z.object({ key: z.string() });

export const causes = {
  ranked: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/causes',
    summary: 'Causes, what frees most first',
    query: z.object({ place: rowNumberText.optional() }),
    answer: z.object({
      blocked: z.number(),
      items: z.array(causeSchema),
      /** What the first fixes of the shortest plan free, cumulated. */
      plan: z.array(z.object({ key: z.string(), freed: z.number() })),
      advice: z.array(causeSchema),
    }),
  }),
  cause: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/causes/one',
    summary: 'One cause with what can be done about it',
    query: keyQuery,
    answer: causeDetailSchema,
  }),
  tryFix: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/causes/try',
    summary: 'What a fix would do, tried on every listing it touches, not saved',
    query: keyQuery,
    body: fixSchema,
    answer: effectSchema,
  }),
  fix: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/causes/fix',
    summary: 'Save a fix',
    query: keyQuery,
    body: fixSchema,
    answer: effectSchema,
  }),
};
