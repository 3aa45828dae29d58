/** What is done to many goods at once: those chosen in the grid, or all of a view. */
import { z } from 'zod';
import { effectSchema, triedEffectSchema } from './effect.js';
import { endpoint, rowNumber } from './endpoint.js';

/** Goods whose values are said at once. */
export const mostBulk = 5000;

/** Variants that are chosen at once. */
export const mostChosen = 20_000;

/** Rows of the grid: some by their numbers, or all of an opened view but some. A family stands for its variants. */
export const chosenSchema = z.union([
  z.strictObject({ rows: z.array(rowNumber).min(1).max(mostBulk) }),
  z.strictObject({ view: z.string().max(100), except: z.array(rowNumber).max(mostBulk).default([]) }),
]);
export type Chosen = z.output<typeof chosenSchema>;

export const asideFields = z
  .object({
    /** Not in the everyday views. */
    sight: z.boolean(),
    /** What keeps its listings back is no cause to mend. */
    findings: z.boolean(),
    /** Values it lacks are no work to do. */
    gaps: z.boolean(),
    /** The day it is back; null: until somebody brings it back. */
    until: z.iso.date().nullable(),
    reason: z.string().trim().max(200).default(''),
  })
  .refine(({ sight, findings, gaps }) => sight || findings || gaps, {
    path: ['sight'],
    message: 'Say what is set aside: the goods, their findings or what they lack',
  });
export type AsideFields = z.output<typeof asideFields>;

const saidSchema = z.object({
  chosen: chosenSchema,
  attribute: z.string().max(200),
  language: z.string().max(40).nullable().default(null),
  /** As one would type it; null: empty on purpose. */
  text: z.string().max(50_000).nullable(),
});
export type BulkSaid = z.output<typeof saidSchema>;

export const bulk = {
  count: endpoint({
    role: 'viewer',
    method: 'POST',
    path: '/api/bulk/count',
    summary: 'How many goods are chosen',
    body: z.object({ chosen: chosenSchema }),
    answer: z.object({ variants: z.number(), families: z.number() }),
  }),
  setAside: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/bulk/aside',
    once: true,
    summary: 'Set goods aside, out of sight or only muted, until a day or for good',
    body: z.object({ chosen: chosenSchema, aside: asideFields }),
    answer: z.object({ variants: z.number() }),
  }),
  bringBack: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/bulk/back',
    once: true,
    summary: 'Bring goods back that were set aside; those that are paused or withdrawn sell again',
    body: z.object({ chosen: chosenSchema }),
    answer: effectSchema.extend({ variants: z.number() }),
  }),
  leftOutWithStock: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/views/:token/left-out',
    summary: 'Goods that a view leaves out although there are pieces of them: paused, withdrawn or set aside',
    params: z.object({ token: z.string().max(100) }),
    answer: z.object({ rows: z.array(z.number()) }),
  }),
  trySay: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/bulk/value/try',
    summary: 'What one value for many goods would change; nothing is kept',
    body: saidSchema,
    answer: triedEffectSchema.extend({ goods: z.number(), others: z.number() }),
  }),
  say: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/bulk/value',
    once: true,
    summary: 'Give many goods one value',
    body: saidSchema,
    answer: effectSchema.extend({ goods: z.number() }),
  }),
};
