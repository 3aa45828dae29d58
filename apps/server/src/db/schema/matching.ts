/** What joins records to goods, and what only looks as if it did. */
import type { Evidence } from '@velvet-shelf/core/matching';
import { boolean, index, integer, pgTable, primaryKey, text, unique } from 'drizzle-orm/pg-core';
import { product } from './catalog.js';
import { record } from './claims.js';
import { jsonb, ref, rowId } from './columns.js';
import { supplier } from './company.js';

export const recordKey = pgTable(
  'record_key',
  {
    kind: text('kind', { enum: ['gtin', 'mpn', 'number'] }).notNull(),
    key: text('key').notNull(),
    recordId: ref('record_id').notNull(),
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
    /** Absent: a person made it. */
    supplierId: ref('supplier_id').references(() => supplier.id),
    key: text('key').notNull(),
    productId: ref('product_id').references(() => product.id),
    /** Broken up by a person: whatever has this key stands alone. */
    parted: boolean('parted').notNull().default(false),
  },
  (table) => [
    unique('family_key_key').on(table.supplierId, table.key),
    index('family_key_product').on(table.productId),
  ],
);

/** What a person says of the family of a product, whatever its sources say. */
export const placement = pgTable(
  'placement',
  {
    productId: ref('product_id')
      .primaryKey()
      .references(() => product.id, { onDelete: 'cascade' }),
    /** Null: it stands alone. */
    familyKeyId: ref('family_key_id').references(() => familyKey.id),
  },
  (table) => [index('placement_family_key').on(table.familyKeyId)],
);

export const joinProposal = pgTable(
  'join_proposal',
  {
    kind: text('kind', { enum: ['gtin', 'mpn', 'number'] }).notNull(),
    key: text('key').notNull(),
    records: jsonb('records').$type<number[]>().notNull(),
    reason: text('reason').notNull(),
    /** What speaks against it, in words. */
    against: jsonb('against').$type<string[]>().notNull().default([]),
  },
  (table) => [primaryKey({ columns: [table.kind, table.key] })],
);

/** Joined goods that would not be joined like this any more: the groups of records they would fall into. */
export const joinDoubt = pgTable('join_doubt', {
  productId: ref('product_id')
    .primaryKey()
    .references(() => product.id, { onDelete: 'cascade' }),
  parts: jsonb('parts').$type<number[][]>().notNull(),
  /** What speaks against it, in words. */
  against: jsonb('against').$type<string[]>().notNull(),
});

/** What people decided of two records, `a` < `b`: the newest stands above every key; undone, the one before it counts again. */
export const joinDecision = pgTable(
  'join_decision',
  {
    a: ref('a')
      .notNull()
      .references(() => record.id),
    b: ref('b')
      .notNull()
      .references(() => record.id),
    verdict: text('verdict', { enum: ['same', 'different'] }).notNull(),
    actionId: ref('action_id').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.a, table.b, table.actionId] }),
    index('join_decision_b').on(table.b),
    index('join_decision_action').on(table.actionId),
  ],
);

/** Two products that look like the same goods, `a` < `b`, and wait for a person. */
export const matchPair = pgTable(
  'match_pair',
  {
    a: ref('a')
      .notNull()
      .references(() => product.id, { onDelete: 'cascade' }),
    b: ref('b')
      .notNull()
      .references(() => product.id, { onDelete: 'cascade' }),
    /** 0–100. */
    score: integer('score').notNull(),
    evidence: jsonb('evidence').$type<Evidence[]>().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.a, table.b] }),
    index('match_pair_b').on(table.b),
    index('match_pair_score').on(table.score),
  ],
);
