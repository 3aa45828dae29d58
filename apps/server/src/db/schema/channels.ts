import { accountStates, exemptionStates } from '@velvet-shelf/contract';
import type { Condition } from '@velvet-shelf/core/conditions';
import type { Fill } from '@velvet-shelf/core/fills';
import type { CategorySplit } from '@velvet-shelf/core/listings';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { sql } from 'drizzle-orm';
import { boolean, index, integer, pgSequence, pgTable, primaryKey, text, unique } from 'drizzle-orm/pg-core';
import { product } from './catalog.js';
import { jsonb, moment, ref, rowId } from './columns.js';

export const setupVersionSeq = pgSequence('setup_version_seq');

export const channel = pgTable('channel', {
  id: rowId(),
  key: text('key').notNull().unique(),
  name: text('name').notNull(),
  /** How it is spoken to (channels/adapters). */
  adapter: text('adapter').notNull().default('fetching'),
  /** The rulebook version in use. */
  rulebookId: ref('rulebook_id'),
});

export const rulebook = pgTable(
  'rulebook',
  {
    id: rowId(),
    channelId: ref('channel_id')
      .notNull()
      .references(() => channel.id),
    version: text('version').notNull(),
    validFrom: text('valid_from').notNull(),
    body: jsonb('body').$type<Rulebook>().notNull(),
    loadedAt: moment('loaded_at').notNull().defaultNow(),
    /** Day on which it is taken by itself (ISO 8601), and who wants that. */
    takeOn: text('take_on'),
    takeFor: ref('take_for'),
  },
  (table) => [unique('rulebook_version').on(table.channelId, table.version)],
);

/** What a channel says of an account. */
export interface AccountStanding {
  /** What is missing on the channel’s side before goods are taken, in its words. */
  missing: string[];
  /** Shares of orders in per cent. */
  late: number | null;
  cancelled: number | null;
  notices: string[];
}

export const account = pgTable(
  'account',
  {
    id: rowId(),
    channelId: ref('channel_id')
      .notNull()
      .references(() => channel.id),
    name: text('name').notNull(),
    /** The rulebook's region it belongs to; '' where the channel has none. */
    region: text('region').notNull().default(''),
    /** Address of the channel's own service. */
    address: text('address').notNull(),
    state: text('state', { enum: accountStates }).notNull(),
    /** What it is spoken to with, sealed (outgoing/seal). */
    credentials: text('credentials'),
    /** As the channel told it last. */
    standing: jsonb('standing').$type<AccountStanding>(),
    /** When it was last asked, and what went wrong then, for people. */
    askedAt: moment('asked_at'),
    fault: text('fault'),
  },
  (table) => [unique('account_channel_name').on(table.channelId, table.name)],
);

/** Terms that an account keeps on the channel, of the kinds its rulebook names; those that vanished stay with the day. */
export const accountTerm = pgTable(
  'account_term',
  {
    accountId: ref('account_id')
      .notNull()
      .references(() => account.id, { onDelete: 'cascade' }),
    kind: text('kind').notNull(),
    key: text('key').notNull(),
    label: text('label').notNull(),
    goneAt: moment('gone_at'),
  },
  (table) => [primaryKey({ columns: [table.accountId, table.kind, table.key] })],
);

/** A consent that was asked for and has not come back: whose, and what proves that it is ours (RFC 7636). */
export const accountJoin = pgTable('account_join', {
  /** Of the state that comes back with it (SHA-256). */
  stateHash: text('state_hash').primaryKey(),
  accountId: ref('account_id')
    .notNull()
    .references(() => account.id, { onDelete: 'cascade' }),
  userId: ref('user_id').notNull(),
  verifier: text('verifier').notNull(),
  expires: moment('expires').notNull(),
});

export const place = pgTable(
  'place',
  {
    id: rowId(),
    accountId: ref('account_id')
      .notNull()
      .references(() => account.id),
    market: text('market').notNull(),
    name: text('name').notNull(),
    country: text('country').notNull(),
    language: text('language').notNull(),
    currency: text('currency').notNull(),
    assortment: jsonb('assortment').$type<Condition>().notNull(),
    /** Another with every change of what decides its listings; none is ever given twice, so what was compiled of one stays true. */
    setupVersion: ref('setup_version')
      .notNull()
      .default(sql`nextval('setup_version_seq')`),
  },
  (table) => [unique('place_account_market').on(table.accountId, table.market)],
);

/** Goods put into a place's assortment or kept out of it by hand: variants, or families with all their variants. */
export const handPicked = pgTable(
  'hand_picked',
  {
    placeId: ref('place_id')
      .notNull()
      .references(() => place.id, { onDelete: 'cascade' }),
    productId: ref('product_id')
      .notNull()
      .references(() => product.id, { onDelete: 'cascade' }),
    isIn: boolean('is_in').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.placeId, table.productId] }),
    index('hand_picked_product').on(table.productId),
  ],
);

/** Market '' = all markets of the channel. */
export const categoryMap = pgTable(
  'category_map',
  {
    id: rowId(),
    channelId: ref('channel_id')
      .notNull()
      .references(() => channel.id),
    market: text('market').notNull().default(''),
    /** Own category path. */
    category: text('category').notNull(),
    /** Channel category path. */
    target: text('target').notNull(),
    /** A further one, where the channel takes it. */
    second: text('second'),
    /** Goods of which a condition holds stand elsewhere. */
    splits: jsonb('splits').$type<CategorySplit[]>().notNull().default([]),
  },
  (table) => [unique('category_map_slot').on(table.channelId, table.market, table.category)],
);

/** Market and category '' = all. */
/** A named bundle of fills of a channel, for goods that a condition holds of, and those put in by hand. */
export const preset = pgTable(
  'preset',
  {
    id: rowId(),
    channelId: ref('channel_id')
      .notNull()
      .references(() => channel.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    /** None: by hand alone. */
    condition: jsonb('condition').$type<Condition>(),
    /** Of several that a product has, the first stands before the others. */
    position: integer('position').notNull(),
    /** One that was taken away can come back with its fills. */
    stands: boolean('stands').notNull().default(true),
  },
  (table) => [index('preset_channel').on(table.channelId)],
);

/** Goods a preset is applied to, or not, whatever its condition says: variants, or families with all their variants. */
export const presetHand = pgTable(
  'preset_hand',
  {
    presetId: ref('preset_id')
      .notNull()
      .references(() => preset.id, { onDelete: 'cascade' }),
    productId: ref('product_id')
      .notNull()
      .references(() => product.id, { onDelete: 'cascade' }),
    isIn: boolean('is_in').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.presetId, table.productId] }),
    index('preset_hand_product').on(table.productId),
  ],
);

export const fill = pgTable(
  'fill',
  {
    id: rowId(),
    channelId: ref('channel_id')
      .notNull()
      .references(() => channel.id),
    /** The preset it belongs to; without one it is for all goods. */
    presetId: ref('preset_id').references(() => preset.id, { onDelete: 'cascade' }),
    market: text('market').notNull().default(''),
    category: text('category').notNull().default(''),
    attribute: text('attribute').notNull(),
    fill: jsonb('fill').$type<Fill>().notNull(),
  },
  (table) => [
    unique('fill_slot')
      .on(table.channelId, table.presetId, table.market, table.category, table.attribute)
      .nullsNotDistinct(),
  ],
);

/** Goods that the channel was asked to let go without an attribute, and what it said. */
export const exemption = pgTable(
  'exemption',
  {
    id: rowId(),
    accountId: ref('account_id')
      .notNull()
      .references(() => account.id, { onDelete: 'cascade' }),
    attribute: text('attribute').notNull(),
    condition: jsonb('condition').$type<Condition>().notNull(),
    /** Whom it is for, as a person wrote it: the maker, or the number of the goods. */
    whom: text('whom').notNull(),
    reason: text('reason').notNull(),
    state: text('state', { enum: exemptionStates }).notNull(),
    at: moment('at').notNull().defaultNow(),
  },
  (table) => [unique('exemption_whom').on(table.accountId, table.attribute, table.whom)],
);
