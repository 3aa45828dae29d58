/** Texts composed of what goods hold: tried with examples, written as one edit, refused where they would eat themselves, taken back. */
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

const part = (of: string | null, before = '', after = '') => ({ of, before, after });
const chosen = async (search: string) => ({
  view: (await client.send('POST', '/api/views', { search, show: 'variants', everything: true })).body.token,
});
const wanted = async (more: object = {}) => ({
  chosen: await chosen('Ambrel'),
  attribute: 'title',
  language: 'en-GB',
  parts: [part('brand', '', ' '), part(null, 'Ambrel'), part('#options', ', ')],
  ...more,
});
const tried = async (more: object = {}): Promise<Answer> => client.send('POST', '/api/compose/try', await wanted(more));
const save = async (more: object = {}): Promise<Answer> => client.send('POST', '/api/compose', await wanted(more));
const titles = async (language = 'en-GB'): Promise<Record<string, string>> => {
  const [{ token }] = [(await client.send('POST', '/api/views', { search: 'MS-AMB71', show: 'variants' })).body];
  const { items } = (await client.get(`/api/views/${token}/rows?from=0&count=50`)).body;
  const goods: Body[] = await Promise.all(
    items.map(async ({ id }: Body) => (await client.get(`/api/products/${id}`)).body),
  );
  return Object.fromEntries(
    goods.map(({ sku, values }) => [
      sku,
      values.find((value: Body) => value.attribute === 'title' && value.language === language)?.text,
    ]),
  );
};

describe('a composed text', () => {
  it('is tried with examples, written as one edit with what each of the goods holds, and taken back', async () => {
    const before = await titles();
    const { body } = await tried();
    expect(body).toMatchObject({ goods: 6, changed: 6, empty: 0, alike: 0 });
    expect(body.examples).toHaveLength(6);
    expect(await titles()).toEqual(before);
    expect((await save()).body.goods).toBe(6);
    const after = await titles();
    expect(after['MS-AMB71-13-HA']).toMatch(/^\S.* Ambrel, 13 cm, Oatmeal$/);
    expect(Object.fromEntries(body.examples.map((one: Body) => [one.sku, one.after]))).toEqual(after);
    expect((await tried()).body.changed).toBe(0);
    expect((await client.newest()).words).toBe('Composed Title of 6 products');
    expect((await client.undo()).body.left).toEqual([]);
    expect(await titles()).toEqual(before);
  });

  it('is said in another language in the words and figures of that', async () => {
    const { body } = await tried({ language: 'de-DE', parts: [part('weight')] });
    expect(body.examples.every(({ after }: Body) => !/\d\.\d/.test(after))).toBe(true);
  });

  it('leaves goods alone that have nothing to say, and tells of those that would read alike', async () => {
    const none = await tried({ parts: [part('botanicalName')] });
    if (none.status === 200) expect(none.body).toMatchObject({ changed: 0, empty: 6 });
    const { body } = await tried({ chosen: await chosen(''), parts: [part('brand')] });
    expect(body.alike).toBeGreaterThan(10);
    expect(body.examples).toHaveLength(10);
    expect(new Set(body.examples.map((one: Body) => one.id)).size).toBe(10);
  });

  it.each<[string, object, string]>([
    ['of itself', { parts: [part('title@en-GB'), part(null, '!')] }, 'not made of itself'],
    ['of what there is none of', { parts: [part('nobody')] }, 'no value “nobody”'],
    ['of nothing', { parts: [] }, 'Say what it is made of'],
    ['into what is no text', { attribute: 'weight', language: null }, 'is no text'],
    ['into what names one thing alone', { attribute: 'sku', language: null }, 'names one thing alone'],
    ['in a language that is not kept', { language: 'xx-XX' }, 'not kept in xx-XX'],
  ])('is refused where it is %s, tried or written', async (_, more, words) => {
    for (const { status, body } of [await tried(more), await save(more)]) {
      expect(status).toBe(400);
      expect(JSON.stringify(body)).toContain(words);
    }
  });
});
