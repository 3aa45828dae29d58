/** A channel that takes its time over a feed: it is asked once, and nothing is held while it reads. */
import { type Server, createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import * as tables from '@velvet-shelf/server/db/schema/index';
import { offerFeed } from '@velvet-shelf/server/feeds/jobs';
import { wishCancel } from '@velvet-shelf/server/jobs/run';
import { desc, eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client, db, until } from './client.js';

const client = new Client();
let channel: Server;
const asked = { fetch: 0, report: 0 };
let isDone = false;

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  channel = createServer((request, response) => {
    asked[request.method === 'POST' ? 'fetch' : 'report']++;
    const answer = { report: 'r 1', state: isDone ? 'done' : 'working', checked: 0, total: 1, items: [] };
    response.setHeader('content-type', 'application/json');
    response.end(JSON.stringify(answer));
  });
  await new Promise<void>((resolve) => channel.listen(0, '127.0.0.2', resolve));
  await db.update(tables.account).set({ address: `http://127.0.0.2:${(channel.address() as AddressInfo).port}` });
});
afterAll(async () => {
  channel.close();
  await db.$client.end();
});

const lastJob = async () =>
  (
    await db.select().from(tables.job).where(eq(tables.job.kind, 'offer-feed')).orderBy(desc(tables.job.id)).limit(1)
  )[0];

/** A feed with a file that is up. */
async function builtFeed(): Promise<number> {
  const [place] = (await client.get('/api/places')).body.items;
  const { body: feed } = await client.send('POST', '/api/feeds', { placeId: place.id, format: 'xml' });
  await client.send('POST', `/api/feeds/${feed.id}/runs`);
  await client.until(`/api/feeds/${feed.id}`, ({ runs: [run] }) => run && run.state !== 'running');
  const [run] = (await client.get(`/api/feeds/${feed.id}`)).body.runs;
  if (run.state === 'held') await client.send('POST', `/api/runs/${run.id}/release`);
  return feed.id;
}

describe('a channel that reads for long', () => {
  it('is looked at again now and then, with no thread kept for it, and asked to fetch but once', async () => {
    const feed = await builtFeed();
    await client.send('POST', `/api/feeds/${feed}/offer`);
    const parked = await until('the job is put by', lastJob, (job) => job?.state === 'waiting' && job.dueAt !== null);
    expect(parked?.checkpoint).toEqual({ report: 'r 1' });
    expect((await client.get(`/api/feeds/${feed}`)).body.runs[0].asked.state).toBe('reading');
    expect((await client.send('POST', `/api/feeds/${feed}/offer`)).status).toBe(409);
    const before = asked.report;
    isDone = true;
    await client.until(`/api/feeds/${feed}`, ({ runs: [run] }) => run.report !== null);
    expect(asked.fetch).toBe(1);
    expect(asked.report).toBeGreaterThan(before);
    expect((await lastJob())?.state).toBe('done');
  });
  it('is waited for no longer once the job is wished to end', async () => {
    isDone = false;
    const [feed] = (await client.get('/api/feeds')).body.items;
    await client.send('POST', `/api/feeds/${feed.id}/offer`);
    await until('the job is put by', lastJob, (job) => job?.state === 'waiting' && job.dueAt !== null);
    await wishCancel(db, offerFeed, { feed: feed.id });
    await until('the job ends', lastJob, (job) => job?.state === 'cancelled');
    expect(asked.fetch).toBe(2);
  });
});
