/** What sources and people say of goods, and whose word counts. */
import type { OptionPlan } from '@velvet-shelf/core/catalog';
import type { TrustPolicy } from '@velvet-shelf/core/claims';
import type { RecordContent } from '@velvet-shelf/core/intake';
import type { Value } from '@velvet-shelf/core/values';
import { bigint, boolean, index, integer, pgTable, primaryKey, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { attribute, product } from './catalog.js';
import { json, jsonb, moment, ref, rowId } from './columns.js';
import { userAccount } from './session.js';

export const trustPolicy = pgTable('trust_policy', {
  attributeId: ref('attribute_id')
    .primaryKey()
    .references(() => attribute.id),
  policy: text('policy').$type<TrustPolicy>().notNull(),
  /** Ranked: suppliers of this attribute, best first; absent = the general order. */
  ranking: bigint('ranking', { mode: 'number' }).array(),
});

export const claimEdit = pgTable(
  'claim_edit',
  {
    productId: ref('product_id')
      .notNull()
      .references(() => product.id),
    attributeId: ref('attribute_id')
      .notNull()
      .references(() => attribute.id),
    lang: text('lang').notNull().default(''),
    /** Null = empty on purpose. */
    value: jsonb('value').$type<Value>(),
    at: moment('at').notNull().defaultNow(),
    actor: ref('actor').references(() => userAccount.id),
  },
  (table) => [primaryKey({ columns: [table.productId, table.attributeId, table.lang] })],
);

/** What people say of a family's options; a family of which nothing is said has no row. */
export const familyPlan = pgTable('family_plan', {
  familyId: ref('family_id')
    .primaryKey()
    .references(() => product.id, { onDelete: 'cascade' }),
  plan: json('plan').$type<OptionPlan>().notNull(),
});

/** What people say of a variant's own value on an axis, by the name it had then. */
export const optionEdit = pgTable(
  'option_edit',
  {
    productId: ref('product_id')
      .notNull()
      .references(() => product.id, { onDelete: 'cascade' }),
    axis: text('axis').notNull(),
    /** Null = it has none, on purpose. */
    value: text('value'),
    at: moment('at').notNull().defaultNow(),
    actor: ref('actor').references(() => userAccount.id),
  },
  (table) => [primaryKey({ columns: [table.productId, table.axis] })],
);

export const record = pgTable(
  'record',
  {
    id: rowId(),
    supplierId: ref('supplier_id').notNull(),
    key: text('key').notNull(),
    /** … and as the supplier wrote it first. */
    written: text('written').notNull().default(''),
    /** Current content; null while no applied batch has one. */
    contentId: ref('content_id'),
    productId: ref('product_id'),
    familyKeyId: ref('family_key_id'),
    /** The product first made for it: restored where a joining is split again. */
    madeProductId: ref('made_product_id'),
    /** A later whole list of the supplier no longer has it. */
    dropped: boolean('dropped').notNull().default(false),
    /** The newest batch when its goods were taken away: what that one and those before it say does not count. */
    silentAfter: ref('silent_after'),
  },
  (table) => [
    uniqueIndex('record_supplier_key').on(table.supplierId, table.key),
    index('record_product').on(table.productId),
    index('record_family').on(table.familyKeyId),
  ],
);

/** Written by the dry run, so that applying need not write the same once more; it counts once a version names it. */
export const recordContent = pgTable('record_content', {
  id: rowId(),
  recordId: ref('record_id').notNull(),
  /** Print of the raw row and the way it is read: an equal one need not be read again. */
  print: text('print'),
  content: json('content').$type<RecordContent>().notNull(),
  keys: json('keys').$type<Record<string, string>>().notNull(),
  cells: json('cells').$type<string[]>().notNull(),
});

export const recordVersion = pgTable(
  'record_version',
  {
    recordId: ref('record_id').notNull(),
    batchId: ref('batch_id').notNull(),
    contentId: ref('content_id').notNull(),
    row: integer('row').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.recordId, table.batchId] }),
    index('record_version_batch').on(table.batchId),
  ],
);
