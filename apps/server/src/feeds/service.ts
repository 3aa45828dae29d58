/** Feeds: built as jobs, guarded, put up, served, offered to the channel, and answered by its report. */
import { randomBytes } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { FeedAnswer, RunAnswer } from '@velvet-shelf/contract';
import { type FeedFormat, type RunDifference, formats, guardRun } from '@velvet-shelf/core/feeds';
import { sql, eq, and, desc } from 'drizzle-orm';
import { loadDictionary } from '../dictionary/dictionary.js';
import { sayCause } from '@velvet-shelf/core/causes';
import { getPlace, rulebookOf } from '../channels/places.js';
import { type Executor, iso, queryOne, first } from '../db/client.js';
import { badRequest, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { act } from '../history/act.js';
import { isAnyUnderWay } from '../intake/batches.js';
import { runAside } from '../jobs/aside.js';
import type { JobContext } from '../jobs/define.js';
import { createJob } from '../jobs/run.js';
import * as jobs from './jobs.js';
import { buildFile } from './build.js';
import * as tables from '../db/schema/index.js';

const feedRows = (on: Executor) =>
  on
    .select({
      id: tables.feed.id,
      placeId: tables.feed.placeId,
      place: tables.place.name,
      name: tables.feed.name,
      format: tables.feed.format,
      secret: tables.feed.secret,
      guard: tables.feed.guard,
      upRunId: tables.feed.upRunId,
    })
    .from(tables.feed)
    .innerJoin(tables.place, eq(tables.place.id, tables.feed.placeId));

/** A feed with the name of its place. */
export type FeedRow = Awaited<ReturnType<typeof feedRows>>[number];

/** Keeps whoever else builds, offers or puts up this feed waiting; answers which run is up. */
export const lockFeed = (on: Executor, id: number) =>
  first(on.select({ up: tables.feed.upRunId }).from(tables.feed).where(eq(tables.feed.id, id)).for('update'));

export async function getFeed(on: Executor, id: number): Promise<FeedRow> {
  const feed = await first(feedRows(on).where(eq(tables.feed.id, id)));
  if (!feed) throw notFound(`feed ${id}`);
  return feed;
}

export async function listFeeds(services: Services): Promise<FeedAnswer[]> {
  const feeds = await feedRows(services.db).orderBy(tables.feed.id);
  return Promise.all(feeds.map((feed) => showFeed(services, feed)));
}

export async function showFeed({ db, config }: Services, feed: FeedRow): Promise<FeedAnswer> {
  const runs = await runRows(db).where(eq(tables.run.feedId, feed.id)).orderBy(desc(tables.run.id)).limit(20);
  const fetches = await db
    .select({
      at: tables.feedFetch.at,
      agent: tables.feedFetch.agent,
      status: tables.feedFetch.status,
      runId: tables.feedFetch.runId,
    })
    .from(tables.feedFetch)
    .where(eq(tables.feedFetch.feedId, feed.id))
    .orderBy(desc(tables.feedFetch.id))
    .limit(20);
  return {
    id: feed.id,
    placeId: feed.placeId,
    place: feed.place,
    name: feed.name,
    format: feed.format,
    address: `${config.address}/f/${feed.secret}.${formats[feed.format].extension}`,
    runs: runs.map(toRun),
    fetches: fetches.map((row) => ({ ...row, at: iso(row.at) })),
  };
}

const runRows = (on: Executor) =>
  on
    .select({
      id: tables.run.id,
      feedId: tables.run.feedId,
      state: tables.run.state,
      heldWhy: tables.run.heldWhy,
      error: tables.run.error,
      up: sql<boolean>`${tables.feed.upRunId} = ${tables.run.id} IS TRUE`,
      counts: tables.run.counts,
      difference: tables.run.difference,
      bytes: tables.run.bytes,
      gzipBytes: tables.run.gzipBytes,
      rulebookVersion: tables.run.rulebookVersion,
      startedAt: tables.run.startedAt,
      endedAt: tables.run.endedAt,
      progress: sql<RunAnswer['progress']>`(SELECT jsonb_build_object('done', j.done, 'total', j.total)
        FROM ${tables.job} j WHERE j.id = ${tables.run.jobId} AND ${tables.run.state} = 'running')`,
      asked: sql<
        RunAnswer['asked']
      >`(SELECT jsonb_build_object('state', CASE j.state WHEN 'failed' THEN 'failed' ELSE 'reading' END,
          'done', j.done, 'total', j.total, 'error', j.error)
        FROM (SELECT * FROM ${tables.job} o WHERE o.kind = ${jobs.offerFeed.kind} AND (o.input ->> 'run')::bigint = ${tables.run.id}
          ORDER BY o.id DESC LIMIT 1) j WHERE j.state IN ('waiting', 'running', 'failed'))`,
      report: sql<RunAnswer['report']>`(SELECT jsonb_build_object('id', t.id, 'receivedAt', t.received_at) || t.counts
        FROM ${tables.report} t WHERE t.run_id = ${tables.run.id} ORDER BY t.id DESC LIMIT 1)`,
    })
    .from(tables.run)
    .innerJoin(tables.feed, eq(tables.feed.id, tables.run.feedId));

type RunRow = Awaited<ReturnType<typeof runRows>>[number];

const toRun = (row: RunRow): RunAnswer => ({
  ...row,
  startedAt: iso(row.startedAt),
  endedAt: iso(row.endedAt),
  report: row.report && { ...row.report, receivedAt: iso(row.report.receivedAt) },
});

export async function showRun({ db }: Services, id: number): Promise<RunAnswer> {
  const run = await first(runRows(db).where(eq(tables.run.id, id)));
  if (!run) throw notFound(`run ${id}`);
  return toRun(run);
}

export async function createFeed(
  services: Services,
  user: User,
  placeId: number,
  format: FeedFormat,
): Promise<FeedAnswer> {
  const { db } = services;
  const place = await getPlace(db, placeId);
  const { exchange } = await rulebookOf(db, place);
  if (!exchange.formats.includes(format))
    throw badRequest(
      `${place.channelName} takes no ${formats[format].label}; choose ${exchange.formats.map((format) => formats[format].label).join(' or ')}`,
    );
  const { answer: id } = await act(services, user, { kind: 'create-feed' }, async (on) => {
    const made = await first(
      on.tx
        .insert(tables.feed)
        .values({
          placeId,
          name: `${place.name}, ${formats[format].label}`,
          format,
          secret: randomBytes(24).toString('base64url'),
          guard: { maxRemoved: 0.3 },
        })
        .returning({ id: tables.feed.id }),
    );
    if (!made) throw new Error('No feed was made');
    on.say(`Made a feed for ${place.name} (${formats[format].label})`);
    on.change({ kind: 'feed', id: made.id, delta: { format: [null, format] } });
    return made.id;
  });
  return showFeed(services, await getFeed(db, id));
}

/** Removes a feed whose address nobody has fetched yet, with its runs and their files. */
export async function removeFeed(services: Services, user: User, id: number): Promise<void> {
  const { answer: paths } = await act(services, user, { kind: 'remove-feed', tells: ['feeds'] }, async (on) => {
    await lockFeed(on.tx, id);
    const feed = await getFeed(on.tx, id);
    const fetched = await first(
      on.tx.select({ id: tables.feedFetch.id }).from(tables.feedFetch).where(eq(tables.feedFetch.feedId, id)).limit(1),
    );
    if (fetched) throw conflict('Its address has been fetched: whoever fetches it would find nothing there. It stays');
    const runs = await on.tx
      .select({ state: tables.run.state, path: tables.run.path })
      .from(tables.run)
      .where(eq(tables.run.feedId, id));
    if (runs.some(({ state }) => state === 'running'))
      throw conflict('It is being built at this moment: remove it when that is done');
    await on.tx.update(tables.feed).set({ upRunId: null }).where(eq(tables.feed.id, id));
    await on.tx.delete(tables.run).where(eq(tables.run.feedId, id));
    await on.tx.delete(tables.feed).where(eq(tables.feed.id, id));
    on.say(`Removed the feed ${feed.name}`);
    return runs.flatMap(({ path }) => path ?? []);
  });
  for (const path of paths) await rm(path, { force: true });
}

/** Starts a run; the answer comes at once, the run goes on as a job. One at a time, however often it is asked for. */
export async function startRun(services: Services, user: User, feedId: number): Promise<number> {
  const { db } = services;
  const feed = await getFeed(db, feedId);
  const place = await getPlace(db, feed.placeId);
  const { version } = await rulebookOf(db, place);
  const { answer } = await act(services, user, { kind: 'build-feed' }, async (on) => {
    const { tx } = on;
    await lockFeed(tx, feedId);
    if (await isAnyUnderWay(tx))
      throw conflict('A batch is being applied or taken back; build the feed when that is done');
    const running = await first(
      tx
        .select({ id: tables.run.id })
        .from(tables.run)
        .where(and(eq(tables.run.feedId, feedId), eq(tables.run.state, 'running'))),
    );
    if (running) throw conflict('This feed is being built already');
    const made = await first(
      tx
        .insert(tables.run)
        .values({ feedId, state: 'running', rulebookVersion: version })
        .returning({ id: tables.run.id }),
    );
    const run = made?.id ?? 0;
    const job = await createJob(tx, jobs.buildFeed, {
      label: `Building ${feed.name}`,
      input: { run, feed: feedId },
      actor: user.id,
    });
    await tx.update(tables.run).set({ jobId: job }).where(eq(tables.run.id, run));
    on.say(`Built ${feed.name}`);
    on.change({ kind: 'run', id: run, delta: { state: [null, 'running'] } });
    return { run, job };
  });
  // What goes wrong stands in the run and in its job.
  runAside(answer.job).catch(() => undefined);
  return answer.run;
}

/** Job: builds the file, then compares, guards, and puts it up. */
export async function buildFeed(context: JobContext<jobs.RunInput>): Promise<void> {
  const { db, services, input } = context;
  const runId = input.run;
  const feed = await getFeed(db, input.feed);
  await db.delete(tables.runItem).where(eq(tables.runItem.runId, runId));
  await db.delete(tables.runLeftOut).where(eq(tables.runLeftOut.runId, runId));
  const directory = join(services.config.files, 'feeds');
  await mkdir(directory, { recursive: true });
  const path = join(directory, `run-${runId}.${formats[feed.format].extension}`);
  const done = await buildFile(context, feed, path);
  if (!done) {
    await db
      .update(tables.run)
      .set({ state: 'cancelled', endedAt: sql`now()` })
      .where(eq(tables.run.id, runId));
    return;
  }
  const difference = await compareWithUp(db, feed.upRunId, runId);
  const held = guardRun(difference, feed.guard);
  const counts = { selected: done.selected, sent: done.sent, leftOut: done.leftOut };
  await db.transaction(async (tx) => {
    await tx
      .update(tables.run)
      .set({
        state: held ? 'held' : 'done',
        heldWhy: held ?? null,
        counts,
        difference,
        path,
        bytes: done.bytes,
        gzipBytes: done.gzipBytes,
        etag: done.etag,
        endedAt: sql`now()`,
      })
      .where(eq(tables.run.id, runId));
    if (!held) await tx.update(tables.feed).set({ upRunId: runId }).where(eq(tables.feed.id, feed.id));
    await context.finish(tx);
  });
  services.notify('feeds', { feed: feed.id });
}

export async function buildFailed({ db, input, services }: JobContext<jobs.RunInput>, error: Error): Promise<void> {
  await db
    .update(tables.run)
    .set({ state: 'failed', error: error.message, endedAt: sql`now()` })
    .where(eq(tables.run.id, input.run));
  services.notify('feeds', { feed: input.feed });
}

/** By item key, set-based: what the new run adds, removes and changes against the one that is up. */
async function compareWithUp(db: Executor, up: number | null, run: number): Promise<RunDifference> {
  const found = await queryOne<RunDifference>(
    db,
    sql`SELECT count(o.item_key)::int AS before, count(n.item_key)::int AS after,
          count(*) FILTER (WHERE o.item_key IS NULL)::int AS added, count(*) FILTER (WHERE n.item_key IS NULL)::int AS removed,
          count(*) FILTER (WHERE o.row_hash <> n.row_hash)::int AS changed
        FROM (SELECT item_key, row_hash FROM run_item WHERE run_id = ${up}) o FULL JOIN (SELECT item_key, row_hash FROM run_item WHERE run_id = ${run}) n USING (item_key)`,
  );
  return found ?? { before: 0, after: 0, added: 0, removed: 0, changed: 0 };
}

/** Lets a held run go up, or an earlier one come back. */
export async function releaseRun(services: Services, user: User, id: number): Promise<void> {
  const { db } = services;
  const run = await first(
    db
      .select({ state: tables.run.state, feed: tables.run.feedId, counts: tables.run.counts })
      .from(tables.run)
      .where(eq(tables.run.id, id)),
  );
  if (!run) throw notFound(`run ${id}`);
  if (run.state !== 'held' && run.state !== 'done')
    throw conflict(`This run is ${run.state}; only a whole file can be put up`);
  if (!run.counts?.sent) throw conflict('An empty file is never put up: it would clear the channel');
  await act(services, user, { kind: 'release-run' }, async (on) => {
    const { tx } = on;
    const before = await lockFeed(tx, run.feed);
    await tx.update(tables.run).set({ state: 'done' }).where(eq(tables.run.id, id));
    await tx.update(tables.feed).set({ upRunId: id }).where(eq(tables.feed.id, run.feed));
    on.say(run.state === 'held' ? `Released run ${id}` : `Went back to run ${id}`);
    on.change({ kind: 'feed', id: run.feed, delta: { up: [before?.up ?? null, id] } });
  });
  services.notify('feeds', { feed: run.feed });
}

/** What a run left out, grouped by what would have let it in. */
export async function leftOutOf({ db }: Services, id: number) {
  const head = await first(
    db
      .select({ place: tables.feed.placeId })
      .from(tables.run)
      .innerJoin(tables.feed, eq(tables.feed.id, tables.run.feedId))
      .where(eq(tables.run.id, id)),
  );
  if (!head) throw notFound(`run ${id}`);
  const place = await getPlace(db, head.place);
  const rulebook = await rulebookOf(db, place);
  const { attributes, home } = await loadDictionary(db);
  const causeSets = await db
    .select({
      listing: tables.runLeftOut.listingId,
      sku: tables.product.sku,
      title: tables.product.title,
      reason: tables.runLeftOut.reason,
      words: tables.runLeftOut.words,
      causes: sql<string[] | null>`(SELECT array_agg(c.key ORDER BY c.key) FROM ${tables.causeSet} s, unnest(s.causes) x
        JOIN ${tables.cause} c ON c.id = x WHERE s.id = ${tables.runLeftOut.causeSetId})`,
    })
    .from(tables.runLeftOut)
    .leftJoin(tables.listing, eq(tables.listing.id, tables.runLeftOut.listingId))
    .leftJoin(tables.product, eq(tables.product.id, tables.listing.variantId))
    .where(eq(tables.runLeftOut.runId, id))
    .orderBy(tables.runLeftOut.listingId);
  /** Each listing is counted once: under the first of its causes by how many listings share it. */
  const frequency = new Map<string, number>();
  for (const { causes } of causeSets) for (const key of causes ?? []) frequency.set(key, (frequency.get(key) ?? 0) + 1);
  const groups = new Map<
    string,
    {
      words: string;
      cause: string | null;
      listings: number;
      examples: { listingId: number; sku: string | null; title: string | null }[];
    }
  >();
  for (const row of causeSets) {
    const cause = [...(row.causes ?? [])].sort((a, b) => (frequency.get(b) ?? 0) - (frequency.get(a) ?? 0))[0] ?? null;
    const words =
      row.reason === 'not for this channel'
        ? `Not for this channel: ${row.words ?? ''}`
        : cause === null
          ? 'Blocked'
          : sayCause(cause, attributes, [rulebook], place.channelName, home);
    const group = groups.get(words) ?? { words, cause, listings: 0, examples: [] };
    groups.set(words, group);
    group.listings++;
    if (group.examples.length < 5) group.examples.push({ listingId: row.listing, sku: row.sku, title: row.title });
  }
  return { groups: [...groups.values()].sort((a, b) => b.listings - a.listings) };
}
