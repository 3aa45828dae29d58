/** Counts are kept with what they were counted from: nothing that changes is missed, and a large shelf is not waited for. */
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
});
afterAll(() => db.$client.end());

const category = 'Planters/Indoor pots';
const variantsIn = async (path: string) =>
  (await client.get('/api/places/1/categories')).body.items.find((body: Body) => body.category === path)?.variants;
const move = async (from: string, to: string): Promise<void> => {
  const { body } = await client.send('POST', '/api/views', {
    show: 'variants',
    everything: true,
    condition: { all: [{ attribute: 'category', op: 'is', value: from }] },
  });
  const [row] = (await client.get(`/api/views/${body.token}/rows?from=0&count=1`)).body.items;
  const answer = await client.send('PATCH', `/api/products/${row.id}`, {
    edits: [{ attribute: 'category', language: null, text: to, madeAgainst: from.replaceAll('/', ' / ') }],
  });
  expect(answer.status).toBe(200);
};

describe('what is counted', () => {
  it('is counted again after every change, and only then', async () => {
    const before = await variantsIn(category);
    expect(before).toBeGreaterThan(1);
    const counted = async () =>
      (await db.execute(sql`SELECT at::text FROM kept_count WHERE name = 'categories'`)).rows[0]?.at;
    const first = await counted();
    await variantsIn(category);
    expect(await counted()).toBe(first);
    await move(category, 'Tools/Aprons');
    expect(await variantsIn(category)).toBe(before - 1);
    expect(await counted()).not.toBe(first);
    const { body } = await client.get('/api/actions');
    await client.send('POST', `/api/actions/${body.items[0].id}/undo`);
    expect(await variantsIn(category)).toBe(before);
  });

  it('changes with the set-up too: fills, maps and what is pinned', async () => {
    const emptyOf = async () =>
      (await client.get('/api/places/1/fills')).body.items.find((body: Body) => body.key === 'maker').missing;
    const before = await emptyOf();
    await client.send('PUT', '/api/places/1/fills/maker', { fill: null });
    expect(await emptyOf()).toBeGreaterThan(before + 100);
    const { body } = await client.get('/api/actions');
    await client.send('POST', `/api/actions/${body.items[0].id}/undo`);
    await client.idle();
    expect(await emptyOf()).toBe(before);
  });

  it('stands as it was on a large shelf until it is counted anew, which nobody waits for', async () => {
    const before = await variantsIn(category);
    await db.execute(
      sql`INSERT INTO place_total (place_id, readiness, channel_state, listings) VALUES (1, 'ready', 'hidden', 50000)`,
    );
    await move(category, 'Tools/Aprons');
    expect(await variantsIn(category)).toBe(before);
    await client.until('/api/places/1/categories', ({ items }) =>
      items.some((row: Body) => row.category === category && row.variants === before - 1),
    );
  });

  it('keeps no more than is asked for', async () => {
    for (let i = 0; i < 5; i++) await client.get(`/api/listings?search=nothing${i}&limit=1`);
    const { rows: kept } = await db.execute(sql`SELECT count(*) AS n FROM kept_count`);
    expect(Number(kept[0]?.n)).toBeLessThanOrEqual(400);
  });
});
