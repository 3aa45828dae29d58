/** The trial that finds what a batch would do to listings holds its batch: whoever changes the batch stops it first. */
import { sql } from 'drizzle-orm';
import { type ClientTransaction, type Database, isCode, onClient } from '../db/client.js';
import { lockBatch } from './batches.js';

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

/** Works on a batch in a transaction that holds it, and stops whatever tries it meanwhile. */
export async function withoutTrial<T>(
  db: Database,
  batchId: number,
  work: (on: ClientTransaction) => Promise<T>,
): Promise<T> {
  for (let asked = 1; ; asked++) {
    await stopTrial(db, batchId);
    try {
      return await onClient(db, async (on) => {
        await on.tx.execute(sql`SET LOCAL lock_timeout = '500ms'`);
        await lockBatch(on.tx, batchId);
        await on.tx.execute(sql`SET LOCAL lock_timeout = 0`);
        return work(on);
      });
    } catch (error) {
      if (asked === mostAsked || !isCode(error, lockNotAvailable)) throw error;
    }
  }
}
