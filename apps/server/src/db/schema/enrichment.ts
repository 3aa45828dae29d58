/** Values that texts of goods say, found over many goods at once. */
import { boolean, index, pgTable, real, text, unique } from 'drizzle-orm/pg-core';
import { attribute, product } from './catalog.js';
import { moment, ref, rowId } from './columns.js';

/** One a product and attribute, the likeliest; a person takes it or turns it down. */
export const foundValue = pgTable(
  'found_value',
  {
    id: rowId(),
    productId: ref('product_id')
      .notNull()
      .references(() => product.id, { onDelete: 'cascade' }),
    attributeId: ref('attribute_id')
      .notNull()
      .references(() => attribute.id, { onDelete: 'cascade' }),
    /** As one would type it, and what the product had instead; null = nothing. */
    value: text('value').notNull(),
    held: text('held'),
    /** A probability. */
    score: real('score').notNull(),
    language: text('language').notNull(),
    part: text('part', { enum: ['title', 'description'] }).notNull(),
    /** Words it came from, with what stands around them. */
    before: text('before').notNull(),
    words: text('words').notNull(),
    after: text('after').notNull(),
    /** Somebody has said that it is not so: not asked again as long as the texts say the same. */
    declined: boolean('declined').notNull().default(false),
    foundAt: moment('found_at').notNull().defaultNow(),
  },
  (table) => [
    unique('found_value_product').on(table.productId, table.attributeId),
    index('found_value_open').on(table.attributeId, table.score),
  ],
);
