import { sql } from 'drizzle-orm';
import { check, index, integer, pgTable, primaryKey, text, varchar } from 'drizzle-orm/pg-core';
import { jsonb, moment, ref, rowId } from './columns.js';

export const userAccount = pgTable('user_account', {
  id: rowId(),
  email: text('email').notNull().unique(),
  name: text('name').notNull(),
  role: text('role', { enum: ['owner', 'editor', 'publisher', 'viewer'] }).notNull(),
  passwordHash: text('password_hash').notNull(),
  /** End of the visit before this one: Today tells what changed since. */
  lastVisit: moment('last_visit'),
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

export const session = pgTable(
  'session',
  {
    tokenHash: text('token_hash').primaryKey(),
    userId: ref('user_id')
      .notNull()
      .references(() => userAccount.id, { onDelete: 'cascade' }),
    expires: moment('expires').notNull(),
    /** Last used, to within a minute; long unused it ends. */
    usedAt: moment('used_at').notNull().defaultNow(),
  },
  (table) => [index('session_user').on(table.userId)],
);

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

/** Tries to sign in, as the limiter counts them: by account and address, and by address alone. */
export const signInTry = pgTable('sign_in_try', {
  key: varchar('key', { length: 255 }).primaryKey(),
  points: integer('points').notNull().default(0),
  /** Milliseconds since 1970. */
  expire: ref('expire'),
});
