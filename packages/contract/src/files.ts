/** Files that are no pictures, such as data sheets and manuals: kept by name, and handed out as they came. */
import { z } from 'zod';
import { cursorQuery, endpoint, idParam, moment, page } from './endpoint.js';

export const storedFileSchema = z.object({
  id: z.number(),
  name: z.string(),
  /** By its content (RFC 9110 media type). */
  type: z.string(),
  bytes: z.number(),
  at: moment,
  /** Goods that name it: families, variants and singles. */
  used: z.number(),
  /** One of them. */
  product: z.number().nullable(),
});
export type StoredFileAnswer = z.infer<typeof storedFileSchema>;

export const files = {
  list: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/files',
    summary: 'Files by name: all, or those nothing names',
    query: cursorQuery.extend({ search: z.string().max(200).optional(), unused: z.enum(['yes']).optional() }),
    answer: page(storedFileSchema).extend({ all: z.number(), unused: z.number() }),
  }),
  missing: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/files/missing',
    summary: 'Files that goods name and that have not come, those most goods name first',
    answer: z.object({ items: z.array(z.object({ name: z.string(), goods: z.number(), product: z.number() })) }),
  }),
  upload: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/files',
    kind: 'upload',
    summary: 'Send a file in, in a field named “file”; goods that name it have it at once',
    answer: storedFileSchema,
  }),
  fetch: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/files/fetch',
    summary: 'Fetch a file from an address',
    body: z.object({ address: z.string().trim().min(1).max(2000) }),
    answer: storedFileSchema,
  }),
  remove: endpoint({
    role: 'editor',
    method: 'DELETE',
    path: '/api/files/:id',
    summary: 'Throw a file away that nothing names',
    params: idParam,
    answer: z.object({}),
  }),
};
