/** What a view shows is what is written, at once, whoever wrote it and however long that took. */
import { viewFilter } from '@velvet-shelf/server/catalog/filter';
import { onClient, queryRows } from '@velvet-shelf/server/db/client';
import { loadDictionary } from '@velvet-shelf/server/dictionary/dictionary';
import { viewSchema } from '@velvet-shelf/contract';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
});
afterAll(() => db.$client.end());

const open = async (view: object): Promise<Body> =>
  (await client.send('POST', '/api/views', { show: 'variants', ...view })).body;
const idsOf = async (view: object): Promise<number[]> => (await open(view)).first.map((row: Body) => row.id);

it('what a transaction changes is seen once it has ended, though others ended since it began', async () => {
  const [slow, quick] = await idsOf({ sort: 'sku' });
  const named = (word: string) => idsOf({ search: word });
  const rename = (word: string, id: number | undefined) =>
    sql`UPDATE product SET search = search || ${` ${word}`} WHERE id = ${id}`;
  await onClient(db, async ({ tx }) => {
    await tx.execute(rename('slowpoke', slow));
    await db.execute(rename('quicksilver', quick));
    expect(await named('quicksilver')).toEqual([quick]);
    expect(await named('slowpoke')).toEqual([]);
  });
  expect(await named('slowpoke')).toEqual([slow]);
  expect(await named('quicksilver')).toEqual([quick]);
});

it('a family that is renamed takes its variants along', async () => {
  const order = async () => (await open({ show: 'both' })).first.map(({ id, familyId }: Body) => familyId ?? id);
  const [family] = (await order()).slice(40);
  const members = (list: number[]) => list.filter((id) => id === family).length;
  const before = await order();
  const title = async (word: string) => {
    await db.execute(sql`UPDATE product SET title = ${word} WHERE id = ${family}`);
    return order();
  };
  const [held] = await queryRows<{ title: string }>(db, sql`SELECT title FROM product WHERE id = ${family}`);
  const first = await title('   AAA, before all others');
  expect(new Set(first.slice(0, members(before)))).toEqual(new Set([family]));
  expect(await title(held?.title ?? '')).toEqual(before);
});

it('goods that come, go or are more than are worth a list are there, gone, and read anew', async () => {
  const all = async () => (await client.get(`/api/views/${(await open({ everything: true })).token}/counts`)).body;
  const before = await all();
  await db.execute(sql`
    INSERT INTO product (kind, unit_id, title, search) SELECT 'single', 0, 'Newcomer ' || n, 'newcomer' FROM generate_series(1, 20) n`);
  expect((await all()).variants).toBe(before.variants + 20);
  expect(await idsOf({ search: 'newcomer' })).toHaveLength(20);
  await db.execute(sql`
    INSERT INTO product (kind, unit_id, title, search) SELECT 'single', 0, 'Crowd ' || n, 'crowd' FROM generate_series(1, 12000) n`);
  expect((await all()).variants).toBe(before.variants + 12_020);
  await db.execute(sql`DELETE FROM product WHERE unit_id = 0`);
  expect(await all()).toEqual(before);
});

it('is the same goods that the database finds, after any edits', async () => {
  const everyone = await idsOf({ everything: true });
  const edit = fc.record({
    id: fc.constantFrom(...everyone),
    attribute: fc.constantFrom('brand', 'material', 'title', 'diameter'),
    text: fc.constantFrom('Brackwater', 'Hobnettle & Sons', 'oak', 'Übertopf', '12 cm', '3 in', ''),
  });
  const condition = fc.record({
    attribute: fc.constantFrom('brand', 'material', 'title', 'diameter', 'description'),
    op: fc.constantFrom('contains', 'is', 'isNot', 'isEmpty', 'atLeast'),
    value: fc.constantFrom('bra', 'oak', 'topf', '10 cm', 'the'),
  });
  const wanted = fc.record({
    condition: fc.oneof(condition, fc.record({ any: fc.tuple(condition, condition) }), fc.record({ not: condition })),
    search: fc.constantFrom('', 'pot', 'b', 'nettle 12'),
    everything: fc.boolean(),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(edit, { maxLength: 3 }), wanted, async (edits, said) => {
      for (const { id, attribute, text } of edits)
        await client.send('POST', '/api/bulk/value', { chosen: { rows: [id] }, attribute, text });
      const view = viewSchema.parse({ ...said, show: 'variants' });
      const { token } = await open(said);
      const found = await queryRows<{ id: number }>(
        db,
        sql`SELECT p.id FROM product p WHERE ${viewFilter(view, await loadDictionary(db))} ORDER BY p.id`,
      );
      const { rows } = (await client.get(`/api/views/${token}`)).body;
      const shown: number[] = [];
      for (let from = 0; from < rows; from += 500)
        shown.push(
          ...(await client.get(`/api/views/${token}/rows?from=${from}&count=500`)).body.items.map(
            (row: Body) => row.id,
          ),
        );
      expect(shown.sort((x, y) => x - y)).toEqual(found.map(({ id }) => id));
      expect((await client.get(`/api/views/${token}/counts`)).body.variants).toBe(found.length);
    }),
    { numRuns: 40, seed: 5 },
  );
});
