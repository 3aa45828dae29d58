/** A channel in several markets, by several accounts: what a change of its set-up promises is what comes true at all places it reaches. */
import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
const places: Record<string, number> = {};
const names: Record<string, string> = {};

const [published] = rulebooksOf('orrivane') as Body[];
const tree = [
  { path: 'pots', name: 'Pots' },
  { path: 'lamps', name: 'Lamps' },
];
const asking = (version: string, change: object = {}) => ({
  ...published,
  ...{ channel: 'wide-stall', name: 'Wide stall', version, categoryNeed: 'required', categories: tree },
  attributes: [
    { key: 'own', label: 'Own code', type: 'text', need: 'required', limits: {} },
    { key: 'short', label: 'Short wording', type: 'text', need: 'required', limits: { maxLength: 120 } },
    { key: 'state', label: 'State', type: 'choice', need: 'required', limits: { values: ['new', 'worn'] } },
    { key: 'shelf', label: 'Shelf', type: 'category', need: 'required', limits: {} },
  ],
  ...{ rules: [], eligibility: [] },
  exchange: {
    ...{ itemKey: 'own', formats: ['csv'] },
    rows: {
      rss: { prefix: 'wide', namespace: 'urn:wide' },
      fields: [{ attribute: 'own', name: 'own' }],
    },
  },
  ...change,
});

const totals = async (): Promise<Record<number, { ready: number; blocked: number }>> => {
  const { items } = (await client.get('/api/places')).body;
  const sum = ({ totals: all }: Body, readiness: string): number =>
    all
      .filter((row: Body) => row.readiness === readiness)
      .reduce((n: number, row: Body) => n + Number(row.listings), 0);
  return Object.fromEntries(
    items.map((each: Body) => [each.id, { ready: sum(each, 'ready'), blocked: sum(each, 'blocked') }]),
  );
};

/** Tries, does, and compares over all places; answers which of them became another. */
async function promised(trying: Promise<Answer>, saving: () => Promise<Answer>): Promise<string[]> {
  const { status, body: tried } = await trying;
  expect([status, tried.detail]).toEqual([200, undefined]);
  const before = await totals();
  const saved = await saving();
  expect([saved.status, saved.body.detail]).toEqual([200, undefined]);
  await client.idle();
  const after = await totals();
  const effect = tried.effect ?? tried;
  const became = Object.keys(before).map((id) => (after[Number(id)]?.ready ?? 0) - (before[Number(id)]?.ready ?? 0));
  expect(effect.becameReady - effect.becameBlocked).toBe(became.reduce((sum, each) => sum + each, 0));
  return Object.keys(before).flatMap((id, i) => (became[i] === 0 ? [] : (names[Number(id)] ?? id)));
}
const at = (name: string): string => `/api/places/${places[name]}`;
const fill = (name: string, key: string, body: object): Promise<string[]> =>
  promised(client.send('POST', `${at(name)}/fills/${key}/try`, body), () =>
    client.send('PUT', `${at(name)}/fills/${key}`, body),
  );
const map = (name: string, body: object): Promise<string[]> =>
  promised(client.send('POST', `${at(name)}/categories/try`, body), () =>
    client.send('PUT', `${at(name)}/categories`, body),
  );
const copy = (from: string) => ({ rule: { kind: 'copy', from }, fit: [] });
const fixed = (value: string) => ({ rule: { kind: 'fixed', value }, fit: [] });
let categories: string[];

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  const { body: channel } = await client.send('POST', '/api/channels', { rulebook: asking('1') });
  const { body: second } = await client.send('POST', `/api/channels/${channel.id}/accounts`, {
    ...{ name: 'Second', address: '', region: '' },
  });
  for (const [name, body] of [
    ['GB', { market: 'GB' }],
    ['IE', { market: 'IE' }],
    ['second', { market: 'GB', account: second.id }],
  ] as const) {
    const { body: place } = await client.send('POST', `/api/channels/${channel.id}/places`, body);
    places[name] = place.id;
    names[place.id] = name;
  }
  await client.idle();
  const { items } = (await client.get(`${at('GB')}/categories`)).body;
  categories = items.flatMap(({ category, variants }: Body) => (variants > 0 ? category : []));
});
afterAll(() => db.$client.end());

describe('what is tried at one place of a channel', () => {
  it('is promised for all of its markets and accounts, where the fill is for all', async () => {
    expect(await fill('GB', 'own', { fill: copy('sku') })).toEqual([]);
    expect(await fill('GB', 'short', { fill: copy('title') })).toEqual([]);
    expect(await fill('GB', 'state', { fill: fixed('new') })).toEqual([]);
  });
  it('is promised for the places of its market, where a map is of one', async () => {
    const maps = [{ category: categories[0], target: 'pots' }];
    expect(await map('IE', { maps, market: 'IE' })).toEqual(['IE']);
  });
  it('is promised for those that have no map of their own, where it is of all', async () => {
    const [first, ...others] = categories;
    expect(await map('IE', { maps: [{ category: first, target: 'lamps' }] })).toEqual(['GB', 'second']);
    expect(await map('second', { maps: others.map((category) => ({ category, target: 'pots' })) })).toEqual([
      ...['GB', 'IE', 'second'],
    ]);
  });
  it('is promised where a fill of one market stands before that of all', async () => {
    const of = { market: 'IE', category: '' };
    expect(await fill('IE', 'state', { fill: copy('sku'), ...of })).toEqual(['IE']);
    expect(await fill('second', 'state', { fill: copy('sku') })).toEqual(['GB', 'second']);
    expect(await fill('IE', 'state', { fill: null, ...of })).toEqual([]);
    expect(await fill('IE', 'state', { fill: fixed('worn') })).toEqual(['GB', 'IE', 'second']);
  });
  it('is promised for presets, and for a rulebook', async () => {
    const presets = [{ id: null, name: 'All', condition: { all: [] }, hand: [] }];
    await client.send('PUT', `${at('GB')}/presets`, { to: presets, was: [] });
    const [made] = (await client.get(`${at('GB')}/presets`)).body.items;
    expect(await fill('GB', 'short', { fill: fixed('x'.repeat(130)), preset: made.id })).toEqual([
      ...['GB', 'IE', 'second'],
    ]);
    const was = [{ id: made.id, name: 'All', condition: { all: [] }, hand: [] }];
    expect(
      await promised(client.send('POST', `${at('IE')}/presets/try`, { presets: [] }), () =>
        client.send('PUT', `${at('IE')}/presets`, { to: [], was }),
      ),
    ).toEqual(['GB', 'IE', 'second']);
    await client.send('POST', `${at('GB')}/rulebooks`, { rulebook: asking('2', { categories: [tree[0]] }) });
    const { id } = (await client.get(`${at('GB')}/rulebooks`)).body.items.find((book: Body) => book.version === '2');
    const tried = await client.send('POST', `${at('second')}/rulebooks/${id}/try`);
    expect(tried.body.causes.length).toBeGreaterThan(0);
    expect(
      await promised(client.send('POST', `${at('second')}/rulebooks/${id}/try`), () =>
        client.send('PUT', `${at('second')}/rulebooks/${id}`, { early: true }),
      ),
    ).toEqual(['GB', 'second']);
  });
});

describe('a cause of one market', () => {
  const causes = async (name: string): Promise<Body[]> =>
    (await client.get(`/api/causes?place=${places[name]}`)).body.items;
  const fix = (key: string, body: object): Promise<string[]> => {
    const query = `key=${encodeURIComponent(key)}`;
    return promised(client.send('POST', `/api/causes/try?${query}`, body), () =>
      client.send('POST', `/api/causes/fix?${query}`, body),
    );
  };

  it('is mended where it comes from, and the same cause elsewhere with it', async () => {
    const [cause] = (await causes('GB')).filter(({ kind }: Body) => kind === 'map-category');
    const [everywhere] = (await client.get('/api/causes')).body.items.filter(({ key }: Body) => key === cause.key);
    expect(everywhere.places.sort()).toEqual(['Wide stall Second, Great Britain', 'Wide stall, Great Britain']);
    expect(everywhere.touched).toBe(2 * cause.touched);
    expect(await fix(cause.key, { kind: 'choose', value: 'pots' })).toEqual(['GB', 'second']);
    const of = { category: categories[0], target: 'pots' };
    expect(await map('IE', { maps: [{ ...of, target: null }], market: 'IE' })).toEqual([]);
  });
  it('that a hand set is mended by another value, or by following the fill again', async () => {
    const { items } = (await client.get(`/api/listings?place=${places.GB}&readiness=ready&limit=3`)).body;
    for (const { id } of items)
      await client.send('PUT', `/api/listings/${id}/pins/short`, { text: 'x'.repeat(140), madeAgainst: null });
    await client.idle();
    const [cause] = (await causes('GB')).filter(({ kind }: Body) => kind === 'pin');
    expect(cause).toMatchObject({ touched: 3, unlocks: 3 });
    const detail = (await client.get(`/api/causes/one?key=${encodeURIComponent(cause.key)}`)).body;
    expect(detail.remedy).toMatchObject({
      ...{ kind: 'cells', attribute: 'pin' },
      fit: { words: 'Let all of them follow the fill of short wording again' },
    });
    expect(detail.listings.map(({ text }: Body) => text)).toEqual(Array(3).fill('x'.repeat(140)));
    const [one] = detail.listings;
    const cells = [{ productId: one.productId, text: 'Pot for a hand', madeAgainst: one.text }];
    expect(await fix(cause.key, { kind: 'cells', cells })).toEqual(['GB']);
    expect((await client.newest()).words).toBe('Set Short wording of 1 product');
    expect(await fix(cause.key, { kind: 'fit' })).toEqual(['GB']);
    expect((await client.newest()).words).toBe('Unpinned Short wording of 2 listings on Wide stall, Great Britain');
    expect((await client.undo()).status).toBe(200);
    await client.idle();
    expect((await causes('GB')).find(({ kind }: Body) => kind === 'pin')).toMatchObject({ touched: 2 });
  });
});
