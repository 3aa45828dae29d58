/** Stock as a ledger, values pinned for one listing, and what two people (or two batches) at once come to. */
import { queryOne, queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db, until } from './client.js';

const client = new Client();
type Body = Answer['body'];
let product: Body;
let listing: Body;

const stockOf = async (id: number) => (await client.get(`/api/products/${id}/stock`)).body;
const change = (id: number, body: object) => client.send('POST', `/api/products/${id}/stock`, body);
const undoLast = async () => {
  const { body } = await client.get('/api/actions');
  return client.send('POST', `/api/actions/${body.items[0].id}/undo`);
};

beforeAll(async () => {
  await client.signIn();
  const known = await queryRows<{ n: number }>(db, sql`SELECT count(*) AS n FROM product WHERE sku = 'MS-HOL42-10-MO'`);
  if (Number(known[0]?.n) === 0) await client.stocked();
  // Listings of so many goods are found beside the request.
  const find = () =>
    queryOne<{ id: number; listing: number }>(
      db,
      sql`SELECT p.id, l.id AS listing FROM product p JOIN listing l ON l.variant_id = p.id WHERE p.sku = 'MS-HOL42-10-MO' LIMIT 1`,
    );
  const found = await until('the listing', find, (answer) => answer !== undefined);
  product = (await client.get(`/api/products/${found?.id}`)).body;
  listing = (await client.get(`/api/listings/${found?.listing}`)).body;
});
afterAll(() => db.$client.end());

describe('stock', () => {
  it('comes and goes with a reason, and says who booked it', async () => {
    const { onHand, keptBack } = await stockOf(product.id);
    const { body } = await change(product.id, {
      delta: -2,
      reason: 'broken in transport',
      madeAgainst: { onHand, keptBack },
    });
    expect(body).toMatchObject({ onHand: onHand - 2, shown: onHand - 2 });
    expect(body.movements[0]).toMatchObject({ delta: -2, reason: 'broken in transport', by: 'Iris Ravensbourne' });
    expect(body.reasons).toContain('broken in transport');
    expect(body.reasons).not.toContain('count');
    const history = (await client.get(`/api/products/${product.id}/history`)).body.items[0];
    expect(history.words).toContain('−2 broken in transport');
  });

  it('answers 412 with both figures where somebody was faster, and books nothing', async () => {
    const { onHand, keptBack } = await stockOf(product.id);
    const both = await Promise.all(
      [1, 2].map((delta) => change(product.id, { delta, reason: 'found', madeAgainst: { onHand, keptBack } })),
    );
    expect(both.map((answer) => answer.status).sort()).toEqual([200, 412]);
    const [won] = both.filter((answer) => answer.status === 200);
    expect((await stockOf(product.id)).onHand).toBe(won?.body.onHand);
  });

  it.each([
    ['no reason', { delta: 3 }, 'Say why'],
    ['nothing at all', {}, 'Nothing is to be changed'],
    ['half a piece', { delta: 0.5, reason: 'found' }, 'int'],
    ['less than nothing kept back', { keptBack: -1 }, '>=0'],
  ])('refuses %s', async (_, body, words) => {
    const { onHand, keptBack } = await stockOf(product.id);
    const answer = await change(product.id, { ...body, madeAgainst: { onHand, keptBack } });
    expect(answer.status).toBe(400);
    expect(JSON.stringify(answer.body)).toContain(words);
  });

  it('is undone by the opposite movement, whatever came in between', async () => {
    const before = await stockOf(product.id);
    await change(product.id, { delta: 10, reason: 'received', keptBack: 4, madeAgainst: before });
    const { body } = await client.get('/api/actions');
    const action = body.items[0].id;
    const now = await stockOf(product.id);
    await change(product.id, { delta: -1, reason: 'lost', madeAgainst: now });
    await client.send('POST', `/api/actions/${action}/undo`);
    const after = await stockOf(product.id);
    expect(after).toMatchObject({ onHand: before.onHand - 1, keptBack: before.keptBack });
    expect(after.movements[0]).toMatchObject({ delta: -10, reason: 'undo' });
  });

  describe('in two warehouses', () => {
    let second: number;
    const inSecond = async () =>
      (await stockOf(product.id)).warehouses.find((warehouse: Body) => warehouse.id === second)?.onHand as number;

    beforeAll(async () => {
      const made = await queryRows<{ id: number }>(
        db,
        sql`INSERT INTO warehouse (key, name) VALUES ('cellar', 'Cellar') RETURNING id`,
      );
      second = made[0]?.id ?? 0;
    });
    afterAll(() => db.execute(sql`DELETE FROM warehouse WHERE id = ${second}`));

    it('is undone in the one it was booked in', async () => {
      const before = await stockOf(product.id);
      const { body } = await change(product.id, {
        delta: 7,
        reason: 'received',
        warehouseId: second,
        madeAgainst: before,
      });
      expect(body.onHand).toBe(before.onHand + 7);
      expect(await inSecond()).toBe(7);
      await undoLast();
      expect(await inSecond()).toBe(0);
      expect((await stockOf(product.id)).onHand).toBe(before.onHand);
    });

    it('edited in the grid becomes the figure that was typed, both together', async () => {
      const before = await stockOf(product.id);
      await change(product.id, { delta: 5, reason: 'received', warehouseId: second, madeAgainst: before });
      const booked = (await client.get('/api/actions')).body.items[0].id;
      const edit = { attribute: 'stock', text: '40', madeAgainst: String(before.onHand + 5) };
      await client.send('PATCH', `/api/products/${product.id}`, { edits: [edit] });
      expect((await stockOf(product.id)).onHand).toBe(40);
      expect(await inSecond()).toBe(5);
      await undoLast();
      expect((await stockOf(product.id)).onHand).toBe(before.onHand + 5);
      await client.send('POST', `/api/actions/${booked}/undo`);
      expect(await inSecond()).toBe(0);
    });

    it('that is not there is named', async () => {
      const before = await stockOf(product.id);
      const answer = await change(product.id, { delta: 1, reason: 'found', warehouseId: 987, madeAgainst: before });
      expect(answer.status).toBe(404);
      expect((await stockOf(product.id)).onHand).toBe(before.onHand);
    });
  });

  it('of a family is that of its variants', async () => {
    const answer = await client.get(`/api/products/${product.family.id}/stock`);
    expect(answer.status).toBe(400);
    expect(answer.body.detail).toContain('its variants have');
  });

  it('kept back takes a listing out of stock', async () => {
    const now = await stockOf(product.id);
    await change(product.id, { keptBack: now.onHand, madeAgainst: now });
    const { body } = await client.get(`/api/listings/${listing.id}`);
    expect(body.values.find((value: Body) => value.label === 'Leaves in').value).toBeNull();
    const { body: trace } = await client.get(`/api/listings/${listing.id}/trace/leavesIn`);
    // The warehouses that serve the place are named.
    const ours = now.warehouses.filter((warehouse: Body) => warehouse.kind === 'own');
    const words = ours.map((our: Body) => `${our.onHand} on hand in ${our.name}`).join('; ');
    expect(trace.steps.map((step: Body) => step.words)).toContain(`${words}; ${now.onHand} kept back`);
    await undoLast();
    expect((await stockOf(product.id)).keptBack).toBe(now.keptBack);
  });
});

describe('prices', () => {
  it('set, emptied and undone are as they were, with the dates of their sale', async () => {
    const edit = (attribute: string, text: string | null, madeAgainst: string | null) =>
      client.send('PATCH', `/api/products/${product.id}`, {
        edits: [{ attribute, language: 'SEK', text, madeAgainst }],
      });
    const asked = async () => (await client.get(`/api/products/${product.id}`)).body.price.SEK;
    await edit('price', '120.00', null);
    expect(await asked()).toEqual({ regular: '120' });
    await edit('price', null, '120');
    expect(await asked()).toBeUndefined();
    await undoLast();
    const { body } = await client.get(`/api/products/${product.id}`);
    expect(body.price.SEK).toEqual({ regular: '120' });
    expect((await edit('price', '99', '7')).status).toBe(412);
  });
});

describe('a pin', () => {
  const pin = (attribute: string, text: string | null, madeAgainst: string | null = null) =>
    client.send('PUT', `/api/listings/${listing.id}/pins/${attribute}`, { text, madeAgainst });

  it('stands before the fill for one listing alone, and says so in the trace', async () => {
    const { body } = await pin('short', 'A pot of its own');
    const title = body.values.find((value: Body) => value.attribute === 'short');
    expect(title).toMatchObject({ value: 'A pot of its own', pinned: 'A pot of its own' });
    const { body: trace } = await client.get(`/api/listings/${listing.id}/trace/short`);
    expect(trace.steps[1].words).toBe('Pinned for this listing');
    const others = await queryRows<{ n: number }>(db, sql`SELECT count(*) AS n FROM pin`);
    expect(Number(others[0]?.n)).toBe(1);
  });

  it('made against another value is refused with 412', async () => {
    expect((await pin('short', 'Another', 'something else')).status).toBe(412);
  });

  it('is undone and let go', async () => {
    await pin('short', 'A pot of its own, indeed', 'A pot of its own');
    await undoLast();
    const { body } = await client.get(`/api/listings/${listing.id}`);
    expect(body.values.find((value: Body) => value.attribute === 'short').pinned).toBe('A pot of its own');
    const { body: free } = await pin('short', null, 'A pot of its own');
    expect(free.values.find((value: Body) => value.attribute === 'short').pinned).toBeNull();
  });

  it.each([
    ['asks', 'about ten', 'is not a price'],
    ['asks', '10.999', 'is not a price'],
    ['grade', 'almost new', 'is none of the values of'],
    ['short', '  ', 'type a value, or unpin it'],
    ['no-such', 'x', 'has no attribute'],
  ])('of %s refuses “%s”', async (attribute, text, words) => {
    const answer = await pin(attribute, text);
    expect(answer.status).toBe(400);
    expect(JSON.stringify(answer.body)).toContain(words);
  });

  it('of a price takes what people write', async () => {
    const { body } = await pin('asks', '£29.50');
    expect(body.values.find((value: Body) => value.attribute === 'asks').value).toBe('29.50 GBP');
    await pin('asks', null, '29.5');
  });
});

describe('at once', () => {
  it('two suppliers’ batches that bring the same new goods come to one product', async () => {
    const bring = async (name: string, sku: string) => {
      const { body: supplier } = await client.send('POST', '/api/suppliers', { name });
      const { body } = await client.uploadText(`${sku}.csv`, `SKU,Title,GTIN,Stock\n${sku},Twin pot,4012345678901,3\n`);
      await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: supplier.id });
      await client.send('POST', `/api/batches/${body.id}/try`);
      return body.id as number;
    };
    const batches = [await bring('Twin north', 'TW-1'), await bring('Twin south', 'TW-2')];
    const answers = await Promise.all(batches.map((id) => client.send('POST', `/api/batches/${id}/apply`)));
    expect(answers.map((answer) => answer.body.state)).toEqual(['applied', 'applied']);
    const joined = await queryRows<{ n: number }>(
      db,
      sql`SELECT count(DISTINCT product_id) AS n FROM record r JOIN supplier s ON s.id = r.supplier_id WHERE s.name LIKE 'Twin %'`,
    );
    expect(Number(joined[0]?.n)).toBe(1);
  });

  it('a batch is applied while what it would do is still being found out', async () => {
    const { body: supplier } = await client.send('POST', '/api/suppliers', { name: 'Hasty' });
    const lines = Array.from({ length: 900 }, (_, i) => `HA-${i},Hasty pot ${i},${i}.50,${i}`);
    const { body } = await client.uploadText('hasty.csv', ['SKU,Title,Price GBP,Stock', ...lines].join('\n'));
    await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: supplier.id });
    await client.send('POST', `/api/batches/${body.id}/try`);
    // Picking a row out begins the search anew; applying ends it.
    const { body: picked } = await client.send('POST', `/api/batches/${body.id}/left-out`, {
      leftOut: true,
      rows: [2],
    });
    expect(picked.rows).toBe(1);
    const { body: applied } = await client.send('POST', `/api/batches/${body.id}/apply`);
    expect(applied).toMatchObject({ state: 'applied', leftOut: 1 });
    const made = await queryRows<{ n: number }>(
      db,
      sql`SELECT count(*) AS n FROM record r JOIN supplier s ON s.id = r.supplier_id WHERE s.name = 'Hasty' AND r.content_id IS NOT NULL`,
    );
    expect(Number(made[0]?.n)).toBe(899);
    const { body: undone } = await client.send('POST', `/api/batches/${body.id}/undo`);
    expect(undone.left).toEqual([]);
    const left = await queryRows<{ n: number }>(
      db,
      sql`SELECT count(*) AS n FROM product WHERE title LIKE 'Hasty pot%'`,
    );
    expect(Number(left[0]?.n)).toBe(0);
    const facts = await queryRows<{ n: number }>(
      db,
      sql`SELECT count(*) AS n FROM fact f WHERE NOT EXISTS (SELECT 1 FROM product p WHERE p.id = f.product_id)`,
    );
    expect(Number(facts[0]?.n)).toBe(0);
    for (const table of ['product_text', 'price', 'stock_level', 'movement'])
      expect(
        Number(
          (
            await queryRows<{ n: number }>(
              db,
              sql`SELECT count(*) AS n FROM ${sql.identifier(table)} t WHERE NOT EXISTS (SELECT 1 FROM product p WHERE p.id = t.product_id)`,
            )
          )[0]?.n,
        ),
      ).toBe(0);
  });
});
