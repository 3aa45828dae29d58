import { bigint, jsonb, pgTable, text } from 'drizzle-orm/pg-core';
import { moment } from './columns.js';

/** One row for every statement that changed goods, listings or set-up; triggers write it. */
export const touch = pgTable('touch', {
  id: bigint('id', { mode: 'number' }).generatedAlwaysAsIdentity().primaryKey(),
});

/** What pages count, with the state of the shelf it was counted in. */
export const keptCount = pgTable('kept_count', {
  name: text('name').primaryKey(),
  state: text('state').notNull(),
  body: jsonb('body').notNull(),
  at: moment('at').notNull().defaultNow(),
});
