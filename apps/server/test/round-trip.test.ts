/** The grid as a file that is worked over and brought back. */
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, count, db } from './client.js';

const client = new Client();
const { tried, applied, rowsOf, correct } = client;
beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.bringIn('brackwater-pottery.csv');
});
afterAll(() => db.$client.end());

type Body = Answer['body'];
const attribute = (body: Body, key: string) => body.values.find((value: Body) => value.attribute === key);

describe('the round trip', () => {
  const parse = (text: string) =>
    text
      .replace(/^\uFEFF/, '')
      .split('\r\n')
      .filter(Boolean);

  it.each(['csv', 'xlsx'])('the %s brought back as it is changes nothing', async (format) => {
    const file = await client.bytes(`/api/export?format=${format}`);
    const { body } = await client.upload(`grid.${format}`, file);
    expect(body.kind).toBe('round-trip');
    const done = await tried(body.id);
    const refused = await rowsOf(body.id, 'refused');
    expect(refused.map((row) => row.reasons)).toEqual([]);
    expect((await rowsOf(body.id, 'changed')).map((row) => row.changes)).toEqual([]);
    expect(done.counts.unchanged).toBe(
      await count(sql`SELECT count(*) AS n FROM product WHERE kind IN ('variant', 'single') AND merged_into IS NULL`),
    );
  });

  it('a changed cell is an edit, an emptied one empty on purpose, a missing column nothing; a new row makes goods after asking', async () => {
    const { body: view } = await client.send('POST', '/api/views', { search: 'MS-HOL42-10-MO', show: 'variants' });
    const text = new TextDecoder().decode(
      await client.bytes(`/api/export?format=csv&view=${view.token}&columns=brand,material,stock,price`),
    );
    const [head = '', line = ''] = parse(text);
    const columns = head.split(',');
    expect(columns).toEqual(['shelf-id', 'sku', 'title@en-GB', 'brand', 'material', 'price GBP', 'stock']);
    const at = (name: string) => columns.indexOf(name);
    const cells = line.split(',');
    const id = cells[0];
    cells[at('brand')] = "'=Hand & Co";
    cells[at('material')] = '';
    cells[at('stock')] = '77';
    const fresh = columns.map((name) =>
      name === 'sku' ? 'NEW-1' : name === 'title@en-GB' ? 'New thing' : name === 'stock' ? '3' : '',
    );
    const { body } = await client.uploadText('grid.csv', `${head}\r\n${cells.join(',')}\r\n${fresh.join(',')}\r\n`);
    expect((await tried(body.id)).counts).toMatchObject({ changed: 1, refused: 1, created: 0 });
    expect((await rowsOf(body.id, 'refused'))[0].reasons[0]).toContain('it would make a new product');
    await correct(body.id, { makesNew: true });
    expect((await tried(body.id)).counts).toMatchObject({ changed: 1, created: 1 });
    const fields = (await rowsOf(body.id, 'changed'))[0].changes.map((change: Body) => change.field);
    expect(fields.sort()).toEqual(['Brand', 'Material', 'Stock']);
    await applied(body.id);
    const after = (await client.get(`/api/products/${id}`)).body;
    expect(attribute(after, 'brand')).toMatchObject({ text: '=Hand & Co', origin: 'edit' });
    expect(attribute(after, 'material')).toMatchObject({ text: null, origin: 'edit' });
    expect(after.stock).toBe(77);
    expect(await count(sql`SELECT count(*) AS n FROM product WHERE sku = 'NEW-1' AND stock = 3`)).toBe(1);
    // What begins like a formula goes out as text.
    const out = new TextDecoder().decode(await client.bytes(`/api/export?format=csv&view=${view.token}&columns=brand`));
    expect(out).toContain("'=Hand & Co");
    await client.send('POST', `/api/batches/${body.id}/undo`);
    expect(attribute((await client.get(`/api/products/${id}`)).body, 'brand')).toMatchObject({
      text: 'Brackwater',
      origin: 'record',
    });
    expect(await count(sql`SELECT count(*) AS n FROM product WHERE sku = 'NEW-1'`)).toBe(0);
  });
});
