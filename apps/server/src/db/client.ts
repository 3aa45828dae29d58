/** The database: one pool, Drizzle on top, and set-based helpers. */
import { type SQL, sql } from 'drizzle-orm';
import { type NodePgDatabase, drizzle } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as schema from './schema/index.js';

pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Database = NodePgDatabase<typeof schema> & { $client: pg.Pool };
/** A transaction or the pool: whoever can run statements. */
export type Executor = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

export function openDatabase(url: string, connections = 12): Database {
  const pool = new pg.Pool({ connectionString: url, max: connections, application_name: 'velvet-shelf' });
  pool.on('error', () => undefined);
  // A client that is lent out when the database goes away: its query fails, the process must not.
  pool.on('connect', (client) => client.on('error', () => undefined));
  return drizzle(pool, { schema });
}

/** A transaction on a client of its own, for what needs the bare connection (COPY). */
export async function onClient(db: Database, work: (client: pg.PoolClient) => Promise<void>): Promise<void> {
  const client = await db.$client.connect();
  try {
    await client.query('BEGIN');
    await work(client);
    await client.query('COMMIT');
  } catch (error) {
    await client.query('ROLLBACK').catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
}

/** Rows of a statement, typed at this boundary. */
export async function rows<T>(on: Executor, statement: SQL): Promise<T[]> {
  const result = await on.execute(statement);
  return result.rows as T[];
}

export async function one<T>(on: Executor, statement: SQL): Promise<T | undefined> {
  return (await rows<T>(on, statement))[0];
}

/** A list of ids as one parameter. */
export function ids(list: readonly number[]): SQL {
  return sql`${`{${list.join(',')}}`}::bigint[]`;
}

/** Rows as one JSON parameter, for `jsonb_to_recordset`: set-based writes without a parameter a cell. */
export function json(value: unknown): SQL {
  // PostgreSQL keeps no U+0000 in text; nor do we.
  return sql`${JSON.stringify(value).replaceAll('\\u0000', '')}::jsonb`;
}

/** A list of texts as one parameter; null stays null. */
export function texts(list: readonly (string | null)[]): SQL {
  const literal = list.map((text) =>
    text === null ? 'NULL' : `"${text.replaceAll('\u0000', '').replace(/[\\"]/g, '\\$&')}"`,
  );
  return sql`${`{${literal.join(',')}}`}::text[]`;
}

/** A list of numbers as one parameter; null stays null. */
export function numbers(list: readonly (number | null)[]): SQL {
  return sql`${`{${list.map((one) => one ?? 'NULL').join(',')}}`}::float8[]`;
}

/** A moment of the database as ISO 8601. */
export function iso(moment: string): string;
export function iso(moment: string | null): string | null;
export function iso(moment: string | null): string | null {
  return moment === null ? null : new Date(moment).toISOString();
}
