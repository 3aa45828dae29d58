/**
 * Jobs: our `job` row is the truth. Whoever runs a job holds a session advisory lock on its id; a running job whose lock
 * is free has lost its worker, and the sweep sends it again.
 */
import { type SQL, and, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import { type Executor, isCode, queryOne, queryRows, first } from '../db/client.js';
import * as schema from '../db/schema/index.js';
import type { Services } from '../http/route.js';
import { type JobContext, type JobKind, Passing, jobOf } from './define.js';
import * as tables from '../db/schema/index.js';

/** Puts a job into its row; whoever did this starts it once the transaction has ended. */
export async function createJob<Input>(
  on: Executor,
  { kind }: JobKind<Input>,
  given: { label: string; input: Input; actor?: number | undefined },
): Promise<number> {
  const [made] = await on
    .insert(tables.job)
    .values({ kind, label: given.label, input: given.input, actor: given.actor })
    .returning({ id: tables.job.id });
  if (!made) throw new Error(`No row was made for “${kind}”`);
  return made.id;
}

/** Jobs that wait or run for one thing, named as in their input: `pullGoods, { pull: 7 }`. */
function underWay<Input>({ kind }: JobKind<Input>, of: Partial<Input>): SQL | undefined {
  return and(
    eq(tables.job.kind, kind),
    inArray(tables.job.state, ['waiting', 'running']),
    sql`${tables.job.input} @> ${JSON.stringify(of)}::jsonb`,
  );
}

export async function isUnderWay<Input>(on: Executor, kind: JobKind<Input>, of: Partial<Input>): Promise<boolean> {
  const known = await on.select({ id: tables.job.id }).from(tables.job).where(underWay(kind, of)).limit(1);
  return known.length > 0;
}

/** Wishes these jobs to stop; answers whether there were any. */
export async function wishCancel<Input>(on: Executor, kind: JobKind<Input>, of: Partial<Input>): Promise<boolean> {
  const asked = await on
    .update(tables.job)
    .set({ cancelWish: sql`now()` })
    .where(underWay(kind, of))
    .returning({ id: tables.job.id });
  return asked.length > 0;
}

/** Lock numbers of jobs live in a space of their own, those of kinds that run one at a time in another. */
const lockSpace = 4180;
const aloneSpace = 4184;
/** What waits for another of its kind looks again after this long. */
const aloneMilliseconds = 500;

/** Runs a job to its end, unless somebody else does already; then the one that was put off because of it. */
export async function runJob(services: Services, id: number): Promise<void> {
  for (let next: number | undefined = id; next !== undefined;) next = await runOne(services, next);
}

/** Answers the job that waits for the end of this one. */
async function runOne(services: Services, id: number): Promise<number | undefined> {
  const client = await services.db.$client.connect();
  const lock = drizzle(client, { schema });
  try {
    const got = await queryOne<{ got: boolean }>(lock, sql`SELECT pg_try_advisory_lock(${lockSpace}, ${id}) AS got`);
    if (!got?.got) return undefined;
    try {
      const row = await first(lock.select({ kind: tables.job.kind }).from(tables.job).where(eq(tables.job.id, id)));
      const kind = row && jobOf(row.kind);
      if (!kind) return undefined;
      if (kind.isAlone && !(await isFirst(lock, kind.kind))) {
        await putOff(lock, id);
        return undefined;
      }
      await work(services, id);
      return kind.isAlone ? await nextOf(lock, kind.kind) : undefined;
    } finally {
      // The client goes back to its pool: no lock of it may stay.
      await lock.execute(sql`SELECT pg_advisory_unlock_all()`);
    }
  } finally {
    client.release();
  }
}

/** Whether no other job of this kind runs; none begins until this connection lets go. */
async function isFirst(lock: Executor, kind: string): Promise<boolean> {
  const got = await queryOne<{ got: boolean }>(
    lock,
    sql`SELECT pg_try_advisory_lock(${aloneSpace}, hashtext(${kind})) AS got`,
  );
  return got?.got ?? false;
}

/** Lets a job wait without a thread, until the sweep sends it again. */
async function putOff(on: Executor, id: number): Promise<void> {
  await on
    .update(tables.job)
    .set({ state: 'waiting', dueAt: sql`now() + ${aloneMilliseconds} * interval '1 millisecond'` })
    .where(and(eq(tables.job.id, id), inArray(tables.job.state, ['waiting', 'running'])));
}

/** The oldest of this kind that was put off. */
async function nextOf(on: Executor, kind: string): Promise<number | undefined> {
  const { job } = tables;
  const waiting = await first(
    on
      .select({ id: job.id })
      .from(job)
      .where(and(eq(job.kind, kind), eq(job.state, 'waiting'), isNotNull(job.dueAt)))
      .orderBy(job.id)
      .limit(1),
  );
  return waiting?.id;
}

async function work(services: Services, id: number): Promise<void> {
  const { db } = services;
  const row = await first(
    db
      .update(tables.job)
      .set({
        state: 'running',
        startedAt: sql`coalesce(${tables.job.startedAt}, now())`,
        tries: sql`${tables.job.tries} + 1`,
      })
      .where(and(eq(tables.job.id, id), inArray(tables.job.state, ['waiting', 'running'])))
      .returning({
        kind: tables.job.kind,
        input: tables.job.input,
        checkpoint: tables.job.checkpoint,
        tries: tables.job.tries,
      }),
  );
  const kind = row && jobOf(row.kind);
  if (!row || !kind) return;
  services.notify('job', { id });
  let told = 0;
  let parked: { checkpoint: Record<string, unknown>; milliseconds: number } | undefined;
  const context: JobContext = {
    db,
    services,
    id,
    input: row.input,
    checkpoint: row.checkpoint,
    async progress(done, total) {
      await db.update(tables.job).set({ done, total }).where(eq(tables.job.id, id));
      if (Date.now() - told > 200 || done === total) services.notify('job', { id, done, total });
      told = Date.now();
    },
    saveCheckpoint: async (on, checkpoint) => {
      await on.update(tables.job).set({ checkpoint, tries: 0 }).where(eq(tables.job.id, id));
    },
    park: (checkpoint, milliseconds) => {
      parked = { checkpoint, milliseconds };
    },
    finish: async (on) => {
      await on
        .update(tables.job)
        .set({ state: 'done', endedAt: sql`now()` })
        .where(eq(tables.job.id, id));
    },
    fail: async (on, reason) => {
      await on
        .update(tables.job)
        .set({ state: 'failed', error: reason, endedAt: sql`now()` })
        .where(and(eq(tables.job.id, id), eq(tables.job.state, 'running')));
    },
    async cancelled(on) {
      const asked = (on ?? db).select({ wish: tables.job.cancelWish }).from(tables.job).where(eq(tables.job.id, id));
      const wish = await first(on ? asked.for('update') : asked);
      return typeof wish?.wish === 'string';
    },
  };
  try {
    if (row.tries > kind.tries) throw new Error('The server ended each time while this was under way');
    await kind.run(context);
    const isCancelled = await context.cancelled();
    const ended = { state: isCancelled ? ('cancelled' as const) : ('done' as const), endedAt: sql`now()` };
    await db
      .update(tables.job)
      .set(parked && !isCancelled ? waitingAgain(parked) : ended)
      .where(and(eq(tables.job.id, id), eq(tables.job.state, 'running')));
  } catch (error) {
    const fault = error instanceof Error ? error : new Error(String(error));
    // A database that went away, or a deadlock, says nothing of the job: the sweep sends it again from its checkpoint.
    if (isPassing(error)) throw fault;
    // What it leaves is put right first: where this process ends in between, the sweep comes by here once more.
    const left = await kind.failed?.(context, fault).then(
      () => undefined,
      (row: unknown) => row,
    );
    if (left !== undefined && isPassing(left)) throw left;
    await context.fail(db, reasonOf(fault));
    services.notify('job', { id });
    throw fault;
  }
  services.notify('job', { id });
}

const waitingAgain = ({ checkpoint, milliseconds }: { checkpoint: Record<string, unknown>; milliseconds: number }) => ({
  state: 'waiting' as const,
  checkpoint,
  tries: 0,
  dueAt: sql`now() + ${milliseconds} * interval '1 millisecond'`,
});

/** What went wrong, in the words of what caused it: a failed statement itself would be said with all its values. */
export function reasonOf(error: unknown): string {
  if (!(error instanceof Error)) return String(error);
  return error.cause instanceof Error ? reasonOf(error.cause) : error.message;
}

/** Errors of a connection, not of what was asked (PostgreSQL classes 08 and 57P, and the socket's own). */
export function isConnectionLoss(error: unknown): boolean {
  for (let at = error; at instanceof Error; at = at.cause) {
    const { code } = at as { code?: string };
    if (code && /^(?:08|57P0)|^ECONN|^EPIPE/.test(code)) return true;
    if (/Connection terminated|connection error/i.test(at.message)) return true;
  }
  return false;
}

/** Faults that pass by themselves: the same work done once more succeeds. */
export const isPassing = (error: unknown): boolean =>
  error instanceof Passing || isConnectionLoss(error) || isCode(error, deadlock);
const deadlock = '40P01';

/** Sends jobs again that wait, or whose worker died; answers when all of this round have ended. */
export async function sweepJobs(
  services: Services,
  run: (services: Services, id: number) => Promise<void> = runJob,
): Promise<void> {
  const lost = await queryRows<{ id: number }>(
    services.db,
    sql`SELECT j.id FROM job j WHERE (j.state = 'running' OR (j.state = 'waiting' AND (coalesce(j.due_at, j.created_at + interval '2 seconds') <= now() OR j.cancel_wish IS NOT NULL)))
          AND NOT EXISTS (SELECT 1 FROM pg_locks l WHERE l.locktype = 'advisory' AND l.classid = ${lockSpace} AND l.objid = j.id
            AND l.database = (SELECT oid FROM pg_database WHERE datname = current_database()))
        ORDER BY j.id LIMIT 4`,
  );
  for (const { id } of lost) await run(services, id).catch(() => undefined);
}
