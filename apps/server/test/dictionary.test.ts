/** The dictionary, our tree and the company as people keep them: made, changed, refused with a pointer, taken back. */
import { sql } from 'drizzle-orm';
import { queryOne, queryRows } from '@velvet-shelf/server/db/client';
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

const { attribute, make, category } = keeping(client);
const change = async (label: string, to: object, was: object) =>
  client.send('PATCH', `/api/dictionary/${(await attribute(label)).id}`, { to, was });
const lastAction = async (): Promise<number> => (await client.newest()).id;

describe('an attribute', () => {
  it('is made with its list, several at once, and taken back', async () => {
    const { status, body } = await make(
      { ...blank, label: 'Weave' },
      { ...blank, label: 'Finish of the edge', type: 'choice', values: ['hemmed', 'fringed', 'Hemmed'] },
    );
    expect([status, body.ids.length]).toEqual([200, 2]);
    expect((await attribute('Finish of the edge')).values).toBe(2);
    expect((await client.undo()).body.left).toEqual([]);
    expect(await attribute('Weave')).toBeUndefined();
  });
  it('has a name of its own, however it is written', async () => {
    const { status, body } = await make({ ...blank, label: 'GLAZE ' });
    expect([status, body.errors[0].pointer]).toEqual([409, '/body/label']);
  });
  it('keeps what its values are as long as goods have one, and changes all else', async () => {
    const refused = await change('Glaze', { type: 'number' }, { type: 'text' });
    expect([refused.status, refused.body.errors[0].pointer]).toEqual([409, '/body/type']);
    expect((await change('Glaze', { label: 'Glazing' }, { label: 'Glaze' })).status).toBe(200);
    expect((await attribute('Glazing')).key).toBe('glaze');
    const late = await change('Glazing', { label: 'Coat' }, { label: 'Glaze' });
    expect([late.status, late.body.current]).toEqual([412, 'Glazing']);
    await client.undo();
    expect((await attribute('Glaze')).key).toBe('glaze');
  });
  it('says what is meant where it is entered', async () => {
    const help = 'How the surface feels, not how it looks.';
    expect((await change('Glaze', { help }, { help: '' })).status).toBe(200);
    const product = await queryOne<{ id: number }>(db, sql`SELECT id FROM product WHERE kind = 'variant' LIMIT 1`);
    const { values } = (await client.get(`/api/products/${product?.id}`)).body;
    expect(values.find((one: Body) => one.attribute === 'glaze').help).toBe(help);
    expect(values.find((one: Body) => one.attribute === 'material').help).toBeNull();
    expect((await change('Glaze', { help: 'x'.repeat(501) }, { help })).status).toBe(400);
    await client.undo();
    expect((await attribute('Glaze')).help).toBe('');
  });
  it('keeps a value on its list that one of the goods has, be it among several', async () => {
    const { ids } = (await make({ ...blank, label: 'Suits', type: 'choice', many: true })).body;
    await client.send('POST', `/api/dictionary/${ids[0]}/values`, { paths: [['ferns'], ['mosses'], ['palms']] });
    const making = await lastAction();
    const product = await queryOne<{ id: number }>(db, sql`SELECT id FROM product WHERE kind = 'variant' LIMIT 1`);
    const edit = { attribute: (await attribute('Suits')).key, language: null, text: 'ferns, palms', madeAgainst: null };
    expect((await client.send('PATCH', `/api/products/${product?.id}`, { edits: [edit] })).status).toBe(200);
    expect((await client.undo(making)).body.left).toEqual(['ferns: something has it', 'palms: something has it']);
    const { items } = (await client.get(`/api/dictionary/${ids[0]}/values`)).body;
    expect(items.map((row: Body) => row.key)).toEqual(['ferns', 'palms']);
  });
  it('counts the goods that have a value', async () => {
    const { goods } = (await client.get('/api/dictionary/uses')).body;
    const held = await queryOne<{ n: number }>(
      db,
      sql`SELECT count(*) AS n FROM product WHERE kind IN ('variant', 'single') AND merged_into IS NULL AND facts ->> 'glaze' IS NOT NULL`,
    );
    expect(goods[(await attribute('Glaze')).id]).toBe(held?.n);
  });
});

describe('our tree', () => {
  const changed = async (path: string[], to: object) => {
    const { id, names, spellings, parentId, position, requires, hidden } = await category(path.join('/'));
    return client.send('PATCH', `/api/values/${id}`, {
      to,
      was: { names, spellings, parentId, position, requires, hidden },
    });
  };

  it('takes paths, and makes what is not there', async () => {
    const { body } = await client.send('POST', '/api/categories/own', {
      paths: [
        ['Planters', 'Wall pots'],
        ['planters', 'indoor pots'],
        ['Books', 'Garden books'],
      ],
    });
    expect(body).toEqual({ made: 3, known: 1 });
    await client.undo();
    expect(await category('Books')).toBeUndefined();
  });
  it('moves and renames a category with its goods, and never below itself', async () => {
    const { goods } = await category('Planters/Indoor pots');
    expect(goods).toBeGreaterThan(10);
    const { id } = await category('Tools');
    expect((await changed(['Planters', 'Indoor pots'], { parentId: id })).status).toBe(200);
    expect((await category('Tools/Indoor pots')).goods).toBe(goods);
    const own = await category('Tools/Indoor pots');
    const circle = await changed(['Tools'], { parentId: own.id });
    expect([circle.status, circle.body.detail]).toEqual([409, expect.stringContaining('Nothing stands below itself')]);
    await client.undo();
    expect((await category('Planters/Indoor pots')).goods).toBe(goods);
  });
  it('requires values of its goods, those below inherit it; goods are measured by it, until the undo', async () => {
    const [row] = await queryRows<{ id: number }>(
      db,
      sql`SELECT p.id FROM product p JOIN list_value c ON c.key = p.category JOIN list_value a ON a.id = c.parent_id
          WHERE p.kind = 'variant' AND p.stands AND a.names::text LIKE '%Planters%' AND p.facts ->> 'glaze' IS NOT NULL ORDER BY p.id LIMIT 1`,
    );
    const measured = async () => {
      const { body } = await client.get(`/api/products/${row?.id}`);
      const [held] = await queryRows<{ complete: number }>(
        db,
        sql`SELECT complete FROM product WHERE id = ${row?.id ?? 0}`,
      );
      return {
        complete: held?.complete,
        required: body.values.filter((value: Body) => value.isRequired).map((value: Body) => value.attribute),
      };
    };
    const before = await measured();
    expect(before.required).toEqual([]);
    const lacks = (await client.get(`/api/products/${row?.id}`)).body.values.find(
      ({ origin, language }: Body) => origin === 'none' && language === null,
    ).attribute;
    const unknown = await changed(['Planters'], { requires: ['nobody'] });
    expect([unknown.status, unknown.body.detail]).toEqual([400, expect.stringContaining('nobody')]);
    expect((await changed(['Planters'], { requires: ['glaze', lacks] })).body.job).not.toBeNull();
    await client.idle();
    expect(await measured()).toEqual({ complete: 50, required: expect.arrayContaining(['glaze', lacks]) });
    await client.undo();
    await client.idle();
    expect(await measured()).toEqual(before);
  });
  it('has no two of one name beside each other', async () => {
    const { names } = await category('Planters/Hanging planters');
    const taken = await changed(['Planters', 'Indoor pots'], { names });
    expect([taken.status, taken.body.detail]).toEqual([409, expect.stringContaining('stands there already')]);
  });
});

describe('what a batch makes', () => {
  const rows = [
    'W-1;Wall rug one;Rugs > Wall;tufted;3',
    'W-2;Wall rug two;Rugs > Floor;woven;4',
    'W-3;Wall rug three;Rugs > Wall;woven;5',
  ];
  const upload = async (name: string) => {
    const { body } = await client.uploadText(name, `SKU;Title;Our category;Making;Knots\n${rows.join('\n')}\n`);
    const suppliers = (await client.get('/api/suppliers')).body.items;
    await client.send('PUT', `/api/batches/${body.id}/reading`, {
      supplierId: suppliers.find((row: Body) => row.kind === 'own').id,
      scope: 'some',
    });
    return body.id as number;
  };
  const fields = { many: false, perLanguage: false, dimension: null };
  const makes = (id: number) =>
    client.send('POST', `/api/batches/${id}/makes`, {
      attributes: [
        { ...fields, column: 'Making', label: 'Making', type: 'choice', values: ['tufted', 'woven'] },
        { ...fields, column: 'Knots', label: 'Knots', type: 'number' },
      ],
      values: [{ attribute: 'category', cells: ['Rugs > Wall', 'Rugs > Floor'] }],
    });

  it('is guessed, tried and applied with it, and goes with its undo', async () => {
    const id = await upload('rugs.csv');
    const { body } = await client.get(`/api/batches/${id}`);
    expect(body.homeless.map((row: Body) => [row.column, row.type])).toEqual([
      ['Making', 'text'],
      ['Knots', 'number'],
    ]);
    const made = (await makes(id)).body;
    expect(made.makes.values.map((value: Body) => value.name)).toEqual(['tufted', 'woven', 'Rugs', 'Wall', 'Floor']);
    expect(await attribute('Making')).toBeUndefined();
    const tried = (await client.send('POST', `/api/batches/${id}/try`)).body;
    expect(tried.counts).toMatchObject({ created: 3, refused: 0, lostCells: 0 });
    await client.send('POST', `/api/batches/${id}/apply`);
    expect((await attribute('Making')).values).toBe(2);
    const { key } = await attribute('Making');
    const held = await queryOne<{ making: string; category: string }>(
      db,
      sql`SELECT facts ->> ${key} AS making, category FROM product WHERE sku = 'W-2'`,
    );
    expect([held?.making, held?.category]).toEqual([expect.stringMatching(/^woven/), expect.stringMatching(/^floor/)]);
    await client.send('POST', `/api/batches/${id}/undo`);
    expect(await attribute('Making')).toBeUndefined();
    expect(await queryOne(db, sql`SELECT 1 FROM list_value WHERE key LIKE 'floor%'`)).toBeUndefined();
  });
  it('can be left again, and is refused where somebody made one of that name meanwhile', async () => {
    const id = await upload('rugs-again.csv');
    const made = (await makes(id)).body;
    const left = await client.send('POST', `/api/batches/${id}/makes`, {
      leave: [made.makes.attributes[1].key, made.makes.values[2].key],
    });
    expect(left.body.makes.attributes.map((row: Body) => row.label)).toEqual(['Making']);
    expect(left.body.makes.values.map((row: Body) => row.name)).toEqual(['tufted', 'woven']);
    await makes(id);
    await client.send('POST', `/api/batches/${id}/try`);
    await make({ ...blank, label: 'making' });
    const refused = await client.send('POST', `/api/batches/${id}/apply`);
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringContaining('Somebody made an attribute')]);
    expect((await client.get(`/api/batches/${id}`)).body.state).toBe('tried');
    await client.undo();
  });
});

describe('the company', () => {
  it('says which field is wrong, and is changed against what one saw', async () => {
    const { body } = await client.get('/api/company');
    const wrong = await client.send('PUT', '/api/company', {
      ...body,
      timeZone: 'Mars/Base',
      currencies: ['GBP', 'GBP'],
    });
    expect(wrong.body.errors.map((fault: Body) => fault.pointer).sort()).toEqual([
      '/body/currencies',
      '/body/timeZone',
    ]);
    const languages = ['de-DE', 'en-GB', 'sv-SE'];
    expect((await client.send('PUT', '/api/company', { ...body, languages })).status).toBe(200);
    await client.idle();
    expect((await client.send('PUT', '/api/company', body)).status).toBe(412);
    const titles = await queryOne<{ german: number; others: number }>(
      db,
      sql`SELECT count(*) FILTER (WHERE p.title = t.texts -> 'title' ->> 'de-DE') AS german, count(*) FILTER (WHERE p.title <> t.texts -> 'title' ->> 'de-DE') AS others
          FROM product p JOIN product_text t ON t.product_id = p.id WHERE p.kind IN ('variant', 'single') AND t.texts -> 'title' ->> 'de-DE' IS NOT NULL`,
    );
    expect(titles?.german).toBeGreaterThan(0);
    expect(titles?.others).toBe(0);
    await client.undo();
    await client.idle();
    expect((await client.get('/api/company')).body.languages[0]).toBe('en-GB');
  });
  it('is made once', async () => {
    const { body } = await client.get('/api/company');
    const again = await client.send('POST', '/api/company', { ...body, start: 'common' });
    expect(again.status).toBe(409);
  });
});

describe('a place', () => {
  const assortment = () =>
    client.get('/api/places/1/assortment').then(({ body }) => ({ condition: body.condition, hand: [] as Body[] }));
  const listings = async () => (await client.get('/api/places/1/assortment')).body.listings as number;

  it('says before it is kept what another assortment adds and takes away, and gives it back', async () => {
    const before = await listings();
    const was = await assortment();
    const product = (await client.get('/api/search?q=MS-HOL42-10-MO')).body.items[0].id;
    const to = { condition: { attribute: 'brand', op: 'is', value: 'Lumenloam' }, hand: [{ product, isIn: true }] };
    const { body: tried } = await client.send('POST', '/api/places/1/assortment/try', to);
    expect(tried.stays + tried.leaves).toBe(before);
    const saved = await client.send('PUT', '/api/places/1/assortment', { to, was });
    expect(saved.status).toBe(200);
    await client.idle();
    expect(await listings()).toBe(tried.stays + tried.joins);
    expect((await client.send('PUT', '/api/places/1/assortment', { to: was, was })).status).toBe(412);
    await client.undo();
    await client.idle();
    expect(await listings()).toBe(before);
  });
  it('knows no attribute that there is none of', async () => {
    const to = { condition: { attribute: 'nobody', op: 'is', value: 'x' }, hand: [] };
    expect((await client.send('POST', '/api/places/1/assortment/try', to)).body.errors[0].pointer).toBe(
      '/body/condition',
    );
  });
  it('is made in a market of its channel, once', async () => {
    const none = await client.send('POST', '/api/channels/1/places', { market: 'XX' });
    expect([none.status, none.body.errors[0].pointer]).toEqual([400, '/body/market']);
    expect((await client.send('POST', '/api/channels/1/places', { market: 'GB' })).status).toBe(409);
  });
});

describe('a warehouse', () => {
  it('that holds pieces stays, and so does the last of ours', async () => {
    const { id } = (await client.send('POST', '/api/warehouses', { name: 'Shop counter' })).body;
    expect((await client.send('POST', '/api/warehouses', { name: 'shop  counter' })).status).toBe(409);
    const away = (of: number) =>
      client.send('PATCH', `/api/warehouses/${of}`, { to: { putAway: true }, was: { putAway: false } });
    expect((await away(id)).status).toBe(200);
    const full = (await client.get('/api/warehouses')).body.items.find((row: Body) => row.onHand > 0);
    expect((await away(full.id)).body.detail).toContain('holds pieces');
  });
});

describe('suppliers and warehouses as a list', () => {
  const suppliers = async (): Promise<Body[]> => (await client.get('/api/suppliers')).body.items;
  it('are made all or none, and taken back together', async () => {
    const several = (...rows: object[]) => client.send('POST', '/api/suppliers/several', { suppliers: rows });
    const before = (await suppliers()).length;
    const refused = await several({ name: 'Vinterhus' }, { name: 'VINTERHUS ' });
    expect([refused.status, (await suppliers()).length]).toEqual([409, before]);
    expect((await several({ name: 'Vinterhus', language: 'sv', currency: 'SEK' }, { name: 'Oakhollow' })).status).toBe(
      200,
    );
    const [one, other] = (await suppliers()).slice(-2);
    expect([one?.name, one?.language, one?.currency, other?.currency]).toEqual(['Vinterhus', 'sv', 'SEK', null]);
    expect((await client.undo()).body.left).toEqual([]);
    expect(await suppliers()).toHaveLength(before);
  });
  it('of warehouses likewise', async () => {
    const names = async () => (await client.get('/api/warehouses')).body.items.map(({ name }: Body) => name);
    const before = await names();
    expect((await client.send('POST', '/api/warehouses/several', { names: ['North', 'north'] })).status).toBe(409);
    expect((await client.send('POST', '/api/warehouses/several', { names: ['North', 'South'] })).status).toBe(200);
    expect(await names()).toEqual(expect.arrayContaining(['North', 'South']));
    await client.undo();
    expect(await names()).toEqual(before);
  });
});
