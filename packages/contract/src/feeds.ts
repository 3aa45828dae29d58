import { feedFormats } from '@velvet-shelf/core/feeds';
import { z } from 'zod';
import { bytes, endpoint, idParam, moment, rowNumber } from './endpoint.js';

export const runSchema = z.object({
  id: z.number(),
  feedId: z.number(),
  state: z.enum(['running', 'done', 'held', 'failed', 'cancelled']),
  heldWhy: z.string().nullable(),
  error: z.string().nullable(),
  up: z.boolean(),
  counts: z.object({ selected: z.number(), sent: z.number(), leftOut: z.number() }).nullable(),
  difference: z
    .object({ before: z.number(), after: z.number(), added: z.number(), removed: z.number(), changed: z.number() })
    .nullable(),
  bytes: z.number().nullable(),
  gzipBytes: z.number().nullable(),
  rulebookVersion: z.string().nullable(),
  startedAt: moment,
  endedAt: moment.nullable(),
  progress: z.object({ done: z.number(), total: z.number() }).nullable(),
  /** The channel is reading the file, or could not: until its report is there. */
  asked: z
    .object({ state: z.enum(['reading', 'failed']), done: z.number(), total: z.number(), error: z.string().nullable() })
    .nullable(),
  report: z
    .object({
      id: z.number(),
      receivedAt: moment,
      accepted: z.number(),
      warned: z.number(),
      refused: z.number(),
      unanswered: z.number(),
    })
    .nullable(),
});
export type RunAnswer = z.infer<typeof runSchema>;

export const feedSchema = z.object({
  id: z.number(),
  placeId: z.number(),
  place: z.string(),
  name: z.string(),
  format: z.enum(feedFormats),
  /** Its stable, secret address. */
  address: z.string(),
  runs: z.array(runSchema),
  fetches: z.array(z.object({ at: moment, agent: z.string(), status: z.number(), runId: z.number().nullable() })),
});
export type FeedAnswer = z.infer<typeof feedSchema>;

export const feeds = {
  list: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/feeds',
    summary: 'Feeds with their latest runs',
    answer: z.object({ items: z.array(feedSchema) }),
  }),
  create: endpoint({
    role: 'publisher',
    method: 'POST',
    path: '/api/feeds',
    summary: 'A new feed for a place',
    body: z.object({ placeId: rowNumber, format: z.enum(feedFormats) }),
    answer: feedSchema,
  }),
  feed: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/feeds/:id',
    summary: 'One feed',
    params: idParam,
    answer: feedSchema,
  }),
  build: endpoint({
    role: 'publisher',
    once: true,
    method: 'POST',
    path: '/api/feeds/:id/runs',
    summary: 'Build the feed',
    params: idParam,
    answer: runSchema,
  }),
  remove: endpoint({
    role: 'publisher',
    method: 'DELETE',
    path: '/api/feeds/:id',
    summary: 'Remove a feed whose address nobody has fetched: its runs and their files go with it',
    params: idParam,
    answer: z.object({}),
  }),
  leftOut: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/runs/:id/left-out',
    summary: 'What a run left out and why, grouped by cause',
    params: idParam,
    answer: z.object({
      groups: z.array(
        z.object({
          words: z.string(),
          cause: z.string().nullable(),
          listings: z.number(),
          examples: z.array(
            z.object({ listingId: z.number(), sku: z.string().nullable(), title: z.string().nullable() }),
          ),
        }),
      ),
    }),
  }),
  release: endpoint({
    role: 'publisher',
    once: true,
    method: 'POST',
    path: '/api/runs/:id/release',
    summary: 'Let a held run, or an earlier one, be the file that is up',
    params: idParam,
    answer: runSchema,
  }),
  offer: endpoint({
    role: 'publisher',
    once: true,
    method: 'POST',
    path: '/api/feeds/:id/offer',
    summary: 'Ask the channel to fetch the address; its report comes by itself',
    params: idParam,
    answer: runSchema,
  }),
  report: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/runs/:id/report',
    summary: 'The channel’s answer, item by item',
    params: idParam,
    query: z.object({ outcome: z.enum(['accepted', 'warned', 'refused', 'unanswered']).optional() }),
    answer: z.object({
      items: z.array(
        z.object({
          itemKey: z.string(),
          listingId: z.number().nullable(),
          title: z.string().nullable(),
          outcome: z.enum(['accepted', 'warned', 'refused', 'unanswered']),
          code: z.string().nullable(),
          message: z.string().nullable(),
        }),
      ),
    }),
  }),
  file: endpoint({
    method: 'GET',
    path: '/api/runs/:id/file',
    summary: 'The file of a run',
    role: 'viewer',
    kind: 'file',
    params: idParam,
    answer: bytes,
  }),
};
