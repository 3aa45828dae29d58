import { z } from 'zod';
import { historyEntrySchema } from './catalog.js';
import { bytes, cursorText, endpoint, idParam, moment } from './endpoint.js';

export const jobSchema = z.object({
  id: z.number(),
  kind: z.string(),
  label: z.string(),
  state: z.enum(['waiting', 'running', 'done', 'failed', 'cancelled']),
  done: z.number(),
  total: z.number(),
  error: z.string().nullable(),
});
export type JobAnswer = z.infer<typeof jobSchema>;

export const shelfSchema = z.object({
  /** Proposals of joins that wait for a person. */
  toMatch: z.number(),
  /** Variants with a value missing or wrong in the catalog. */
  toComplete: z.number(),
  /** Listings that are blocked. */
  toFit: z.number(),
  /** Listings that are ready and were not sent, or were refused or withdrawn. */
  toSend: z.number(),
  held: z.number(),
  rechecking: z.number(),
  jobs: z.array(jobSchema),
  lastAction: z.object({ id: z.number(), words: z.string(), canUndo: z.boolean() }).nullable(),
});
export type Shelf = z.infer<typeof shelfSchema>;

export const todaySchema = z.object({
  since: moment.nullable(),
  headline: z.string(),
  waiting: z.array(
    z.object({ count: z.number(), words: z.string(), detail: z.string().nullable(), to: z.string(), verb: z.string() }),
  ),
  places: z.array(
    z.object({
      id: z.number(),
      name: z.string(),
      listings: z.number(),
      /** How many there are of each readiness with each state on the channel. */
      totals: z.array(z.object({ readiness: z.string(), channelState: z.string(), listings: z.number() })),
    }),
  ),
  changes: z.array(
    z.object({ at: moment, words: z.string(), actor: z.string().nullable(), to: z.string().nullable() }),
  ),
});
export type TodayAnswer = z.infer<typeof todaySchema>;

export const today = {
  shelf: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/shelf',
    summary: 'The counts on the shelf edge',
    answer: shelfSchema,
  }),
  today: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/today',
    summary: 'What changed and what waits',
    answer: todaySchema,
  }),
  history: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/actions',
    summary: 'All actions, newest first',
    query: z.object({ cursor: cursorText.optional() }),
    answer: z.object({ items: z.array(historyEntrySchema.omit({ fields: true })), next: z.string().nullable() }),
  }),
  undo: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/actions/:id/undo',
    summary: 'Undo an action; says what it left because somebody changed it since',
    params: idParam,
    answer: z.object({ words: z.string(), left: z.array(z.string()) }),
  }),
  search: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/search',
    summary: 'Products by a name or number, the first of them',
    query: z.object({
      q: z.string().max(200),
      /** Families alone, or what stands on an order: no families. */
      only: z.enum(['families', 'ordered']).optional(),
      limit: z.coerce.number().int().min(1).max(50).default(8),
    }),
    answer: z.object({
      items: z.array(
        z.object({ id: z.number(), kind: z.string(), sku: z.string().nullable(), title: z.string().nullable() }),
      ),
    }),
  }),
  health: endpoint({
    role: 'anyone',
    method: 'GET',
    path: '/api/health',
    summary: 'Whether the server is up',
    answer: z.object({ status: z.literal('ok'), version: z.string() }),
  }),
  events: endpoint({
    method: 'GET',
    path: '/api/events',
    summary: 'What changed, as server-sent events, as long as the session lasts',
    role: 'viewer',
    kind: 'events',
    query: z.object({
      since: z.coerce
        .number()
        .min(0)
        .default(0)
        .describe('Milliseconds: the stream begins with what changed in the last so many'),
    }),
    answer: bytes,
  }),
};
