/** The database: one pool, Drizzle on top, and set-based helpers. */
import { type AnyColumn, type SQL, sql } from 'drizzle-orm';
import { type NodePgDatabase, drizzle } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import { noteAskers } from './askers.js';
import { keptJson } from './copy.js';
import * as schema from './schema/index.js';

pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Database = NodePgDatabase<typeof schema> & { $client: pg.Pool };
/** A transaction or the pool: whoever can run statements. */
export type Executor = Pick<Database, 'select' | 'selectDistinct' | 'insert' | 'update' | 'delete' | 'execute'>;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

export interface Opening {
  connections?: number;
  /** Longest a statement may run, milliseconds; none where absent. */
  statementTimeout?: number;
}

export function openDatabase(url: string, { connections = 12, statementTimeout }: Opening = {}): Database {
  const pool = new pg.Pool({
    connectionString: url,
    max: connections,
    application_name: 'velvet-shelf',
    ...(statementTimeout === undefined ? {} : { statement_timeout: statementTimeout }),
  });
  pool.on('error', () => undefined);
  // A client that is lent out when the database goes away: its query fails, the process must not.
  pool.on('connect', (client) => client.on('error', () => undefined));
  noteAskers(pool);
  return drizzle(pool, { schema });
}

/** A transaction together with the bare connection it runs on, for COPY. */
export interface ClientTransaction {
  tx: Executor;
  client: pg.PoolClient;
}

/** Runs work in a transaction on a client of its own; what it throws rolls back. */
export async function onClient<T>(db: Database, work: (on: ClientTransaction) => Promise<T>): Promise<T> {
  const client = await db.$client.connect();
  try {
    return await drizzle(client, { schema }).transaction((tx) => work({ tx, client }));
  } finally {
    client.release();
  }
}

class RolledBack extends Error {}

/** The same, rolled back once the work is done: it tells what would be, and changes nothing. */
export async function onTrial<T>(db: Database, work: (on: ClientTransaction) => Promise<T>): Promise<T> {
  let answer: { is: T } | undefined;
  try {
    await onClient(db, async (on) => {
      answer = { is: await work(on) };
      throw new RolledBack();
    });
  } catch (error) {
    if (!(error instanceof RolledBack)) throw error;
  }
  return (answer as { is: T }).is;
}

/** Rows of a statement, typed at this boundary. */
export async function queryRows<T>(on: Executor, statement: SQL): Promise<T[]> {
  const result = await on.execute(statement);
  return result.rows as T[];
}

export async function queryOne<T>(on: Executor, statement: SQL): Promise<T | undefined> {
  return (await queryRows<T>(on, statement))[0];
}

/** The first row of a query, where it has one. */
export async function first<T>(query: PromiseLike<readonly T[]>): Promise<T | undefined> {
  return (await query)[0];
}

/** `column` is one of `list`, which goes over as one parameter, however long. */
export function isIn(column: AnyColumn | SQL, list: readonly number[]): SQL {
  return sql`${column} = ANY(${ids(list)})`;
}

/** The same of texts. */
export function isAmong(column: AnyColumn | SQL, list: readonly string[]): SQL {
  return sql`${column} = ANY(${texts(list)})`;
}

/** Whether an error, or what caused it, is PostgreSQL's with this code. */
export function isCode(error: unknown, code: string): boolean {
  for (let at = error; at instanceof Error; at = at.cause) if ((at as { code?: string }).code === code) return true;
  return false;
}

/** A list of ids as one parameter. */
export function ids(list: readonly number[]): SQL {
  return sql`${`{${list.join(',')}}`}::bigint[]`;
}

/** New row ids of a table, before its rows are written. */
export async function takeIds(on: Executor, table: string, count: number): Promise<number[]> {
  if (count === 0) return [];
  const taken = await queryRows<{ id: number }>(
    on,
    sql`SELECT nextval(${`${table}_id_seq`}::regclass) AS id FROM generate_series(1, ${count}::int)`,
  );
  return taken.map((row) => row.id);
}

/** Rows as one JSON parameter, for `jsonb_to_recordset`: set-based writes without a parameter a cell. */
export function json(value: unknown): SQL {
  return sql`${keptJson(JSON.stringify(value))}::jsonb`;
}

/** The same for columns of type `json`, which keep what they are given letter by letter: quicker to write and to read. */
export function verbatim(value: unknown): SQL {
  return sql`${keptJson(JSON.stringify(value))}::json`;
}

/** A list of texts as one parameter; null stays null. */
export function texts(list: readonly (string | null)[]): SQL {
  const literal = list.map((text) =>
    text === null ? 'NULL' : `"${text.replaceAll('\u0000', '').replace(/[\\"]/g, '\\$&')}"`,
  );
  return sql`${`{${literal.join(',')}}`}::text[]`;
}

/** The `LIKE` pattern of what holds a text: its own `%`, `_` and `\` are letters like others. */
export function containing(text: string): string {
  return `%${text.replace(/[\\%_]/g, '\\$&')}%`;
}

/** A list of numbers as one parameter; null stays null. */
export function numbers(list: readonly (number | null)[]): SQL {
  return sql`${`{${list.map((row) => row ?? 'NULL').join(',')}}`}::float8[]`;
}

/** A moment of the database as ISO 8601. */
export function iso(moment: string): string;
export function iso(moment: string | null): string | null;
export function iso(moment: string | null): string | null {
  return moment === null ? null : new Date(moment).toISOString();
}
