/** Goods that are fetched instead of dropped: a shop's catalogue page by page, and one item of a channel's catalogue. */
import { randomUUID } from 'node:crypto';
import { appendFile, mkdir, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { PullAnswer } from '@velvet-shelf/contract';
import { CronExpressionParser } from 'cron-parser';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { getPlace } from '../../channels/setup.js';
import type { Config } from '../../config.js';
import { loadCompany, own as ownOf } from '../../company/settings.js';
import { type Executor, iso, json, queryOne, queryRows } from '../../db/client.js';
import { Problem, badRequest, conflict, notFound, unprocessable } from '../../http/problem.js';
import type { Services, User } from '../../http/route.js';
import { recordAction } from '../../history/record.js';
import { apart, runAside } from '../../jobs/aside.js';
import type { JobContext } from '../../jobs/define.js';
import { createJob, isUnderWay, wishCancel } from '../../jobs/run.js';
import * as jobs from '../jobs.js';
import { readJson } from '../../outgoing/json.js';
import { type Came, Unreachable, reachOut } from '../../outgoing/reach.js';
import { signature } from '../columns/columns.js';
import { newsOf } from '../try/counts.js';
import { getBatch } from '../batches.js';
import { applyTried, dryRun } from '../service.js';
import { expectSupplier, ownSupplier } from '../suppliers.js';

/** A page of a shop's catalogue: goods as the shop describes them, and where the next page begins. */
const pageSchema = z.object({
  goods: z.array(z.unknown()),
  next: z.string().nullable(),
  of: z.number().int().nullish(),
});

interface PullRow {
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

async function getPull(on: Executor, id: number): Promise<PullRow> {
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
  { db }: Services,
  user: User,
  wish: { id?: number | undefined; supplierId: number; name: string; address: string; schedule: string | null },
): Promise<number> {
  if (!/^https?:\/\/[^/]/.test(wish.address))
    throw badRequest(`“${wish.address}” is no address; it begins with http:// or https://`);
  const next = nextOf(wish.schedule);
  await expectSupplier(db, wish.supplierId);
  return db.transaction(async (tx) => {
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
    await recordAction(
      tx,
      {
        actor: user.id,
        kind: 'pull',
        words: `Set ${wish.name} to be pulled ${wish.schedule ? `by the schedule ${wish.schedule}` : 'when asked'}`,
      },
      [],
    );
    return saved.id;
  });
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
export async function removePull({ db, notify }: Services, user: User, id: number): Promise<void> {
  const gone = await db.transaction(async (tx) => {
    const pull = await getPull(tx, id);
    await wishCancel(tx, jobs.pullGoods, { pull: id });
    await tx.execute(sql`DELETE FROM pull WHERE id = ${id}`);
    await recordAction(tx, { actor: user.id, kind: 'pull', words: `${pull.name} is not pulled any more` }, []);
    return pull;
  });
  if (gone.progress) await rm(gone.progress.path, { force: true });
  notify('job');
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

const tries = 4;

/** Job: fetches page after page into a file; when whole, it is read as a batch like any other. */
export async function pullGoods(context: JobContext<jobs.PullInput>): Promise<void> {
  const { db, services, input, progress, cancelled } = context;
  const id = Number(input.pull);
  const pull = await getPull(db, id);
  try {
    const directory = join(services.config.files, 'intake');
    await mkdir(directory, { recursive: true });
    let state = pull.progress ?? { cursor: '', path: join(directory, randomUUID()), items: 0, bytes: 0 };
    if (state.bytes === 0) await writeFile(state.path, '');
    else await truncate(state.path, state.bytes);
    for (let cursor: string | null = state.cursor; cursor !== null;) {
      if (await cancelled()) {
        await db.execute(sql`UPDATE pull SET progress = NULL WHERE id = ${id}`);
        await rm(state.path, { force: true });
        return;
      }
      const page = await fetchPage(services.config, pull, cursor);
      if (page.next !== null && (page.next === cursor || page.next === state.cursor))
        throw unreadable(`${pull.name} names the same next page again and again; it would never end`);
      await appendFile(state.path, page.goods.map((row) => `${JSON.stringify(row)}\n`).join(''));
      const { size } = await stat(state.path);
      if (size > services.config.maxUpload)
        throw unreadable(`${pull.name} has more than ${Math.floor(services.config.maxUpload / 1e6)} MB of goods`);
      cursor = page.next;
      state = { ...state, cursor: cursor ?? state.cursor, items: state.items + page.goods.length, bytes: size };
      await db.execute(sql`UPDATE pull SET progress = ${json(state)} WHERE id = ${id}`);
      await progress(state.items, page.of ?? 0);
    }
    const batchId = await takeIn(services, pull, state);
    await db.execute(
      sql`UPDATE pull SET progress = NULL, last_at = now(), last_batch_id = ${batchId}, last_error = NULL WHERE id = ${id}`,
    );
    services.notify('batch', { batch: batchId });
  } catch (error) {
    const words = error instanceof Error ? error.message : String(error);
    await db.execute(sql`UPDATE pull SET last_error = ${words}, last_at = now() WHERE id = ${id}`);
    services.notify('batch');
    throw error;
  }
}

const unreadable = (detail: string) => new Problem(502, 'The shop cannot be read', detail);

/** One page of goods; a shop that is busy or silent is asked again, later each time. */
async function fetchPage(config: Config, pull: PullRow, cursor: string): Promise<z.infer<typeof pageSchema>> {
  const address = new URL(pull.address);
  if (cursor !== '') address.searchParams.set('after', cursor);
  for (let n = 1; ; n++) {
    const asked = await askPage(config, pull.name, address);
    if ('page' in asked) return asked.page;
    if (n >= tries)
      throw unreadable(`${pull.name} ${asked.why}. What was fetched is kept; pull again to go on from there.`);
    await new Promise((resolve) => setTimeout(resolve, 250 * 2 ** n));
  }
}

/** A page, or why it may come when asked again; what will not come by asking again is thrown. */
async function askPage(
  config: Config,
  name: string,
  address: URL,
): Promise<{ page: z.infer<typeof pageSchema> } | { why: string }> {
  let answer: Came;
  try {
    answer = await reachOut(config, address);
  } catch (error) {
    if (error instanceof Unreachable) return { why: error.message };
    throw error;
  }
  if (answer.status === 429 || answer.status >= 500) return { why: `answered ${answer.status}` };
  if (!answer.ok) throw unreadable(`${name} answered ${answer.status} at ${address.href}: check the address`);
  const read = pageSchema.safeParse(readJson(answer.text));
  if (!read.success)
    throw unreadable(`${name} sent something else than a page of goods from ${address.href}: check the address`);
  return { page: read.data };
}

/** Reads the fetched file as a batch; where its columns were confirmed before and nothing is odd, it is applied at once. */
async function takeIn(
  services: Services,
  pull: PullRow,
  state: { path: string; bytes: number; items: number },
): Promise<number> {
  const { db } = services;
  if (state.items === 0) throw unprocessable(`${pull.name} has no goods`);
  const day = new Date().toISOString().slice(0, 10);
  const name = `${pull.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-${day}.jsonl`;
  const file = {
    name,
    path: state.path,
    bytes: state.bytes,
    sha256: '',
    fields: { supplier: String(pull.supplier_id) },
  };
  const batchId = await apart(jobs.readFile, services, { file, how: { kind: 'pull' } });
  const user = await queryOne<User>(
    db,
    sql`SELECT id, email, name, role, last_visit AS "lastVisit" FROM user_account WHERE id = ${pull.actor}`,
  );
  if (!user) return batchId;
  const batch = await getBatch(db, batchId);
  const known = await queryOne(
    db,
    sql`SELECT 1 FROM column_map WHERE supplier_id = ${pull.supplier_id} AND signature = ${signature(batch.columns)}`,
  );
  if (!known) return batchId;
  await dryRun(services, batchId, user);
  const { counts } = await getBatch(db, batchId);
  const id = counts ? newsOf(counts) + counts.unchanged + counts.refused : 0;
  const odd = !counts || counts.refused > id / 10 || counts.dropped > id / 5;
  if (!odd) await applyTried(services, batchId, user);
  return batchId;
}

const itemSchema = z.object({ goods: z.record(z.string(), z.unknown()) });

/** One item of a channel's own catalogue as a batch of one row, with the cells a person must add left empty. */
export async function fetchItem(services: Services, placeId: number, identifier: string): Promise<number> {
  const { db, config } = services;
  const place = await getPlace(db, placeId);
  const wanted = identifier.trim();
  const answer = await reachOut(config, `${place.accountAddress}/api/goods/${encodeURIComponent(wanted)}`, {
    patience: 20_000,
  }).catch((error: unknown) => {
    if (!(error instanceof Unreachable)) throw error;
    throw new Problem(502, 'The channel cannot be reached', `${place.channelName} ${error.message}`);
  });
  if (answer.status === 404)
    throw unprocessable(
      `${place.channelName} knows no item “${wanted}”. Check the identifier, or drop a file instead.`,
    );
  const read = itemSchema.safeParse(answer.ok ? readJson(answer.text) : undefined);
  if (!read.success)
    throw new Problem(502, 'The channel’s answer cannot be read', `${place.channelName} answered ${answer.status}`);
  const own = await ownSupplier(db);
  const currency = ownOf((await loadCompany(db)).currencies);
  const directory = join(config.files, 'intake');
  await mkdir(directory, { recursive: true });
  const path = join(directory, randomUUID());
  const text = JSON.stringify([
    {
      SKU: '',
      ...read.data.goods,
      'Our category': '',
      [`Cost ${currency}`]: '',
      [`Price ${currency}`]: '',
      Stock: '',
    },
  ]);
  await writeFile(path, text);
  return apart(jobs.readFile, services, {
    file: {
      name: `${place.channel}-${wanted.replace(/[^\w-]+/g, '-')}.json`,
      path,
      bytes: text.length,
      sha256: '',
      fields: { supplier: String(own) },
    },
    how: { kind: 'pull', scope: 'some' },
  });
}
