/** Options of a family in place: renamed, hidden, dearer, another axis, each told first, kept through later files, taken back. */
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

beforeAll(() => client.signIn());
afterAll(() => db.$client.end());

const product = async (id: number): Promise<Body> => (await client.get(`/api/products/${id}`)).body;
const glazes = ['Moss', 'Slate', 'Rust', 'Chalk', 'Ink', 'Sand'];
let made = 0;
let family = 0;
let mark = '';

/** A family of six glazes, each with its number, price and pieces. */
async function makeFamily(withPrices: boolean): Promise<number> {
  mark = `OPT${++made}`;
  const { body } = await client.send('POST', '/api/products', {
    shared: [{ attribute: 'title', text: `Jar ${mark}` }],
    axes: ['Glaze'],
    variants: glazes.map((glaze, i) => ({
      sku: `${mark}-${i}`,
      options: [glaze],
      stock: String(i + 1),
      ...(withPrices ? { price: '20' } : {}),
    })),
  });
  return body.product;
}

const axis = (change: object = {}) => ({ name: 'glaze', values: [], ...change });
const say = async (axes: object[], more: object = {}, how: 'try' | 'save' = 'save'): Promise<Answer> => {
  const { plan: was } = await product(family);
  const address = `/api/products/${family}/options`;
  const body = { plan: { axes }, was, ...more };
  return how === 'save' ? client.send('PUT', address, body) : client.send('POST', `${address}/try`, body);
};
const held = async (): Promise<Record<string, string>[]> =>
  (await product(family)).siblings.map(({ options }: Body) => Object.fromEntries(options));
const priceOf = async (glaze: string): Promise<string | null> =>
  (await product(family)).siblings.find(({ options }: Body) => options[0][1] === glaze).price;

describe('options of a family', () => {
  beforeEach(async () => {
    family = await makeFamily(true);
  });

  it('are renamed everywhere, what later files say goes by the new name, and undo names them as before', async () => {
    const before = await held();
    const tint = axis({ name: 'tint', from: ['glaze'], values: [{ value: 'Terracotta', from: ['Rust'] }] });
    expect((await say([tint])).status).toBe(200);
    expect(await held()).toEqual(glazes.map((glaze) => ({ tint: glaze === 'Rust' ? 'Terracotta' : glaze })));
    expect((await client.newest()).words).toBe('Options of Jar: glaze is tint now, and 1 more');
    const again = await client.send('POST', '/api/products', {
      family,
      shared: [],
      axes: ['tint'],
      variants: [{ sku: `${mark}-RUST`, options: ['rust'] }],
    });
    expect(again.status).toBe(200);
    expect((await held()).at(-1)).toEqual({ tint: 'Terracotta' });
    await client.undoLast();
    await client.undoLast();
    expect(await held()).toEqual(before);
    expect((await product(family)).plan).toEqual({ axes: [] });
  });

  it('are refused where they were made against others, where two have one name, and where goods are no variants of it', async () => {
    const stale = await client.send('PUT', `/api/products/${family}/options`, {
      plan: { axes: [axis({ name: 'tint', from: ['glaze'] })] },
      was: { axes: [axis()] },
    });
    expect(stale.status).toBe(412);
    expect((await say([axis(), axis({ name: 'GLAZE' })])).status).toBe(400);
    const values = (change: object) => [{ variant: family, axis: 'glaze', value: 'Ash', was: null, ...change }];
    expect((await say([], { values: values({}) })).status).toBe(400);
    const [{ id }] = (await product(family)).siblings;
    expect((await say([], { values: values({ variant: id, was: 'Slate' }) })).status).toBe(412);
    expect(
      (await client.send('PUT', `/api/products/${id}/options`, { plan: { axes: [] }, was: { axes: [] } })).status,
    ).toBe(404);
    expect(await held()).toEqual(glazes.map((glaze) => ({ glaze })));
  });

  it('one variant’s own value is said by hand, and taken back', async () => {
    const [{ id }] = (await product(family)).siblings;
    const values = [{ variant: id, axis: 'glaze', value: 'Deep moss', was: 'Moss' }];
    expect((await say([], { values })).status).toBe(200);
    expect((await held())[0]).toEqual({ glaze: 'Deep moss' });
    expect((await client.undo()).body.left).toEqual([]);
    expect((await held())[0]).toEqual({ glaze: 'Moss' });
  });

  it('an axis more is added to what there is, which keeps its numbers, pieces and places; only the rest is made', async () => {
    const before = (await product(family)).siblings;
    const values = before.map(({ id }: Body) => ({ variant: id, axis: 'size', value: 'S', was: null }));
    expect((await say([], { values })).status).toBe(200);
    const grown = await client.send('POST', '/api/products', {
      family,
      shared: [],
      axes: ['glaze', 'size'],
      variants: glazes.map((glaze, i) => ({ sku: `${mark}-${i}-L`, options: [glaze, 'L'] })),
    });
    expect(grown.status).toBe(200);
    const after = (await product(family)).siblings;
    expect(after).toHaveLength(12);
    const kept = after.filter(({ id }: Body) => before.some((sibling: Body) => sibling.id === id));
    expect(kept.map(({ sku, stock }: Body) => [sku, stock])).toEqual(
      before.map(({ sku, stock }: Body) => [sku, stock]),
    );
    expect(new Set((await held()).map((options) => Object.values(options).join(' '))).size).toBe(12);
  });

  it('a hidden value takes its variants out of every assortment, which is told first, and undo brings them back', async () => {
    const standing = async () =>
      (await product(family)).siblings.map(
        ({ places }: Body) => places.filter(({ readiness }: Body) => readiness !== 'not for this channel').length,
      );
    const before = await standing();
    expect(before.every((places: number) => places > 0)).toBe(true);
    const hide = [axis({ values: [{ value: 'Rust', hidden: true }] })];
    const tried = (await say(hide, {}, 'try')).body;
    expect(tried.leaving).toBe(before[2]);
    expect(await standing()).toEqual(before);
    await say(hide);
    expect(await standing()).toEqual(before.map((places: number, i: number) => (i === 2 ? 0 : places)));
    expect((await product(family)).siblings[2].isHidden).toBe(true);
    await client.undo();
    expect(await standing()).toEqual(before);
  });

  it('stand in an order that somebody gave', async () => {
    const order = ['Sand', 'Ink'].map((value) => ({ value }));
    await say([axis({ isOrdered: true, values: order })]);
    expect((await product(family)).plan.axes[0]).toMatchObject({ isOrdered: true, values: order });
  });
});

describe('a family’s price', () => {
  beforeEach(async () => {
    family = await makeFamily(false);
  });
  const priced = async (id: number, text: string | null, madeAgainst: string | null) =>
    (
      await client.send('PATCH', `/api/products/${id}`, {
        edits: [{ attribute: 'price', language: null, text, madeAgainst }],
      })
    ).status;

  it('is that of its variants, with what their options add; a variant’s own stands before it', async () => {
    expect(await priced(family, '20', null)).toBe(200);
    expect([await priceOf('Moss'), await priceOf('Rust')]).toEqual(['20', '20']);
    const currency = Object.keys((await product(family)).price)[0] ?? '';
    await say([axis({ values: [{ value: 'Rust', surcharge: { [currency]: '2.50' } }] })]);
    expect([await priceOf('Moss'), await priceOf('Rust')]).toEqual(['20', '22.5']);
    const rust = (await product(family)).siblings[2].id;
    expect(await priced(rust, '21', '22.5')).toBe(200);
    expect(await priced(family, '30', '20')).toBe(200);
    expect([await priceOf('Moss'), await priceOf('Rust')]).toEqual(['30', '21']);
    expect(await priced(rust, null, '21')).toBe(200);
    expect(await priceOf('Rust')).toBe('32.5');
    for (const expected of ['21', '21', '22.5']) {
      await client.undoLast();
      expect(await priceOf('Rust')).toBe(expected);
    }
    expect(await priceOf('Moss')).toBe('20');
    await client.undoLast();
    expect(await priceOf('Rust')).toBe('20');
  });

  it('is that of a variant which comes later and names none', async () => {
    await priced(family, '12', null);
    await client.send('POST', '/api/products', {
      family,
      shared: [],
      axes: ['glaze'],
      variants: [
        { sku: `${mark}-A`, options: ['Ash'] },
        { sku: `${mark}-B`, options: ['Birch'], price: '15' },
      ],
    });
    expect([await priceOf('Ash'), await priceOf('Birch')]).toEqual(['12', '15']);
  });
});
