/** Column types the tables share. */
import { bigint, customType, timestamp } from 'drizzle-orm/pg-core';

/** Row identity. */
export const rowId = () => bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity();

/** A reference to a row. */
export const ref = (name: string) => bigint(name, { mode: 'number' });

/** A moment, as ISO text. */
export const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'string' });

/** Text in code-unit order, as core's sort keys expect. */
export const codeText = customType<{ data: string; driverData: string }>({ dataType: () => 'text COLLATE "C"' });
