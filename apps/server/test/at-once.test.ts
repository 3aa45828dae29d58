/** The same thing asked for many times at once is done once. */
import { readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, base, count, db, until } from './client.js';

type Body = Answer['body'];
const client = new Client();
beforeAll(async () => void (await client.signIn()));
afterAll(() => db.$client.end());

describe('pressed many times at once', () => {
  let feed: Body;
  beforeAll(async () => {
    await client.stocked();
    await client.idle();
    feed = (await client.send('POST', '/api/feeds', { placeId: 1, format: 'xml' })).body;
  });
  const press = (path: string, n: number, headers?: Record<string, string>) =>
    Promise.all(Array.from({ length: n }, () => client.send('POST', path, {}, headers)));

  /** While what is under way cannot write: it is not done before all have asked. */
  const whileHeld = <T>(ask: () => Promise<T>): Promise<T> =>
    db.transaction(async (tx) => {
      await tx.execute(sql`LOCK TABLE run_item, report IN EXCLUSIVE MODE`);
      return ask();
    });

  it('a build is one', async () => {
    const answers = await whileHeld(() => press(`/api/feeds/${feed.id}/runs`, 8));
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409, 409, 409, 409, 409, 409, 409]);
    await client.until(`/api/feeds/${feed.id}`, ({ runs }) => runs[0].state === 'done');
    expect(await count(sql`SELECT count(*)::int AS n FROM run WHERE feed_id = ${feed.id}`)).toBe(1);
  });
  it('a build with a key of its own is one, and everybody is answered the same', async () => {
    const answers = await whileHeld(() => press(`/api/feeds/${feed.id}/runs`, 6, { 'idempotency-key': 'build-once' }));
    expect(new Set(answers.map((answer) => JSON.stringify([answer.status, answer.body.id]))).size).toBe(1);
    await client.until(`/api/feeds/${feed.id}`, ({ runs }) => runs[0].state === 'done');
    expect(await count(sql`SELECT count(*)::int AS n FROM run WHERE feed_id = ${feed.id}`)).toBe(2);
    const again = await client.send('POST', `/api/feeds/${feed.id}/runs`, {}, { 'idempotency-key': 'build-once' });
    expect(again.body.id).toBe(answers[0]?.body.id);
    const other = await client.send('POST', `/api/feeds/${feed.id}/offer`, {}, { 'idempotency-key': 'build-once' });
    expect(other.status).toBe(422);
  });
  it('an offer is one', async () => {
    const answers = await whileHeld(() => press(`/api/feeds/${feed.id}/offer`, 6));
    expect(answers.filter((answer) => answer.status === 200)).toHaveLength(1);
    await client.idle();
    expect(
      await count(
        sql`SELECT count(*)::int AS n FROM report t JOIN run r ON r.id = t.run_id WHERE r.feed_id = ${feed.id}`,
      ),
    ).toBe(1);
  });
  it('a batch is applied once', async () => {
    const { body } = await client.uploadDemo('kestrelgate-seeds.json');
    await client.send('POST', `/api/batches/${body.id}/try`);
    const answers = await press(`/api/batches/${body.id}/apply`, 4, { 'idempotency-key': 'apply-once' });
    expect(answers.map((answer) => answer.status)).toEqual([200, 200, 200, 200]);
    expect(
      await count(
        sql`SELECT count(*)::int AS n FROM job WHERE kind = 'apply-batch' AND (input ->> 'batch')::int = ${body.id}`,
      ),
    ).toBe(1);
  });

  it('a feed whose file is gone says so, and can be built again', async () => {
    const address = new URL(feed.address);
    const path = `${address.pathname}`;
    expect((await fetch(base + path)).status).toBe(200);
    const directory = join(process.env.VELVET_FILES ?? '', 'feeds');
    for (const name of readdirSync(directory)) rmSync(join(directory, name));
    expect((await fetch(base + path)).status).toBe(404);
    expect(
      (await client.get(`/api/runs/${(await client.get(`/api/feeds/${feed.id}`)).body.runs[0].id}/file`)).status,
    ).toBe(404);
    await client.send('POST', `/api/feeds/${feed.id}/runs`);
    await client.until(`/api/feeds/${feed.id}`, ({ runs }) => runs[0].state === 'done');
    expect((await fetch(base + path)).status).toBe(200);
  });

  it('a database that throws everybody out is come back to, and the build ends', async () => {
    await client.send('POST', `/api/feeds/${feed.id}/runs`);
    await queryRows(
      db,
      sql`SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()`,
    ).catch(() => undefined);
    await until(
      'health',
      async () => (await fetch(`${base}/api/health`)).status,
      (status) => status === 200,
    );
    await until(
      'the run',
      async () => (await client.get(`/api/feeds/${feed.id}`)).body.runs?.[0]?.state,
      (state) => state === 'done',
    );
  });
});
