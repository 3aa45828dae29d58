/** Goods written at once, by COPY, are the very goods that settling their records one by one would have made. */
import { loadDictionary } from '@velvet-shelf/server/dictionary/dictionary';
import { ids, onClient, queryRows } from '@velvet-shelf/server/db/client';
import { settleRecords } from '@velvet-shelf/server/intake/apply/settle';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Client, db } from './client.js';

const client = new Client();
beforeAll(async () => void (await client.signIn()));
afterAll(() => db.$client.end());

const header =
  'SKU;Family;Options;Title;Title de-DE;Description;Our category;Brand;MPN;GTIN;Price GBP;Sale GBP;Sale starts;Stock;Diameter;Material;Frost-proof;Care;Picture';
const lines = [
  'FR-1;Fell;diameter: 12 cm | glaze: Moss;Fell pot, 12 cm;Fell Topf;<p>Thin wall.</p>;Pots/Indoor;Fellside;F-1;4006381333931;12.50;;;4;12 cm;stoneware;yes;Wipe clean.;fell-1.jpg',
  'FR-2;Fell;diameter: 14 cm | glaze: Moss;Fell pot, 14 cm;;<p>Thin "wall", 1\t2.</p>;Pots/Indoor;Fellside;F-2;;0.00;9.90;2026-11-01;0;14 cm;stoneware;no;Wipe clean.;',
  'FR-3;Fell;diameter: 16 cm | glaze: Chalk;Fell pot, 16 cm;;;Pots/Indoor;Fellside;F-3;;19;;;;160 mm;oak;maybe;;',
  'FR-4;;;Tarn trough, é and ü;;<ul><li>Back\\slash</li></ul>;Pots/Outdoor;Fellside;F-4;96385074;40.1000;30.05;;7;;;;;tarn.jpg',
  'FR-5;;;;;;;;;;;;;3;;;;;',
  // Both of these claim one part number, and the next two one family with them: none of the four is written at once.
  'FR-6;Crag;;Crag dish;;;Pots/Indoor;Fellside;F-6;;5;;;1;;;;;',
  'FR-7;;;Crag dish again;;;Pots/Indoor;Fellside;F-6;;5;;;1;;;;;',
  'FR-8;Crag;;Crag dish, large;;;Pots/Indoor;Fellside;F-8;;6;;;1;;;;;',
  // Finer than the database keeps.
  'FR-9;;;Crag bowl;;;Pots/Indoor;Fellside;F-9;;6.12345;;;1;;;;;',
];

/** All that is kept of some records' goods, but for what tells when and how often it was written. */
async function kept(records: readonly number[]) {
  const products = await queryRows<{ id: number }>(
    db,
    sql`SELECT id FROM product WHERE unit_id IN (SELECT p.unit_id FROM product p JOIN record r ON r.product_id = p.id WHERE r.id = ANY(${ids(records)}))`,
  );
  const which = ids(products.map((product) => product.id));
  const read = (statement: ReturnType<typeof sql>) => queryRows<Record<string, unknown>>(db, statement);
  return {
    products: await read(
      sql`SELECT to_jsonb(p) - 'version' - 'updated_at' AS product, t.texts FROM product p LEFT JOIN product_text t ON t.product_id = p.id WHERE p.id = ANY(${which}) ORDER BY p.id`,
    ),
    facts: await read(
      sql`SELECT * FROM fact WHERE product_id = ANY(${which}) ORDER BY product_id, attribute_id, lang, key, num`,
    ),
    prices: await read(sql`SELECT * FROM price WHERE product_id = ANY(${which}) ORDER BY product_id, currency, kind`),
    levels: await read(sql`SELECT * FROM stock_level WHERE product_id = ANY(${which}) ORDER BY product_id`),
    moved: await read(
      sql`SELECT product_id, sum(delta) FROM movement WHERE product_id = ANY(${which}) GROUP BY 1 ORDER BY 1`,
    ),
    records: await read(sql`SELECT * FROM record WHERE id = ANY(${ids(records)}) ORDER BY id`),
    keys: await read(sql`SELECT * FROM record_key WHERE record_id = ANY(${ids(records)}) ORDER BY record_id, kind`),
    families: await read(sql`SELECT * FROM family_key WHERE product_id = ANY(${which}) ORDER BY id`),
  };
}

it('agrees with settling, table by table', async () => {
  const { body: supplier } = await client.send('POST', '/api/suppliers', { name: 'Fellside' });
  const { body: batch } = await client.uploadText('fellside.csv', [header, ...lines].join('\n'));
  await client.send('PUT', `/api/batches/${batch.id}/reading`, { supplierId: supplier.id });
  const { body: tried } = await client.send('POST', `/api/batches/${batch.id}/try`);
  const refused = (await client.get(`/api/batches/${batch.id}/rows?outcome=refused&limit=5`)).body.items;
  expect(refused).toEqual([]);
  expect(tried.counts).toMatchObject({ created: lines.length, refused: 0 });
  await client.send('POST', `/api/batches/${batch.id}/apply`);
  const records = (
    await queryRows<{ id: number }>(db, sql`SELECT id FROM record WHERE supplier_id = ${supplier.id} ORDER BY id`)
  ).map((record) => record.id);
  expect(records.length).toBe(lines.length);
  const before = await kept(records);
  expect(before.products.length).toBe(lines.length + 2);
  expect(before.facts.length).toBeGreaterThan(50);
  expect(before.levels.length).toBe(8);

  await onClient(db, async ({ tx }) => {
    await tx.execute(sql`UPDATE record SET content_id = NULL WHERE id = ANY(${ids(records)})`);
    const action = await queryRows<{ id: number }>(tx, sql`SELECT max(id) AS id FROM action`);
    await settleRecords(tx, records, {
      actionId: action[0]?.id ?? 0,
      batchId: batch.id,
      dictionary: await loadDictionary(tx),
    });
  });
  expect(await kept(records)).toEqual(before);
});

it('leaves goods that are known to be joined', async () => {
  const { body: supplier } = await client.send('POST', '/api/suppliers', { name: 'Fellside again' });
  const again = [
    'X-1;;;Fell pot;;;Pots/Indoor;Fellside;F-1;4006381333931;11;;;1;;;;;',
    lines[3]?.replace('FR-4', 'X-4'),
  ];
  const { body: batch } = await client.uploadText('fellside-2.csv', [header, ...again].join('\n'));
  await client.send('PUT', `/api/batches/${batch.id}/reading`, { supplierId: supplier.id });
  await client.send('POST', `/api/batches/${batch.id}/try`);
  await client.send('POST', `/api/batches/${batch.id}/apply`);
  const joined = await queryRows<{ keys: string[] }>(
    db,
    sql`SELECT array_agg(r.written ORDER BY r.written) AS keys FROM record r JOIN supplier s ON s.id = r.supplier_id
        WHERE s.name LIKE 'Fellside%' AND r.product_id IN (SELECT product_id FROM record WHERE supplier_id = ${supplier.id}) GROUP BY r.product_id ORDER BY 1`,
  );
  expect(joined.map((record) => record.keys)).toEqual([
    ['FR-1', 'X-1'],
    ['FR-4', 'X-4'],
  ]);
});
