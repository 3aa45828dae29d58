/** Who may come in, and who is in. */
import { index, integer, pgTable, text, varchar } from 'drizzle-orm/pg-core';
import { moment, ref, rowId } from './columns.js';

export const userAccount = pgTable('user_account', {
  id: rowId(),
  email: text('email').notNull().unique(),
  name: text('name').notNull(),
  role: text('role', { enum: ['owner', 'editor', 'publisher', 'viewer'] }).notNull(),
  passwordHash: text('password_hash').notNull(),
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
