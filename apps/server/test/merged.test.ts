/** Attributes and categories made one with another: what names either means the one that is left, and all is taken back. */
import { sql } from 'drizzle-orm';
import { queryOne } from '@velvet-shelf/server/db/client';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';
import { blank, keeping } from './keeping.js';

const client = new Client();
type Body = Answer['body'];

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
});
afterAll(() => db.$client.end());

const { attribute, make, tree, category } = keeping(client);
const lastAction = async (): Promise<number> => (await client.newest()).id;

describe('an attribute made one with another', () => {
  const merge = async (from: string, into: string) =>
    client.send('POST', `/api/dictionary/${(await attribute(from)).id}/merge`, { into: (await attribute(into)).id });
  const uses = async (label: string): Promise<number> =>
    (await client.get('/api/dictionary/uses')).body.goods[(await attribute(label)).id] ?? 0;
  const glazed = async (condition: object): Promise<number> => {
    const { body } = await client.send('POST', '/api/views', { show: 'variants', everything: true, condition });
    return (await client.get(`/api/views/${body.token}/counts`)).body.variants;
  };

  it('gives it its values, and all that names it means the other; taken back, all is as before', async () => {
    const { type, many, perLanguage, level } = await attribute('Glaze');
    await make({ ...blank, type, many, perLanguage, level, label: 'Coating', aliases: ['finish'] });
    const [goods, moss] = [await uses('Glaze'), await glazed({ attribute: 'glaze', op: 'is', value: 'Moss' })];
    expect(goods).toBeGreaterThan(0);
    expect(moss).toBeGreaterThan(0);
    const making = await lastAction();
    const before = (await attribute('Glaze')).aliases;
    expect((await merge('Glaze', 'Coating')).status).toBe(200);
    const merging = await lastAction();
    await client.idle();
    expect(await attribute('Glaze')).toBeUndefined();
    expect(await uses('Coating')).toBe(goods);
    expect((await attribute('Coating')).aliases).toEqual(expect.arrayContaining(['Glaze', 'finish', ...before]));
    // A condition that names it, as an address or an assortment has it.
    expect(await glazed({ attribute: 'glaze', op: 'is', value: 'Moss' })).toBe(moss);
    const { key } = await attribute('Coating');
    expect(await glazed({ attribute: key, op: 'is', value: 'Moss' })).toBe(moss);
    // The same file again says nothing new but for the one attribute.
    const product = await queryOne<{ id: number }>(
      db,
      sql`SELECT id FROM product WHERE kind = 'variant' AND facts ->> ${key} = 'Moss' LIMIT 1`,
    );
    const { values } = (await client.get(`/api/products/${product?.id}`)).body;
    expect(values.filter((row: Body) => ['Coating', 'Glaze'].includes(row.label))).toHaveLength(1);
    // The one that is left stays as long as another is one with it.
    expect((await client.undo(making)).body.left).toEqual(['Coating: goods have values of it']);
    expect((await client.undo(merging)).body.left).toEqual([]);
    await client.idle();
    expect([await uses('Glaze'), await uses('Coating')]).toEqual([goods, 0]);
    expect(await glazed({ attribute: 'glaze', op: 'is', value: 'Moss' })).toBe(moss);
  });
  it('is refused where what their values are differs, or code knows it', async () => {
    await make({ ...blank, label: 'Burn time', type: 'number' });
    for (const [from, into] of [
      ['Glaze', 'Burn time'],
      ['Brand', 'Coating'],
      ['Coating', 'Coating'],
    ] as const) {
      const refused = await merge(from, into);
      expect([refused.status, refused.body.errors?.[0].pointer]).toEqual([400, '/body/into']);
    }
  });
});

describe('a category made one with another', () => {
  const merge = async (from: string, into: string) =>
    client.send('POST', `/api/values/${(await category(from)).id}/merge`, { into: (await category(into)).id });
  const paths = async () => (await tree()).map(({ path }) => path.join('/')).sort();

  it('gives it its goods and what stands below it, and takes both back', async () => {
    await client.send('POST', '/api/categories/own', {
      paths: [
        ['Old pots', 'Indoor pots', 'Glazed'],
        ['Old pots', 'Wall pots'],
      ],
    });
    const [before, goods] = [await paths(), (await category('Planters/Indoor pots')).goods];
    expect((await merge('Planters', 'Old pots')).status).toBe(200);
    const merging = await lastAction();
    await client.idle();
    expect(await category('Planters')).toBeUndefined();
    expect((await category('Old pots/Indoor pots')).goods).toBe(goods);
    expect(await category('Old pots/Indoor pots/Glazed')).toBeDefined();
    // A file that says the old path means the new one, and nothing is made twice.
    const { body } = await client.send('POST', '/api/categories/own', { paths: [['Planters', 'Indoor pots']] });
    expect(body).toEqual({ made: 0, known: 1 });
    const again = await client.send('POST', `/api/values/${(await category('Tools')).id}/merge`, {
      into: (await category('Tools')).id,
    });
    expect([again.status, again.body.errors[0].pointer]).toEqual([400, '/body/into']);
    expect((await client.undo(merging)).body.left).toEqual([]);
    await client.idle();
    expect(await paths()).toEqual(before);
    expect((await category('Planters/Indoor pots')).goods).toBe(goods);
  });
  it('takes the place of the one it stood below', async () => {
    const { goods } = await category('Planters/Indoor pots');
    expect((await merge('Planters', 'Planters/Indoor pots')).status).toBe(200);
    const merging = await lastAction();
    await client.idle();
    expect((await category('Indoor pots')).goods).toBeGreaterThanOrEqual(goods);
    await client.undo(merging);
    await client.idle();
    expect((await category('Planters/Indoor pots')).goods).toBe(goods);
  });
  it('is mapped on a channel as the other was, until somebody maps it', async () => {
    const place = (await client.get('/api/places')).body.items[0].id;
    const rows = async (): Promise<Body[]> => (await client.get(`/api/places/${place}/categories`)).body.items;
    const mapped = (await rows()).find((row) => row.target !== null && row.variants > 0);
    const open = (await category('Old pots')).key;
    await merge(mapped.names.join('/'), 'Old pots');
    const merging = await lastAction();
    await client.idle();
    const row = (await rows()).find(({ category: key }) => key === open);
    expect([row.target, row.variants]).toEqual([mapped.target, mapped.variants]);
    await client.send('PUT', `/api/places/${place}/categories`, { maps: [{ category: open, target: null }] });
    expect((await rows()).find(({ category: key }) => key === open).target).toBeNull();
    await client.undo();
    await client.undo(merging);
    await client.idle();
    expect((await rows()).find(({ category: key }) => key === mapped.category)).toMatchObject({
      target: mapped.target,
      variants: mapped.variants,
    });
  });
});

const held = async (label: string, id: number | undefined): Promise<Body> =>
  (await client.get(`/api/products/${id}`)).body.values.find((value: Body) => value.label === label);
const actionOf = async (words: string): Promise<Body> =>
  (await client.get('/api/actions')).body.items.find((action: Body) => action.words === words && action.canUndo);

describe('what an attribute is', () => {
  const changed = async (label: string, to: object) => {
    const { id, type, many, dimension } = await attribute(label);
    return client.send('POST', `/api/dictionary/${id}/kind`, { style: {}, ...to, was: { type, many, dimension } });
  };
  const holding = async (condition: object): Promise<number> => {
    const { body } = await client.send('POST', '/api/views', { show: 'variants', everything: true, condition });
    return (await client.get(`/api/views/${body.token}`)).body.rows;
  };

  it('is changed with what goods hold, shown before; edits too, and all comes back with the undo', async () => {
    await make({ ...blank, label: 'Reach', type: 'text' });
    const { body: view } = await client.send('POST', '/api/views', { show: 'variants', search: 'hollin' });
    const ids: number[] = view.first.slice(0, 4).map(({ id }: Body) => id);
    const key = (await attribute('Reach')).key;
    for (const [i, text] of ['12 cm', '1.5 m', 'as far as it goes', '90'].entries())
      await client.send('PATCH', `/api/products/${ids[i]}`, {
        edits: [{ attribute: key, language: null, text, madeAgainst: null }],
      });
    const length = { type: 'measure', many: false, dimension: 'length' };
    const { id } = await attribute('Reach');
    const tried = await client.send('POST', `/api/dictionary/${id}/kind/try`, { ...length, style: { unit: 'mm' } });
    expect(tried.body).toMatchObject({ objection: null, goods: 4, lost: 1, values: 4 });
    expect(tried.body.lostValues).toMatchObject([{ text: 'as far as it goes', goods: 1 }]);
    expect(tried.body.examples.map(({ after }: Body) => after).sort()).toEqual(['1.5 m', '12 cm', '90 mm']);

    const done = await changed('Reach', { ...length, style: { unit: 'mm' } });
    expect(done.status).toBe(200);
    await client.idle();
    const now = await attribute('Reach');
    expect([now.id, now.type, now.dimension]).toEqual([done.body.id, 'measure', 'length']);
    expect((await held('Reach', ids[1])).text).toBe('1.5 m');
    expect((await held('Reach', ids[2])).text).toBeNull();
    expect((await held('Reach', ids[3])).text).toBe('90 mm');
    // What names it by what it was means what it is.
    expect(now.formerKeys).toEqual([key]);
    const followed = await client.send('POST', '/api/dictionary/computed/try', {
      attribute: { ...blank, label: 'Reached', type: 'measure', dimension: 'area' },
      computed: { kind: 'multiplied', of: [key, key], unit: 'cm2' },
    });
    expect([followed.body.objection, followed.body.goods]).toEqual([null, 3]);
    expect(await holding({ attribute: key, op: 'atLeast', value: '0.1 m' })).toBe(2);
    expect((await changed('Reach', { type: 'number', many: false })).body.detail).toMatch(/unit/);
    expect((await changed('Reach', { type: 'number', many: false, style: { unit: 'cm' } })).status).toBe(200);
    await client.idle();
    // By what it was at first, over what it became.
    expect((await held('Reach', ids[1])).text).toBe('150');
    await client.undo();
    await client.idle();
    expect((await client.undo((await actionOf('Changed what Reach is')).id)).body.left).toEqual([]);
    await client.idle();
    expect([(await attribute('Reach')).type, (await held('Reach', ids[2])).text]).toEqual([
      'text',
      'as far as it goes',
    ]);
    expect(await holding({ attribute: key, op: 'is', value: '12 cm' })).toBe(1);
  });

  it('becomes a list of what goods hold, and is refused where code knows it as something', async () => {
    const glazed = await holding({ attribute: 'glaze', op: 'is', value: 'Moss' });
    expect(glazed).toBeGreaterThan(0);
    expect((await changed('Glaze', { type: 'choice', many: false })).status).toBe(200);
    await client.idle();
    const now = await attribute('Glaze');
    expect(now.type).toBe('choice');
    expect(now.values).toBeGreaterThan(3);
    const names = (await client.get(`/api/dictionary/${now.id}/values`)).body.items.flatMap(({ path }: Body) => path);
    expect(names).toContain('Moss');
    expect(await holding({ attribute: 'glaze', op: 'is', value: 'Moss' })).toBe(glazed);
    expect((await changed('Title', { type: 'number', many: false })).status).toBe(400);
    expect((await changed('Glaze', { type: 'choice', many: false })).status).toBe(400);
    expect((await client.undo((await actionOf('Changed what Glaze is')).id)).body.left).toEqual([]);
    await client.idle();
    expect((await attribute('Glaze')).type).toBe('text');
    expect(await holding({ attribute: 'glaze', op: 'is', value: 'Moss' })).toBe(glazed);
  });
});
