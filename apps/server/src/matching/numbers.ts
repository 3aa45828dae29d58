/** Whether a supplier's numbers for use inside a company are ours: said by a person, and joins follow. */
import { isInHouse } from '@velvet-shelf/core/matching';
import { sql, eq } from 'drizzle-orm';
import { type Executor, queryRows, first } from '../db/client.js';
import { act } from '../history/act.js';
import { markDirty } from '../history/dirty.js';
import type { Undoing, Undone } from '../history/undo.js';
import { conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { lockJoins } from './joins.js';
import { runAside } from '../jobs/aside.js';
import type { JobContext } from '../jobs/define.js';
import { createJob } from '../jobs/run.js';
import * as jobs from './jobs.js';
import { settle } from '../history/settle.js';
import { settleJoins } from './decide.js';
import * as tables from '../db/schema/index.js';
import { z } from 'zod';
import { changesOf } from '../history/record.js';

/** Says it; goods are joined or parted by a job, which is answered. */
export async function setOurNumbers(
  services: Services,
  user: User,
  supplierId: number,
  usesOurNumbers: boolean,
): Promise<number | null> {
  const { answer: job } = await act(services, user, { kind: 'our-numbers' }, async (on) => {
    const { tx } = on;
    const held = await lockSupplier(tx, supplierId);
    if (!held) throw notFound(`supplier ${supplierId}`);
    if (held.kind === 'own') throw conflict('Our own sheet uses our own numbers');
    if (held.now === usesOurNumbers) return null;
    on.say(
      usesOurNumbers
        ? `${held.name} uses our numbers: numbers for use inside a company mean the same goods`
        : `${held.name} uses our numbers no more`,
    );
    on.change({ kind: 'supplier', id: supplierId, delta: { usesOurNumbers: [held.now, usesOurNumbers] } });
    return writeNumbers(tx, supplierId, usesOurNumbers, on.id);
  });
  if (job !== null) runAside(job).catch(() => undefined);
  return job;
}

const lockSupplier = (tx: Executor, id: number) =>
  first(
    tx
      .select({ name: tables.supplier.name, kind: tables.supplier.kind, now: tables.supplier.usesOurNumbers })
      .from(tables.supplier)
      .where(eq(tables.supplier.id, id))
      .for('update'),
  );

/** Keeps it, and has the goods it concerns joined anew. */
async function writeNumbers(tx: Executor, supplier: number, uses: boolean, action: number): Promise<number> {
  const held = await first(
    tx
      .update(tables.supplier)
      .set({ usesOurNumbers: uses })
      .where(eq(tables.supplier.id, supplier))
      .returning({ name: tables.supplier.name }),
  );
  return createJob(tx, jobs.joinNumbers, {
    label: `Joining goods of ${held?.name} anew`,
    input: { supplier, action },
    actor: undefined,
  });
}

const atOnce = 1000;

/** Job: joins anew the supplier's goods that share a number for use inside a company with goods of others. Twice is as once. */
export async function joinNumbers({
  db,
  services,
  input,
  progress,
  finish,
}: JobContext<jobs.NumbersInput>): Promise<void> {
  const shared = await queryRows<{ id: number; key: string }>(
    db,
    sql`SELECT mine.record_id AS id, mine.key FROM record_key mine JOIN record r ON r.id = mine.record_id
        WHERE mine.kind = 'gtin' AND r.supplier_id = ${input.supplier} AND EXISTS (
          SELECT 1 FROM record_key o JOIN record q ON q.id = o.record_id WHERE o.kind = 'gtin' AND o.key = mine.key AND q.supplier_id <> r.supplier_id)
        ORDER BY 1`,
  );
  const records = shared.filter(({ key }) => isInHouse(key)).map(({ id }) => id);
  for (let done = 0; done < records.length; done += atOnce) {
    await progress(done, records.length);
    await db.transaction(async (tx) => {
      await lockJoins(tx);
      const dirty = (units: readonly number[]) => markDirty(tx, units);
      await settleJoins({ tx, dirty }, records.slice(done, done + atOnce), input.action);
    });
  }
  await db.transaction((tx) => finish(tx));
  await settle(services);
  services.notify('matches');
  services.notify('catalog');
}

/** Takes it back where it still stands. */
export async function undoOurNumbers({ tx, actionId, by }: Undoing): Promise<Undone> {
  const changes = await changesOf(
    tx,
    actionId,
    'supplier',
    z.object({ usesOurNumbers: z.tuple([z.boolean(), z.boolean()]) }),
  );
  const left: string[] = [];
  for (const { id: supplier, delta } of changes) {
    const [before, after] = delta.usesOurNumbers;
    const held = await lockSupplier(tx, supplier);
    if (held?.now === after) await writeNumbers(tx, supplier, before, by);
    else left.push(`Whether ${held?.name} uses our numbers: changed since`);
  }
  return { left };
}
