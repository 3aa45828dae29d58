/** Who may come in, and who is in. */
import { sql } from 'drizzle-orm';
import { boolean, check, index, integer, pgTable, text, varchar } from 'drizzle-orm/pg-core';
import { moment, ref, rowId } from './columns.js';

export const userAccount = pgTable('user_account', {
  id: rowId(),
  email: text('email').notNull().unique(),
  name: text('name').notNull(),
  role: text('role', { enum: ['owner', 'editor', 'publisher', 'viewer'] }).notNull(),
  passwordHash: text('password_hash').notNull(),
  /** May not come in any more; what she did keeps her name. */
  gone: boolean('gone').notNull().default(false),
  /** End of the visit before this one: Today tells what changed since. */
  lastVisit: moment('last_visit'),
});

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

/** Tries to sign in, as the limiter counts them: by account and address, and by address alone. */
export const signInTry = pgTable('sign_in_try', {
  key: varchar('key', { length: 255 }).primaryKey(),
  points: integer('points').notNull().default(0),
  /** Milliseconds since 1970. */
  expire: ref('expire'),
});

/** One row as long as nobody owns the shelf: the code by which the first visitor makes the owner's account. */
export const ownerCode = pgTable(
  'owner_code',
  {
    id: integer('id').primaryKey().default(1),
    hash: text('hash').notNull(),
    /** Codes tried in vain since it was made. */
    wrong: integer('wrong').notNull().default(0),
    madeAt: moment('made_at').notNull().defaultNow(),
  },
  (table) => [check('owner_code_is_one', sql`${table.id} = 1`)],
);

/** Links by which people come in: for one address and role, until a day. */
export const invite = pgTable('invite', {
  id: rowId(),
  email: text('email').notNull().unique(),
  role: text('role', { enum: ['owner', 'editor', 'publisher', 'viewer'] }).notNull(),
  tokenHash: text('token_hash').notNull().unique(),
  expires: moment('expires').notNull(),
  madeBy: ref('made_by')
    .notNull()
    .references(() => userAccount.id),
});
