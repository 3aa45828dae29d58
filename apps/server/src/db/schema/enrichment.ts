/** What reading the texts of many goods has found: values they say, and what is wrong with them. */
import { boolean, index, pgTable, primaryKey, real, text, unique } from 'drizzle-orm/pg-core';
import { attribute, product } from './catalog.js';
import { jsonb, moment, ref, rowId } from './columns.js';

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

/** What proofreading says of a text; of spelling, one a word. */
export const textFault = pgTable(
  'text_fault',
  {
    id: rowId(),
    productId: ref('product_id')
      .notNull()
      .references(() => product.id, { onDelete: 'cascade' }),
    attributeId: ref('attribute_id')
      .notNull()
      .references(() => attribute.id, { onDelete: 'cascade' }),
    /** BCP 47, as the text is kept under. */
    language: text('language').notNull(),
    fault: text('fault', { enum: ['spelling', 'language', 'repeated', 'hard'] }).notNull(),
    /** As the text has it; empty where it is not about one. */
    word: text('word').notNull().default(''),
    before: text('before').notNull().default(''),
    /** The word, the sentence, or how the text begins. */
    words: text('words').notNull(),
    after: text('after').notNull().default(''),
    details: jsonb('details').$type<Record<string, unknown>>().notNull(),
    /** Of the text: what was left stays left as long as it says the same. */
    hash: text('hash').notNull(),
    left: boolean('left').notNull().default(false),
  },
  (table) => [
    unique('text_fault_place').on(table.productId, table.attributeId, table.language, table.fault, table.word),
    index('text_fault_open').on(table.fault, table.id),
    index('text_fault_word').on(table.language, table.word),
  ],
);

/** Words that a company says are right, folded, by language. */
export const knownWord = pgTable(
  'known_word',
  { language: text('language').notNull(), word: text('word').notNull(), at: moment('at').notNull().defaultNow() },
  (table) => [primaryKey({ columns: [table.language, table.word] })],
);
