import type { FeedFormat, GuardLimits, RunDifference } from '@velvet-shelf/core/feeds';
import { sql } from 'drizzle-orm';
import { bigserial, index, integer, pgTable, primaryKey, text, uniqueIndex } from 'drizzle-orm/pg-core';
import { place } from './channels.js';
import { jsonb, moment, ref, rowId } from './columns.js';

export const feed = pgTable('feed', {
  id: rowId(),
  placeId: ref('place_id')
    .notNull()
    .references(() => place.id),
  name: text('name').notNull(),
  format: text('format').$type<FeedFormat>().notNull(),
  /** The unguessable part of its address. */
  secret: text('secret').notNull().unique(),
  guard: jsonb('guard').$type<GuardLimits>().notNull(),
  /** The run whose file is up. */
  upRunId: ref('up_run_id'),
});

export interface RunCounts {
  selected: number;
  sent: number;
  leftOut: number;
}

export const run = pgTable(
  'run',
  {
    id: rowId(),
    feedId: ref('feed_id')
      .notNull()
      .references(() => feed.id),
    state: text('state', { enum: ['running', 'done', 'held', 'failed', 'cancelled'] }).notNull(),
    heldWhy: text('held_why'),
    error: text('error'),
    counts: jsonb('counts').$type<RunCounts>(),
    difference: jsonb('difference').$type<RunDifference>(),
    path: text('path'),
    bytes: ref('bytes'),
    gzipBytes: ref('gzip_bytes'),
    etag: text('etag'),
    jobId: ref('job_id'),
    rulebookVersion: text('rulebook_version'),
    startedAt: moment('started_at').notNull().defaultNow(),
    endedAt: moment('ended_at'),
  },
  (table) => [
    index('run_feed').on(table.feedId, table.id),
    uniqueIndex('run_one_at_once')
      .on(table.feedId)
      .where(sql`state = 'running'`),
  ],
);

export const runItem = pgTable(
  'run_item',
  {
    runId: ref('run_id')
      .notNull()
      .references(() => run.id, { onDelete: 'cascade' }),
    listingId: ref('listing_id').notNull(),
    itemKey: text('item_key').notNull(),
    rowHash: text('row_hash').notNull(),
    /** Bytes from the start of the file. */
    offset: ref('offset').notNull(),
    length: integer('length').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.runId, table.listingId] }),
    index('run_item_key').on(table.runId, table.itemKey),
  ],
);

export const runLeftOut = pgTable(
  'run_left_out',
  {
    runId: ref('run_id')
      .notNull()
      .references(() => run.id, { onDelete: 'cascade' }),
    listingId: ref('listing_id').notNull(),
    reason: text('reason', { enum: ['blocked', 'not for this channel'] }).notNull(),
    causeSetId: ref('cause_set_id'),
    words: text('words'),
  },
  (table) => [primaryKey({ columns: [table.runId, table.listingId] })],
);

export const feedFetch = pgTable(
  'feed_fetch',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    feedId: ref('feed_id').notNull(),
    runId: ref('run_id'),
    at: moment('at').notNull().defaultNow(),
    agent: text('agent').notNull(),
    status: integer('status').notNull(),
  },
  (table) => [index('feed_fetch_feed').on(table.feedId, table.id)],
);

export interface ReportCounts {
  accepted: number;
  warned: number;
  refused: number;
  unanswered: number;
}

export const report = pgTable(
  'report',
  {
    id: rowId(),
    runId: ref('run_id')
      .notNull()
      .references(() => run.id),
    /** The channel's own number of it. */
    externalId: text('external_id').notNull(),
    receivedAt: moment('received_at').notNull().defaultNow(),
    counts: jsonb('counts').$type<ReportCounts>().notNull(),
  },
  (table) => [index('report_run').on(table.runId)],
);

export const reportItem = pgTable(
  'report_item',
  {
    reportId: ref('report_id')
      .notNull()
      .references(() => report.id, { onDelete: 'cascade' }),
    itemKey: text('item_key').notNull(),
    listingId: ref('listing_id'),
    outcome: text('outcome', { enum: ['accepted', 'warned', 'refused', 'unanswered'] }).notNull(),
    code: text('code'),
    /** In the channel's words. */
    message: text('message'),
  },
  (table) => [primaryKey({ columns: [table.reportId, table.itemKey] })],
);
