/** Sources that goods are fetched from instead of dropped, and when. */
import { rm } from 'node:fs/promises';
import type { PullAnswer } from '@velvet-shelf/contract';
import { CronExpressionParser } from 'cron-parser';
import { sql } from 'drizzle-orm';
import { type Executor, iso, queryOne, queryRows } from '../../db/client.js';
import { badRequest, conflict, notFound } from '../../http/problem.js';
import type { Services, User } from '../../http/route.js';
import { act } from '../../history/act.js';
import { runAside } from '../../jobs/aside.js';
import { createJob, isUnderWay, wishCancel } from '../../jobs/run.js';
import * as jobs from '../jobs.js';
import { expectSupplier } from '../suppliers.js';

export interface PullRow {
  id: number;
  supplier_id: number;
  supplier: string;
  name: string;
  address: string;
  schedule: string | null;
  next_at: string | null;
  progress: { cursor: string; path: string; items: number; bytes: number } | null;
  last_at: string | null;
  last_batch_id: number | null;
  last_error: string | null;
  actor: number;
}

export async function getPull(on: Executor, id: number): Promise<PullRow> {
  const pull = await queryOne<PullRow>(
    on,
    sql`SELECT p.*, s.name AS supplier FROM pull p JOIN supplier s ON s.id = p.supplier_id WHERE p.id = ${id}`,
  );
  if (!pull) throw notFound(`pull ${id}`);
  return pull;
}

export async function listPulls({ db }: Services): Promise<PullAnswer[]> {
  const pulls = await queryRows<PullRow & { running: boolean; done: number; total: number }>(
    db,
    sql`SELECT p.*, s.name AS supplier, j.id IS NOT NULL AS running, coalesce(j.done, 0) AS done, coalesce(j.total, 0) AS total FROM pull p JOIN supplier s ON s.id = p.supplier_id
        LEFT JOIN job j ON j.kind = 'pull-goods' AND j.state IN ('waiting', 'running') AND (j.input ->> 'pull')::bigint = p.id ORDER BY p.id`,
  );
  return pulls.map((row) => ({
    id: row.id,
    supplierId: row.supplier_id,
    supplier: row.supplier,
    name: row.name,
    address: row.address,
    schedule: row.schedule,
    nextAt: iso(row.next_at),
    lastAt: iso(row.last_at),
    lastBatchId: row.last_batch_id,
    lastError: row.last_error,
    running: row.running,
    fetched: row.progress?.items ?? 0,
  }));
}

/** The next moment of a cron expression (five fields, UTC). */
function nextOf(schedule: string | null): string | null {
  if (schedule === null) return null;
  // Six fields would begin with seconds: nothing is fetched more often than once a minute.
  if (schedule.trim().split(/\s+/).length !== 5) throw noSchedule(schedule);
  try {
    return CronExpressionParser.parse(schedule, { tz: 'UTC' }).next().toISOString();
  } catch {
    throw noSchedule(schedule);
  }
}

const noSchedule = (schedule: string) =>
  badRequest(`“${schedule}” is no schedule; write five fields, for example “0 6 * * 1” for Mondays at six`);

export async function savePull(
  services: Services,
  user: User,
  wish: { id?: number | undefined; supplierId: number; name: string; address: string; schedule: string | null },
): Promise<number> {
  if (!/^https?:\/\/[^/]/.test(wish.address))
    throw badRequest(`“${wish.address}” is no address; it begins with http:// or https://`);
  const next = nextOf(wish.schedule);
  await expectSupplier(services.db, wish.supplierId);
  const { answer } = await act(services, user, { kind: 'pull' }, async ({ tx, say }) => {
    const saved = wish.id
      ? await queryOne<{ id: number }>(
          tx,
          sql`UPDATE pull SET supplier_id = ${wish.supplierId}, name = ${wish.name}, address = ${wish.address}, schedule = ${wish.schedule}, next_at = ${next}, actor = ${user.id},
                -- What was fetched from another address is no beginning of this one.
                progress = CASE WHEN address = ${wish.address} THEN progress END
              WHERE id = ${wish.id} RETURNING id`,
        )
      : await queryOne<{ id: number }>(
          tx,
          sql`INSERT INTO pull (supplier_id, name, address, schedule, next_at, actor) VALUES (${wish.supplierId}, ${wish.name}, ${wish.address}, ${wish.schedule}, ${next}, ${user.id}) RETURNING id`,
        );
    if (!saved) throw notFound(`pull ${wish.id}`);
    say(`Set ${wish.name} to be pulled ${wish.schedule ? `by the schedule ${wish.schedule}` : 'when asked'}`);
    return saved.id;
  });
  return answer;
}

/** Starts a pull, or goes on with one that was interrupted. */
export async function startPull(services: Services, id: number, actor: number): Promise<number> {
  const { db } = services;
  const job = await db.transaction(async (tx) => {
    await tx.execute(sql`SELECT 1 FROM pull WHERE id = ${id} FOR UPDATE`);
    const pull = await getPull(tx, id);
    if (await isUnderWay(tx, jobs.pullGoods, { pull: id })) throw conflict(`${pull.name} is being pulled already`);
    return createJob(tx, jobs.pullGoods, { label: `Pulling ${pull.name}`, input: { pull: id, actor }, actor });
  });
  runAside(job).catch(() => undefined);
  return job;
}

/** Wishes a pull that is under way to stop; what it fetched is thrown away. */
export async function cancelPull({ db, notify }: Services, id: number): Promise<void> {
  await getPull(db, id);
  if (!(await wishCancel(db, jobs.pullGoods, { pull: id })))
    throw conflict('Nothing is being pulled from it; there is nothing to cancel');
  notify('job');
}

/** Forgets a source; what was read in from it stays. */
export async function removePull(services: Services, user: User, id: number): Promise<void> {
  const { answer: gone } = await act(services, user, { kind: 'pull', tells: ['job'] }, async ({ tx, say }) => {
    const pull = await getPull(tx, id);
    await wishCancel(tx, jobs.pullGoods, { pull: id });
    await tx.execute(sql`DELETE FROM pull WHERE id = ${id}`);
    say(`${pull.name} is not pulled any more`);
    return pull;
  });
  if (gone.progress) await rm(gone.progress.path, { force: true });
}

/** Starts what its schedule says is due. */
export async function startDuePulls(services: Services): Promise<void> {
  const due = await queryRows<{ id: number; schedule: string; actor: number }>(
    services.db,
    sql`SELECT id, schedule, actor FROM pull WHERE next_at <= now() AND schedule IS NOT NULL`,
  );
  for (const { id, schedule, actor } of due) {
    await services.db.execute(sql`UPDATE pull SET next_at = ${nextOf(schedule)} WHERE id = ${id}`);
    // One that is under way still is not begun once more.
    await startPull(services, id, actor).catch(() => undefined);
  }
}
