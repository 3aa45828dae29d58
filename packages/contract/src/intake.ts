import { batchStates, columnMapSchema, columnTargetSchema, makesSchema, scopes } from '@velvet-shelf/core/intake';
import { detectionSchema, formats, readingSchema } from '@velvet-shelf/core/tabular';
import { z } from 'zod';
import { bytes, cursorQuery, endpoint, idParam, moment, fileRow, fileRowText, page, rowNumber } from './endpoint.js';
import { optionSchema } from './catalog.js';
import { homelessSchema, makeSchema } from './makes.js';

export const batchSummarySchema = z.object({
  id: z.number(),
  supplierId: z.number(),
  /** Null where nothing tells whose goods they are, and no person has said so. */
  supplier: z.string().nullable(),
  fileName: z.string(),
  bytes: z.number(),
  /** A file dropped, our own grid's export brought back, or a pull. */
  kind: z.enum(['file', 'round-trip', 'pull', 'hand']),
  state: z.enum(batchStates),
  counts: z
    .object({
      /** New records of new goods. */
      created: z.number(),
      /** New records of goods we have. */
      joins: z.number().default(0),
      /** Of those created, the ones whose keys are those of goods we have, and that a person will be asked about. */
      asked: z.number().default(0),
      changed: z.number(),
      unchanged: z.number(),
      refused: z.number(),
      lostCells: z.number(),
      dropped: z.number().default(0),
      /** GTINs from ranges for use inside a company. */
      inHouse: z.number().default(0),
    })
    .nullable(),
  error: z.string().nullable(),
  createdAt: moment,
  appliedAt: moment.nullable(),
  applyMs: z.number().nullable(),
});
export type BatchSummary = z.infer<typeof batchSummarySchema>;

const effectSchema = z.object({
  rows: z.number(),
  of: z.number(),
  becameReady: z.number(),
  becameBlocked: z.number(),
  added: z.number(),
  removed: z.number(),
  priceChanges: z.number(),
  examples: z.array(
    z.object({
      kind: z.enum(['ready', 'blocked', 'added', 'removed', 'price']),
      place: z.string(),
      sku: z.string().nullable(),
      title: z.string().nullable(),
      before: z.string().nullable(),
      after: z.string().nullable(),
    }),
  ),
});
export type EffectAnswer = z.infer<typeof effectSchema>;

export const batchSchema = batchSummarySchema.extend({
  scope: z.enum(scopes),
  makesNew: z.boolean(),
  detected: detectionSchema,
  reading: readingSchema,
  columns: z.array(z.string()),
  suggestions: z.array(
    z.object({ column: z.string(), target: columnTargetSchema, score: z.number(), why: z.string() }),
  ),
  /** A column may stand in it several times. */
  map: columnMapSchema,
  /** What comes into the dictionary with it. */
  makes: makesSchema,
  /** Columns that nothing is made of, and the attribute each would make. */
  homeless: z.array(homelessSchema),
  /** What is wrong with the mapping, as sentences. */
  mapFaults: z.array(z.string()),
  /** Columns whose values can be translated: what each of the first rows' values becomes (null = nothing yet). */
  translations: z.array(
    z.object({
      column: z.string(),
      attribute: z.string(),
      label: z.string(),
      /** Closed list, or null where any text is taken. */
      choices: z.array(optionSchema).nullable(),
      values: z.array(
        z.object({
          value: z.string(),
          rows: z.number(),
          becomes: z.string().nullable(),
          /** What goods that both sides describe say it is. */
          learnt: z.object({ ours: z.string(), agree: z.number(), seen: z.number() }).nullable(),
        }),
      ),
    }),
  ),
  /** First rows: cells as they came, and what each entry of the map makes of them. */
  sample: z.array(
    z.object({
      row: z.number(),
      place: z.string().nullable(),
      cells: z.array(z.string()),
      becomes: z.array(
        z.object({ text: z.string(), note: z.string().nullable(), lost: z.boolean(), told: z.boolean() }),
      ),
      refused: z.array(z.string()),
    }),
  ),
  /** What applying would do to listings; null while it is being tried. */
  effect: effectSchema.nullable(),
  /** Rows picked out by hand. */
  leftOut: z.number(),
  /** What undoing it left, because a person had changed it since. */
  leftBehind: z.array(z.string()),
});
export type BatchAnswer = z.infer<typeof batchSchema>;

/** What the rows of a dry run can be picked by. */
export const rowFilters = [
  'created',
  'joins',
  'asked',
  'changed',
  'unchanged',
  'refused',
  'noted',
  'left out',
] as const;

const goods = z.object({ productId: z.number(), sku: z.string().nullable(), title: z.string().nullable() });

const fieldChange = z.object({ field: z.string(), before: z.string().nullable(), after: z.string().nullable() });

export const batchRowSchema = z.object({
  row: z.number(),
  place: z.string().nullable(),
  leftOut: z.boolean(),
  /** Cells by column, as read, for correcting them. */
  cells: z.array(z.string()),
  outcome: z.enum(['created', 'joins', 'changed', 'unchanged', 'refused']),
  key: z.string().nullable(),
  title: z.string().nullable(),
  reasons: z.array(z.string()),
  notes: z.array(
    z.object({
      column: z.string(),
      cell: z.string(),
      note: z.string(),
      lost: z.boolean(),
      /** Taken just as it is written, and yet to be looked at. */
      told: z.boolean().optional(),
    }),
  ),
  /** Of a row that joins goods, what changes of them; of others, what changes in the supplier's record. */
  changes: z.array(fieldChange),
  /** What it says and the goods do not take, because somebody better says otherwise. */
  stays: z.array(
    z.object({ field: z.string(), says: z.string(), keeps: z.string().nullable(), why: z.string(), by: z.string() }),
  ),
  /** The product it belongs to or would join. */
  joins: goods.extend({ by: z.string() }).nullable(),
  /** Goods with an identifier of its own that it does not join by itself, and what a person will be asked. */
  asks: goods.extend({ by: z.string(), against: z.array(z.string()) }).nullable(),
});
export type BatchRowAnswer = z.infer<typeof batchRowSchema>;

export const pullSchema = z.object({
  id: z.number(),
  supplierId: z.number(),
  supplier: z.string(),
  name: z.string(),
  address: z.string(),
  schedule: z.string().nullable(),
  nextAt: moment.nullable(),
  lastAt: moment.nullable(),
  lastBatchId: z.number().nullable(),
  lastError: z.string().nullable(),
  running: z.boolean(),
  /** Goods fetched by a pull that is under way or was interrupted. */
  fetched: z.number(),
});
export type PullAnswer = z.infer<typeof pullSchema>;

const pullWish = z.object({
  supplierId: rowNumber,
  name: z.string().trim().min(1).max(80),
  address: z.string().trim().max(2000),
  schedule: z.string().trim().min(1).max(100).nullable().default(null),
});

export const intake = {
  pulls: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/pulls',
    summary: 'Sources that are fetched',
    answer: z.object({ items: z.array(pullSchema) }),
  }),
  savePull: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/pulls',
    summary: 'Set up a source that is fetched, by a schedule or when asked',
    body: pullWish.extend({ id: rowNumber.optional() }),
    answer: z.object({ id: z.number() }),
  }),
  startPull: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/pulls/:id/start',
    summary: 'Pull now; goes on where an interrupted pull stopped',
    params: idParam,
    answer: z.object({ job: z.number() }),
  }),
  cancelPull: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/pulls/:id/cancel',
    summary: 'Stop a pull that is under way; what it fetched is thrown away',
    params: idParam,
    answer: z.object({ items: z.array(pullSchema) }),
  }),
  removePull: endpoint({
    role: 'editor',
    method: 'DELETE',
    path: '/api/pulls/:id',
    summary: 'Pull from a source no more; what was read in from it stays',
    params: idParam,
    answer: z.object({ items: z.array(pullSchema) }),
  }),
  fetchItem: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/intake/item',
    summary: 'One item of a channel’s own catalogue, by its identifier',
    body: z.object({ placeId: rowNumber, identifier: z.string().trim().min(1).max(100) }),
    answer: z.object({ id: z.number() }),
  }),
  batches: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/batches',
    summary: 'Batches, newest first',
    query: cursorQuery,
    answer: page(batchSummarySchema),
  }),
  batch: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/batches/:id',
    summary: 'One batch',
    params: idParam,
    answer: batchSchema,
  }),
  make: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/batches/:id/makes',
    summary:
      'Make attributes of columns, and new values of lists, with a batch: they come with applying it, and go with its undo',
    params: idParam,
    body: makeSchema,
    answer: batchSchema,
  }),
  reading: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/batches/:id/reading',
    summary: 'Correct how the file is read and what its columns are',
    params: idParam,
    body: z.object({
      supplierId: rowNumber.optional(),
      reading: readingSchema.optional(),
      /** Another format than was found out; all else is found out anew for it. */
      format: z.enum(formats).optional(),
      map: columnMapSchema.optional(),
      scope: z.enum(scopes).optional(),
      makesNew: z.boolean().optional(),
    }),
    answer: batchSchema,
  }),
  tryOut: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/batches/:id/try',
    summary: 'Dry run: what every row would do',
    params: idParam,
    answer: batchSchema,
  }),
  rows: endpoint({
    role: 'viewer',
    method: 'GET',
    path: '/api/batches/:id/rows',
    summary: 'Rows of the dry run',
    params: idParam,
    query: cursorQuery.extend({
      outcome: z.enum(rowFilters).optional(),
      search: z.string().max(200).optional(),
    }),
    answer: page(batchRowSchema),
  }),
  leaveOut: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/batches/:id/left-out',
    summary: 'Pick rows out, or take them in again; all that a filter finds where no rows are named',
    params: idParam,
    body: z.object({
      leftOut: z.boolean(),
      rows: z.array(fileRow).max(10_000).optional(),
      outcome: z.enum(rowFilters).exclude(['refused']).optional(),
      search: z.string().max(200).optional(),
    }),
    answer: z.object({ rows: z.number(), batch: batchSchema }),
  }),
  fix: endpoint({
    role: 'editor',
    method: 'PUT',
    path: '/api/batches/:id/rows/:row',
    summary: 'Correct cells of one row; it is judged again at once',
    params: idParam.extend({ row: fileRowText }),
    body: z.object({ cells: z.record(z.string(), z.string()) }),
    answer: z.object({ row: batchRowSchema, batch: batchSchema }),
  }),
  again: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/batches/:id/again',
    summary: 'Read the same file again as a new batch: what was left out comes up once more',
    params: idParam,
    answer: batchSchema,
  }),
  cancel: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/batches/:id/cancel',
    summary: 'Stop applying; what was applied already is undone',
    params: idParam,
    answer: batchSchema,
  }),
  apply: endpoint({
    role: 'editor',
    once: true,
    method: 'POST',
    path: '/api/batches/:id/apply',
    summary: 'Apply the batch as tried',
    params: idParam,
    answer: batchSchema,
  }),
  undo: endpoint({
    role: 'editor',
    method: 'POST',
    path: '/api/batches/:id/undo',
    summary: 'Undo an applied batch; what a person has changed since is left',
    params: idParam,
    answer: z.object({ batch: batchSchema, left: z.array(z.string()) }),
  }),
  discard: endpoint({
    role: 'editor',
    method: 'DELETE',
    path: '/api/batches/:id',
    summary: 'Throw a batch away that was not applied, with its file',
    params: idParam,
    answer: z.object({}),
  }),
  upload: endpoint({
    method: 'POST',
    path: '/api/batches',
    summary: 'Send a file in, in a field named “file”; a field “supplier” may say whose it is',
    role: 'editor',
    kind: 'upload',
    answer: batchSchema,
  }),
  refused: endpoint({
    method: 'GET',
    path: '/api/batches/:id/refused.csv',
    summary: 'The refused rows with the reason before the file’s own columns, as CSV',
    role: 'viewer',
    kind: 'file',
    params: idParam,
    answer: bytes,
  }),
};
