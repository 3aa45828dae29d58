import { index, pgTable, text } from 'drizzle-orm/pg-core';
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
  },
  (table) => [index('session_user').on(table.userId)],
);
