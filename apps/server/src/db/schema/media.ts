/** Pictures and files. */
import { integer, pgTable, text } from 'drizzle-orm/pg-core';
import { rowId } from './columns.js';

export const media = pgTable('media', {
  id: rowId(),
  name: text('name').notNull().unique(),
  format: text('format').notNull(),
  bytes: integer('bytes').notNull(),
  width: integer('width').notNull(),
  height: integer('height').notNull(),
});
