/** The same set of applied batches comes to the same joins, families and values, whatever the order they came in. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
let suppliers: Body[];

beforeAll(async () => {
  await client.signIn();
  suppliers = await client.addSuppliers();
});
afterAll(() => db.$client.end());

interface Row {
  gtin: number | null;
  mpn: number | null;
  family: string;
  material: string;
  weight: number;
}

/** Few of everything, so that goods meet: by GTIN, by brand and part number, by family. */
const row = fc.record<Row>({
  gtin: fc.option(fc.constantFrom(0, 1, 2, 3), { freq: 2 }),
  mpn: fc.option(fc.constantFrom(0, 1, 2), { freq: 3 }),
  family: fc.constantFrom('', 'Fell', 'Tarn'),
  material: fc.constantFrom('cork', 'steel', 'clay'),
  weight: fc.integer({ min: 1, max: 4 }),
});
const list = fc.array(row, { minLength: 1, maxLength: 5 });
const order = fc.shuffledSubarray([0, 1, 2], { minLength: 3 });
const gtins = ['4006381333931', '5901234123457', '9780201379624', '4012345123456'];

function csv(goods: readonly Row[], supplier: number): string {
  const lines = goods.map(({ gtin, mpn, family, material, weight }, i) =>
    [
      `${'ABC'[supplier]}-${i}`,
      family,
      `Pot ${i} of ${supplier}`,
      'Hobnettle',
      mpn === null ? '' : `H-${mpn}`,
      gtin === null ? '' : gtins[gtin],
      material,
      `${weight} kg`,
    ].join(','),
  );
  return ['Article,Family,Title,Brand,MPN,GTIN,Material,Weight', ...lines].join('\n');
}

async function bringIn(text: string, supplier: Body): Promise<number> {
  const { body } = await client.bringInFor(supplier, text);
  await client.until(`/api/batches/${body.id}`, (each: Body) => each.state === 'applied');
  return body.id;
}

const undo = (id: number) => client.send('POST', `/api/batches/${id}/undo`);

/** What the shelf holds of these suppliers, in words that know no ids. */
async function shelf() {
  const found = await queryRows<{ id: number; family: number | null; facts: object; title: string; records: string[] }>(
    db,
    sql`SELECT p.id, p.family_id AS family, p.facts, p.title, array_agg(r.key ORDER BY r.key) AS records
        FROM product p JOIN record r ON r.product_id = p.id WHERE p.merged_into IS NULL GROUP BY p.id`,
  );
  const nameOf = new Map(found.map(({ id, records }) => [id, records.join('+')]));
  const siblings = (family: number | null) =>
    family === null
      ? []
      : found
          .filter((product) => product.family === family)
          .map((product) => nameOf.get(product.id))
          .sort();
  const products = found
    .map(({ records, facts, title, family }) => ({ records, facts, title, siblings: siblings(family) }))
    .sort((a, b) => (a.records.join() < b.records.join() ? -1 : 1));
  const open = await queryRows<{ kind: string; key: string }>(
    db,
    sql`SELECT kind, key FROM join_proposal ORDER BY 1, 2`,
  );
  return { products, open };
}

it('in any order, and undone in any order nothing is left', async () => {
  await fc.assert(
    fc.asyncProperty(fc.tuple(list, list, list), order, order, order, async (goods, each, other, back) => {
      const states = [];
      for (const arrival of [each, other]) {
        const batches = new Map<number, number>();
        for (const i of arrival) batches.set(i, await bringIn(csv(goods[i] ?? [], i), suppliers[i]));
        states.push(await shelf());
        for (const i of back) await undo(batches.get(i) ?? 0);
        expect((await shelf()).products).toEqual([]);
      }
      expect(states[1]).toEqual(states[0]);
    }),
    { numRuns: 3, endOnFailure: true },
  );
}, 120_000);
