/** Keeps a partition of `change` ready for this month and the next two. */
import { sql } from 'drizzle-orm';
import type { Executor } from '../db/client.js';

export async function readyPartitions(on: Executor, now: Date): Promise<void> {
  for (let ahead = 0; ahead < 3; ahead++) {
    const from = new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() + ahead, 1));
    const to = new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() + ahead + 1, 1));
    const day = (date: Date) => date.toISOString().slice(0, 10);
    const name = `change_${day(from).slice(0, 7).replace('-', '_')}`;
    await on.execute(
      sql.raw(
        `CREATE TABLE IF NOT EXISTS "${name}" PARTITION OF "change" FOR VALUES FROM ('${day(from)}') TO ('${day(to)}')`,
      ),
    );
  }
}
