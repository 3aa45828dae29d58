import { index, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { jsonb, moment, ref, rowId } from './columns.js';
import { userAccount } from './session.js';

export const job = pgTable(
  'job',
  {
    id: rowId(),
    kind: text('kind').notNull(),
    label: text('label').notNull(),
    input: jsonb('input').notNull(),
    checkpoint: jsonb('checkpoint').$type<Record<string, unknown>>(),
    state: text('state', { enum: ['waiting', 'running', 'done', 'failed', 'cancelled'] })
      .notNull()
      .default('waiting'),
    /** Begun so often since the last checkpoint: work that ends its worker each time is given up. */
    tries: integer('tries').notNull().default(0),
    done: ref('done').notNull().default(0),
    total: ref('total').notNull().default(0),
    /** Of one that waits for something outside: when it looks again. */
    dueAt: moment('due_at'),
    cancelWish: moment('cancel_wish'),
    error: text('error'),
    actor: ref('actor').references(() => userAccount.id),
    createdAt: moment('created_at').notNull().defaultNow(),
    startedAt: moment('started_at'),
    endedAt: moment('ended_at'),
  },
  (table) => [index('job_state').on(table.state, table.id)],
);
