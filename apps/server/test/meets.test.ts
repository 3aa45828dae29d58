/** What a dry run says of goods we have – joined, changed, left as they are, asked about – is what applying then does. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
let first: Body;
let second: Body;

beforeAll(async () => {
  await client.signIn();
  [first, second] = await client.addSuppliers();
});
afterAll(() => db.$client.end());

const head = 'Article;Title;Brand;MPN;GTIN;Colour';
interface Goods {
  article: string;
  title?: string;
  brand?: string;
  mpn?: string;
  gtin?: string;
  colour?: string;
}
const list = (goods: readonly Goods[]) =>
  `${head}\n${goods
    .map(({ article, title = `Fell kettle ${article}`, brand = 'Hobnettle', mpn = '', gtin = '', colour = '' }) =>
      [article, title, brand, mpn, gtin, colour].join(';'),
    )
    .join('\n')}\n`;

async function tried(supplier: Body, goods: readonly Goods[]): Promise<Body> {
  const { body } = await client.uploadText(`${supplier.name}.csv`, list(goods));
  await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: supplier.id, scope: 'some' });
  const answer = await client.send('POST', `/api/batches/${body.id}/try`);
  expect(answer.status).toBe(200);
  return answer.body;
}
const apply = async (id: number) => (await client.send('POST', `/api/batches/${id}/apply`)).body;
const rowsOf = async (id: number, filter = '') =>
  (await client.get(`/api/batches/${id}/rows?limit=100${filter}`)).body.items as Body[];

describe('a row that is about goods we have', () => {
  it('joins them, and says what changes of them and what stays', async () => {
    const ours = await tried(first, [
      { article: 'A-1', mpn: 'KET-1', colour: 'red' },
      { article: 'A-2', mpn: 'KET-2' },
    ]);
    await apply(ours.id);
    const batch = await tried(second, [
      { article: 'B-1', mpn: 'KET-1', title: 'Another kettle', colour: 'red' },
      { article: 'B-2', mpn: 'KET-2', title: 'Fell kettle A-2', colour: 'blue' },
      { article: 'B-3', mpn: 'KET-3' },
    ]);
    expect(batch.counts).toMatchObject({ created: 1, joins: 2, changed: 0, asked: 0 });
    const [row, two, three] = await rowsOf(batch.id);
    expect(row).toMatchObject({ outcome: 'joins', joins: { by: 'brand + MPN' } });
    expect(row.changes).toEqual([]);
    expect(row.stays).toMatchObject([
      { field: 'Title, en-GB', says: 'Another kettle', keeps: 'Fell kettle A-1', by: 'Aldermoor' },
    ]);
    expect(two.changes.map((change: Body) => change.after)).toContain('blue');
    expect(three).toMatchObject({ outcome: 'created', joins: null });
    expect((await rowsOf(batch.id, '&outcome=joins')).map(({ key }) => key)).toEqual(['B-1', 'B-2']);
    expect((await rowsOf(batch.id, '&outcome=created')).map(({ key }) => key)).toEqual(['B-3']);

    await client.send('POST', `/api/batches/${batch.id}/left-out`, { leftOut: true, rows: [row.row] });
    const done = await apply(batch.id);
    expect(done.counts).toMatchObject({ created: 1, joins: 1, changed: 0 });
    const words = (await client.get('/api/actions')).body.items[0].words;
    expect(words).toContain('1 created, 1 joined to goods we have, 0 changed');
  });

  it('does not join what contradicts it, and says why and that a person will be asked', async () => {
    await apply((await tried(first, [{ article: 'A-9', mpn: 'KET-9', title: 'Fell kettle, pack of 2' }])).id);
    const batch = await tried(second, [{ article: 'B-9', mpn: 'KET-9', title: 'Fell kettle, pack of 6' }]);
    expect(batch.counts).toMatchObject({ created: 1, joins: 0, asked: 1 });
    const [row] = await rowsOf(batch.id, '&outcome=asked');
    expect(row).toMatchObject({ outcome: 'created', joins: null, asks: { by: 'brand + MPN' } });
    expect(row.asks.against.join()).toMatch(/pack of 6/);
  });

  it('joins once its twin is picked out', async () => {
    await apply((await tried(first, [{ article: 'A-20', mpn: 'KET-20' }])).id);
    const batch = await tried(second, [
      { article: 'B-20', mpn: 'KET-20' },
      { article: 'B-21', mpn: 'KET-20' },
    ]);
    expect(batch.counts).toMatchObject({ created: 2, joins: 0, asked: 2 });
    await client.send('POST', `/api/batches/${batch.id}/left-out`, { leftOut: true, rows: [3] });
    const after = await client.until(`/api/batches/${batch.id}`, ({ effect }) => effect !== null);
    expect(after.counts).toMatchObject({ joins: 1 });
  });
});

describe('whatever the lists say', () => {
  const goods = (letter: string, start: number) =>
    fc
      .array(
        fc.record({
          mpn: fc.constantFrom('', 'Q-1', 'Q-2', 'Q-3', 'Q-4'),
          gtin: fc.constantFrom('', '', '4006381333931', '4006381333948'),
          brand: fc.constantFrom('Hobnettle', 'Hobnettle', 'Thistlewick'),
          colour: fc.constantFrom('', 'red', 'blue'),
          title: fc.constantFrom('Fell kettle', 'Fell kettle, pack of 2', 'Fell lamp'),
        }),
        { minLength: 1, maxLength: 6 },
      )
      .map((list) => list.map((row, i): Goods => ({ ...row, article: `${letter}${start}-${i}` })));
  let round = 100;
  it('what was foreseen is what happened', async () => {
    await fc.assert(
      fc.asyncProperty(fc.constant(0), goods('P', 0), goods('R', 0), async (_, mine, theirs) => {
        round++;
        const at = (list: Goods[]) =>
          list.map((goods) => ({
            ...goods,
            article: `${goods.article}-${round}`,
            mpn: goods.mpn && `${goods.mpn}-${round}`,
          }));
        const held = await tried(first, at(mine));
        await apply(held.id);
        const batch = await tried(second, at(theirs));
        const foreseen = await rowsOf(batch.id);
        const done = await apply(batch.id);
        const now = await rowsOf(batch.id);
        expect(now.map(({ outcome }) => outcome)).toEqual(foreseen.map(({ outcome }) => outcome));
        expect(done.counts).toEqual(batch.counts);
        for (const [i, { outcome, joins }] of foreseen.entries())
          if (outcome === 'joins') expect(now[i]?.joins.productId).toBe(joins.productId);
        const joined = await queryRows<{ key: string }>(
          db,
          sql`SELECT r.written AS key FROM record r JOIN record o ON o.product_id = r.product_id AND o.id <> r.id AND o.content_id IS NOT NULL
              JOIN batch_row b ON b.record_id = r.id AND b.batch_id = ${batch.id} ORDER BY b.row`,
        );
        expect(joined.map(({ key }) => key)).toEqual(
          foreseen.filter(({ outcome }) => outcome === 'joins').map(({ key }) => key),
        );
        // Nothing is left for the next round to meet.
        for (const id of [batch.id, held.id]) await client.send('POST', `/api/batches/${id}/undo`);
      }),
      { numRuns: 25 },
    );
  });
});

describe('who speaks for goods, and under which number', () => {
  const found = async (view: object) => {
    const { body } = await client.send('POST', '/api/views', { show: 'variants', everything: true, ...view });
    const { items } = (
      await client.get(`/api/views/${body.token}/rows?from=0&count=50&columns=suppliers,articleNumbers`)
    ).body;
    return { token: body.token as string, items: items as Body[] };
  };
  it('is seen, searched, filtered and exported; it follows joins and splits', async () => {
    await apply((await tried(first, [{ article: 'SRC-A1', mpn: 'SRC-1' }])).id);
    await apply((await tried(second, [{ article: 'src b/1', mpn: 'SRC-1' }])).id);
    const { token, items } = await found({ search: 'src b/1' });
    expect(items.map(({ values }) => values)).toEqual([
      { suppliers: 'Aldermoor, Birkrigg', articleNumbers: 'SRC-A1, src b/1' },
    ]);
    const both = await found({ condition: { all: [{ attribute: 'articleNumbers', op: 'is', value: 'SRC-A1' }] } });
    expect(both.items.map(({ id }) => id)).toEqual([items[0]?.id]);
    const text = (await client.get(`/api/export?format=csv&view=${token}`)).body as string;
    expect(text).toContain('Aldermoor, Birkrigg');

    const sides = (await client.get(`/api/matches/compare?a=${items[0]?.id}`)).body.products[0].sources;
    const out = sides.find(({ supplier }: Body) => supplier === 'Birkrigg').recordId;
    await client.send('POST', `/api/products/${items[0]?.id}/split`, { records: [out] });
    const after = await found({ search: 'SRC-A1' });
    expect(after.items.map(({ values }) => values)).toEqual([{ suppliers: 'Aldermoor', articleNumbers: 'SRC-A1' }]);
  });
});
