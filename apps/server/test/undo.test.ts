/** Batches taken back in any order: what other batches have confirmed since stays on their word. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db, until } from './client.js';

const client = new Client();
type Body = Answer['body'];

const columns = 'Article,Title,Brand,GTIN,Price GBP,Stock,Material';
const list = (material: string, price: string, stock: number) =>
  [
    columns,
    `HB-1,Dabble pot 10 cm,Hobnettle,,${price},${stock},${material}`,
    `HB-2,Dabble pot 12 cm,Hobnettle,,14.00,3,${material}`,
  ].join('\n');

let supplier: Body;
beforeAll(async () => {
  await client.signIn();
  supplier = (await client.send('POST', '/api/suppliers', { name: 'Hobnettle Ltd' })).body;
});
afterAll(() => db.$client.end());

async function tried(text: string): Promise<Body> {
  const { body } = await client.uploadText('hobnettle.csv', text);
  const { body: read } = await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: supplier.id });
  // What this maker writes in its price column is what it is sold for.
  const map = read.map.map((row: Body) =>
    row.column === 'Price GBP' ? { ...row, target: { to: 'price', kind: 'regular', currency: 'GBP' } } : row,
  );
  await client.send('PUT', `/api/batches/${body.id}/reading`, { map });
  return (await client.send('POST', `/api/batches/${body.id}/try`)).body;
}

async function applied(text: string): Promise<Body> {
  const batch = await tried(text);
  await client.send('POST', `/api/batches/${batch.id}/apply`);
  return client.until(`/api/batches/${batch.id}`, (body) => body.state === 'applied');
}

const undo = (batch: Body) => client.send('POST', `/api/batches/${batch.id}/undo`);

/** What is held of the supplier's first article, or nothing. */
async function held() {
  const [found] = await queryRows<{ material: string; price: string; stock: number; versions: number }>(
    db,
    sql`SELECT p.facts ->> 'material' AS material, trim_scale(p.price)::text AS price,
          (SELECT sum(s.on_hand)::int FROM stock_level s WHERE s.product_id = p.id) AS stock,
          (SELECT count(*) FROM record_version v WHERE v.record_id = r.id) AS versions
        FROM record r JOIN product p ON p.id = r.product_id WHERE r.supplier_id = ${supplier.id} AND r.key = 'hb-1'`,
  );
  return found;
}

describe('an unchanged list', () => {
  let first: Body;
  let again: Body;

  it('makes no version, and says so in its counts', async () => {
    first = await applied(list('cork', '12.00', 8));
    again = await applied(list('cork', '12.00', 8));
    expect(again.counts).toMatchObject({ created: 0, changed: 0, unchanged: 2 });
    expect(await held()).toEqual({ material: 'cork', price: '12', stock: 8, versions: 1 });
  });

  it('keeps the goods where the batch that brought them is taken back', async () => {
    expect((await undo(first)).status).toBe(200);
    expect(await held()).toMatchObject({ material: 'cork' });
  });

  it('lets them go with it when it is taken back too', async () => {
    expect((await undo(again)).status).toBe(200);
    expect(await held()).toBeUndefined();
  });
});

describe('a changed list', () => {
  let first: Body;
  let changed: Body;
  let confirmed: Body;

  beforeAll(async () => {
    first = await applied(list('cork', '12.00', 8));
    changed = await applied(list('steel', '13.50', 5));
    confirmed = await applied(list('steel', '13.50', 5));
    expect(confirmed.counts.unchanged).toBe(2);
  });

  it('stays on the word of a later one that says the same', async () => {
    await undo(changed);
    expect(await held()).toMatchObject({ material: 'steel' });
  });

  it('gives way to what was before once nobody says it any more', async () => {
    await undo(confirmed);
    expect(await held()).toMatchObject({ material: 'cork' });
    await undo(first);
    expect(await held()).toBeUndefined();
  });
});

describe('prices and stock', () => {
  it('go back with their batch, but for a price a person has set since', async () => {
    await applied(list('cork', '12.00', 8));
    const next = await applied(list('cork', '13.00', 20));
    const [row] = await queryRows<{ id: number }>(
      db,
      sql`SELECT product_id AS id FROM record WHERE supplier_id = ${supplier.id} AND key = 'hb-1'`,
    );
    const edit = { attribute: 'price', language: 'GBP', text: '15.00', madeAgainst: '13' };
    expect((await client.send('PATCH', `/api/products/${row?.id}`, { edits: [edit] })).status).toBe(200);
    const { body } = await undo(next);
    expect(body.left.join()).toContain('regular price GBP');
    expect(await held()).toMatchObject({ price: '15', stock: 8 });
  });

  it('are put back in one go for thousands', async () => {
    const many = (price: string) =>
      [
        columns,
        ...Array.from({ length: 3000 }, (_, i) => `TH-${i},Thimble ${i},Hobnettle,,${price},${i % 9},clay`),
      ].join('\n');
    await applied(many('2.00'));
    const dearer = await applied(many('2.50'));
    const at = async (price: string) => {
      const [found] = await queryRows<{ n: number }>(
        db,
        sql`SELECT count(*) AS n FROM product WHERE title LIKE 'Thimble %' AND price = ${price}::numeric`,
      );
      return Number(found?.n);
    };
    expect(await at('2.50')).toBe(3000);
    await undo(dearer);
    await client.until(`/api/batches/${dearer.id}`, (body) => body.state === 'undone');
    await until(
      'the old price',
      () => at('2.00'),
      (n) => n === 3000,
    );
  });
});

describe('a file of a supplier nobody told us', () => {
  const read = async (name: string, text: string) => {
    const { body } = await client.uploadText(name, text);
    const chosen = await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: supplier.id });
    return [body.scope, chosen.body.scope];
  };
  it('is some goods, whosever they are, while it is about nothing that they listed before', async () => {
    expect(await read('x.csv', 'Stock no,Title,Colour\nZQ-1,Quillon,red\nZQ-2,Quillon two,blue\n')).toEqual([
      'some',
      'some',
    ]);
  });
  it('stays some goods where it holds what was refused', async () => {
    const text = 'Refused because,Stock no,Title,Colour\n,ZQ-1,Quillon,red\n,ZQ-2,Quillon two,blue\n';
    expect(await read('y.csv', text)).toEqual(['some', 'some']);
  });
});
