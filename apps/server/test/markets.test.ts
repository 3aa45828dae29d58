/** One channel in several markets, by several accounts: what is set for one market or category holds there and nowhere else. */
import { queryRows } from '@velvet-shelf/server/db/client';
import * as tables from '@velvet-shelf/server/db/schema/index';
import { markPlace } from '@velvet-shelf/server/history/dirty';
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { expectListingsAnew } from './anew.js';
import { type Answer, Client, count, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
const places: Record<string, number> = {};

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
  const [home] = await db.select().from(tables.place);
  const [account] = await db.select().from(tables.account);
  if (!home || !account) throw new Error('The shelf has no place');
  const { channelId } = account;
  const { body: second } = await client.send('POST', `/api/channels/${channelId}/accounts`, {
    ...{ name: 'Second seller', address: '', region: '' },
  });
  const add = async (market: string, of: number): Promise<number> => {
    const { body } = await client.send('POST', `/api/channels/${channelId}/places`, {
      ...{ market, account: of, condition: home.assortment },
    });
    return body.id;
  };
  places.GB = home.id;
  places.IE = await add('IE', account.id);
  places.second = await add('GB', second.id);
  await client.idle();
});
afterAll(() => db.$client.end());

const listings = (place: number) => count(sql`SELECT count(*) AS n FROM listing WHERE place_id = ${place}`);
const causesAt = async (place: number): Promise<string[]> =>
  (
    await queryRows<{ cause: string }>(
      db,
      sql`SELECT DISTINCT f ->> 'cause' AS cause FROM listing l, jsonb_array_elements(l.findings) f WHERE l.place_id = ${place}`,
    )
  ).map(({ cause }) => cause);

/** The value of a channel attribute on the listing of one product at a place. */
async function valueAt(place: number, sku: string, attribute: string): Promise<string | null> {
  const [listing] = await queryRows<{ id: number }>(
    db,
    sql`SELECT l.id FROM listing l JOIN product p ON p.id = l.variant_id WHERE l.place_id = ${place} AND p.sku = ${sku}`,
  );
  const { body } = await client.get(`/api/listings/${listing?.id}`);
  return body.values.find((value: Body) => value.attribute === attribute)?.value ?? null;
}

/** A product that is mapped and in stock. */
async function someProduct(): Promise<{ id: number; sku: string; category: string; target: string }> {
  const [product] = await queryRows<{ id: number; sku: string; category: string; target: string }>(
    db,
    sql`SELECT p.id, p.sku, p.category, l.category AS target FROM listing l JOIN product p ON p.id = l.variant_id
        WHERE l.place_id = ${places.GB} AND l.readiness = 'ready' ORDER BY p.id LIMIT 1`,
  );
  if (!product) throw new Error('Nothing is ready');
  return product;
}
const writeFill = async (slot: { market: string; category: string; attribute: string }, value: string) => {
  await db.insert(tables.fill).values({ channelId: 1, ...slot, fill: { rule: { kind: 'fixed', value }, fit: [] } });
  for (const id of Object.values(places)) await markPlace(db, id);
  await client.idle();
};

describe('a channel with several markets and accounts', () => {
  it('has the assortment at each of its places, told apart by account and market', async () => {
    const all = await listings(places.GB ?? 0);
    expect(all).toBeGreaterThan(100);
    for (const place of Object.values(places)) expect(await listings(place)).toBe(all);
    const { body } = await client.get('/api/places');
    expect(body.items.map(({ id }: Body) => id).sort()).toEqual(Object.values(places).sort());
    await expectListingsAnew();
  });

  it('asks for prices in the market’s currency, and a price given there frees goods there alone', async () => {
    const missing = 'catalog:price';
    expect(await causesAt(places.IE ?? 0)).toContain(missing);
    const product = await someProduct();
    expect(await valueAt(places.IE ?? 0, product.sku, 'asks')).toBeNull();
    const before = await valueAt(places.GB ?? 0, product.sku, 'asks');
    const { status } = await client.send('PATCH', `/api/products/${product.id}`, {
      edits: [{ attribute: 'price', language: 'EUR', text: '9.95', madeAgainst: null }],
    });
    expect(status).toBe(200);
    await client.idle();
    expect(await valueAt(places.IE ?? 0, product.sku, 'asks')).toBe('9.95 EUR');
    expect(await valueAt(places.GB ?? 0, product.sku, 'asks')).toBe(before);
    expect(before).toMatch(/ GBP$/);
  });

  it('lets the fill of a market stand before that of all, and that of a category before both', async () => {
    const product = await someProduct();
    const at = (place: string) => valueAt(places[place] ?? 0, product.sku, 'grade');
    await writeFill({ market: '', category: '', attribute: 'grade' }, 'worn');
    expect([await at('GB'), await at('IE'), await at('second')]).toEqual(['worn', 'worn', 'worn']);
    await writeFill({ market: 'IE', category: '', attribute: 'grade' }, 'mended');
    expect([await at('GB'), await at('IE'), await at('second')]).toEqual(['worn', 'mended', 'worn']);
    await writeFill({ market: '', category: product.target, attribute: 'grade' }, 'opened');
    expect([await at('GB'), await at('IE'), await at('second')]).toEqual(['opened', 'opened', 'opened']);
    await db.delete(tables.fill).where(eq(tables.fill.attribute, 'grade'));
    for (const id of Object.values(places)) await markPlace(db, id);
    await client.idle();
  });

  it('maps a category otherwise in one market', async () => {
    const product = await someProduct();
    const categoryAt = async (place: string) =>
      (
        await queryRows<{ category: string }>(
          db,
          sql`SELECT category FROM listing WHERE place_id = ${places[place]} AND variant_id = ${product.id}`,
        )
      )[0]?.category;
    const other = 'gifts/gift-sets/growing-sets';
    await db
      .insert(tables.categoryMap)
      .values({ channelId: 1, market: 'IE', category: product.category, target: other });
    await markPlace(db, places.IE ?? 0, { categories: [product.category] });
    await client.idle();
    expect([await categoryAt('GB'), await categoryAt('IE'), await categoryAt('second')]).toEqual([
      product.target,
      other,
      product.target,
    ]);
    await expectListingsAnew();
  });

  it('saves a fill for all its places, marks each, and takes it back from each', async () => {
    const { body } = await client.get(`/api/places/${places.IE}/fills`);
    const asked = body.items.find(({ key }: Body) => key === 'maker');
    const fill = { rule: { kind: 'fixed', value: 'Mosswick' }, fit: [] };
    expect((await client.send('PUT', `/api/places/${places.IE}/fills/maker`, { fill })).status).toBe(200);
    await client.idle();
    const { sku } = await someProduct();
    for (const place of Object.values(places)) expect(await valueAt(place, sku, 'maker')).toBe('Mosswick');
    await expectListingsAnew();
    const [action] = (await client.get('/api/actions')).body.items;
    expect((await client.send('POST', `/api/actions/${action.id}/undo`)).body.left).toEqual([]);
    await client.idle();
    const again = await client.get(`/api/places/${places.second}/fills`);
    expect(again.body.items.find(({ key }: Body) => key === 'maker').fill).toEqual(asked.fill);
    await expectListingsAnew();
  });

  it('says a fill and a map for one market alone: each is told with its goods, and is taken back', async () => {
    const product = await someProduct();
    const put = (what: string, body: object) => client.send('PUT', `/api/places/${places.IE}/${what}`, body);
    const fill = (value: string) => ({ rule: { kind: 'fixed', value }, fit: [] });
    const at = async (place: string) => {
      await client.idle();
      return valueAt(places[place] ?? 0, product.sku, 'grade');
    };
    expect((await put('fills/grade', { fill: fill('worn') })).status).toBe(200);
    expect((await put('fills/grade', { fill: fill('mended'), market: 'IE' })).status).toBe(200);
    expect([await at('GB'), await at('IE')]).toEqual(['worn', 'mended']);
    const slots = async (): Promise<Body[]> =>
      (await client.get(`/api/places/${places.IE}/fills`)).body.items.find(({ key }: Body) => key === 'grade').slots;
    expect(await slots()).toMatchObject([
      { market: '', category: '', goods: 0, hidden: expect.any(Number) },
      { market: 'IE', category: '', goods: expect.any(Number), hidden: 0 },
    ]);
    const strange = await put('fills/grade', { fill: fill('worn'), market: 'GB' });
    expect([strange.status, strange.body.detail]).toEqual([400, expect.stringContaining('not in the market “GB”')]);
    const lost = await put('fills/grade', { fill: fill('worn'), category: 'no/such' });
    expect(lost.status).toBe(400);
    expect((await put('fills/grade', { fill: null, market: 'IE' })).status).toBe(200);
    expect(await at('IE')).toBe('worn');
    await put('fills/grade', { fill: null });

    const row = async (place: string): Promise<Body> =>
      (await client.get(`/api/places/${places[place]}/categories`)).body.items.find(
        ({ category }: Body) => category === product.category,
      );
    const other = 'plants-growing/seeds/herb-seeds';
    const before = await row('GB');
    await put('categories', { maps: [{ category: product.category, target: null }], market: 'IE' });
    const nothing = await put('categories', { maps: [{ category: product.category, target: null }], market: 'IE' });
    expect([nothing.status, nothing.body.detail]).toEqual([400, expect.stringContaining('not mapped in IE alone')]);
    const maps = [{ category: product.category, target: other }];
    expect((await put('categories', { maps, market: 'IE' })).status).toBe(200);
    expect([await row('IE'), await row('GB')]).toMatchObject([{ target: other, isOfMarket: true }, before]);
    expect((await client.newest()).words).toContain('in IE alone');
    await client.undo();
    expect((await row('IE')).isOfMarket).toBe(false);
    await client.idle();
  });

  it('writes a market’s feed in its own currency, at an address of its own', async () => {
    const { body: feed } = await client.send('POST', '/api/feeds', { placeId: places.IE, format: 'xml' });
    await client.send('POST', `/api/feeds/${feed.id}/runs`);
    const { runs } = await client.until(`/api/feeds/${feed.id}`, ({ runs: [run] }) => run && run.state !== 'running');
    expect(runs[0].counts.selected).toBe(runs[0].counts.sent + runs[0].counts.leftOut);
    const text = await (await fetch(feed.address)).text();
    expect(runs[0].counts.sent).toBeGreaterThan(0);
    expect(text).toContain('currency="EUR"');
    expect(text).not.toContain('currency="GBP"');
  });

  it('says of a place while its file is being built that changes go with the next one', async () => {
    const isBuilding = async () =>
      (await client.get('/api/places')).body.items.flatMap(({ id, isBuilding: is }: Body) => (is ? [id] : []));
    expect(await isBuilding()).toEqual([]);
    const [feed] = await db.select().from(tables.feed);
    // As a building leaves it until its file is written.
    const [run] = await db
      .insert(tables.run)
      .values({ feedId: feed?.id ?? 0, state: 'running' })
      .returning();
    expect(await isBuilding()).toEqual([feed?.placeId]);
    await db.delete(tables.run).where(eq(tables.run.id, run?.id ?? 0));
  });
});

describe('a category map whose goods do not all stand together', () => {
  const place = '/api/places/1';
  const rowOf = async (category: string): Promise<Body> =>
    (await client.get(`${place}/categories`)).body.items.find((row: Body) => row.category === category);

  it('is split by a condition, tried and kept as said, and taken back whole', async () => {
    const ready = (await client.get('/api/listings?place=1&readiness=ready&limit=1')).body.items[0];
    const { items } = (await client.get(`${place}/categories`)).body;
    const mapped = items.find((row: Body) => row.target === ready.category && row.variants > 1);
    const tree = (await client.get(`${place}/tree`)).body.items;
    const other = tree.find(({ path, leaf }: Body) => leaf && path !== mapped.target).path;
    const condition = { all: [{ attribute: 'sku', op: 'is', value: ready.sku }] };
    const maps = [{ category: mapped.category, target: mapped.target, splits: [{ condition, target: other }] }];
    const categoryOf = async () => (await client.get(`/api/listings/${ready.id}`)).body.category;
    const { body: tried } = await client.send('POST', `${place}/categories/try`, { maps });
    expect(tried.splits).toEqual({ [mapped.category]: [1] });
    const { body: kept } = await client.send('PUT', `${place}/categories`, { maps });
    await client.idle();
    expect(kept).toMatchObject({ becameReady: tried.becameReady, becameBlocked: tried.becameBlocked });
    expect(await categoryOf()).toBe(other);
    // Mapped again, it keeps its splits; they are taken away where that is said.
    await client.send('PUT', `${place}/categories`, {
      maps: [{ category: mapped.category, target: mapped.target }],
    });
    expect((await rowOf(mapped.category)).splits).toEqual([{ condition, target: other }]);
    await client.send('PUT', `${place}/categories`, {
      maps: [{ category: mapped.category, target: mapped.target, splits: [] }],
    });
    expect(await categoryOf()).toBe(mapped.target);
    await client.undo();
    await client.idle();
    expect(await categoryOf()).toBe(other);
    await client.send('PUT', `${place}/categories`, {
      maps: [{ category: mapped.category, target: mapped.target, splits: [] }],
    });
  });
  it('refuses a split to nowhere, by what is no attribute, and a further category where there is none', async () => {
    const { items } = (await client.get(`${place}/categories`)).body;
    const { category, target } = items.find((row: Body) => row.target !== null);
    const split = (attribute: string, to: string) => ({
      category,
      target,
      splits: [{ condition: { all: [{ attribute, op: 'is', value: 'x' }] }, target: to }],
    });
    const answers = [
      await client.send('PUT', `${place}/categories`, { maps: [split('sku', 'no/such')] }),
      await client.send('PUT', `${place}/categories`, { maps: [split('no-such', target)] }),
      await client.send('PUT', `${place}/categories`, { maps: [{ category, target, second: target }] }),
    ];
    expect(answers.map(({ status }) => status)).toEqual([400, 400, 400]);
    expect(answers.map(({ body }) => body.detail)).toEqual([
      expect.stringContaining('no/such'),
      expect.stringContaining('no-such'),
      expect.stringContaining('one category'),
    ]);
  });
});

describe('another version of the rulebook', () => {
  const place = '/api/places/1';

  it('is compared in just the categories that goods are in, most goods first', async () => {
    const versions: Body[] = (await client.get(`${place}/rulebooks`)).body.items;
    const other = versions.find(({ inUse }) => !inUse);
    const { items } = (await client.get(`${place}/rulebooks/${other.id}/categories`)).body;
    expect(items.length).toBeGreaterThan(0);
    const listings = items.map((one: Body) => one.listings);
    expect(listings).toEqual([...listings].sort((a, b) => b - a));
    const { categories } = (await client.get(`${place}/fills`)).body;
    const goods = new Map(categories.map((one: Body) => [one.path, one.goods]));
    for (const { path, listings: n, isGone, changes } of items) {
      expect(goods.get(path)).toBe(n);
      expect(isGone || changes.length > 0).toBe(true);
    }
    const used = versions.find(({ inUse }) => inUse);
    expect((await client.get(`${place}/rulebooks/${used.id}/categories`)).body.items).toEqual([]);
    expect((await client.get(`${place}/rulebooks/999999/categories`)).status).toBe(404);
  });
});
