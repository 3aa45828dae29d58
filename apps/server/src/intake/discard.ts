/** Batches that nothing came of, thrown away with their files. */
import { rm } from 'node:fs/promises';
import { and, eq, ne } from 'drizzle-orm';
import { type Database, type Executor, first } from '../db/client.js';
import { recordAction } from '../history/record.js';
import { conflict } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { type BatchRecord, isOpen, sayState } from './batches.js';
import { withoutTrial } from './trial.js';
import { dropRows } from './try/judged.js';
import * as tables from '../db/schema/index.js';

/** Throws a batch away that was not applied; what was is taken back, and stays in the history. */
export async function discardBatch(services: Services, user: User, id: number): Promise<void> {
  const { db, notify } = services;
  await discard(db, id, async (tx, found) => {
    if (!isOpen(found.state) && found.state !== 'cancelled')
      throw conflict(
        found.state === 'applied'
          ? 'This batch was applied: undo it instead'
          : `This batch is ${sayState(found.state)}: the history keeps it`,
      );
    const words = `Threw ${found.fileName} away: nothing of it had been applied`;
    await recordAction(tx, { actor: user.id, kind: 'discard-batch', words }, []);
  });
  notify('batch', { batch: id });
}

/** Deletes a batch, what its dry run wrote and its file, where `before` lets it. */
export async function discard(
  db: Database,
  id: number,
  before: (tx: Executor, found: BatchRecord) => Promise<void> = () => Promise.resolve(),
): Promise<void> {
  const path = await withoutTrial(db, id, async ({ tx }, found) => {
    await before(tx, found);
    await dropRows(tx, id);
    await tx.delete(tables.batch).where(eq(tables.batch.id, id));
    const shared = tx
      .select({ id: tables.batch.id })
      .from(tables.batch)
      .where(and(eq(tables.batch.path, found.path), ne(tables.batch.id, id)))
      .limit(1);
    return (await first(shared)) === undefined ? found.path : undefined;
  });
  if (path !== undefined) await rm(path, { force: true });
}
