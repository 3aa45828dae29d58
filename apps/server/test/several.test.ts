/** Several servers over one database: what one of them keeps in its memory is never what another needs, nor what is not true any more. */
import { compileFor } from '@velvet-shelf/server/channels/setup';
import { getPlace } from '@velvet-shelf/server/channels/places';
import { chosenGoods } from '@velvet-shelf/server/catalog/chosen';
import { countsOf, forgetViews, openView, viewIds, windowOf } from '@velvet-shelf/server/catalog/grid';
import { loadDictionary } from '@velvet-shelf/server/dictionary/dictionary';
import { readConfig } from '@velvet-shelf/server/config';
import type { Services } from '@velvet-shelf/server/http/route';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];

const client = new Client();
const services: Services = { db, config: readConfig(), notify: () => undefined };
const view = {
  condition: { all: [] },
  search: '',
  everything: true,
  show: 'variants' as const,
  sort: 'sku',
  toComplete: false,
};

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
});
afterAll(() => db.$client.end());

describe('a view of the grid', () => {
  it('that one server opened is shown by another', async () => {
    const opened = await openView(db, view, { columns: [] });
    const { status, body } = await client.get(`/api/views/${opened.token}/rows?from=0&count=5&columns=`);
    expect(status).toBe(200);
    expect(body.items.map((row: Body) => row.id)).toEqual((await viewIds(db, opened.token)).slice(0, 5));
    const { body: counts } = await client.get(`/api/views/${opened.token}/counts`);
    expect(counts.variants).toBe((await viewIds(db, opened.token)).length);
    expect(await countsOf(db, opened.token)).toMatchObject({ variants: counts.variants });
  });

  it('that was opened over the network is shown here too', async () => {
    const { body } = await client.send('POST', '/api/views', view);
    const rows = await windowOf(db, body.token, { from: 0, count: 3, columns: [] });
    expect(rows.map((row) => row?.id)).toEqual((await viewIds(db, body.token)).slice(0, 3));
  });

  it('of a search nothing has is of what is like it, in its rows and counts, and says so', async () => {
    const like = async (search: string) => {
      const { body } = await client.send('POST', '/api/views', { ...view, search });
      const { body: counts } = await client.get(`/api/views/${body.token}/counts`);
      const { body: rows } = await client.get(`/api/views/${body.token}/rows?from=0&count=5`);
      return { ...body, counted: counts.variants, titles: rows.items.map((row: Body) => row.title) };
    };
    const meant = await like('ambrel');
    expect([meant.isLike, meant.rows]).toEqual([false, 6]);
    const typed = await like('ambrl');
    expect(typed).toMatchObject({ isLike: true, rows: typed.counted });
    expect(typed.titles.join()).toContain('Ambrel');
    expect(await like('xq')).toMatchObject({ isLike: false, rows: 0 });
    expect(await like('qqqqzzzzxxxx')).toMatchObject({ isLike: false, rows: 0 });
  });

  it('is forgotten when nobody has asked for it in a day, and says so', async () => {
    const { body } = await client.send('POST', '/api/views', view);
    const other = await client.send('POST', '/api/views', view);
    await db.execute(sql`UPDATE opened_view SET at = now() - interval '2 days' WHERE token = ${body.token}`);
    await forgetViews(db);
    await expect(viewIds(db, body.token)).rejects.toThrow('open it again');
    expect((await viewIds(db, other.body.token)).length).toBe(
      (await client.get(`/api/views/${other.body.token}`)).body.rows,
    );
  });

  it('is chosen whole after a trial of the same, which leaves nothing', async () => {
    const { body } = await client.send('POST', '/api/views', view);
    const chosen = { view: body.token, except: [] };
    const tried = db.transaction(async (tx) => {
      expect((await chosenGoods(tx, chosen)).variants.length).toBeGreaterThan(100);
      await viewIds(tx, body.token);
      throw new Error('a trial');
    });
    await expect(tried).rejects.toThrow('a trial');
    expect((await chosenGoods(db, chosen)).variants.length).toBe((await viewIds(db, body.token)).length);
  });

  it.each(
    ['both', 'families', 'variants'].flatMap((show) =>
      ['family', '-family', 'title', '-price', 'brand', 'category', ...(show === 'variants' ? ['weight'] : [])].map(
        (sort) => [show, sort],
      ),
    ),
  )('of %s by %s begins with the rows it goes on with', async (show, sort) => {
    const { body } = await client.send('POST', '/api/views', { show, sort, everything: true, columns: 'weight' });
    const { body: size } = await client.get(`/api/views/${body.token}`);
    const { body: window } = await client.get(`/api/views/${body.token}/rows?from=0&count=100&columns=weight`);
    expect(body.first).toEqual(window.items);
    expect(body.rows).toBe(size.rows < 100 ? size.rows : null);
  });

  const is = (attribute: string, op: string, value?: string) => ({ attribute, op, ...(value ? { value } : {}) });
  const conditions = {
    most: { not: is('material', 'is', 'a thing nobody has') },
    some: {
      all: [{ any: [is('brand', 'contains', 'a'), is('material', 'isEmpty')] }, { not: is('glaze', 'is', 'Moss') }],
    },
    few: is('title', 'contains', 'trough'),
    texts: is('description', 'contains', 'herb'),
    none: is('weight', 'atLeast', '900 t'),
  };
  it.each(
    Object.keys(conditions).flatMap((name) =>
      ['family', '-family', '-price', 'weight', 'category'].flatMap((sort) =>
        (sort === 'weight' ? ['variants'] : ['both', 'families', 'variants']).map(
          (show) => [name, show, sort] as const,
        ),
      ),
    ),
  )('of %s of the goods, %s by %s, begins with the rows it goes on with', async (name, show, sort) => {
    const condition = conditions[name as keyof typeof conditions];
    const { body } = await client.send('POST', '/api/views', { show, sort, condition, search: 'o', everything: true });
    const { body: window } = await client.get(`/api/views/${body.token}/rows?from=0&count=100`);
    expect(body.first).toEqual(window.items.slice(0, 100));
  });
  it('of a condition over nothing there is, is refused', async () => {
    const { status } = await client.send('POST', '/api/views', { condition: is('nope', 'isEmpty') });
    expect(status).toBe(400);
  });
});

describe('the set-up of a place', () => {
  const compile = async (id = 1) =>
    compileFor(db, await getPlace(db, id), await loadDictionary(db), services.config.address);
  const pinsOf = async () => [...(await compile()).setup.pins.values()];

  it('is compiled once for each version of it', async () => {
    expect(await compile()).toBe(await compile());
  });

  it('is compiled anew when a fill, a category or a pin of it changes, whoever changed it', async () => {
    const first = await compile();
    const fill = first.setup.fills.find((placed) => placed.attribute === 'maker')?.fill;
    await client.send('PUT', '/api/places/1/fills/maker', { fill: null });
    const second = await compile();
    expect(second).not.toBe(first);
    expect(second.setup.fills.some((placed) => placed.attribute === 'maker')).toBe(false);
    await client.send('PUT', '/api/places/1/fills/maker', { fill });
    expect((await compile()).setup.fills.find((placed) => placed.attribute === 'maker')?.fill).toEqual(fill);

    const { body: listings } = await client.get('/api/listings?place=1&limit=1');
    const [listing] = listings.items as Body[];
    const before = await pinsOf();
    await client.send('PUT', `/api/listings/${listing?.id}/pins/short`, { text: 'Pinned here', madeAgainst: null });
    expect((await pinsOf()).length).toBe(before.length + 1);
    await client.send('PUT', `/api/listings/${listing?.id}/pins/short`, { text: null, madeAgainst: 'Pinned here' });
    expect(await pinsOf()).toEqual(before);
  });

  it('is not taken for the one that a transaction made that was rolled back', async () => {
    const before = (await compile()).setup.fills.length;
    await expect(
      db.transaction(async (tx) => {
        await tx.execute(sql`DELETE FROM fill WHERE attribute = 'maker'`);
        await tx.execute(sql`UPDATE place SET setup_version = nextval('setup_version_seq')`);
        const inside = await compileFor(tx, await getPlace(tx, 1), await loadDictionary(tx), services.config.address);
        expect(inside.setup.fills.length).toBe(before - 1);
        throw new Error('rolled back');
      }),
    ).rejects.toThrow('rolled back');
    await client.send('PUT', '/api/places/1/fills/short', {
      fill: (await compile()).setup.fills.find((placed) => placed.attribute === 'short')?.fill,
    });
    expect((await compile()).setup.fills.length).toBe(before);
  });
});
