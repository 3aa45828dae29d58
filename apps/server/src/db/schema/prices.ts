import { date, numeric, pgTable, text, unique } from 'drizzle-orm/pg-core';
import { ref } from './columns.js';

export const price = pgTable(
  'price',
  {
    productId: ref('product_id').notNull(),
    currency: text('currency').notNull(),
    kind: text('kind', { enum: ['regular', 'sale'] }).notNull(),
    amount: numeric('amount', { precision: 14, scale: 4 }).notNull(),
    validFrom: date('valid_from', { mode: 'string' }),
    validTo: date('valid_to', { mode: 'string' }),
  },
  (table) => [unique('price_slot').on(table.productId, table.currency, table.kind)],
);
