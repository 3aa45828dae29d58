/** Presets: bundles of fills, applied by a condition or by hand; tried, kept, ordered, taken away and brought back. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
const place = '/api/places/1';

const list = async (): Promise<Body[]> => (await client.get(`${place}/presets`)).body.items;
const bodyOf = ({ id, name, condition, hand }: Body) => ({
  ...{ id, name, condition },
  hand: hand.map(({ product, isIn }: Body) => ({ product, isIn })),
});
/** Saves over what there is now. */
const save = async (to: object[]): Promise<Answer> => {
  const was = (await list()).map(bodyOf);
  const answer = await client.send('PUT', `${place}/presets`, { to, was });
  await client.idle();
  return answer;
};
const makerOf = async (): Promise<Body> =>
  (await client.get(`${place}/fills`)).body.items.find(({ key }: Body) => key === 'maker');
const fixed = { rule: { kind: 'fixed', value: 'Bundled maker' }, fit: [] };
const stocked = { attribute: 'stock', op: 'atLeast', value: '1' };

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
});
afterAll(() => db.$client.end());

describe('presets', () => {
  it('are tried before they are kept: how many listings each is applied to', async () => {
    const presets = [
      { id: null, name: 'In stock', condition: stocked, hand: [] },
      { id: null, name: 'All', condition: { all: [] }, hand: [] },
      { id: null, name: 'Chosen', condition: null, hand: [] },
    ];
    const { body } = await client.send('POST', `${place}/presets/try`, { presets });
    const [inStock, all, chosen] = body.goods;
    expect(chosen).toBe(0);
    expect(inStock).toBeGreaterThan(0);
    expect(all).toBeGreaterThan(inStock);
    expect(body.effect).toMatchObject({ listingsChanged: 0 });
    expect(await list()).toEqual([]);
    expect((await save(presets)).status).toBe(200);
    expect((await list()).map(({ name, goods }) => [name, goods])).toEqual([
      ['In stock', inStock],
      ['All', all],
      ['Chosen', 0],
    ]);
  });
  it('fill otherwise for their goods; each fill tells the goods that get it', async () => {
    const [first] = await list();
    const tried = await client.send('POST', `${place}/fills/maker/try`, { fill: fixed, preset: first.id });
    const part = tried.body.parts.find(({ at }: Body) => at?.preset === first.id);
    expect(part.goods).toBe(first.goods);
    const saved = await client.send('PUT', `${place}/fills/maker`, { fill: fixed, preset: first.id });
    expect(saved.status).toBe(200);
    await client.idle();
    const { slots } = await makerOf();
    const slot = slots.find(({ preset }: Body) => preset === first.id);
    expect(slot).toMatchObject({ presetName: 'In stock', goods: first.goods, hidden: 0 });
    const general = slots.find(({ preset }: Body) => preset === null);
    expect(general.hidden).toBe(first.goods);
    expect((await list())[0].fills).toMatchObject([{ attribute: 'maker', label: 'Maker' }]);
    // What is sent is what was counted, and the trace says by which preset.
    const goods = await client.send('POST', `${place}/fills/maker/goods`, { part: { at: part.at, path: part.path } });
    const [one] = goods.body.items;
    expect(one.value).toBe('Bundled maker');
    const trace = (await client.get(`/api/listings/${one.listingId}/trace/maker`)).body;
    expect(JSON.stringify(trace)).toContain('By the preset “In stock”');
  });
  it('are applied and kept off by hand, whatever their condition says', async () => {
    const held = await list();
    const goods = await client.send('POST', `${place}/fills/maker/goods`, {
      part: { at: { preset: held[0].id, market: '', category: '' }, path: [] },
    });
    const [one] = goods.body.items;
    const { variantId: productId } = (await client.get(`/api/listings/${one.listingId}`)).body;
    const hand = [{ product: productId, isIn: false }];
    await save(held.map((preset, i) => ({ ...bodyOf(preset), ...(i === 0 ? { hand } : {}) })));
    const now = await list();
    expect(now[0].goods).toBe(held[0].goods - 1);
    expect(now[0].hand).toMatchObject([{ product: productId, isIn: false, kind: expect.any(String) }]);
    const trace = (await client.get(`/api/listings/${one.listingId}/trace/maker`)).body;
    expect(JSON.stringify(trace)).not.toContain('By the preset');
    await client.undo();
    await client.idle();
    expect((await list())[0].goods).toBe(held[0].goods);
  });
  it('take in the goods of many listings at once, and keep them out; tried first, taken back as one', async () => {
    const held = await list();
    const chosen = held[2];
    const { items } = (await client.get('/api/listings?place=1&readiness=ready&limit=3')).body;
    const ids = items.map(({ id }: Body) => id);
    const send = (path: string, isIn: boolean, which: object = { ids }) =>
      client.send('POST', `/api/listings/presets${path}`, { which, preset: chosen.id, isIn });
    expect((await send('/try', true)).body).toMatchObject({ changed: 3, same: 0, without: 0 });
    expect((await list())[2].goods).toBe(0);
    expect((await send('', true)).body).toMatchObject({ changed: 3 });
    const put = await client.newest();
    await client.idle();
    expect((await list())[2].goods).toBe(3);
    expect((await send('', true)).body).toMatchObject({ changed: 0, same: 3 });
    // What changes nothing is nothing that happened.
    expect((await client.newest()).id).toBe(put.id);
    const all = { all: { place: 1, readiness: 'ready' }, except: ids.slice(0, 1) };
    expect((await send('', false, all)).body.changed).toBeGreaterThan(1);
    await client.idle();
    expect((await list())[2].goods).toBe(1);
    await client.undo();
    await client.idle();
    expect((await list())[2].goods).toBe(3);
    await client.undo(put.id);
    await client.idle();
    expect((await list())[2].hand).toEqual([]);
    expect(
      (await client.send('POST', '/api/listings/presets', { which: { ids }, preset: 999, isIn: true })).status,
    ).toBe(404);
  });
  it('and assortments keep nothing of goods that are gone, and are changed as before', async () => {
    const { body } = await client.send('POST', '/api/products', {
      ...{ shared: [{ attribute: 'title', text: 'A stool to be gone' }], axes: [] },
      variants: [{ sku: 'STOOL 1', options: [] }],
    });
    const made = await client.newest();
    const hand = [{ product: body.product, isIn: true }];
    const held = await list();
    await save(held.map((preset, i) => ({ ...bodyOf(preset), ...(i === 0 ? { hand } : {}) })));
    const { condition } = (await client.get(`${place}/assortment`)).body;
    const assortment = async (to: object) =>
      client.send('PUT', `${place}/assortment`, {
        to,
        was: { condition, hand: (await client.get(`${place}/assortment`)).body.hand.map(asSent) },
      });
    const asSent = ({ product, isIn }: Body) => ({ product, isIn });
    expect((await assortment({ condition, hand })).status).toBe(200);
    await client.undo(made.id);
    await client.idle();
    expect((await client.get(`/api/products/${body.product}`)).status).toBe(404);
    expect((await list())[0].hand).toEqual([]);
    expect((await save((await list()).map(bodyOf))).status).toBe(200);
    expect((await assortment({ condition, hand: [] })).status).toBe(200);
  });
  it('stand one before the other in their order, which is changed', async () => {
    const held = await list();
    const other = { rule: { kind: 'fixed', value: 'Of all' }, fit: [] };
    await client.send('PUT', `${place}/fills/maker`, { fill: other, preset: held[1].id });
    await client.idle();
    const goodsBy = async (id: number) =>
      (await makerOf()).slots.find(({ preset }: Body) => preset === id)?.goods as number;
    expect(await goodsBy(held[0].id)).toBe(held[0].goods);
    await save([held[1], held[0], held[2]].map(bodyOf));
    expect(await goodsBy(held[0].id)).toBe(0);
    expect(await goodsBy(held[1].id)).toBe(held[1].goods);
    await client.undo();
    await client.idle();
    expect(await goodsBy(held[0].id)).toBe(held[0].goods);
  });
  it('that are taken away take their fills along, and bring them back', async () => {
    const held = await list();
    await save(held.slice(1).map(bodyOf));
    const without = await makerOf();
    expect(without.slots.some(({ preset }: Body) => preset === held[0].id)).toBe(false);
    const refused = await client.send('PUT', `${place}/fills/maker`, { fill: fixed, preset: held[0].id });
    expect([refused.status, refused.body.detail]).toEqual([404, expect.stringContaining(`preset ${held[0].id}`)]);
    await client.undo();
    await client.idle();
    expect((await list()).map(bodyOf)).toEqual(held.map(bodyOf));
    expect((await makerOf()).slots.find(({ preset }: Body) => preset === held[0].id).goods).toBe(held[0].goods);
  });
  it('that somebody else changed meanwhile stay as they are', async () => {
    const was = (await list()).map(bodyOf);
    expect((await save(was.map((each) => ({ ...each, name: `${each.name} too` })))).status).toBe(200);
    const late = await client.send('PUT', `${place}/presets`, { to: [], was });
    expect(late.status).toBe(412);
    expect((await list()).length).toBe(was.length);
  });
  it.each([
    ['two of one name', [{ name: 'One' }, { name: 'one' }], 400],
    ['one without a name', [{ name: '  ' }], 400],
    ['a condition over nothing', [{ name: 'X', condition: { attribute: 'no-such', op: 'is', value: '1' } }], 400],
    ['one there is none of', [{ id: 999_999, name: 'X' }], 404],
    ['goods there are none of', [{ name: 'X', hand: [{ product: 999_999_999, isIn: true }] }], 404],
  ])('%s are refused', async (_, to, status) => {
    const before = (await list()).map(bodyOf);
    const whole = to.map((each) => ({ id: null, condition: null, hand: [], ...each }));
    expect((await save(whole)).status).toBe(status);
    expect((await list()).map(bodyOf)).toEqual(before);
  });
});
