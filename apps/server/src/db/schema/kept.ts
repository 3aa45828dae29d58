import type { KeptFields, View } from '@velvet-shelf/contract';
import { sql } from 'drizzle-orm';
import { bigint, boolean, index, pgTable, text } from 'drizzle-orm/pg-core';
import { jsonb, moment, ref, rowId, xid8 } from './columns.js';
import { userAccount } from './session.js';

/** One row for every statement that changed goods, listings or set-up; triggers write it. */
export const touch = pgTable(
  'touch',
  {
    id: bigint('id', { mode: 'number' }).generatedAlwaysAsIdentity().primaryKey(),
    /** It changed what the dictionary is read from. */
    dictionary: boolean('dictionary').notNull().default(false),
  },
  (table) => [
    index('touch_dictionary')
      .on(table.id)
      .where(sql`dictionary`),
  ],
);

/** Products that a statement changed, for whoever holds goods in memory; triggers write it. */
export const changedGoods = pgTable(
  'changed_goods',
  {
    id: bigint('id', { mode: 'number' }).generatedAlwaysAsIdentity().primaryKey(),
    /** The transaction, to tell what has come since a snapshot. */
    xid: xid8('xid')
      .notNull()
      .default(sql`pg_current_xact_id()`),
    /** Null: more than are worth a list. */
    products: ref('products').array(),
    at: moment('at')
      .notNull()
      .default(sql`clock_timestamp()`),
  },
  (table) => [index('changed_goods_xid').on(table.xid)],
);

/** A view of the grid as it was opened: its goods in their order, for whichever server is asked for a window of it. */
export const openedView = pgTable(
  'opened_view',
  {
    token: text('token').primaryKey(),
    view: jsonb('view').$type<View>().notNull(),
    /** Null until somebody asks for more than the first of them. */
    ids: ref('ids').array(),
    at: moment('at').notNull().defaultNow(),
  },
  (table) => [index('opened_view_at').on(table.at)],
);

/** A view of the grid that somebody keeps under a name. */
export const savedView = pgTable(
  'saved_view',
  {
    id: rowId(),
    ownerId: ref('owner_id')
      .notNull()
      .references(() => userAccount.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    /** Others see it too. */
    isShared: boolean('is_shared').notNull(),
    /** Stands as a button above the goods. */
    isToHand: boolean('is_to_hand').notNull(),
    view: jsonb('view').$type<View>().notNull(),
    columns: jsonb('columns').$type<KeptFields['columns']>(),
  },
  (table) => [index('saved_view_owner').on(table.ownerId)],
);

/** What pages count, with the state of the shelf it was counted in. */
export const keptCount = pgTable('kept_count', {
  name: text('name').primaryKey(),
  state: text('state').notNull(),
  body: jsonb('body').notNull(),
  at: moment('at').notNull().defaultNow(),
});
