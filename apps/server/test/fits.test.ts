/** Values that do not fit a channel: mended by a step of the fill for all at once, or one by one where they come from. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
const fill = '/api/places/1/fills/parcel';
const key = encodeURIComponent('fit:orrivane::parcel:unit');

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
});
afterAll(() => db.$client.end());

const cause = async (): Promise<Body> => (await client.get(`/api/causes/one?key=${key}`)).body;
const stands = async (): Promise<boolean> =>
  (await client.get('/api/causes')).body.items.some((one: Body) => one.key === decodeURIComponent(key));
const fix = (body: object, way = 'fix'): Promise<Answer> => client.send('POST', `/api/causes/${way}?key=${key}`, body);

it('names our own attribute that the channel is sent, and the values it has', async () => {
  expect(await stands()).toBe(false);
  expect((await client.send('PUT', fill, { fill: { rule: { kind: 'copy', from: 'weight' }, fit: [] } })).status).toBe(
    200,
  );
  await client.idle();
  expect(await stands()).toBe(true);
  const { remedy, listings, words } = await cause();
  expect(words).toContain('is in the wrong unit');
  expect(remedy).toMatchObject({ kind: 'cells', attribute: 'weight', label: 'Weight', type: 'measure' });
  expect(remedy.fit.words).toMatch(/^Write it in g/);
  expect(listings[0].text).toMatch(/^[\d.]+ (kg|lb|oz)$/);
});

it('is mended on the goods themselves', async () => {
  const { listings, touched } = await cause();
  const [{ productId, text }] = listings;
  const cells = { kind: 'cells', cells: [{ productId, text: '1375 g', madeAgainst: text }] };
  expect((await fix(cells, 'try')).status).toBe(200);
  expect((await fix(cells)).status).toBe(200);
  await client.idle();
  expect((await cause()).touched).toBeLessThan(touched);
  await client.undo();
  await client.idle();
  expect((await cause()).touched).toBe(touched);
});

it('is mended for all by a step of the fill, exactly, as it was promised', async () => {
  const tried = (await fix({ kind: 'fit' }, 'try')).body;
  expect(tried.listingsChanged).toBeGreaterThan(0);
  const done = (await fix({ kind: 'fit' })).body;
  expect(done.becameReady).toBe(tried.becameReady);
  await client.idle();
  expect(await stands()).toBe(false);
  const held = (await client.get('/api/places/1/fills')).body.items.find((one: Body) => one.key === 'parcel');
  expect(held.fill.fit).toEqual([{ do: 'in-unit', unit: 'g', whole: false }]);
});

it('shows no cells where what is sent is made of several', async () => {
  const parts = [{ from: 'title' }, { from: 'weight', before: ', ' }];
  const long = Array.from({ length: 6 }, () => parts).flat();
  const composed = { rule: { kind: 'compose', parts: long }, fit: [] };
  expect((await client.send('PUT', '/api/places/1/fills/short', { fill: composed })).status).toBe(200);
  await client.idle();
  const { items } = (await client.get('/api/causes')).body;
  const tooLong = items.find((one: Body) => one.key === 'fit:orrivane::short:max-length');
  const { remedy } = (await client.get(`/api/causes/one?key=${encodeURIComponent(tooLong.key)}`)).body;
  expect(remedy).toMatchObject({ kind: 'cells', attribute: null, label: 'Short wording' });
  const refused = await client.send('POST', `/api/causes/try?key=${encodeURIComponent(tooLong.key)}`, {
    kind: 'cells',
    cells: [{ productId: 1, text: 'x', madeAgainst: null }],
  });
  expect(refused.status).toBe(400);
});
