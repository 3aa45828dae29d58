/** Pictures, and files that are none. */
import { bigint, index, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { jsonb, moment, rowId } from './columns.js';

export const media = pgTable(
  'media',
  {
    id: rowId(),
    /** What goods name it by. */
    name: text('name').notNull().unique(),
    /** Its name as facts have it (`textKey`). */
    key: text('key').notNull(),
    /** Of the content as it came (SHA-256, hexadecimal): the same content is kept once, whatever it is called. */
    hash: text('hash').notNull(),
    format: text('format').notNull(),
    /** Of what goes out, upright and without what cameras write into it; pixels. */
    bytes: integer('bytes').notNull(),
    width: integer('width').notNull(),
    height: integer('height').notNull(),
    /** Per cent, as core's `groundOf` has it. */
    plain: integer('plain').notNull(),
    blank: integer('blank').notNull(),
    /** What was done to it when it came, in words. */
    changes: jsonb('changes').$type<string[]>().notNull().default([]),
    /** What is seen on it, by language (BCP 47). */
    alt: jsonb('alt').$type<Record<string, string>>().notNull().default({}),
    at: moment('at').notNull().defaultNow(),
  },
  (table) => [index('media_key').on(table.key), index('media_hash').on(table.hash)],
);

export const storedFile = pgTable(
  'stored_file',
  {
    id: rowId(),
    /** What goods name it by. */
    name: text('name').notNull().unique(),
    /** Its name as facts have it (`textKey`). */
    key: text('key').notNull(),
    /** Of its content (SHA-256, hexadecimal): the same content is kept once, whatever it is called. */
    hash: text('hash').notNull(),
    bytes: bigint('bytes', { mode: 'number' }).notNull(),
    /** Media type (RFC 9110), by what the content begins with. */
    type: text('type').notNull(),
    at: moment('at').notNull().defaultNow(),
  },
  (table) => [index('stored_file_key').on(table.key), index('stored_file_hash').on(table.hash)],
);
