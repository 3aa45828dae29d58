/** Work beside the requests: threads are used again, and what a person decides meanwhile is not undone by it. */
import { readConfig } from '@velvet-shelf/server/config';
import { ids as idsOf, queryOne, queryRows } from '@velvet-shelf/server/db/client';
import type { Services } from '@velvet-shelf/server/http/route';
import { runAside } from '@velvet-shelf/server/jobs/aside';
import type { JobContext } from '@velvet-shelf/server/jobs/define';
import { createJob } from '@velvet-shelf/server/jobs/run';
import { tryBatch } from '@velvet-shelf/server/intake/jobs';
import { findMatches as findMatchesJob } from '@velvet-shelf/server/matching/jobs';
import { findMatches } from '@velvet-shelf/server/matching/propose';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client, db, until } from './client.js';

const client = new Client();
const services: Services = { db, config: readConfig(), notify: () => undefined };

async function bring(name: string, letters: string): Promise<void> {
  const { body: supplier } = await client.send('POST', '/api/suppliers', { name });
  const kinds = ['small', 'large', 'round'];
  const lines = kinds.map(
    (kind, i) => `${letters}-${i};Larch birdhouse ${kind} with copper roof;Larchwell;${i + 2}00 g`,
  );
  const { body } = await client.uploadText(`${letters}.csv`, `Article;Title;Brand;Weight\n${lines.join('\n')}\n`);
  await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: supplier.id });
  await client.send('POST', `/api/batches/${body.id}/try`);
  const { body: applied } = await client.send('POST', `/api/batches/${body.id}/apply`);
  expect(applied.state).toBe('applied');
}

beforeAll(async () => {
  await client.signIn();
  await bring('Larchwell north', 'LN');
  await bring('Larchwell south', 'LS');
  await client.idle();
});
afterAll(() => db.$client.end());

describe('threads', () => {
  const look = () => createJob(db, findMatchesJob, { label: 'Looking for the same goods', input: {} });
  const stateOf = async (id: number) =>
    (await queryOne<{ state: string }>(db, sql`SELECT state FROM job WHERE id = ${id}`))?.state;
  /** The sweep of the server beside may have taken it first: whoever has it brings it to its end. */
  const endsAs = (id: number, wanted: string) =>
    until(
      `job ${id} is ${wanted}`,
      () => stateOf(id),
      (state) => state === wanted,
    );

  it('take one job after the other, and each is heard of', async () => {
    for (let i = 0; i < 4; i++) {
      const id = await look();
      await runAside(id);
      await endsAs(id, 'done');
    }
  });

  it('take several at once, more than are kept waiting afterwards; one that must be alone waits for the other', async () => {
    const ids = await Promise.all([look(), look(), look(), look()]);
    await Promise.all(ids.map((id) => runAside(id)));
    await until(
      'all are done',
      () => Promise.all(ids.map(stateOf)),
      (states) => states.every((state) => state === 'done'),
    );
    const spans = await queryRows<{ overlaps: number }>(
      db,
      sql`SELECT count(*)::int AS overlaps FROM job a JOIN job b ON a.id < b.id AND a.kind = b.kind AND a.ended_at > b.started_at AND b.ended_at > a.started_at
          WHERE a.kind = 'find-matches' AND a.id = ANY(${idsOf(ids)})`,
    );
    expect(spans).toEqual([{ overlaps: 0 }]);
  });

  it('run a job once that is sent twice', async () => {
    const id = await look();
    const first = runAside(id);
    expect(runAside(id)).toBe(first);
    await first;
    await endsAs(id, 'done');
  });

  it('end a job that there is no kind of, and one that is no more, without waiting for anything', async () => {
    const id = await createJob(db, { ...findMatchesJob, kind: 'nothing' }, { label: 'Nothing', input: {} });
    await runAside(id);
    await runAside(0);
    await db.execute(sql`DELETE FROM job WHERE id = ${id}`);
  });

  it('say in the job’s row what went wrong, and take the next', async () => {
    const id = await createJob(db, tryBatch, { label: 'Trying', input: { batch: 0 } });
    await runAside(id);
    await endsAs(id, 'failed');
    const row = await queryOne<{ error: string }>(db, sql`SELECT error FROM job WHERE id = ${id}`);
    expect(row?.error).toContain('batch 0');
    const next = await look();
    await runAside(next);
    await endsAs(next, 'done');
  });

  it('leave a job alone that another one holds', async () => {
    const id = await look();
    const holder = await db.$client.connect();
    try {
      await holder.query('SELECT pg_advisory_lock(4180, $1)', [id]);
      await runAside(id);
      expect(await stateOf(id)).toBe('waiting');
    } finally {
      await holder.query('SELECT pg_advisory_unlock_all()');
      holder.release();
    }
    await runAside(id);
    await endsAs(id, 'done');
  });
});

describe('looking for the same goods', () => {
  const pairs = async () =>
    queryRows<{ a: number; b: number }>(db, sql`SELECT a, b FROM match_pair ORDER BY score DESC, a, b`);
  const context = { db, services, progress: async () => undefined } as unknown as JobContext;

  it('proposes what is alike', async () => {
    await client.idle();
    await findMatches(context);
    expect((await pairs()).length).toBeGreaterThan(0);
  });

  it('proposes nothing that was kept apart while it looked', async () => {
    await client.idle();
    const [pair] = await pairs();
    const { a, b } = pair as { a: number; b: number };
    let looking: Promise<void> | undefined;
    // The decision is made while joins are held, so that the look-through has found all and waits to write it.
    await db.transaction(async (tx) => {
      await tx.execute(sql`SELECT pg_advisory_xact_lock(4182, 0)`);
      looking = findMatches(context);
      for (let waits = 0; waits === 0;) {
        const found = await queryOne<{ n: number }>(
          tx,
          sql`SELECT count(*) AS n FROM pg_locks WHERE locktype = 'advisory' AND classid = 4182 AND NOT granted`,
        );
        waits = Number(found?.n);
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
      await tx.execute(sql`
        INSERT INTO join_decision (a, b, verdict, action_id) SELECT least(x.id, y.id), greatest(x.id, y.id), 'different', (SELECT max(id) FROM action)
        FROM record x, record y WHERE x.product_id = ${a} AND y.product_id = ${b}`);
    });
    await looking;
    const left = await pairs();
    expect(left.some((pair) => pair.a === a && pair.b === b)).toBe(false);
    expect(left.length).toBeGreaterThan(0);
  });
});

describe('a stream of events', () => {
  const say = (topic: string) => db.execute(sql`SELECT pg_notify('velvet_events', ${JSON.stringify({ topic })})`);

  /** What a stream begins with, up to a word that is said once it is open. */
  async function begins(since: number): Promise<string[]> {
    const stop = new AbortController();
    const { body } = await client.open(`/api/events?since=${since}`, stop.signal);
    if (!body) throw new Error('There is no stream');
    const letters = new TextDecoder();
    let text = '';
    for await (const bytes of body) {
      text += letters.decode(bytes, { stream: true });
      if (text.includes('last word')) break;
      // Said once it is open, so that what is read ends there.
      await say('last word');
    }
    stop.abort();
    return [...text.matchAll(/"topic":"([^"]+)"/g)].map(([, topic]) => topic ?? '');
  }

  it('begins with what changed while the page was read, each topic once', async () => {
    for (let i = 0; i < 3; i++) await say('something of late');
    const heard = (topics: string[]) => topics.filter((topic) => topic === 'something of late');
    await until(
      'it has come',
      () => begins(30_000),
      (topics) => heard(topics).length > 0,
    );
    expect(heard(await begins(30_000))).toHaveLength(1);
    expect(heard(await begins(0))).toEqual([]);
  });

  it('says that everything may have changed, where that is longer than it remembers', async () => {
    expect((await begins(3_600_000))[0]).toBe('everything');
  });
});
