/** Feeds: built as jobs, guarded, put up, served, offered to the channel, and answered by its report. */
import { randomBytes } from 'node:crypto';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { FeedAnswer, RunAnswer } from '@velvet-shelf/contract';
import { type FeedFormat, type GuardLimits, type RunDifference, formats, guardRun } from '@velvet-shelf/core/feeds';
import { sql } from 'drizzle-orm';
import { loadDictionary } from '../catalog/dictionary.js';
import { sayCause } from '@velvet-shelf/core/causes';
import { getPlace } from '../channels/setup.js';
import { type Executor, iso, json, queryOne, queryRows } from '../db/client.js';
import { badRequest, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { act } from '../history/act.js';
import { isAnyUnderWay } from '../intake/batches.js';
import { runAside } from '../jobs/aside.js';
import type { JobContext } from '../jobs/define.js';
import { createJob } from '../jobs/run.js';
import * as jobs from './jobs.js';
import { buildFile } from './build.js';
import { rulebookOf } from '../channels/service.js';

export interface FeedRow {
  id: number;
  placeId: number;
  place: string;
  name: string;
  format: FeedFormat;
  secret: string;
  guard: GuardLimits;
  upRunId: number | null;
}

const feedColumns = sql`f.id, f.place_id AS "placeId", p.name AS place, f.name, f.format, f.secret, f.guard, f.up_run_id AS "upRunId" FROM feed f JOIN place p ON p.id = f.place_id`;

export async function getFeed(on: Executor, id: number): Promise<FeedRow> {
  const feed = await queryOne<FeedRow>(on, sql`SELECT ${feedColumns} WHERE f.id = ${id}`);
  if (!feed) throw notFound(`feed ${id}`);
  return feed;
}

export async function listFeeds(services: Services): Promise<FeedAnswer[]> {
  const feeds = await queryRows<FeedRow>(services.db, sql`SELECT ${feedColumns} ORDER BY f.id`);
  return Promise.all(feeds.map((feed) => showFeed(services, feed)));
}

export async function showFeed({ db, config }: Services, feed: FeedRow): Promise<FeedAnswer> {
  const runs = await queryRows<RunRow>(
    db,
    sql`SELECT ${runColumns} WHERE r.feed_id = ${feed.id} ORDER BY r.id DESC LIMIT 20`,
  );
  const fetches = await queryRows<FeedAnswer['fetches'][number]>(
    db,
    sql`SELECT at, agent, status, run_id AS "runId" FROM feed_fetch WHERE feed_id = ${feed.id} ORDER BY id DESC LIMIT 20`,
  );
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

type RunRow = Omit<RunAnswer, 'report' | 'progress' | 'up'> & {
  up: boolean;
  report: RunAnswer['report'];
  progress: RunAnswer['progress'];
};

const runColumns = sql`
  r.id, r.feed_id AS "feedId", r.state, r.held_why AS "heldWhy", r.error, f.up_run_id = r.id IS TRUE AS up, r.counts, r.difference, r.bytes,
  r.gzip_bytes AS "gzipBytes", r.rulebook_version AS "rulebookVersion", r.started_at AS "startedAt", r.ended_at AS "endedAt",
  (SELECT jsonb_build_object('done', j.done, 'total', j.total) FROM job j WHERE j.id = r.job_id AND r.state = 'running') AS progress,
  (SELECT jsonb_build_object('id', t.id, 'receivedAt', t.received_at) || t.counts FROM report t WHERE t.run_id = r.id ORDER BY t.id DESC LIMIT 1) AS report
  FROM run r JOIN feed f ON f.id = r.feed_id`;

const toRun = (row: RunRow): RunAnswer => ({
  ...row,
  startedAt: iso(row.startedAt),
  endedAt: iso(row.endedAt),
  report: row.report && { ...row.report, receivedAt: iso(row.report.receivedAt) },
});

export async function showRun({ db }: Services, id: number): Promise<RunAnswer> {
  const run = await queryOne<RunRow>(db, sql`SELECT ${runColumns} WHERE r.id = ${id}`);
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
    const made = await queryOne<{ id: number }>(
      on.tx,
      sql`INSERT INTO feed (place_id, name, format, secret, guard) VALUES (${placeId}, ${`${place.name}, ${formats[format].label}`}, ${format}, ${randomBytes(24).toString('base64url')}, ${json({ maxRemoved: 0.3 })}) RETURNING id`,
    );
    if (!made) throw new Error('No feed was made');
    on.say(`Made a feed for ${place.name} (${formats[format].label})`);
    on.change({ kind: 'feed', id: made.id, delta: { format: [null, format] } });
    return made.id;
  });
  return showFeed(services, await getFeed(db, id));
}

/** Starts a run; the answer comes at once, the run goes on as a job. One at a time, however often it is asked for. */
export async function startRun(services: Services, user: User, feedId: number): Promise<number> {
  const { db } = services;
  const feed = await getFeed(db, feedId);
  const place = await getPlace(db, feed.placeId);
  const { version } = await rulebookOf(db, place);
  const { answer } = await act(services, user, { kind: 'build-feed' }, async (on) => {
    const { tx } = on;
    await tx.execute(sql`SELECT 1 FROM feed WHERE id = ${feedId} FOR UPDATE`);
    if (await isAnyUnderWay(tx))
      throw conflict('A batch is being applied or taken back; build the feed when that is done');
    const running = await queryOne<{ id: number }>(
      tx,
      sql`SELECT id FROM run WHERE feed_id = ${feedId} AND state = 'running'`,
    );
    if (running) throw conflict('This feed is being built already');
    const made = await queryOne<{ id: number }>(
      tx,
      sql`INSERT INTO run (feed_id, state, rulebook_version) VALUES (${feedId}, 'running', ${version}) RETURNING id`,
    );
    const run = made?.id ?? 0;
    const job = await createJob(tx, jobs.buildFeed, {
      label: `Building ${feed.name}`,
      input: { run, feed: feedId },
      actor: user.id,
    });
    await tx.execute(sql`UPDATE run SET job_id = ${job} WHERE id = ${run}`);
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
  await db.execute(sql`DELETE FROM run_item WHERE run_id = ${runId}`);
  await db.execute(sql`DELETE FROM run_left_out WHERE run_id = ${runId}`);
  const directory = join(services.config.files, 'feeds');
  await mkdir(directory, { recursive: true });
  const path = join(directory, `run-${runId}.${formats[feed.format].extension}`);
  const done = await buildFile(context, feed, path);
  if (!done) {
    await db.execute(sql`UPDATE run SET state = 'cancelled', ended_at = now() WHERE id = ${runId}`);
    return;
  }
  const difference = await compareWithUp(db, feed.upRunId, runId);
  const held = guardRun(difference, feed.guard);
  const counts = { selected: done.selected, sent: done.sent, leftOut: done.leftOut };
  await db.transaction(async (tx) => {
    await tx.execute(sql`
      UPDATE run SET state = ${held ? 'held' : 'done'}, held_why = ${held ?? null}, counts = ${json(counts)}, difference = ${json(difference)}, path = ${path},
        bytes = ${done.bytes}, gzip_bytes = ${done.gzipBytes}, etag = ${done.etag}, ended_at = now() WHERE id = ${runId}`);
    if (!held) await tx.execute(sql`UPDATE feed SET up_run_id = ${runId} WHERE id = ${feed.id}`);
    await context.finish(tx);
  });
  services.notify('feeds', { feed: feed.id });
}

export async function buildFailed({ db, input, services }: JobContext<jobs.RunInput>, error: Error): Promise<void> {
  await db.execute(
    sql`UPDATE run SET state = 'failed', error = ${error.message}, ended_at = now() WHERE id = ${input.run}`,
  );
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
  const run = await queryOne<{ state: string; feed: number; sent: number | null }>(
    db,
    sql`SELECT state, feed_id AS feed, (counts ->> 'sent')::int AS sent FROM run WHERE id = ${id}`,
  );
  if (!run) throw notFound(`run ${id}`);
  if (run.state !== 'held' && run.state !== 'done')
    throw conflict(`This run is ${run.state}; only a whole file can be put up`);
  if (!run.sent) throw conflict('An empty file is never put up: it would clear the channel');
  await act(services, user, { kind: 'release-run' }, async (on) => {
    const { tx } = on;
    const before = await queryOne<{ up: number | null }>(
      tx,
      sql`SELECT up_run_id AS up FROM feed WHERE id = ${run.feed} FOR UPDATE`,
    );
    await tx.execute(sql`UPDATE run SET state = 'done' WHERE id = ${id}`);
    await tx.execute(sql`UPDATE feed SET up_run_id = ${id} WHERE id = ${run.feed}`);
    on.say(run.state === 'held' ? `Released run ${id}` : `Went back to run ${id}`);
    on.change({ kind: 'feed', id: run.feed, delta: { up: [before?.up ?? null, id] } });
  });
  services.notify('feeds', { feed: run.feed });
}

/** What a run left out, grouped by what would have let it in. */
export async function leftOutOf({ db }: Services, id: number) {
  const head = await queryOne<{ place: number }>(
    db,
    sql`SELECT f.place_id AS place FROM run r JOIN feed f ON f.id = r.feed_id WHERE r.id = ${id}`,
  );
  if (!head) throw notFound(`run ${id}`);
  const place = await getPlace(db, head.place);
  const rulebook = await rulebookOf(db, place);
  const { attributes, home } = await loadDictionary(db);
  const causeSets = await queryRows<{
    listing: number;
    sku: string | null;
    title: string | null;
    reason: string;
    words: string | null;
    causes: string[] | null;
  }>(
    db,
    sql`SELECT o.listing_id AS listing, p.sku, p.title, o.reason, o.words,
          (SELECT array_agg(c.key ORDER BY c.key) FROM cause_set s, unnest(s.causes) x JOIN cause c ON c.id = x WHERE s.id = o.cause_set_id) AS causes
        FROM run_left_out o LEFT JOIN listing l ON l.id = o.listing_id LEFT JOIN product p ON p.id = l.variant_id WHERE o.run_id = ${id} ORDER BY o.listing_id`,
  );
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
