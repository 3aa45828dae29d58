/** Numbers for use inside a company join by themselves only where a person says that a supplier uses ours; doubted joins are split in bulk. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
let supplier: Body;
let other: Body;

beforeAll(async () => {
  await client.signIn();
  [supplier, other] = await client.addSuppliers();
});
afterAll(() => db.$client.end());

const productOf = async (key: string) =>
  (await queryRows<{ id: number }>(db, sql`SELECT product_id AS id FROM record WHERE key = ${key.toLowerCase()}`))[0]
    ?.id;
const isJoined = async (a: string, b: string) => (await productOf(a)) === (await productOf(b));

/** GTINs 2000000000015 and …22 are for use inside a company. */
const ours =
  'SKU;Title;Brand;GTIN;Category\nO-1;Moss lantern;Ash;2000000000015;Planters/Indoor pots\nO-2;Fern lantern;Ash;2000000000022;Planters/Indoor pots\n';
const theirs =
  'Article;Title;Brand;GTIN\nT-1;Anything else;Birch;2000000000015\nT-2;Another thing;Birch;2000000000022\n';

describe('numbers for use inside a company', () => {
  it('are taken, counted, and join nothing by themselves', async () => {
    const { body } = await client.uploadText('own-numbers.csv', ours);
    await client.send('POST', `/api/batches/${body.id}/try`);
    await client.send('POST', `/api/batches/${body.id}/apply`);
    const { body: batch } = await client.bringInFor(supplier, theirs);
    expect(batch.counts).toMatchObject({ created: 2, joins: 0, asked: 2, inHouse: 2, refused: 0 });
    expect(await isJoined('O-1', 'T-1')).toBe(false);
  });

  it('join where a person says that the supplier uses ours, even though brands differ are still asked', async () => {
    const { body } = await client.send('PUT', `/api/suppliers/${supplier.id}/numbers`, { usesOurNumbers: true });
    expect(body.job).toEqual(expect.any(Number));
    await client.idle();
    // Their brands differ: said to be one number, they contradict each other, and are asked about.
    expect(await isJoined('O-1', 'T-1')).toBe(false);
    await client.bringInFor(supplier, theirs.replaceAll('Birch', ''));
    expect(await isJoined('O-1', 'T-1')).toBe(true);
    expect(await isJoined('O-2', 'T-2')).toBe(true);
  });

  it('part again where she says they are not, and undo brings both back', async () => {
    await client.send('PUT', `/api/suppliers/${supplier.id}/numbers`, { usesOurNumbers: false });
    await client.idle();
    expect(await isJoined('O-1', 'T-1')).toBe(false);
    const action = await client.newest();
    expect(action.words).toContain('uses our numbers no more');
    expect((await client.undo(action.id)).status).toBe(200);
    await client.idle();
    expect(await isJoined('O-1', 'T-1')).toBe(true);
    expect((await client.get('/api/suppliers')).body.items.find((body: Body) => body.id === supplier.id)).toMatchObject(
      {
        usesOurNumbers: true,
      },
    );
  });

  it('of our own sheet are ours anyway', async () => {
    const own = (await client.get('/api/suppliers')).body.items.find((body: Body) => body.kind === 'own');
    const { status, body } = await client.send('PUT', `/api/suppliers/${own.id}/numbers`, { usesOurNumbers: true });
    expect([status, body.detail]).toEqual([409, 'Our own sheet uses our own numbers']);
  });
});

describe('joins that would not be made any more', () => {
  it('are listed with what speaks against them, split at once, and brought back by undo', async () => {
    const list = (prefix: string) =>
      `Article;Title;Brand;MPN\n${['1', '2', '3'].map((n) => `${prefix}-${n};Fell lamp ${n};Hobnettle;LMP-${n}`).join('\n')}\n`;
    await client.bringInFor(supplier, list('X'));
    await client.bringInFor(other, list('Y'));
    await client.idle();
    expect(await isJoined('X-1', 'Y-1')).toBe(true);
    expect((await client.get('/api/matches/doubted')).body.total).toBe(0);
    // As if what stands had been joined by older rules: two of them say another brand by now.
    await db.execute(sql`
      UPDATE record_content c SET content = jsonb_set(c.content::jsonb, '{values,brand}', '"Thistlewick"')::json
      FROM record r WHERE r.content_id = c.id AND r.key IN ('y-1', 'y-2')`);
    await client.send('POST', '/api/matches/propose');
    await client.idle();
    const { body: doubted } = await client.get('/api/matches/doubted');
    expect(doubted.total).toBe(2);
    expect(doubted.items[0].against).toContain('their brands differ');

    expect((await client.send('POST', '/api/matches/doubted/split', {})).body).toEqual({ split: 2 });
    expect(await isJoined('X-1', 'Y-1')).toBe(false);
    expect(await isJoined('X-3', 'Y-3')).toBe(true);
    expect((await client.get('/api/matches/doubted')).body.total).toBe(0);
    const action = await client.newest();
    expect(action.words).toContain('Split 2 joined products');
    await client.undo(action.id);
    expect(await isJoined('X-1', 'Y-1')).toBe(true);
    // What a person says stands, and is no doubt any more.
    await client.send('POST', '/api/matches/propose');
    await client.idle();
    expect((await client.get('/api/matches/doubted')).body.total).toBe(0);
  });
});

describe('a file that nothing proves to be somebody’s', () => {
  const text = 'Item;Name;Maker\nZZ-90001;Slate bowl;Nobody\nZZ-90002;Slate cup;Nobody\n';
  it('belongs to nobody, and is not tried before a person says whose it is', async () => {
    const { body } = await client.uploadOnly('export (3).csv', new TextEncoder().encode(text));
    expect(body.supplier).toBeNull();
    expect(body.mapFaults[0]).toContain('Nothing says whose goods these are');
    const refused = await client.send('POST', `/api/batches/${body.id}/try`);
    expect([refused.status, refused.body.detail]).toEqual([400, expect.stringContaining('choose the supplier')]);
    const said = await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: other.id });
    expect(said.body).toMatchObject({ supplier: 'Birkrigg', scope: 'some' });
  });

  it('is a whole list where it is about what the supplier listed before', async () => {
    const lines = (from: number, to: number) =>
      Array.from({ length: to - from }, (_, i) => `W-${from + i};Fell mug ${from + i};Hobnettle`).join('\n');
    const head = 'Article;Title;Brand\n';
    const third = (await client.send('POST', '/api/suppliers', { name: 'Dunnerdale' })).body;
    const scope = async (list: string) => {
      const { body } = await client.uploadText('Dunnerdale list.csv', head + list);
      return body.scope;
    };
    expect(await scope(lines(0, 40))).toBe('some');
    await client.bringInFor({ ...third, name: 'Dunnerdale' }, head + lines(0, 40));
    expect(await scope(lines(5, 45))).toBe('whole');
    expect(await scope(lines(0, 10))).toBe('some');
    expect(await scope(lines(35, 75))).toBe('some');
  });
});
