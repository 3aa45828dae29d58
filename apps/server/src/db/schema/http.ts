/** What was asked with a key of its own, and what was answered. */
import { index, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { jsonb, moment, ref } from './columns.js';

/** Requests that are done once, however often they come: what was answered to a key. */
export const onceKey = pgTable(
  'once_key',
  {
    userId: ref('user_id').notNull(),
    key: text('key').notNull(),
    /** Method, address and body it was sent with, as a print. */
    request: text('request').notNull(),
    at: moment('at').notNull().defaultNow(),
    /** Null while the first of them is under way. */
    status: integer('status'),
    answer: jsonb('answer').$type<unknown>(),
  },
  (table) => [primaryKey({ columns: [table.userId, table.key] }), index('once_key_at').on(table.at)],
);
