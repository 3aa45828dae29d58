import { trustPolicies } from '@velvet-shelf/core/claims';
import { z } from 'zod';
import { cursorText, endpoint, idParam, rowNumber, rowNumberText } from './endpoint.js';

const evidenceSchema = z.object({
  kind: z.enum(['identifier', 'brand-mpn', 'title', 'axes', 'price', 'brand', 'against']),
  words: z.string(),
  points: z.number(),
});

/** One record's side of a comparison. */
const sideSchema = z.object({
  recordId: z.number(),
  supplierId: z.number(),
  supplier: z.string(),
  key: z.string(),
  /** The supplier's whole list no longer has it. */
  dropped: z.boolean(),
});
export type MatchSide = z.infer<typeof sideSchema>;

const comparedProduct = z.object({
  id: z.number(),
  sku: z.string().nullable(),
  title: z.string().nullable(),
  picture: z.string().nullable(),
  family: z.string().nullable(),
  sources: z.array(sideSchema),
});

export const pairSchema = z.object({
  a: comparedProduct,
  b: comparedProduct,
  score: z.number(),
  evidence: z.array(evidenceSchema),
});
export type PairAnswer = z.infer<typeof pairSchema>;

/** One attribute, with what every record claims. */
const claimRowSchema = z.object({
  attribute: z.string(),
  label: z.string(),
  language: z.string().nullable(),
  /** By record id; absent where the record says nothing. */
  claims: z.record(z.string(), z.string()),
  /** A person's own value, if there is one; null = empty on purpose. */
  edit: z.object({ text: z.string().nullable(), by: z.string() }).nullable(),
  winner: z.string().nullable(),
  /** The record that wins, or none where a person's edit does. */
  winnerRecord: z.number().nullable(),
  why: z.string().nullable(),
  /** The sources do not say the same. */
  differs: z.boolean(),
});
export type ClaimRow = z.infer<typeof claimRowSchema>;

export const comparisonSchema = z.object({
  products: z.array(comparedProduct),
  rows: z.array(claimRowSchema),
});
export type Comparison = z.infer<typeof comparisonSchema>;

const doubtedSchema = z.object({
  total: z.number(),
  items: z.array(comparedProduct.extend({ against: z.array(z.string()) })),
});
export type DoubtedAnswer = z.infer<typeof doubtedSchema>;

const effect = z.object({
  done: z.number(),
  /** Pairs that could not be joined, and why. */
  left: z.array(z.string()),
  /** Pairs whose sides each have a valid GTIN of their own: joined only where somebody says that she is sure. */
  unsure: z.array(z.object({ a: z.number(), b: z.number(), words: z.string() })),
});

export const trustRowSchema = z.object({
  attribute: z.string(),
  label: z.string(),
  group: z.string(),
  type: z.string(),
  policy: z.enum(trustPolicies),
  /** Supplier ids, best first; null = the general order. */
  ranking: z.array(z.number()).nullable(),
  /** Products on which sources disagree about it. */
  disputed: z.number(),
});
export type TrustRow = z.infer<typeof trustRowSchema>;

export const matching = {
  pairs: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/matches',
    summary: 'Pairs that look like the same goods, best first',
    query: z.object({
      supplier: rowNumberText.optional(),
      search: z.string().max(200).optional(),
      limit: z.coerce.number().int().min(1).max(500).default(200),
    }),
    answer: z.object({
      total: z.number(),
      items: z.array(pairSchema),
      /** How many stand at or above each score of ten. */
      above: z.array(z.object({ score: z.number(), pairs: z.number() })),
    }),
  }),
  compare: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/matches/compare',
    summary: 'Every claim of one or two products side by side',
    query: z.object({ a: rowNumberText, b: rowNumberText.optional() }),
    answer: comparisonSchema,
  }),
  decide: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/matches/decide',
    summary: 'Join pairs, or keep them apart for good; all above a score where no pairs are named',
    body: z.object({
      verdict: z.enum(['same', 'different']),
      pairs: z
        .array(z.object({ a: rowNumber, b: rowNumber }))
        .max(2000)
        .optional(),
      above: z.number().int().min(0).max(100).optional(),
      /** Pairs whose GTINs differ are the same all the same. */
      sure: z.boolean().optional(),
    }),
    answer: effect,
  }),
  split: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/products/:id/split',
    summary: 'Take records out of a product again; both are as before they were joined',
    params: idParam,
    body: z.object({ records: z.array(rowNumber).min(1).max(50) }),
    answer: z.object({ products: z.array(z.number()) }),
  }),
  joined: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/matches/joined',
    summary: 'Products that several sources speak for, those with most disagreement first',
    query: z.object({
      search: z.string().max(200).optional(),
      limit: z.coerce.number().int().min(1).max(500).default(100),
      cursor: cursorText.optional(),
    }),
    answer: z.object({
      total: z.number(),
      disagreeing: z.number(),
      items: z.array(comparedProduct.extend({ differs: z.number() })),
      next: z.string().nullable(),
    }),
  }),
  unjoined: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/matches/keys',
    summary: 'Identifiers that join nothing, and why',
    answer: z.object({
      total: z.number(),
      items: z.array(
        z.object({
          kind: z.enum(['gtin', 'mpn', 'number']),
          key: z.string(),
          /** Why, with what speaks against it. */
          reason: z.string(),
          against: z.array(z.string()),
          records: z.array(sideSchema.extend({ productId: z.number().nullable(), title: z.string().nullable() })),
        }),
      ),
    }),
  }),
  doubted: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/matches/doubted',
    summary: 'Joined goods that would not be joined like this any more, and what speaks against it',
    query: z.object({ limit: z.coerce.number().int().min(1).max(500).default(100) }),
    answer: doubtedSchema,
  }),
  splitDoubted: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/matches/doubted/split',
    summary: 'Split them into what would be joined today; all of them where none are named',
    body: z.object({ products: z.array(rowNumber).min(1).max(2000).optional() }),
    answer: z.object({ split: z.number() }),
  }),
  ourNumbers: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/suppliers/:id/numbers',
    summary: 'Say whether a supplier’s numbers for use inside a company are ours; goods are joined or parted by a job',
    params: idParam,
    body: z.object({ usesOurNumbers: z.boolean() }),
    answer: z.object({ job: z.number().nullable() }),
  }),
  propose: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/matches/propose',
    summary: 'Look through all goods for pairs again',
    answer: z.object({ job: z.number() }),
  }),
  trust: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/trust',
    summary: 'Whose claim wins, attribute by attribute',
    answer: z.object({
      suppliers: z.array(z.object({ id: z.number(), name: z.string() })),
      items: z.array(trustRowSchema),
    }),
  }),
  setTrust: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/trust',
    summary: 'Change whose claim wins; an attribute without ranking follows the general order',
    body: z.object({
      /** Absent = the general order of suppliers. */
      attribute: z.string().optional(),
      policy: z.enum(trustPolicies).optional(),
      ranking: z.array(rowNumber).nullable().optional(),
    }),
    answer: z.object({ changed: z.number() }),
  }),
};
