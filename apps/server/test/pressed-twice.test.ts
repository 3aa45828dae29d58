/** Pressed twice, in two windows, in the middle of each other: one does it, the others are told, and the sums are right. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
let supplier: Body;

beforeAll(async () => {
  await client.signIn();
  [supplier] = await client.addSuppliers();
});
afterAll(() => db.$client.end());

const list = (stock: number) =>
  [
    'Article;Title;Brand;Stock',
    ...Array.from({ length: 20 }, (_, i) => `PT-${i};Larch stool ${i};Hobnettle;${stock}`),
  ].join('\n');

const sums = async () =>
  queryRows(
    db,
    sql`SELECT p.sku, p.title, coalesce(sum(s.on_hand), 0)::int AS pieces, p.stock FROM product p LEFT JOIN stock_level s ON s.product_id = p.id
        WHERE p.title LIKE 'Larch stool %' AND p.merged_into IS NULL GROUP BY p.id ORDER BY p.title`,
  );
const statuses = (answers: Answer[]) => answers.map((answer) => answer.status).sort();

describe('undo', () => {
  it('of a batch, of its action and of the batch again, at once', async () => {
    await client.bringInFor(supplier, list(4));
    const before = await sums();
    const batch = (await client.bringInFor(supplier, list(11))).body;
    const [action] = await queryRows<{ id: number }>(db, sql`SELECT action_id AS id FROM batch WHERE id = ${batch.id}`);
    const answers = await Promise.all([
      client.send('POST', `/api/batches/${batch.id}/undo`),
      client.send('POST', `/api/actions/${action?.id}/undo`),
      client.send('POST', `/api/batches/${batch.id}/undo`),
    ]);
    expect(statuses(answers)).toEqual([200, 409, 409]);
    expect(await sums()).toEqual(before);
  });

  it('of one booking, pressed five times', async () => {
    const [product] = await queryRows<{ id: number; stock: number }>(
      db,
      sql`SELECT id, stock FROM product WHERE title = 'Larch stool 3' AND merged_into IS NULL`,
    );
    await client.send('POST', `/api/products/${product?.id}/stock`, {
      delta: 7,
      reason: 'received',
      madeAgainst: { onHand: product?.stock, keptBack: 0 },
    });
    const { body } = await client.get('/api/actions');
    const answers = await Promise.all(
      Array.from({ length: 5 }, () => client.send('POST', `/api/actions/${body.items[0].id}/undo`)),
    );
    expect(statuses(answers)).toEqual([200, 409, 409, 409, 409]);
    expect((await client.get(`/api/products/${product?.id}/stock`)).body.onHand).toBe(product?.stock);
  });

  it('says of an undo that it cannot be undone', async () => {
    const { body } = await client.get('/api/actions');
    expect((await client.send('POST', `/api/actions/${body.items[0].id}/undo`)).status).toBe(409);
  });
});

describe('edits made against one value', () => {
  it.each([
    ['a value', 'material', (n: number) => `cork ${n}`],
    ['a price', 'price', (n: number) => `${n + 1}.50`],
    ['stock', 'stock', (n: number) => String(n + 2)],
  ])('of %s: one is saved, the others are shown what it is now', async (_, attribute, text) => {
    const [product] = await queryRows<{ id: number; stock: number }>(
      db,
      sql`SELECT id, stock FROM product WHERE title = 'Larch stool 5' AND merged_into IS NULL`,
    );
    const madeAgainst = attribute === 'stock' ? String(product?.stock) : null;
    const answers = await Promise.all(
      Array.from({ length: 4 }, (__, n) =>
        client.send('PATCH', `/api/products/${product?.id}`, { edits: [{ attribute, text: text(n), madeAgainst }] }),
      ),
    );
    expect(statuses(answers)).toEqual([200, 412, 412, 412]);
  });
});
