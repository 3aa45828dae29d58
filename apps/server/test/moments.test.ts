/** Two moments of a product: what differs between them, and values put back as a person's word. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
let id = 0;
const moments: number[] = [];

const valueOf = async (attribute: string): Promise<Body> =>
  (await client.get(`/api/products/${id}`)).body.values.find(
    (one: Body) => one.attribute === attribute && (one.language === null || one.language === 'en-GB'),
  );
const say = async (attribute: string, text: string | null) => {
  const { text: madeAgainst, language } = await valueOf(attribute);
  const edits = [{ attribute, language, text, madeAgainst }];
  expect((await client.send('PATCH', `/api/products/${id}`, { edits })).status).toBe(200);
  moments.push((await client.newest()).id);
};
const compare = async (from: number, to?: number): Promise<Body[]> =>
  (await client.get(`/api/products/${id}/compare?from=${from}${to ? `&to=${to}` : ''}`)).body.items;
const putBack = (from: number, fields: object[]) =>
  client.send('POST', `/api/products/${id}/put-back`, { from, fields });

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  id = (await client.get('/api/search?q=MS-AMB71-16-HA&only=ordered')).body.items[0].id;
  await say('title', 'First title');
  await say('title', 'Second title');
  await say('material', 'bone china');
  await say('title', 'Third title');
});
afterAll(() => db.$client.end());

describe('two moments of a product', () => {
  it('differ by what was said between them, each field once', async () => {
    const [one = 0, two = 0, three = 0, four = 0] = moments;
    const all = await compare(one);
    expect(all.map(({ field }) => field).sort()).toEqual(expect.arrayContaining(['material', 'title@en-GB']));
    expect(all.find(({ field }) => field === 'title@en-GB')).toMatchObject({
      ...{ before: 'First title', after: 'Third title', now: 'Third title' },
    });
    expect(await compare(two, three)).toEqual([expect.objectContaining({ field: 'material', after: 'bone china' })]);
    expect(await compare(four)).toEqual([]);
  });

  it('are those of its own history', async () => {
    expect((await client.get(`/api/products/${id}/compare?from=999999999`)).status).toBe(404);
    expect((await client.get(`/api/products/999999999/compare?from=${moments[0]}`)).status).toBe(404);
  });

  it('let values be put back, as one edit that is taken back', async () => {
    const [one = 0] = moments;
    const fields = (await compare(one))
      .filter(({ now }) => now !== undefined)
      .map(({ field, now }) => ({ field, madeAgainst: now }));
    const held = (await valueOf('material')).text;
    expect((await putBack(one, fields)).status).toBe(200);
    expect((await valueOf('title')).text).toBe('First title');
    expect((await valueOf('material')).text).not.toBe(held);
    expect((await client.newest()).words).toContain('back to what they were');
    await client.undoLast();
    expect([(await valueOf('title')).text, (await valueOf('material')).text]).toEqual(['Third title', held]);
  });

  it('refuse what somebody has changed meanwhile, and what cannot be put back', async () => {
    const [one = 0] = moments;
    const late = await putBack(one, [{ field: 'title@en-GB', madeAgainst: 'Second title' }]);
    expect([late.status, late.body.current]).toEqual([412, 'Third title']);
    expect((await putBack(one, [{ field: 'stock', madeAgainst: null }])).status).toBe(400);
    expect((await putBack(one, [{ field: 'brand', madeAgainst: null }])).status).toBe(400);
    expect((await valueOf('title')).text).toBe('Third title');
  });
});
