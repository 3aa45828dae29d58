/**
 * Walks nobody has planned: lists of three suppliers, edits, prices, stock, joins, splits and undos in any order. Whatever
 * was done, what is kept agrees with what follows from it anew; and taken back from the last to the first, nothing is left.
 */
import { loadDictionary } from '@velvet-shelf/server/dictionary/dictionary';
import type { ProductRow } from '@velvet-shelf/server/catalog/draft';
import { resolveUnits } from '@velvet-shelf/server/catalog/resolve';
import { compileFacts } from '@velvet-shelf/server/catalog/write';
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { expectListingsAnew, newestAction, undoAll, undoables } from './anew.js';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
let suppliers: Body[];

beforeAll(async () => {
  await client.signIn();
  suppliers = await client.addSuppliers();
});
afterAll(() => db.$client.end());

const gtins = ['4006381333931', '5901234123457', '9780201379624'];
const article = fc.record({
  gtin: fc.constantFrom('', ...gtins),
  mpn: fc.constantFrom('', 'H-1', 'H-2'),
  family: fc.constantFrom('', 'Fell', 'Tarn'),
  material: fc.constantFrom('cork', 'steel', ''),
  price: fc.constantFrom('', '4.50', '19.00'),
  stock: fc.constantFrom('', '0', '7'),
  category: fc.constantFrom('Planters/Indoor pots', 'Planters/Saucers & trays', ''),
});
type Article = typeof article extends fc.Arbitrary<infer T> ? T : never;

/** What somebody does next; the numbers choose among what is there at that moment. */
const step = fc.oneof(
  fc.record({
    do: fc.constant('list' as const),
    supplier: fc.nat(2),
    goods: fc.array(article, { minLength: 1, maxLength: 4 }),
  }),
  fc.record({
    do: fc.constant('edit' as const),
    product: fc.nat(),
    attribute: fc.constantFrom('material', 'brand', 'title', 'category', 'description', 'weight'),
    text: fc.constantFrom('cork', 'Planters/Indoor pots', '2 kg', 'A pot &amp; <b>more</b>', null),
  }),
  fc.record({ do: fc.constant('price' as const), product: fc.nat(), text: fc.constantFrom('12.00', '9.99', null) }),
  fc.record({ do: fc.constant('stock' as const), product: fc.nat(), delta: fc.integer({ min: -3, max: 5 }) }),
  fc.record({ do: fc.constantFrom('join' as const, 'apart' as const), a: fc.nat(), b: fc.nat() }),
  fc.record({ do: fc.constant('split' as const), product: fc.nat() }),
  fc.record({ do: fc.constant('undo' as const), action: fc.nat(6) }),
);
type Step = typeof step extends fc.Arbitrary<infer T> ? T : never;

const at = <T>(list: readonly T[], n: number): T | undefined => list[n % Math.max(1, list.length)];

const goods = () =>
  queryRows<{ id: number; sku: string | null; stock: number; kept: number; records: number[] }>(
    db,
    sql`SELECT p.id, p.sku, p.stock, p.kept_back AS kept, coalesce((SELECT array_agg(r.id ORDER BY r.id) FROM record r WHERE r.product_id = p.id), '{}') AS records
        FROM product p WHERE p.merged_into IS NULL AND p.kind <> 'family' ORDER BY p.id`,
  );

function csv(list: readonly Article[], supplier: number): string {
  const lines = list.map(({ gtin, mpn, family, material, price, stock, category }, i) =>
    [
      `${'ABC'[supplier]}-${i}`,
      family,
      `Pot ${i} of ${supplier}`,
      'Hobnettle',
      mpn,
      gtin,
      material,
      price,
      stock,
      category,
    ].join(';'),
  );
  return ['Article;Family;Title;Brand;MPN;GTIN;Material;Price GBP;Stock;Category', ...lines].join('\n');
}

async function take(row: Step): Promise<Answer | undefined> {
  switch (row.do) {
    case 'list':
      return client.bringInFor(suppliers[row.supplier], csv(row.goods, row.supplier));
    case 'edit':
    case 'price': {
      const product = at(await goods(), row.product);
      if (!product) return undefined;
      const attribute = row.do === 'price' ? 'price' : row.attribute;
      const asked = await client.send('PATCH', `/api/products/${product.id}`, {
        edits: [{ attribute, text: row.text, madeAgainst: 'something else' }],
      });
      // Told what it is now, and written over.
      if (asked.status !== 412) return asked;
      return client.send('PATCH', `/api/products/${product.id}`, {
        edits: [{ attribute, text: row.text, madeAgainst: asked.body.current }],
      });
    }
    case 'stock': {
      const product = at(await goods(), row.product);
      if (!product) return undefined;
      return client.send('POST', `/api/products/${product.id}/stock`, {
        delta: row.delta,
        reason: 'received',
        madeAgainst: { onHand: product.stock, keptBack: product.kept },
      });
    }
    case 'join':
    case 'apart': {
      const list = await goods();
      const [a, b] = [at(list, row.a)?.id, at(list, row.b)?.id];
      if (a === undefined || b === undefined || a === b) return undefined;
      return client.send('POST', '/api/matches/decide', {
        verdict: row.do === 'join' ? 'same' : 'different',
        pairs: [{ a, b }],
      });
    }
    case 'split': {
      const product = at(
        (await goods()).filter(({ records }) => records.length > 1),
        row.product,
      );
      if (!product) return undefined;
      return client.send('POST', `/api/products/${product.id}/split`, { records: product.records.slice(0, 1) });
    }
    case 'undo': {
      const open = await undoables(client, begun);
      const action = at(open, row.action);
      return action === undefined ? undefined : client.send('POST', `/api/actions/${action}/undo`);
    }
  }
}

let begun = 0;

/** Goods, texts, prices, stock and joins, in words that know no ids. */
const shelf = () =>
  queryRows(
    db,
    sql`SELECT p.sku, p.kind, p.title, p.category, p.price::text, p.stock, p.kept_back, p.facts, p.offers::text, p.merged_into IS NOT NULL AS merged, t.texts,
          (SELECT array_agg(r.key ORDER BY r.key) FROM record r WHERE r.product_id = p.id) AS records,
          (SELECT count(*) FROM claim_edit e WHERE e.product_id = p.id) AS edits
        FROM product p LEFT JOIN product_text t ON t.product_id = p.id WHERE p.merged_into IS NULL ORDER BY p.sku, p.title, 12`,
  );

async function expectAgreement(): Promise<void> {
  const dictionary = await loadDictionary(db);
  // Values: resolved from all claims anew, nothing differs.
  const units = await queryRows<{ unit: number }>(
    db,
    sql`SELECT DISTINCT unit_id AS unit FROM product WHERE merged_into IS NULL`,
  );
  const all = units.map((unit) => unit.unit);
  const anew = await db
    .transaction(async (tx) => {
      const changes = await resolveUnits(tx, all, dictionary);
      throw Object.assign(new Error('back'), { changes });
    })
    .catch((error: unknown) => (error as { changes?: unknown[] }).changes ?? [error]);
  expect(anew).toEqual([]);
  // What conditions find goods by: that of the values, no more and no less.
  const products = await queryRows<ProductRow>(
    db,
    sql`SELECT p.*, t.texts FROM product p LEFT JOIN product_text t ON t.product_id = p.id`,
  );
  const due = products.flatMap((product) =>
    [...new Set([...Object.keys(product.facts), ...Object.keys(product.texts ?? {})])].flatMap((key) =>
      compileFacts(key, dictionary)(product),
    ),
  );
  const kept = await queryRows<{
    product: number;
    attribute: number;
    lang: string;
    num: number | null;
    key: string | null;
  }>(db, sql`SELECT product_id AS product, attribute_id AS attribute, lang, num, key FROM fact`);
  const line = ({ product, attribute, lang, num, key }: (typeof kept)[number]) =>
    `${product} ${attribute} ${lang} ${num} ${key}`;
  expect(kept.map(line).sort()).toEqual(due.map(line).sort());
  // Stock: the sum of its movements, of its warehouses, of its variants.
  const wrong = await queryRows(
    db,
    sql`SELECT 'level' AS what, s.product_id, s.on_hand, m.sum FROM stock_level s
          FULL JOIN (SELECT product_id, warehouse_id, sum(delta) FROM movement GROUP BY 1, 2) m USING (product_id, warehouse_id) WHERE coalesce(s.on_hand, 0) <> coalesce(m.sum, 0)
        UNION ALL SELECT 'product', p.id, p.stock, s.sum FROM product p
          LEFT JOIN (SELECT product_id, sum(on_hand) FROM stock_level l JOIN warehouse w ON w.id = l.warehouse_id AND w.kind = 'own' GROUP BY 1) s ON s.product_id = p.id WHERE p.kind <> 'family' AND p.merged_into IS NULL AND p.stock <> coalesce(s.sum, 0)
        UNION ALL SELECT 'family', f.id, f.stock, v.sum FROM product f
          LEFT JOIN (SELECT family_id, sum(stock) FROM product WHERE merged_into IS NULL GROUP BY 1) v ON v.family_id = f.id WHERE f.kind = 'family' AND f.merged_into IS NULL AND f.stock <> coalesce(v.sum, 0)
        UNION ALL SELECT 'price', p.id, p.price::int, r.amount::int FROM product p
          LEFT JOIN price r ON r.product_id = p.id AND r.kind = 'regular' AND r.currency = 'GBP' WHERE p.kind <> 'family' AND p.merged_into IS NULL AND p.price IS DISTINCT FROM r.amount`,
  );
  expect(wrong).toEqual([]);
  await expectListingsAnew();
}

async function walk(steps: readonly Step[]): Promise<void> {
  const empty = await shelf();
  begun = await newestAction();
  for (const row of steps) {
    const answer = await take(row);
    expect(answer?.status ?? 200, `${JSON.stringify(row)}: ${JSON.stringify(answer?.body)}`).toBeLessThan(500);
  }
  await client.idle();
  await expectAgreement();
  await undoAll(client, begun);
  await expectAgreement();
  expect(await shelf()).toEqual(empty);
}

it('in any order, all agrees, and taken back nothing is left', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 9 }), (steps) => walk(steps)),
    { numRuns: Number(process.env.VELVET_RUNS ?? 5), endOnFailure: true },
  );
});
