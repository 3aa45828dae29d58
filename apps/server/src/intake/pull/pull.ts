/** Sources that goods are fetched from instead of dropped, and when. */
import { rm } from 'node:fs/promises';
import type { PullAnswer } from '@velvet-shelf/contract';
import { CronExpressionParser } from 'cron-parser';
import { sql, eq, and, lte, isNotNull, getTableColumns } from 'drizzle-orm';
import { type Executor, iso, first } from '../../db/client.js';
import { badRequest, conflict, notFound } from '../../http/problem.js';
import type { Services, User } from '../../http/route.js';
import { act } from '../../history/act.js';
import { runAside } from '../../jobs/aside.js';
import { createJob, isUnderWay, wishCancel } from '../../jobs/run.js';
import * as jobs from '../jobs.js';
import { expectSupplier } from '../../company/suppliers.js';
import * as tables from '../../db/schema/index.js';

const pullRows = (on: Executor) =>
  on
    .select({
      ...getTableColumns(tables.pull),
      supplier: tables.supplier.name,
      running: sql<boolean>`EXISTS (SELECT 1 FROM ${tables.job} j WHERE j.kind = ${jobs.pullGoods.kind}
        AND j.state IN ('waiting', 'running') AND (j.input ->> 'pull')::bigint = ${tables.pull.id})`,
    })
    .from(tables.pull)
    .innerJoin(tables.supplier, eq(tables.supplier.id, tables.pull.supplierId));

/** A source with its supplier's name, and whether it is being fetched. */
export type PullRow = Awaited<ReturnType<typeof pullRows>>[number];

export async function getPull(on: Executor, id: number): Promise<PullRow> {
  const pull = await first(pullRows(on).where(eq(tables.pull.id, id)));
  if (!pull) throw notFound(`pull ${id}`);
  return pull;
}

export async function listPulls({ db }: Services): Promise<PullAnswer[]> {
  const pulls = await pullRows(db).orderBy(tables.pull.id);
  return pulls.map((row) => ({
    id: row.id,
    supplierId: row.supplierId,
    supplier: row.supplier,
    name: row.name,
    address: row.address,
    schedule: row.schedule,
    nextAt: iso(row.nextAt),
    lastAt: iso(row.lastAt),
    lastBatchId: row.lastBatchId,
    lastError: row.lastError,
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
    const set = {
      supplierId: wish.supplierId,
      name: wish.name,
      address: wish.address,
      schedule: wish.schedule,
      nextAt: next,
      actor: user.id,
    };
    const saved = await first(
      wish.id
        ? tx
            .update(tables.pull)
            .set({
              ...set,
              // What was fetched from another address is no beginning of this one.
              progress: sql`CASE WHEN ${tables.pull.address} = ${wish.address} THEN ${tables.pull.progress} END`,
            })
            .where(eq(tables.pull.id, wish.id))
            .returning({ id: tables.pull.id })
        : tx.insert(tables.pull).values(set).returning({ id: tables.pull.id }),
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
    await tx.select({ id: tables.pull.id }).from(tables.pull).where(eq(tables.pull.id, id)).for('update');
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
    await tx.delete(tables.pull).where(eq(tables.pull.id, id));
    say(`${pull.name} is not pulled any more`);
    return pull;
  });
  if (gone.progress) await rm(gone.progress.path, { force: true });
}

/** Starts what its schedule says is due. */
export async function startDuePulls(services: Services): Promise<void> {
  const due = await services.db
    .select({ id: tables.pull.id, schedule: tables.pull.schedule, actor: tables.pull.actor })
    .from(tables.pull)
    .where(and(lte(tables.pull.nextAt, sql`now()`), isNotNull(tables.pull.schedule)));
  for (const { id, schedule, actor } of due) {
    await services.db
      .update(tables.pull)
      .set({ nextAt: nextOf(schedule) })
      .where(eq(tables.pull.id, id));
    // One that is under way still is not begun once more.
    await startPull(services, id, actor).catch(() => undefined);
  }
}
