/** The trial that finds what a batch would do to listings holds its batch: whoever changes the batch stops it first. */
import { eq, sql } from 'drizzle-orm';
import { type ClientTransaction, type Database, isCode, onClient } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { notFound } from '../http/problem.js';
import type { BatchRecord } from './batches.js';

/** PostgreSQL's word for a lock that was not given in time. */
const lockNotAvailable = '55P03';
/** How often a trial is asked to stop: one that begins just now, or is between two statements, does not hear it. */
const mostAsked = 120;

async function stopTrial(db: Database, batchId: number): Promise<void> {
  await db.execute(
    sql`SELECT pg_cancel_backend((checkpoint ->> 'backend')::int) FROM job
        WHERE kind = 'find-effect' AND state = 'running' AND (input ->> 'batch')::bigint = ${batchId} AND checkpoint ? 'backend'`,
  );
}

/** Works on a batch, as it stands then, in a transaction that holds it; stops whatever tries it meanwhile. */
export async function withoutTrial<T>(
  db: Database,
  batchId: number,
  work: (on: ClientTransaction, held: BatchRecord) => Promise<T>,
): Promise<T> {
  for (let asked = 1; ; asked++) {
    await stopTrial(db, batchId);
    try {
      return await onClient(db, async (on) => {
        await on.tx.execute(sql`SET LOCAL lock_timeout = '500ms'`);
        const [held] = await on.tx.select().from(tables.batch).where(eq(tables.batch.id, batchId)).for('update');
        if (!held) throw notFound(`batch ${batchId}`);
        await on.tx.execute(sql`SET LOCAL lock_timeout = 0`);
        return work(on, held);
      });
    } catch (error) {
      if (asked === mostAsked || !isCode(error, lockNotAvailable)) throw error;
    }
  }
}
