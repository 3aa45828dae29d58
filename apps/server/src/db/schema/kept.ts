import type { View } from '@velvet-shelf/contract';
import { bigint, index, pgTable, text } from 'drizzle-orm/pg-core';
import { jsonb, moment, ref } from './columns.js';

/** One row for every statement that changed goods, listings or set-up; triggers write it. */
export const touch = pgTable('touch', {
  id: bigint('id', { mode: 'number' }).generatedAlwaysAsIdentity().primaryKey(),
});

/** A view of the grid as it was opened: its goods in their order, for whichever server is asked for a window of it. */
export const openedView = pgTable(
  'opened_view',
  {
    token: text('token').primaryKey(),
    view: jsonb('view').$type<View>().notNull(),
    ids: ref('ids').array().notNull(),
    at: moment('at').notNull().defaultNow(),
  },
  (table) => [index('opened_view_at').on(table.at)],
);

/** What pages count, with the state of the shelf it was counted in. */
export const keptCount = pgTable('kept_count', {
  name: text('name').primaryKey(),
  state: text('state').notNull(),
  body: jsonb('body').notNull(),
  at: moment('at').notNull().defaultNow(),
});
