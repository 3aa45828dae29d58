/** Column types the tables share. */
import { bigint, customType, timestamp } from 'drizzle-orm/pg-core';
import { keptJson } from '../copy.js';

/** Row identity. */
export const rowId = () => bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity();

/** A reference to a row. */
export const ref = (name: string) => bigint(name, { mode: 'number' });

/** A moment, as ISO text. */
export const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'string' });

/** Text in code-unit order, as core's sort keys expect. */
export const codeText = customType<{ data: string; driverData: string }>({ dataType: () => 'text COLLATE "C"' });

/** A transaction’s number that never comes again. */
export const xid8 = customType<{ data: string }>({ dataType: () => 'xid8' });

const jsonOf = (kind: 'json' | 'jsonb') =>
  customType<{ data: unknown; driverData: unknown }>({
    dataType: () => kind,
    toDriver: (value) => keptJson(JSON.stringify(value)),
    // PostgreSQL's client has read it already: a text that looks like a number stays the text it is.
    fromDriver: (value) => value,
  });

/** Searchable JSON. */
export const jsonb = jsonOf('jsonb');

/** JSON kept letter by letter: quicker to write and to read. */
export const json = jsonOf('json');
