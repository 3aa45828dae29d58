/** Job: what stands at an address is fetched into a file, a shop’s catalogue page by page, and read as a batch like any other. */
import { randomUUID } from 'node:crypto';
import { appendFile, mkdir, readFile, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { sql, eq, and } from 'drizzle-orm';
import { type GoodsPage, shop } from '../../channels/adapters/index.js';
import type { Config } from '../../config.js';
import { first } from '../../db/client.js';
import { Problem, unprocessable } from '../../http/problem.js';
import type { Services } from '../../http/route.js';
import { apart } from '../../jobs/aside.js';
import type { JobContext } from '../../jobs/define.js';
import { Unreachable, download, reachOut } from '../../outgoing/reach.js';
import { getBatch } from '../batches.js';
import { signature } from '../columns/columns.js';
import * as jobs from '../jobs.js';
import { applyTried, dryRun } from '../service.js';
import { newsOf } from '../try/counts.js';
import { type PullRow, getPull } from './pull.js';
import { personColumns } from '../../session/service.js';
import * as tables from '../../db/schema/index.js';

const tries = 4;

/** What was fetched, as it is read in. */
interface Fetched {
  path: string;
  name: string;
  bytes: number;
  sha256: string;
}

/** Fetches a source; of a shop, what was fetched before it broke off is gone on from. */
export async function pullGoods(context: JobContext<jobs.PullInput>): Promise<void> {
  const { db, services, input } = context;
  const id = input.pull;
  const pull = await getPull(db, id);
  try {
    const fetched = await fetchSource(context, pull);
    if (!fetched) return;
    const batchId = await takeIn(services, pull, fetched);
    await db
      .update(tables.pull)
      .set({ progress: null, lastAt: sql`now()`, lastBatchId: batchId, lastError: null })
      .where(eq(tables.pull.id, id));
    services.notify('batch', { batch: batchId });
  } catch (error) {
    const words = error instanceof Error ? error.message : String(error);
    await db
      .update(tables.pull)
      .set({ lastError: words, lastAt: sql`now()` })
      .where(eq(tables.pull.id, id));
    services.notify('batch');
    throw error;
  }
}

/** The whole of it in a file; undefined where somebody cancelled. */
async function fetchSource(context: JobContext<jobs.PullInput>, pull: PullRow): Promise<Fetched | undefined> {
  const { services } = context;
  const directory = join(services.config.files, 'intake');
  await mkdir(directory, { recursive: true });
  if (pull.progress) return fetchPages(context, pull, pull.progress);
  const path = join(directory, randomUUID());
  const file = await fetchFile(services.config, pull, path).catch(async (error: unknown) => {
    await rm(path, { force: true });
    throw error;
  });
  const page = file.bytes <= largestPage ? shop.page(await readFile(path, 'utf8')) : undefined;
  if (!page) return { ...file, path };
  await writeFile(path, '');
  return fetchPages(context, pull, { cursor: '', path, items: 0, bytes: 0 }, page);
}

/** A page is read whole; what is larger is a file. */
const largestPage = 20_000_000;

/** Page after page; `first` is one that has come already. */
async function fetchPages(
  { db, services, progress, cancelled }: JobContext<jobs.PullInput>,
  pull: PullRow,
  from: NonNullable<PullRow['progress']>,
  first?: GoodsPage,
): Promise<Fetched | undefined> {
  let state = from;
  let came = first;
  await truncate(state.path, state.bytes);
  for (let cursor: string | null = state.cursor; cursor !== null;) {
    if (await cancelled()) {
      await db.update(tables.pull).set({ progress: null }).where(eq(tables.pull.id, pull.id));
      await rm(state.path, { force: true });
      return undefined;
    }
    const page: GoodsPage = came ?? (await fetchPage(services.config, pull, cursor));
    came = undefined;
    if (page.next !== null && (page.next === cursor || page.next === state.cursor))
      throw unreadable(`${pull.name} names the same next page again and again; it would never end`);
    await appendFile(state.path, page.goods.map((goods) => `${JSON.stringify(goods)}\n`).join(''));
    const { size } = await stat(state.path);
    if (size > services.config.maxUpload)
      throw unreadable(`${pull.name} has more than ${Math.floor(services.config.maxUpload / 1e6)} MB of goods`);
    cursor = page.next;
    state = { ...state, cursor: cursor ?? state.cursor, items: state.items + page.goods.length, bytes: size };
    await db.update(tables.pull).set({ progress: state }).where(eq(tables.pull.id, pull.id));
    await progress(state.items, page.of ?? 0);
  }
  if (state.items === 0) throw unprocessable(`${pull.name} has no goods`);
  const day = new Date().toISOString().slice(0, 10);
  const name = `${pull.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-${day}.jsonl`;
  return { path: state.path, name, bytes: state.bytes, sha256: '' };
}

const unreadable = (detail: string) => new Problem(502, 'The source cannot be read', detail);

/** What a busy or silent other side answers when it is asked again, later each time. */
async function untilItComes<T>(name: string, attempt: () => Promise<T | { why: string }>): Promise<T> {
  for (let n = 1; ; n++) {
    const came = await attempt().catch((error: unknown) => {
      if (error instanceof Unreachable) return { why: error.message };
      throw error;
    });
    if (typeof came !== 'object' || came === null || !('why' in came)) return came;
    if (n >= tries) throw unreadable(`${name} ${came.why}. What was fetched is kept; pull again to go on from there.`);
    await new Promise((resolve) => setTimeout(resolve, 250 * 2 ** n));
  }
}

const isBusy = (status: number) => status === 429 || status >= 500;

/** What stands at the address of a source, as a file. */
function fetchFile(config: Config, pull: PullRow, path: string): Promise<Omit<Fetched, 'path'>> {
  return untilItComes<Omit<Fetched, 'path'>>(pull.name, async () => {
    const came = await download(config, pull.address, path, { limit: config.maxUpload });
    if (isBusy(came.status)) return { why: `answered ${came.status}` };
    if (!came.ok) throw unreadable(`${pull.name} answered ${came.status} at ${pull.address}: check the address`);
    if (came.bytes === 0) throw unprocessable(`${pull.name} has sent an empty file`);
    return { name: came.name || pull.name, bytes: came.bytes, sha256: came.sha256 };
  });
}

/** The page of goods after a mark. */
function fetchPage(config: Config, pull: PullRow, after: string): Promise<GoodsPage> {
  const address = shop.pageAddress(pull.address, after);
  return untilItComes<GoodsPage>(pull.name, async () => {
    const answer = await reachOut(config, address);
    if (isBusy(answer.status)) return { why: `answered ${answer.status}` };
    if (!answer.ok) throw unreadable(`${pull.name} answered ${answer.status} at ${address.href}: check the address`);
    const page = shop.page(answer.text);
    if (!page)
      throw unreadable(`${pull.name} sent something else than a page of goods from ${address.href}: check the address`);
    return page;
  });
}

/** Reads the fetched file as a batch; where its columns were confirmed before and nothing is odd, it is applied at once. */
async function takeIn(services: Services, pull: PullRow, { name, path, bytes, sha256 }: Fetched): Promise<number> {
  const { db } = services;
  const file = {
    name,
    path,
    bytes,
    sha256,
    fields: { supplier: String(pull.supplierId) },
  };
  const batchId = await apart(jobs.readFile, services, { file, how: { kind: 'pull' } });
  const user = await first(
    db.select(personColumns).from(tables.userAccount).where(eq(tables.userAccount.id, pull.actor)),
  );
  if (!user) return batchId;
  const batch = await getBatch(db, batchId);
  const known = await first(
    db
      .select({ at: tables.columnMap.at })
      .from(tables.columnMap)
      .where(
        and(eq(tables.columnMap.supplierId, pull.supplierId), eq(tables.columnMap.signature, signature(batch.columns))),
      ),
  );
  if (!known) return batchId;
  await dryRun(services, batchId, user);
  const { counts } = await getBatch(db, batchId);
  const id = counts ? newsOf(counts) + counts.unchanged + counts.refused : 0;
  const odd = !counts || counts.refused > id / 10 || counts.dropped > id / 5;
  if (!odd) await applyTried(services, batchId, user);
  return batchId;
}
