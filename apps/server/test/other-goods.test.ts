/** Goods beside goods: what stands in where they have run out, what goes with them, and other numbers they are found by. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
});
afterAll(() => db.$client.end());

const found = async (search: string): Promise<Body[]> =>
  (await client.send('POST', '/api/views', { search, show: 'variants', everything: true })).body.first;
const idOf = async (sku: string): Promise<number> => (await found(sku))[0]?.id;
const others = async (id: number): Promise<Body> => (await client.get(`/api/products/${id}/other-goods`)).body;
const say = async (id: number, attribute: string, text: string | null) => {
  const { values } = (await client.get(`/api/products/${id}`)).body;
  const held = values.find((value: Body) => value.attribute === attribute);
  return client.send('PATCH', `/api/products/${id}`, {
    edits: [{ attribute, language: null, text, madeAgainst: held.text }],
  });
};

describe('goods beside goods', () => {
  it('are proposed from the same category with what is alike, can be sold now, and are kept by a word', async () => {
    const pot = await idOf('MS-HOL42-10-MO');
    const { body: product } = await client.get(`/api/products/${pot}`);
    const { proposed, substitutes } = await others(pot);
    expect(proposed.length).toBeGreaterThan(0);
    expect(substitutes).toMatchObject({ attribute: { key: 'substitutes' }, kept: [] });
    const scores = proposed.map(({ score }: Body) => score);
    expect(scores).toEqual([...scores].sort((a, b) => b - a));
    for (const { goods, same } of proposed) {
      expect(goods.stock).toBeGreaterThan(0);
      expect(goods.id).not.toBe(pot);
      expect(same.length).toBeGreaterThan(0);
      expect((await client.get(`/api/products/${goods.id}`)).body.category).toEqual(product.category);
    }
    const [first] = proposed;
    expect((await say(pot, 'substitutes', `${first.goods.sku}, MS-NONE`)).status).toBe(200);
    const kept = await others(pot);
    expect(kept.substitutes.kept).toEqual([
      { sku: first.goods.sku, goods: expect.objectContaining({ id: first.goods.id }) },
      { sku: 'MS-NONE', goods: null },
    ]);
    expect(kept.proposed.map(({ goods }: Body) => goods.id)).not.toContain(first.goods.id);
  });

  it('are found by conditions: what has run out and has none', async () => {
    const condition = { attribute: 'substitutes', op: 'isNotEmpty' };
    const { body } = await client.send('POST', '/api/views', { condition: { all: [condition] }, show: 'variants' });
    expect(body.first.map(({ sku }: Body) => sku)).toEqual(['MS-HOL42-10-MO']);
  });

  it('are found by numbers of any kind, until they are taken back', async () => {
    const pot = await idOf('MS-HOL42-10-MO');
    expect(await found('OLD-7731/b')).toEqual([]);
    expect((await say(pot, 'references', 'OLD-7731/b, 99.12.7')).status).toBe(200);
    expect((await found('OLD-7731/b')).map(({ id }) => id)).toEqual([pot]);
    expect((await found('99.12.7')).map(({ id }) => id)).toEqual([pot]);
    expect((await say(pot, 'references', null)).status).toBe(200);
    expect((await found('OLD-7731/b')).map(({ id }) => id)).not.toContain(pot);
  });

  it('are nothing of what there is none of', async () => {
    expect((await client.get('/api/products/999999/other-goods')).status).toBe(404);
  });
});
