/** Brings the database up to the schema; safe when several servers start at once. */
import { sql } from 'drizzle-orm';
import { migrate as apply } from 'drizzle-orm/node-postgres/migrator';
import { fileURLToPath } from 'node:url';
import { readConfig } from '../config.js';
import { type Database, openDatabase } from './client.js';
import { drizzle } from 'drizzle-orm/node-postgres';
import { waitForDatabase } from './wait.js';
import * as schema from './schema/index.js';

const migrations = fileURLToPath(new URL('../../migrations', import.meta.url));
const lockNumber = 4_180_001;

export async function migrate(db: Database): Promise<void> {
  const client = await db.$client.connect();
  try {
    const single = drizzle(client, { schema });
    await single.execute(sql`SELECT pg_advisory_lock(${lockNumber})`);
    await apply(single, { migrationsFolder: migrations });
    await single.execute(sql`SELECT pg_advisory_unlock(${lockNumber})`);
  } finally {
    client.release();
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const { database } = readConfig();
  await waitForDatabase(database, (words) => process.stdout.write(`${words}\n`));
  const db = openDatabase(database, { connections: 2 });
  await migrate(db);
  await db.$client.end();
}
