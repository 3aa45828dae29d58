/** Whose shelf this is, and who its goods come from. */
import { sql } from 'drizzle-orm';
import { boolean, check, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { rowId } from './columns.js';

export const supplier = pgTable('supplier', {
  id: rowId(),
  key: text('key').notNull().unique(),
  name: text('name').notNull(),
  /** Lower wins where no trust policy says otherwise. */
  rank: integer('rank').notNull(),
  kind: text('kind', { enum: ['own', 'supplier'] }).notNull(),
  /** Language of texts whose column names none. */
  language: text('language').notNull(),
  /** Its numbers for use inside a company are ours, a person says. */
  usesOurNumbers: boolean('uses_our_numbers').notNull().default(false),
});

/** One row: whose shelf this is. */
export const company = pgTable(
  'company',
  {
    id: integer('id').primaryKey().default(1),
    name: text('name').notNull(),
    /** Languages its texts are written in (BCP 47), its own first. */
    languages: text('languages').array().notNull(),
    /** Currencies its prices are kept in (ISO 4217), its own first. */
    currencies: text('currencies').array().notNull(),
    /** Days begin by it (IANA). */
    timeZone: text('time_zone').notNull(),
  },
  (table) => [check('company_is_one', sql`${table.id} = 1`)],
);
