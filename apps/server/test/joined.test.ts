/** One product out of several sources: joined, whose word counts, and split again. In this order. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, count, db } from './client.js';

const client = new Client();
const { tried, applied, correct, supplier } = client;
beforeAll(async () => {
  await client.signIn();
  for (const name of [
    'mosswick-own.tsv',
    'lumenloam-lighting.xlsx',
    'kestrelgate-seeds.json',
    'brackwater-pottery.csv',
  ])
    await client.bringIn(name);
});
afterAll(() => db.$client.end());

type Body = Answer['body'];
const attribute = (body: Body, key: string) => body.values.find((value: Body) => value.attribute === key);

/** Brings a small table in for one supplier; answers the batch. */
async function bringText(name: string, text: string, supplierId: number): Promise<Body> {
  const { body } = await client.uploadText(name, text);
  await correct(body.id, { supplierId });
  await tried(body.id);
  return applied(body.id);
}

describe('one product out of several sources', () => {
  let first: number;
  let second: number;
  const product = async (key: string) =>
    (
      await queryRows<{ id: number }>(
        db,
        sql`SELECT product_id AS id FROM record WHERE key = ${key} ORDER BY id LIMIT 1`,
      )
    )[0]?.id ?? 0;

  it('joins a GTIN-12 and the same as GTIN-13 whatever their SKUs; an equal SKU with another GTIN stays apart', async () => {
    first = await supplier('First Ltd');
    second = await supplier('Second Ltd');
    await bringText('first.csv', 'SKU;EAN;Name;Weight\nA-1;412000000124;Cork mat;1 kg\n', first);
    await bringText(
      'second.csv',
      'SKU;EAN;Name;Weight\nB-7;0412000000124;Mat of cork;1.2 kg\nA-1;2790000010007;Another;3 kg\n',
      second,
    );
    const id = await product('b-7');
    expect(await product('a-1')).toBe(id);
    const { body } = await client.get(`/api/matches/compare?a=${id}`);
    expect(body.products[0].sources.map((source: Body) => source.supplier)).toEqual(['First Ltd', 'Second Ltd']);
    const weight = body.rows.find((row: Body) => row.attribute === 'weight');
    expect(weight).toMatchObject({ winner: '1 kg', differs: true, why: 'first in the ranking of sources' });
    expect(await count(sql`SELECT count(*) AS n FROM record WHERE product_id = ${id}`)).toBe(2);
  });

  it('follows the policy of an attribute, and an order of its own', async () => {
    const id = await product('b-7');
    const weight = async () => attribute((await client.get(`/api/products/${id}`)).body, 'weight').text;
    await client.send('PUT', '/api/trust', { attribute: 'weight', policy: 'highest' });
    expect(await weight()).toBe('1.2 kg');
    await client.send('PUT', '/api/trust', { attribute: 'weight', policy: 'ranked', ranking: [second, first] });
    expect(await weight()).toBe('1.2 kg');
    await client.send('PUT', '/api/trust', { attribute: 'weight', ranking: null });
    expect(await weight()).toBe('1 kg');
    await client.send('PATCH', `/api/products/${id}`, {
      edits: [{ attribute: 'weight', text: '5 kg', madeAgainst: '1 kg' }],
    });
    await client.send('PUT', '/api/trust', { attribute: 'weight', policy: 'highest' });
    expect(await weight()).toBe('5 kg');
    await client.send('PATCH', `/api/products/${id}`, {
      edits: [{ attribute: 'weight', letGo: true, madeAgainst: '5 kg' }],
    });
    await client.send('PUT', '/api/trust', { attribute: 'weight', policy: 'ranked' });
  });

  it('is split again, both as before, and undoing the split joins them again', async () => {
    const id = await product('b-7');
    const [record] = await queryRows<{ id: number }>(db, sql`SELECT id FROM record WHERE key = 'b-7'`);
    const { body } = await client.send('POST', `/api/products/${id}/split`, { records: [record?.id] });
    expect(body.products.length).toBe(2);
    expect(await product('b-7')).not.toBe(await product('a-1'));
    // The shared GTIN no longer joins them, whatever comes in.
    await bringText(
      'second.csv',
      'SKU;EAN;Name;Weight\nB-7;0412000000124;Mat of cork;1.3 kg\nA-1;2790000010007;Another;3 kg\n',
      second,
    );
    expect(await product('b-7')).not.toBe(await product('a-1'));
    const { body: actions } = await client.get('/api/actions');
    const split = actions.items.find((action: Body) => action.words.startsWith('Split Second Ltd'));
    await client.send('POST', `/api/actions/${split.id}/undo`);
    expect(await product('b-7')).toBe(await product('a-1'));
  });

  it('pairs that look alike are proposed with their evidence; one is joined, one kept apart for good', async () => {
    const { body: job } = await client.send('POST', '/api/matches/propose');
    expect(job.job).toBeGreaterThan(0);
    const { items } = await client.until('/api/matches?limit=500', (row) => row.total > 2);
    const [pair, other] = items;
    expect(pair.score).toBeGreaterThanOrEqual(other.score);
    expect(pair.evidence[0].points).toBeGreaterThan(0);
    const joined = await client.send('POST', '/api/matches/decide', {
      verdict: 'same',
      pairs: [{ a: pair.a.id, b: pair.b.id }],
    });
    expect(joined.body).toMatchObject({ done: 1, left: [] });
    expect(
      await count(
        sql`SELECT count(*) AS n FROM product WHERE id IN (${pair.a.id}, ${pair.b.id}) AND merged_into IS NULL`,
      ),
    ).toBe(1);
    await client.send('POST', '/api/matches/decide', {
      verdict: 'different',
      pairs: [{ a: other.a.id, b: other.b.id }],
    });
    await client.send('POST', '/api/matches/propose');
    await client.until('/api/shelf', (row) => row.jobs.length === 0);
    const { body: after } = await client.get('/api/matches?limit=500');
    const has = (a: number, b: number) => after.items.some((row: Body) => row.a.id === a && row.b.id === b);
    expect(has(other.a.id, other.b.id)).toBe(false);
    expect(has(pair.a.id, pair.b.id)).toBe(false);
  });

  it('joins all above a score at once, never two articles of one source', async () => {
    const { body } = await client.send('POST', '/api/matches/decide', { verdict: 'same', above: 60 });
    expect(body.done).toBeGreaterThan(0);
    expect(
      await count(
        sql`SELECT count(*) AS n FROM (SELECT 1 FROM record WHERE product_id IS NOT NULL GROUP BY product_id, supplier_id HAVING count(*) > 1) x`,
      ),
    ).toBe(0);
  });
});
