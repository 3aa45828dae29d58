import {
  type CellNote,
  type ColumnMap,
  type Makes,
  type Suggestion,
  batchStates,
  scopes,
} from '@velvet-shelf/core/intake';
import type { JoinLevel, UnjoinedReason } from '@velvet-shelf/core/matching';
import type { Detection, FileRow, Reading } from '@velvet-shelf/core/tabular';
import { sql } from 'drizzle-orm';
import { boolean, index, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { json, jsonb, moment, ref, rowId } from './columns.js';
import { supplier } from './company.js';
import { action } from './history.js';

export const columnMap = pgTable(
  'column_map',
  {
    supplierId: ref('supplier_id')
      .notNull()
      .references(() => supplier.id),
    signature: text('signature').notNull(),
    map: jsonb('map').$type<ColumnMap>().notNull(),
    at: moment('at').notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.supplierId, table.signature] })],
);

/** Where a batch comes from: a file dropped, our own grid's export brought back, a pull, or goods made by hand. */
export const batchKinds = ['file', 'round-trip', 'pull', 'hand'] as const;
/** What is known before a file is looked at: that it is our own export is found in it. */
export type GivenKind = Exclude<(typeof batchKinds)[number], 'round-trip'>;

export interface BatchCounts {
  /** New records of new goods. */
  created: number;
  changed: number;
  unchanged: number;
  refused: number;
  /** Cells that gave no value. */
  lostCells: number;
  /** GTINs from ranges for use inside a company. */
  inHouse?: number | undefined;
  /** Goods of the supplier that the file no longer lists. */
  dropped: number;
  /** New records of goods we have; older batches do not tell them from those created. */
  joins?: number | undefined;
  /** Of those created, the ones a person will be asked about. */
  asked?: number | undefined;
}

export const batch = pgTable('batch', {
  id: rowId(),
  supplierId: ref('supplier_id')
    .notNull()
    .references(() => supplier.id),
  fileName: text('file_name').notNull(),
  bytes: ref('bytes').notNull(),
  sha256: text('sha256').notNull(),
  path: text('path').notNull(),
  detected: jsonb('detected').$type<Detection>().notNull(),
  /** What the person corrected of it: the values in force. */
  reading: jsonb('reading').$type<Reading>().notNull(),
  columns: jsonb('columns').$type<string[]>().notNull(),
  suggestions: jsonb('suggestions').$type<Suggestion[]>().notNull(),
  map: jsonb('map').$type<ColumnMap>().notNull(),
  /** Attributes and list values that come into the dictionary with it. */
  makes: jsonb('makes').$type<Makes>().notNull().default({ attributes: [], values: [] }),
  state: text('state', { enum: batchStates }).notNull(),
  scope: text('scope', { enum: scopes }).notNull().default('whole'),
  kind: text('kind', { enum: batchKinds }).notNull().default('file'),
  /** Round trip: rows without a product of ours make new ones. */
  makesNew: boolean('makes_new').notNull().default(false),
  counts: jsonb('counts').$type<BatchCounts>(),
  effect: jsonb('effect').$type<BatchEffect>(),
  error: text('error'),
  createdAt: moment('created_at').notNull().defaultNow(),
  appliedAt: moment('applied_at'),
  /** What undoing left, because a person had changed it since. */
  leftBehind: jsonb('left_behind').$type<string[]>(),
  /** Milliseconds the apply took. */
  applyMs: integer('apply_ms'),
  actionId: ref('action_id').references(() => action.id),
});

/** The first rows below the header as the reading in force gives them: what suggestions and the preview go by. */
export const batchHead = pgTable('batch_head', {
  batchId: ref('batch_id')
    .primaryKey()
    .references(() => batch.id, { onDelete: 'cascade' }),
  rows: json('rows').$type<FileRow[]>().notNull(),
  /** The first of them, for the preview alone. */
  preview: json('preview').$type<FileRow[]>().default([]).notNull(),
});

/** What applying would do to listings: found by applying inside a transaction that is rolled back. */
export interface BatchEffect {
  /** Rows it was tried on, of how many. */
  rows: number;
  of: number;
  becameReady: number;
  becameBlocked: number;
  added: number;
  removed: number;
  priceChanges: number;
  /** The first of each kind. */
  examples: EffectExample[];
}

export interface EffectExample {
  kind: 'ready' | 'blocked' | 'added' | 'removed' | 'price';
  place: string;
  sku: string | null;
  title: string | null;
  before: string | null;
  after: string | null;
}

/** One cell of our own export that came back another: null = empty on purpose. */
export interface RowEdit {
  attribute: string;
  language: string | null;
  before: string | null;
  after: string | null;
}

/** Goods that a row's new record would join; with `unless`, those a person would be asked about, and why. */
export interface RowMeeting {
  product: number;
  /** The identifier they share; null where a person joined them. */
  by: JoinLevel | null;
  unless?: { reason: UnjoinedReason; against: string[] };
}

export const batchRow = pgTable(
  'batch_row',
  {
    batchId: ref('batch_id').notNull(),
    /** Running number in the file; of delimited text the row, counted from 1 with the header. */
    row: integer('row').notNull(),
    /** Where it stands, where that is no row of a delimited text: "Lamps, row 12". */
    place: text('place'),
    /** Picked out by a person: not applied. */
    leftOut: boolean('left_out').notNull().default(false),
    outcome: text('outcome', { enum: ['created', 'changed', 'unchanged', 'refused'] }).notNull(),
    /** Article number as written. */
    key: text('key'),
    /** … and as records are found by it. */
    recordKey: text('record_key'),
    reasons: jsonb('reasons').$type<string[]>(),
    notes: jsonb('notes').$type<CellNote[]>(),
    /** Of refused rows and of our own export; those of other rows stand with their content. */
    cells: jsonb('cells').$type<string[]>(),
    /** What a row that is news would have the record say; unchanged rows have their record's. */
    contentId: ref('content_id'),
    /** Round trip: the product, and the edits the row amounts to. */
    productId: ref('product_id'),
    edits: jsonb('edits').$type<RowEdit[]>(),
    /** The record it belongs to, or that it would make, and the content it would replace. */
    recordId: ref('record_id'),
    beforeId: ref('before_id'),
    /** Of a row that makes a record: the goods we have that it is about. */
    meets: jsonb('meets').$type<RowMeeting>(),
  },
  (table) => [
    primaryKey({ columns: [table.batchId, table.row] }),
    index('batch_row_outcome').on(table.batchId, table.outcome, table.row),
    index('batch_row_left_out')
      .on(table.batchId)
      .where(sql`left_out`),
  ],
);

/** Cells of a row corrected by a person after the file came; they stand before those of the file. */
export const batchFix = pgTable(
  'batch_fix',
  {
    batchId: ref('batch_id')
      .notNull()
      .references(() => batch.id, { onDelete: 'cascade' }),
    row: integer('row').notNull(),
    cells: jsonb('cells').$type<Record<string, string>>().notNull(),
  },
  (table) => [primaryKey({ columns: [table.batchId, table.row] })],
);

/** A source that is read by itself: a shop's catalogue through its API. */
export const pull = pgTable('pull', {
  id: rowId(),
  supplierId: ref('supplier_id')
    .notNull()
    .references(() => supplier.id),
  name: text('name').notNull(),
  address: text('address').notNull(),
  /** Cron expression (five fields, UTC); null = only when asked. */
  schedule: text('schedule'),
  nextAt: moment('next_at'),
  /** Where an interrupted pull goes on: the source's cursor and the file so far. */
  progress: jsonb('progress').$type<{ cursor: string; path: string; items: number; bytes: number }>(),
  lastAt: moment('last_at'),
  lastBatchId: ref('last_batch_id'),
  lastError: text('last_error'),
  /** Who set it up; what it applies by itself is done in this name. */
  actor: ref('actor').notNull(),
});
