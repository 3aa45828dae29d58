/** What PostgreSQL believes of its tables: plans for a table it believes empty take hours once it holds many rows. */
import { sql } from 'drizzle-orm';
import { type Executor, queryRows, texts } from './client.js';

/** So few rows are quick to go through, whatever the plan. */
const fewRows = 50;

/**
 * Has these tables looked at again where PostgreSQL believes they hold fewer rows than this transaction has just written there:
 * it has never looked, or it did when what was in them had been taken back. A table somebody else looks at is left to them.
 */
export async function refreshStatistics(on: Executor, written: number, names: readonly string[]): Promise<void> {
  if (written <= fewRows) return;
  const misjudged = await queryRows<{ name: string }>(
    on,
    sql`SELECT c.relname AS name FROM pg_class c
        WHERE c.oid IN (SELECT n::regclass FROM unnest(${texts(names)}) AS n) AND c.reltuples < ${written}`,
  );
  if (misjudged.length === 0) return;
  await on.execute(
    sql`ANALYZE (SKIP_LOCKED) ${sql.join(
      misjudged.map(({ name }) => sql.identifier(name)),
      sql`, `,
    )}`,
  );
}
