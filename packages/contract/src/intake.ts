import { columnMapSchema, columnTargetSchema } from '@velvet-shelf/core/intake';
import { z } from 'zod';
import { cursorQuery, endpoint, idParam, moment, page } from './endpoint.js';

const detected = <T extends z.ZodType>(value: T) => z.object({ value, why: z.string() });

export const readingSchema = z.object({
  encoding: z.enum(['utf-8', 'utf-16le', 'utf-16be', 'windows-1252']),
  delimiter: z.enum([';', '\t', ',', '|']),
  headerRow: z.number().int().min(1).max(100),
  decimal: z.enum(['.', ',']),
  dateOrder: z.enum(['dmy', 'mdy', 'ymd']),
});

export const supplierSchema = z.object({
  id: z.number(),
  key: z.string(),
  name: z.string(),
  rank: z.number(),
  kind: z.enum(['own', 'supplier']),
  records: z.number(),
});
export type SupplierAnswer = z.infer<typeof supplierSchema>;

export const batchSummarySchema = z.object({
  id: z.number(),
  supplierId: z.number(),
  supplier: z.string(),
  fileName: z.string(),
  bytes: z.number(),
  state: z.enum(['read', 'tried', 'applying', 'applied', 'undone', 'failed']),
  counts: z
    .object({
      created: z.number(),
      changed: z.number(),
      unchanged: z.number(),
      refused: z.number(),
      lostCells: z.number(),
    })
    .nullable(),
  error: z.string().nullable(),
  createdAt: moment,
  appliedAt: moment.nullable(),
  applyMs: z.number().nullable(),
});
export type BatchSummary = z.infer<typeof batchSummarySchema>;

export const batchSchema = batchSummarySchema.extend({
  detected: z.object({
    encoding: detected(z.string()),
    delimiter: detected(z.string()),
    headerRow: detected(z.number()),
    decimal: detected(z.string()),
    dateOrder: detected(z.string()),
  }),
  reading: readingSchema,
  columns: z.array(z.string()),
  suggestions: z.array(
    z.object({ column: z.string(), target: columnTargetSchema, score: z.number(), why: z.string() }),
  ),
  map: columnMapSchema,
  /** What is wrong with the mapping, as sentences. */
  mapFaults: z.array(z.string()),
  /** Columns that fill a closed list: their values in the first rows, and what each becomes (null = nothing yet). */
  closedLists: z.array(
    z.object({
      column: z.string(),
      choices: z.array(z.string()),
      values: z.array(z.object({ value: z.string(), rows: z.number(), becomes: z.string().nullable() })),
    }),
  ),
  /** First rows: cells as they came, and what they become by column ("text", or a note). */
  sample: z.array(
    z.object({
      row: z.number(),
      cells: z.array(z.string()),
      becomes: z.array(z.object({ text: z.string(), note: z.string().nullable(), lost: z.boolean() })),
      refused: z.array(z.string()),
    }),
  ),
});
export type BatchAnswer = z.infer<typeof batchSchema>;

const fieldChange = z.object({ field: z.string(), before: z.string().nullable(), after: z.string().nullable() });

export const batchRowSchema = z.object({
  row: z.number(),
  outcome: z.enum(['created', 'changed', 'unchanged', 'refused']),
  key: z.string().nullable(),
  title: z.string().nullable(),
  reasons: z.array(z.string()),
  notes: z.array(z.object({ column: z.string(), cell: z.string(), note: z.string(), lost: z.boolean() })),
  changes: z.array(fieldChange),
  /** The product it belongs to or would join. */
  joins: z
    .object({ productId: z.number(), sku: z.string().nullable(), title: z.string().nullable(), by: z.string() })
    .nullable(),
});
export type BatchRowAnswer = z.infer<typeof batchRowSchema>;

export const intake = {
  suppliers: endpoint({
    method: 'GET',
    path: '/api/suppliers',
    summary: 'Suppliers, best ranked first',
    answer: z.object({ items: z.array(supplierSchema) }),
  }),
  batches: endpoint({
    method: 'GET',
    path: '/api/batches',
    summary: 'Batches, newest first',
    query: cursorQuery,
    answer: page(batchSummarySchema),
  }),
  batch: endpoint({
    method: 'GET',
    path: '/api/batches/:id',
    summary: 'One batch',
    params: idParam,
    answer: batchSchema,
  }),
  reading: endpoint({
    method: 'PUT',
    path: '/api/batches/:id/reading',
    summary: 'Correct how the file is read and what its columns are',
    params: idParam,
    body: z.object({
      supplierId: z.number().optional(),
      reading: readingSchema.optional(),
      map: columnMapSchema.optional(),
    }),
    answer: batchSchema,
  }),
  tryOut: endpoint({
    method: 'POST',
    path: '/api/batches/:id/try',
    summary: 'Dry run: what every row would do',
    params: idParam,
    answer: batchSchema,
  }),
  rows: endpoint({
    method: 'GET',
    path: '/api/batches/:id/rows',
    summary: 'Rows of the dry run',
    params: idParam,
    query: cursorQuery.extend({
      outcome: z.enum(['created', 'changed', 'unchanged', 'refused', 'noted']).optional(),
      search: z.string().optional(),
    }),
    answer: page(batchRowSchema),
  }),
  apply: endpoint({
    method: 'POST',
    path: '/api/batches/:id/apply',
    summary: 'Apply the batch as tried',
    params: idParam,
    answer: batchSchema,
  }),
  undo: endpoint({
    method: 'POST',
    path: '/api/batches/:id/undo',
    summary: 'Undo an applied batch; what a person has changed since is left',
    params: idParam,
    answer: z.object({ batch: batchSchema, left: z.array(z.string()) }),
  }),
};
