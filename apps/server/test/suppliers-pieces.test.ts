/** A supplier's pieces are its own; ours change by our own sheet, counts and people; joins and splits neither make nor lose any. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newestAction } from './anew.js';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
let first: Body;
let second: Body;

beforeAll(async () => {
  await client.signIn();
  [first, second] = await client.addSuppliers();
});
afterAll(() => db.$client.end());

const head = 'Article;Title;Brand;MPN;Stock;Category';
const line = (article: string, mpn: string, stock: number | string) =>
  `${article};Fell lantern ${mpn};Hobnettle;${mpn};${stock};Planters/Indoor pots`;

async function ours(sku: string, mpn: string, stock: number): Promise<Body> {
  const { body } = await client.uploadText('own.csv', `SKU;Title;Brand;MPN;Stock;Category\n${line(sku, mpn, stock)}\n`);
  const suppliers = (await client.get('/api/suppliers')).body.items;
  const own = suppliers.find((supplier: Body) => supplier.kind === 'own');
  await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: own.id, scope: 'some' });
  await client.send('POST', `/api/batches/${body.id}/try`);
  return (await client.send('POST', `/api/batches/${body.id}/apply`)).body;
}

const productOf = async (key: string) =>
  (await queryRows<{ id: number }>(db, sql`SELECT product_id AS id FROM record WHERE key = ${key.toLowerCase()}`))[0]
    ?.id ?? 0;
const stockOf = async (id: number) => (await client.get(`/api/products/${id}/stock`)).body;
const inWarehouses = async (id: number) =>
  Object.fromEntries((await stockOf(id)).warehouses.map((warehouse: Body) => [warehouse.name, warehouse.onHand]));
const recordsOf = async (id: number) =>
  queryRows<{ id: number; key: string }>(db, sql`SELECT id, key FROM record WHERE product_id = ${id} ORDER BY id`);

/** Every level is the sum of its movements, and no pieces stand on goods that were joined to others. */
async function expectSound(): Promise<void> {
  const wrong = await queryRows(
    db,
    sql`SELECT 'sum' AS what, product_id FROM stock_level s FULL JOIN (SELECT product_id, warehouse_id, sum(delta) AS sum FROM movement GROUP BY 1, 2) m
          USING (product_id, warehouse_id) WHERE coalesce(s.on_hand, 0) <> coalesce(m.sum, 0)
        UNION ALL SELECT 'joined', s.product_id FROM stock_level s JOIN product p ON p.id = s.product_id WHERE p.merged_into IS NOT NULL AND s.on_hand <> 0
        UNION ALL SELECT 'ours', p.id FROM product p WHERE p.kind <> 'family' AND p.merged_into IS NULL AND p.stock <> coalesce((
          SELECT sum(s.on_hand) FROM stock_level s JOIN warehouse w ON w.id = s.warehouse_id AND w.kind = 'own' WHERE s.product_id = p.id), 0)`,
  );
  expect(wrong).toEqual([]);
}

const lastAction = async () => (await client.get('/api/actions')).body.items[0].id as number;
const undo = (action: number) => client.send('POST', `/api/actions/${action}/undo`);
const book = async (id: number, delta: number) => {
  const { onHand, keptBack } = await stockOf(id);
  return client.send('POST', `/api/products/${id}/stock`, {
    delta,
    reason: 'received',
    madeAgainst: { onHand, keptBack },
  });
};

describe('a supplier’s list that joins our goods', () => {
  let product: number;
  it('leaves our pieces as they are, and shows its own beside them', async () => {
    await ours('OWN-1', 'W-1', 3);
    product = await productOf('OWN-1');
    await client.bringInFor(first, `${head}\n${line('A-1', 'W-1', 480)}\n`);
    expect(await productOf('A-1')).toBe(product);
    expect(await stockOf(product)).toMatchObject({ onHand: 3, shown: 3 });
    expect(await inWarehouses(product)).toMatchObject({ Aldermoor: 480 });
    await expectSound();
  });

  it('serves no place until somebody says so, and then the listing has the sum', async () => {
    await ours('OWN-2', 'W-2', 0);
    await client.bringInFor(first, `${head}\n${line('A-1', 'W-1', 480)}\n${line('A-2', 'W-2', 7)}\n`);
    await client.idle();
    const shown = async () => {
      const [found] = await queryRows<{ id: number }>(
        db,
        sql`SELECT l.id FROM listing l WHERE l.variant_id = ${await productOf('OWN-2')}`,
      );
      const { body } = await client.get(`/api/listings/${found?.id}`);
      return body.values.find((value: Body) => value.attribute === 'leavesIn')?.value;
    };
    const [warehouse] = (await client.get('/api/warehouses')).body.items.filter(
      (body: Body) => body.name === 'Aldermoor',
    );
    expect(warehouse.serves).toEqual([]);
    const before = await shown();
    expect(before).toBeNull();
    const { body } = await client.send('PUT', `/api/warehouses/${warehouse.id}/serves`, { placeId: 1, serves: true });
    expect(body.items.find((body: Body) => body.id === warehouse.id).serves).toEqual([1]);
    await client.idle();
    expect(await shown()).toBe('0');
    await undo(await lastAction());
    await client.idle();
    expect(await shown()).toEqual(before);
  });

  it('takes no booking by hand: what it has follows its lists', async () => {
    const { body } = await client.get('/api/warehouses');
    const theirs = body.items.find((body: Body) => body.name === 'Aldermoor');
    const { onHand, keptBack } = await stockOf(product);
    const answer = await client.send('POST', `/api/products/${product}/stock`, {
      delta: 4,
      reason: 'found',
      warehouseId: theirs.id,
      madeAgainst: { onHand, keptBack },
    });
    expect(answer.status).toBe(400);
    expect(answer.body.detail).toContain('of ours');
  });

  it('follows its record when it is split off and joined again', async () => {
    const [, theirs] = await recordsOf(product);
    for (let i = 0; i < 2; i++) {
      await client.send('POST', `/api/products/${product}/split`, { records: [theirs?.id] });
      const other = await productOf('A-1');
      expect(other).not.toBe(product);
      expect([await inWarehouses(product), await inWarehouses(other)]).toMatchObject([
        { Aldermoor: 0 },
        { Aldermoor: 480 },
      ]);
      expect((await stockOf(product)).onHand).toBe(3);
      await undo(await lastAction());
      expect(await productOf('A-1')).toBe(product);
      expect(await inWarehouses(product)).toMatchObject({ Aldermoor: 480 });
      await expectSound();
    }
  });
});

describe('two sources joined by a person', () => {
  it('give their pieces back when they are split, undone and split again', async () => {
    await client.bringInFor(first, `${head}\n${line('A-7', 'X-7', 0)}\n`);
    await client.bringInFor(second, `${head}\n${line('B-7', 'Y-7', 0)}\n`);
    const [a, b] = [await productOf('A-7'), await productOf('B-7')];
    await book(a, 14);
    await book(b, 5);
    await client.send('POST', '/api/matches/decide', { verdict: 'same', pairs: [{ a, b }] });
    expect(await productOf('B-7')).toBe(a);
    expect((await stockOf(a)).onHand).toBe(19);
    await book(a, -10);
    const theirs = (await recordsOf(a)).find((row) => row.key === 'b-7');
    for (let i = 0; i < 3; i++) {
      await client.send('POST', `/api/products/${a}/split`, { records: [theirs?.id] });
      expect([(await stockOf(a)).onHand, (await stockOf(b)).onHand]).toEqual([4, 5]);
      await expectSound();
      await undo(await lastAction());
      expect((await stockOf(a)).onHand).toBe(9);
      await expectSound();
    }
  });

  it('in any order of joins, splits, bookings and undos no piece is made or lost', async () => {
    for (const [supplier, letter] of [
      [first, 'A'],
      [second, 'B'],
    ] as const)
      await client.bringInFor(
        supplier,
        [head, ...[1, 2, 3].map((n) => line(`${letter}-2${n}`, `${letter}${n}`, n * 10))].join('\n'),
      );
    const keys = ['A-21', 'A-22', 'A-23', 'B-21', 'B-22', 'B-23'];
    const theirs = 2 * (10 + 20 + 30);
    const begun = await newestAction();
    const step = fc.oneof(
      fc.record({
        do: fc.constant('book' as const),
        at: fc.nat(5),
        delta: fc.integer({ min: -2, max: 6 }).filter((n) => n !== 0),
      }),
      fc.record({ do: fc.constant('join' as const), at: fc.nat(2), to: fc.integer({ min: 3, max: 5 }) }),
      fc.record({ do: fc.constant('split' as const), at: fc.nat(5) }),
      fc.record({ do: fc.constant('undo' as const), back: fc.nat(5) }),
    );
    const totals = async () => {
      const [found] = await queryRows<{ ours: number; theirs: number }>(
        db,
        sql`SELECT coalesce(sum(s.on_hand) FILTER (WHERE w.kind = 'own'), 0)::int AS ours, coalesce(sum(s.on_hand) FILTER (WHERE w.kind = 'supplier'), 0)::int AS theirs
            FROM stock_level s JOIN warehouse w ON w.id = s.warehouse_id
            WHERE s.product_id IN (SELECT coalesce(product_id, 0) FROM record WHERE key LIKE '_-2_')`,
      );
      return found ?? { ours: 0, theirs: 0 };
    };
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 10 }), async (steps) => {
        for (const step of steps) {
          const before = await totals();
          const at = step.do === 'undo' ? 0 : await productOf(keys[step.at] ?? '');
          let due = before.ours;
          if (step.do === 'book') {
            await book(at, step.delta);
            due += step.delta;
          } else if (step.do === 'join')
            await client.send('POST', '/api/matches/decide', {
              verdict: 'same',
              pairs: [{ a: at, b: await productOf(keys[step.to] ?? '') }],
            });
          else if (step.do === 'split') {
            const list = await recordsOf(at);
            if (list.length > 1) await client.send('POST', `/api/products/${at}/split`, { records: [list[0]?.id] });
          } else {
            const { body } = await client.get('/api/actions');
            const open = body.items
              .filter((each: Body) => each.canUndo && each.id > begun && ['match', 'stock'].includes(each.kind))
              .slice(0, 6);
            const action = open[step.back % Math.max(1, open.length)];
            if (action?.kind === 'stock') {
              const [moved] = await queryRows<{ n: number }>(
                db,
                sql`SELECT coalesce(sum(delta), 0)::int AS n FROM movement WHERE action_id = ${action.id}`,
              );
              due -= moved?.n ?? 0;
            }
            if (action) expect((await undo(action.id)).status).toBe(200);
          }
          expect(await totals()).toEqual({ ours: due, theirs });
          await expectSound();
        }
      }),
      { numRuns: Number(process.env.VELVET_RUNS ?? 6), endOnFailure: true },
    );
  });
});
