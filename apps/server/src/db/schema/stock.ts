import { sql } from 'drizzle-orm';
import { boolean, index, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { moment, ref, rowId } from './columns.js';
import { userAccount } from './session.js';

export const warehouse = pgTable('warehouse', {
  id: rowId(),
  key: text('key').notNull().unique(),
  name: text('name').notNull(),
  /** Ours, or the one a supplier's own figures stand in. */
  kind: text('kind', { enum: ['own', 'supplier'] })
    .notNull()
    .default('own'),
  supplierId: ref('supplier_id').unique(),
  /** Not offered any more. */
  putAway: boolean('put_away').notNull().default(false),
});

/** Where it is not as usual: our own warehouses serve every place, a supplier's serves none. */
export const serves = pgTable(
  'serves',
  {
    warehouseId: ref('warehouse_id')
      .notNull()
      .references(() => warehouse.id, { onDelete: 'cascade' }),
    placeId: ref('place_id').notNull(),
    serves: boolean('serves').notNull(),
  },
  (table) => [primaryKey({ columns: [table.warehouseId, table.placeId] })],
);

export const movement = pgTable(
  'movement',
  {
    id: rowId(),
    productId: ref('product_id').notNull(),
    warehouseId: ref('warehouse_id').notNull(),
    delta: integer('delta').notNull(),
    reason: text('reason').notNull(),
    /** What it is undone with. */
    actionId: ref('action_id'),
    batchId: ref('batch_id'),
    actor: ref('actor').references(() => userAccount.id),
    at: moment('at').notNull().defaultNow(),
    /** The action whose movements this one takes back. */
    reverses: ref('reverses'),
    /** The product it was joined to, to which these pieces went over; they come back when it is split off again. */
    joinedTo: ref('joined_to'),
  },
  (table) => [
    index('movement_reverses')
      .on(table.reverses)
      .where(sql`reverses IS NOT NULL`),
    index('movement_joined')
      .on(table.productId)
      .where(sql`joined_to IS NOT NULL`),
    index('movement_product').on(table.productId, table.warehouseId),
    index('movement_action').on(table.actionId),
  ],
);

export const stockLevel = pgTable(
  'stock_level',
  {
    productId: ref('product_id').notNull(),
    warehouseId: ref('warehouse_id').notNull(),
    onHand: integer('on_hand').notNull(),
    reserved: integer('reserved').notNull().default(0),
  },
  (table) => [primaryKey({ columns: [table.productId, table.warehouseId] })],
);
