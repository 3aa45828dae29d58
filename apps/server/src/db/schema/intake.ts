import { index, integer, jsonb, pgTable, primaryKey, text, unique, uniqueIndex } from 'drizzle-orm/pg-core';
import type { CellNote, ColumnMap, RecordContent, Suggestion } from '@velvet-shelf/core/intake';
import type { Detection } from '@velvet-shelf/core/tabular';
import { moment, ref, rowId } from './columns.js';
import { product } from './catalog.js';
import { action } from './history.js';

export const supplier = pgTable('supplier', {
  id: rowId(),
  key: text('key').notNull().unique(),
  name: text('name').notNull(),
  /** Lower wins where no trust policy says otherwise. */
  rank: integer('rank').notNull(),
  kind: text('kind', { enum: ['own', 'supplier'] }).notNull(),
  /** Language of texts whose column names none. */
  language: text('language').notNull().default('en-GB'),
});

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

export const batchStates = ['read', 'tried', 'applying', 'applied', 'undone', 'failed'] as const;

export interface BatchCounts {
  created: number;
  changed: number;
  unchanged: number;
  refused: number;
  /** Cells that gave no value. */
  lostCells: number;
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
  state: text('state', { enum: batchStates }).notNull(),
  counts: jsonb('counts').$type<BatchCounts>(),
  error: text('error'),
  createdAt: moment('created_at').notNull().defaultNow(),
  appliedAt: moment('applied_at'),
  /** Milliseconds the apply took. */
  applyMs: integer('apply_ms'),
  actionId: ref('action_id').references(() => action.id),
});

export interface Reading {
  encoding: string;
  delimiter: string;
  headerRow: number;
  decimal: '.' | ',';
  dateOrder: 'dmy' | 'mdy' | 'ymd';
}

export const batchRow = pgTable(
  'batch_row',
  {
    batchId: ref('batch_id')
      .notNull()
      .references(() => batch.id, { onDelete: 'cascade' }),
    /** Row of the file, counted from 1 with the header. */
    row: integer('row').notNull(),
    outcome: text('outcome', { enum: ['created', 'changed', 'unchanged', 'refused'] }).notNull(),
    /** Article number as written. */
    key: text('key'),
    /** … and as records are found by it. */
    recordKey: text('record_key'),
    reasons: jsonb('reasons').$type<string[]>(),
    notes: jsonb('notes').$type<CellNote[]>(),
    cells: jsonb('cells').$type<string[]>().notNull(),
    content: jsonb('content').$type<RecordContent>(),
    hash: text('hash'),
    keys: jsonb('keys').$type<Record<string, string>>(),
    /** The content it would replace. */
    beforeId: ref('before_id'),
  },
  (table) => [
    primaryKey({ columns: [table.batchId, table.row] }),
    index('batch_row_outcome').on(table.batchId, table.outcome, table.row),
  ],
);

export const record = pgTable(
  'record',
  {
    id: rowId(),
    supplierId: ref('supplier_id')
      .notNull()
      .references(() => supplier.id),
    key: text('key').notNull(),
    /** Current content; null while no applied batch has one. */
    contentId: ref('content_id'),
    productId: ref('product_id').references(() => product.id),
    familyKeyId: ref('family_key_id'),
    /** The product first made for it: restored where a joining is split again. */
    madeProductId: ref('made_product_id'),
  },
  (table) => [
    uniqueIndex('record_supplier_key').on(table.supplierId, table.key),
    index('record_product').on(table.productId),
    index('record_family').on(table.familyKeyId),
  ],
);

export const recordContent = pgTable(
  'record_content',
  {
    id: rowId(),
    recordId: ref('record_id')
      .notNull()
      .references(() => record.id),
    hash: text('hash').notNull(),
    content: jsonb('content').$type<RecordContent>().notNull(),
    keys: jsonb('keys').$type<Record<string, string>>().notNull(),
    cells: jsonb('cells').$type<string[]>().notNull(),
  },
  (table) => [unique('record_content_hash').on(table.recordId, table.hash)],
);

export const recordVersion = pgTable(
  'record_version',
  {
    recordId: ref('record_id')
      .notNull()
      .references(() => record.id),
    batchId: ref('batch_id')
      .notNull()
      .references(() => batch.id),
    contentId: ref('content_id')
      .notNull()
      .references(() => recordContent.id),
    row: integer('row').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.recordId, table.batchId] }),
    index('record_version_batch').on(table.batchId),
  ],
);

export const recordKey = pgTable(
  'record_key',
  {
    kind: text('kind', { enum: ['gtin', 'mpn', 'number'] }).notNull(),
    key: text('key').notNull(),
    recordId: ref('record_id')
      .notNull()
      .references(() => record.id),
  },
  (table) => [
    primaryKey({ columns: [table.kind, table.key, table.recordId] }),
    index('record_key_record').on(table.recordId),
  ],
);

export const familyKey = pgTable(
  'family_key',
  {
    id: rowId(),
    supplierId: ref('supplier_id')
      .notNull()
      .references(() => supplier.id),
    key: text('key').notNull(),
    productId: ref('product_id').references(() => product.id),
  },
  (table) => [
    unique('family_key_key').on(table.supplierId, table.key),
    index('family_key_product').on(table.productId),
  ],
);

export const joinProposal = pgTable(
  'join_proposal',
  {
    kind: text('kind', { enum: ['gtin', 'mpn', 'number'] }).notNull(),
    key: text('key').notNull(),
    records: jsonb('records').$type<number[]>().notNull(),
    reason: text('reason').notNull(),
  },
  (table) => [primaryKey({ columns: [table.kind, table.key] })],
);
