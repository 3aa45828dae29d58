import type { Cause } from '@velvet-shelf/core/listings';
import { bigint, pgTable, text } from 'drizzle-orm/pg-core';
import { rowId } from './columns.js';

export const cause = pgTable('cause', {
  id: rowId(),
  key: text('key').notNull().unique(),
  kind: text('kind').$type<Cause['kind']>().notNull(),
});

export const causeSet = pgTable('cause_set', {
  id: rowId(),
  /** Sorted ids of causes. */
  causes: bigint('causes', { mode: 'number' }).array().notNull().unique(),
});
