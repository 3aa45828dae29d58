import { index, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { jsonb, moment, ref, rowId } from './columns.js';
import { userAccount } from './session.js';

/** What a change may be of. */
export const subjectKinds = [
  'product',
  'record',
  'view',
  'listing',
  'place',
  'channel',
  'batch',
  'feed',
  'run',
  'trust',
  'supplier',
  'company',
  'attribute',
  'list value',
  'warehouse',
] as const;

export const action = pgTable(
  'action',
  {
    id: rowId(),
    actor: ref('actor').references(() => userAccount.id),
    kind: text('kind').notNull(),
    /** A sentence: "Mapped Planters / Indoor pots to …". */
    words: text('words').notNull(),
    at: moment('at').notNull().defaultNow(),
    undoneBy: ref('undone_by'),
  },
  (table) => [index('action_at').on(table.at)],
);

/** Partitioned by month on `at`; the migration says so. */
export const change = pgTable(
  'change',
  {
    actionId: ref('action_id').notNull(),
    subjectKind: text('subject_kind', { enum: subjectKinds }).notNull(),
    subjectId: ref('subject_id').notNull(),
    at: moment('at').notNull().defaultNow(),
    /** {field: [before, after]}; a creation stores no before. */
    delta: jsonb('delta').$type<Record<string, unknown[]>>().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.actionId, table.subjectKind, table.subjectId, table.at] }),
    index('change_subject').on(table.subjectKind, table.subjectId, table.at),
  ],
);
