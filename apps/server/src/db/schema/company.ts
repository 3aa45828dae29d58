/** Whose shelf this is, and who its goods come from. */
import { sql } from 'drizzle-orm';
import { type AnyPgColumn, boolean, check, date, integer, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { ref, rowId } from './columns.js';

export const supplier = pgTable('supplier', {
  id: rowId(),
  key: text('key').notNull().unique(),
  name: text('name').notNull(),
  /** Lower wins where no trust policy says otherwise. */
  rank: integer('rank').notNull(),
  kind: text('kind', { enum: ['own', 'supplier'] }).notNull(),
  /** Language of texts whose column names none. */
  language: text('language').notNull(),
  /** Currency of its amounts where its files name none (ISO 4217); null = the company's own. */
  currency: text('currency'),
  /** Not offered any more; what it told stays. */
  putAway: boolean('put_away').notNull().default(false),
  /** Its numbers for use inside a company are ours, a person says. */
  usesOurNumbers: boolean('uses_our_numbers').notNull().default(false),
  /** The supplier it was made one with, which has its files and records now. Never one that was merged itself. */
  mergedInto: ref('merged_into').references((): AnyPgColumn => supplier.id),
});

/** One row: whose shelf this is. */
export const company = pgTable(
  'company',
  {
    id: integer('id').primaryKey().default(1),
    name: text('name').notNull(),
    /** Country it sells in first (ISO 3166-1). */
    market: text('market').notNull(),
    /** Languages its texts are written in (BCP 47), its own first. */
    languages: text('languages').array().notNull(),
    /** Currencies its prices are kept in (ISO 4217), its own first. */
    currencies: text('currencies').array().notNull(),
    /** Days begin by it (IANA). */
    timeZone: text('time_zone').notNull(),
    /** Its prices are kept with VAT in them. */
    pricesWithVat: boolean('prices_with_vat').notNull().default(true),
    /** An option with more values is advised against. */
    manyValues: integer('many_values').notNull().default(20),
    /** Counts its changes: whoever changes it says which she saw. */
    version: integer('version').notNull().default(1),
  },
  (table) => [check('company_is_one', sql`${table.id} = 1`)],
);

/** What one of a currency is in another, as the company says. */
export const rate = pgTable(
  'rate',
  {
    /** ISO 4217. */
    from: text('from_currency').notNull(),
    to: text('to_currency').notNull(),
    /** In plain decimals. */
    rate: text('rate').notNull(),
    /** Who says so, and for which day. */
    source: text('source').notNull(),
    day: date('day', { mode: 'string' }).notNull(),
  },
  (table) => [primaryKey({ columns: [table.from, table.to] })],
);
