import type { Finding } from '@velvet-shelf/core/listings';
import { isNotNull } from 'drizzle-orm';
import { boolean, date, index, integer, pgTable, primaryKey, text, unique } from 'drizzle-orm/pg-core';
import { product } from './catalog.js';
import { causeSet } from './causes.js';
import { place } from './channels.js';
import { jsonb, moment, ref, rowId } from './columns.js';

export const channelStates = [
  'none',
  'queued',
  'sent',
  'draft there',
  'live',
  'hidden',
  'refused',
  'withdrawn',
] as const;

export const listing = pgTable(
  'listing',
  {
    id: rowId(),
    placeId: ref('place_id')
      .notNull()
      .references(() => place.id),
    variantId: ref('variant_id')
      .notNull()
      .references(() => product.id, { onDelete: 'cascade' }),
    unitId: ref('unit_id').notNull(),
    readiness: text('readiness', { enum: ['blocked', 'ready', 'not for this channel'] }).notNull(),
    channelState: text('channel_state', { enum: channelStates }).notNull().default('none'),
    category: text('category'),
    /** Findings of the listing by itself, and those that come from items beside it. */
    findings: jsonb('findings').$type<Finding[]>().notNull().default([]),
    collective: jsonb('collective').$type<Finding[]>().notNull().default([]),
    /** The channel's own answer, while it holds. */
    reported: jsonb('reported').$type<Finding[]>().notNull().default([]),
    notFor: text('not_for'),
    /** Blocking causes; null where nothing blocks. */
    causeSetId: ref('cause_set_id').references(() => causeSet.id),
    /** Its findings are no causes to mend for now: somebody has set the goods aside. */
    muted: boolean('muted').notNull().default(false),
    print: text('print').notNull(),
    itemKey: text('item_key'),
    externalId: text('external_id'),
    nextChangeAt: date('next_change_at', { mode: 'string' }),
    evaluatedAt: moment('evaluated_at').notNull().defaultNow(),
  },
  (table) => [
    unique('listing_place_variant').on(table.placeId, table.variantId),
    index('listing_unit').on(table.placeId, table.unitId),
    index('listing_readiness').on(table.placeId, table.readiness, table.id),
    index('listing_cause_set').on(table.causeSetId).where(isNotNull(table.causeSetId)),
    index('listing_next_change').on(table.nextChangeAt).where(isNotNull(table.nextChangeAt)),
    index('listing_variant').on(table.variantId),
  ],
);

/** How many listings a channel takes of a place, and the first listing beyond; nothing where it takes all. */
export const quota = pgTable('quota', {
  placeId: ref('place_id')
    .primaryKey()
    .references(() => place.id, { onDelete: 'cascade' }),
  most: integer('most').notNull(),
  /** Its number: listings are in order of it, the first in stay. Null: there is room. */
  beyond: ref('beyond'),
});

export const listingKey = pgTable(
  'listing_key',
  {
    placeId: ref('place_id').notNull(),
    check: text('check').notNull(),
    key: text('key').notNull(),
    /** What one would change if too many share it. */
    cause: text('cause').notNull().default(''),
    listingId: ref('listing_id')
      .notNull()
      .references(() => listing.id, { onDelete: 'cascade' }),
  },
  (table) => [
    primaryKey({ columns: [table.placeId, table.check, table.key, table.listingId] }),
    index('listing_key_listing').on(table.listingId),
  ],
);

export const pin = pgTable(
  'pin',
  {
    listingId: ref('listing_id')
      .notNull()
      .references(() => listing.id, { onDelete: 'cascade' }),
    attribute: text('attribute').notNull(),
    value: text('value').notNull(),
  },
  (table) => [primaryKey({ columns: [table.listingId, table.attribute] })],
);

/** Kept by a trigger on listing, by deltas. */
export const placeTotal = pgTable(
  'place_total',
  {
    placeId: ref('place_id').notNull(),
    readiness: text('readiness').notNull(),
    channelState: text('channel_state').notNull(),
    listings: integer('listings').notNull(),
  },
  (table) => [primaryKey({ columns: [table.placeId, table.readiness, table.channelState] })],
);

export const dirty = pgTable(
  'dirty',
  {
    placeId: ref('place_id').notNull(),
    unitId: ref('unit_id').notNull(),
    since: moment('since').notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.placeId, table.unitId] })],
);
