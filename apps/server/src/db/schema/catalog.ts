/** The dictionary, its closed lists, and goods as they follow from claims. */
import type { Offer, Texts } from '@velvet-shelf/core/catalog';
import type { AttributeType, Computation, Dimension, ReadingStyle, Role, Value } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  numeric,
  pgTable,
  text,
  unique,
} from 'drizzle-orm/pg-core';
import { codeText, json, jsonb, moment, ref, rowId } from './columns.js';

/** What an attribute became, and how its values are read as that; without a style they are the same there. */
interface Became {
  attribute: number;
  style?: ReadingStyle;
}

export const attribute = pgTable('attribute', {
  id: rowId(),
  key: text('key').notNull().unique(),
  label: text('label').notNull(),
  type: text('type').$type<AttributeType>().notNull(),
  many: boolean('many').notNull(),
  perLanguage: boolean('per_language').notNull(),
  level: text('level', { enum: ['family', 'variant'] }).notNull(),
  dimension: text('dimension').$type<Dimension>(),
  /** What code knows it by. */
  role: text('role').$type<Role>(),
  /** Other names that columns of it have. */
  aliases: jsonb('aliases').$type<string[]>().notNull().default([]),
  /** For whoever enters it. */
  help: text('help').notNull().default(''),
  group: text('group').notNull(),
  /** How it follows from others where nobody says it. */
  computed: jsonb('computed').$type<Computation>(),
  position: integer('position').notNull(),
  /** Not offered any more; goods that have it keep it. */
  putAway: boolean('put_away').notNull().default(false),
  /** The attribute it was made one with: what anything says of it is said of that one. Never one that was merged itself. */
  mergedInto: ref('merged_into').references((): AnyPgColumn => attribute.id),
  /** The attribute it became itself when it was merged, where its values are of another kind there, and how they are read. */
  became: jsonb('became').$type<Became>(),
});

/** Values of closed lists: our category tree is that of the attribute whose role is category. */
export const listValue = pgTable(
  'list_value',
  {
    id: rowId(),
    attributeId: ref('attribute_id')
      .notNull()
      .references(() => attribute.id, { onDelete: 'cascade' }),
    /** What refers to it: values, conditions, maps, fills. Never shown, never changed. */
    key: text('key').notNull(),
    parentId: ref('parent_id').references((): AnyPgColumn => listValue.id),
    /** By language (BCP 47), the company's own first. */
    names: json('names').$type<Record<string, string>>().notNull(),
    /** Other ways it is written. */
    spellings: jsonb('spellings').$type<string[]>().notNull().default([]),
    /** Among those beside it. */
    position: integer('position').notNull(),
    /** Keys of attributes that goods of it must have, besides those of what it stands below. */
    requires: jsonb('requires').$type<string[]>().notNull().default([]),
    /** Not offered any more; goods that have it keep it. */
    hidden: boolean('hidden').notNull().default(false),
    /** The value it was made one with: whatever refers to its key means that one. Never one that was merged itself. */
    mergedInto: ref('merged_into').references((): AnyPgColumn => listValue.id),
  },
  (table) => [unique('list_value_key').on(table.attributeId, table.key)],
);

export const product = pgTable(
  'product',
  {
    id: rowId(),
    kind: text('kind', { enum: ['family', 'variant', 'single', 'bundle'] }).notNull(),
    familyId: ref('family_id'),
    /** Family, or itself: the unit of evaluation. */
    unitId: ref('unit_id').notNull(),
    sku: text('sku'),
    title: text('title'),
    brand: text('brand'),
    category: text('category'),
    gtin: text('gtin'),
    state: text('state'),
    picture: text('picture'),
    price: numeric('price', { precision: 14, scale: 4 }),
    stock: integer('stock').notNull().default(0),
    /** Pieces no channel may sell. */
    keptBack: integer('kept_back').notNull().default(0),
    options: json('options').$type<[string, string][]>().notNull().default([]),
    /** One of its options is shown to nobody: no place has it. */
    hidden: boolean('hidden').notNull().default(false),
    /** What its options add to the family's price, by currency, in decimals. */
    surcharge: jsonb('surcharge').$type<Record<string, string>>().notNull().default({}),
    /** Narrow, resolved, effective: inherited values are filled in; no long texts. */
    facts: json('facts').$type<Record<string, Value>>().notNull().default({}),
    offers: jsonb('offers').$type<Record<string, Offer>>().notNull().default({}),
    search: text('search').notNull().default(''),
    /** Share of the attributes its category asks for that have a value, 0–100. */
    complete: integer('complete').notNull().default(0),
    version: integer('version').notNull().default(1),
    mergedInto: ref('merged_into'),
    /** The action that took it away; its sources are silent since. Undoing it, or a source that lists it again, brings it back. */
    removedBy: ref('removed_by'),
    /** Neither joined to others nor taken away. */
    stands: boolean('stands')
      .notNull()
      .generatedAlwaysAs(sql`merged_into IS NULL AND removed_by IS NULL`),
    updatedAt: moment('updated_at').notNull().defaultNow(),
  },
  (table) => [
    index('product_unit').on(table.unitId, table.id),
    // Families and singles in the order the grid has them.
    index('product_titled')
      .on(sql`lower(${table.title})`, table.id)
      .where(sql`${table.id} = ${table.unitId}`),
    index('product_family').on(table.familyId),
    index('product_merged')
      .on(table.mergedInto)
      .where(sql`merged_into IS NOT NULL`),
    index('product_sku').on(table.sku),
    index('product_gtin').on(table.gtin),
    // New rows wait in a list that is merged by the many: a supplier's file is thousands.
    index('product_search').using('gin', table.search.op('gin_trgm_ops')).with({ gin_pending_list_limit: 16_384 }),
  ],
);

/*
 * The tables below that hold rows by the hundred thousand have no foreign keys: each costs a look-up a row. What writes
 * them has just read or made the product, and `removeProducts` is the one place that takes products away.
 */
export const productText = pgTable('product_text', {
  productId: ref('product_id').primaryKey(),
  texts: json('texts').$type<Texts>().notNull(),
  /** The long ones among them as conditions search them: plain, folded by core. */
  sought: json('sought').$type<Texts>().notNull().default({}),
});

/** What conditions and sorts find products by. Rows are taken away by what they say, which its only writer knows. */
export const fact = pgTable(
  'fact',
  {
    attributeId: ref('attribute_id').notNull(),
    /** BCP 47, or empty for attributes without languages. */
    lang: text('lang').notNull().default(''),
    num: doublePrecision('num'),
    key: codeText('key'),
    productId: ref('product_id').notNull(),
  },
  (table) => [
    index('fact_num')
      .on(table.attributeId, table.num, table.productId)
      .where(sql`num IS NOT NULL`),
    index('fact_key')
      .on(table.attributeId, table.key, table.productId)
      .where(sql`key IS NOT NULL`),
  ],
);

/** Goods somebody has put out of sight, or of which some notices are muted, until a day or for good. */
export const setAside = pgTable('set_aside', {
  productId: ref('product_id')
    .primaryKey()
    .references(() => product.id, { onDelete: 'cascade' }),
  /** Not in the everyday views. */
  sight: boolean('sight').notNull(),
  /** What keeps its listings back is no cause to mend. */
  findings: boolean('findings').notNull(),
  /** Values it lacks are no work to do. */
  gaps: boolean('gaps').notNull(),
  /** The day it is back; null: until somebody brings it back. */
  until: date('until', { mode: 'string' }),
  reason: text('reason').notNull().default(''),
});
