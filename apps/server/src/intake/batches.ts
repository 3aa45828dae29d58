/** Batches as other files of this room and its neighbours ask for them: by number, and by the state they are in. */
import { eq, inArray } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import { notFound } from '../http/problem.js';
import type { Tried } from './try/try.js';
import * as tables from '../db/schema/index.js';

export type BatchRecord = typeof tables.batch.$inferSelect;

export async function getBatch(db: Executor, id: number): Promise<BatchRecord> {
  const [found] = await db.select().from(tables.batch).where(eq(tables.batch.id, id));
  if (!found) throw notFound(`batch ${id}`);
  return found;
}

/** Whether how a batch is read can still be changed. */
export const isOpen = (state: BatchRecord['state']): boolean => state === 'read' || state === 'tried';

/** Nothing tells whose goods a file holds, and no person has said so. */
export const isNobodys = ({ detected, kind }: Pick<BatchRecord, 'detected' | 'kind'>): boolean =>
  kind === 'file' && detected.why.supplier === '';

export const nobodysFault = 'Nothing says whose goods these are: choose the supplier, or add a new one';

/** Keeps whoever else would change a batch waiting; answers its state, where there is such a batch. */
export const lockBatch = (on: Executor, id: number) =>
  first(
    on
      .select({ state: tables.batch.state, makes: tables.batch.makes })
      .from(tables.batch)
      .where(eq(tables.batch.id, id))
      .for('update'),
  );

/** Whether goods are being changed by a batch at this moment. */
export const isAnyUnderWay = async (on: Executor): Promise<boolean> =>
  (await first(
    on
      .select({ id: tables.batch.id })
      .from(tables.batch)
      .where(inArray(tables.batch.state, ['applying', 'undoing']))
      .limit(1),
  )) !== undefined;

/** "This batch is …" */
const stateWords: Record<string, string> = {
  trying: 'being tried',
  applying: 'being applied',
  undoing: 'being undone',
};
export const sayState = (state: string) => stateWords[state] ?? state;

/** A batch as `tryBatch` wants it. */
export async function triedOf(db: Executor, id: number): Promise<BatchRecord & Tried> {
  const found = await getBatch(db, id);
  const [from] = await db.select().from(tables.supplier).where(eq(tables.supplier.id, found.supplierId));
  if (!from) throw notFound('supplier');
  return { ...found, supplier: from };
}
