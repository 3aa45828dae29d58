/** Conditions, twice: what core compiles to a function and the grid to SQL pick the same goods. */
import { loadDictionary } from '@velvet-shelf/server/dictionary/dictionary';
import { conditionSql } from '@velvet-shelf/server/catalog/filter';
import { queryRows } from '@velvet-shelf/server/db/client';
import { loadFamilies } from '@velvet-shelf/server/listings/families';
import { variantLookup } from '@velvet-shelf/core/listings';
import { type Comparison, type Condition, compileCondition } from '@velvet-shelf/core/conditions';
import { type Attribute, type Value, plainText, plainValue } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Client, db } from './client.js';

interface Product {
  id: number;
  facts: Record<string, Value>;
  texts: Record<string, Record<string, string>> | null;
}

const client = new Client();
let dictionary: Awaited<ReturnType<typeof loadDictionary>>;
let products: Product[];

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.bringIn('kestrelgate-seeds.json');
  dictionary = await loadDictionary(db);
  products = await queryRows<Product>(
    db,
    sql`SELECT p.id, p.facts, t.texts FROM product p LEFT JOIN product_text t ON t.product_id = p.id ORDER BY p.id`,
  );
  expect(products.length).toBeGreaterThan(500);
});
afterAll(() => db.$client.end());

const lookup = ({ facts, texts }: Product, key: string, language: string | undefined): Value | undefined =>
  dictionary.attributes.get(key)?.perLanguage ? texts?.[key]?.[language ?? dictionary.home] : facts[key];

async function bothWays(condition: Condition): Promise<[number[], number[]]> {
  const holds = compileCondition(condition, dictionary.attributes, lookup);
  const found = await queryRows<{ id: number }>(
    db,
    sql`SELECT p.id FROM product p WHERE ${conditionSql(condition, dictionary)} ORDER BY p.id`,
  );
  return [products.filter(holds).map((product) => product.id), found.map((product) => product.id)];
}

const operators = ['is', 'isNot', 'contains', 'under', 'atLeast', 'atMost', 'isEmpty', 'isNotEmpty'] as const;

/** Values that goods have, whole, cut, in capitals or in disorder, and words nobody has. */
function comparison(): fc.Arbitrary<Comparison> {
  const held = [...dictionary.attributes.values()].filter((attribute) =>
    products.some((product) => lookup(product, attribute.key, undefined) !== undefined),
  );
  const words = (attribute: Attribute) => {
    const all = products.flatMap((product) => {
      const value = lookup(product, attribute.key, undefined);
      if (value === undefined) return [];
      return [attribute.type === 'richText' ? plainText(String(value)) : plainValue(value, attribute)];
    });
    return fc.oneof(
      fc.constantFrom(...all),
      fc
        .tuple(fc.constantFrom(...all), fc.nat(20), fc.nat(30))
        .map(([text, from, length]) => text.slice(from, from + length)),
      fc.constantFrom(...all).map((text) => text.toUpperCase()),
      fc.constantFrom(...all).map((text) => text.normalize('NFD')),
      fc.constantFrom('', 'é', '%', '_', 'Planters', '12 cm', '0.4 kg', '-1', '\\', "'"),
    );
  };
  return fc.constantFrom(...held).chain((attribute) =>
    fc.record({
      attribute: fc.constant(attribute.key),
      op: fc.constantFrom(...operators),
      value: words(attribute),
    }),
  );
}

it('one comparison picks the same goods both ways', async () => {
  await fc.assert(
    fc.asyncProperty(comparison(), async (row) => {
      const [core, database] = await bothWays(row);
      expect(database).toEqual(core);
    }),
    { numRuns: 400 },
  );
});

it('nested ones do too', async () => {
  const leaf: fc.Arbitrary<Condition> = comparison();
  const nested = fc.letrec<{ tree: Condition }>((tie) => ({
    tree: fc.oneof(
      { maxDepth: 3 },
      leaf,
      fc.record({ all: fc.array(tie('tree'), { maxLength: 3 }) }),
      fc.record({ any: fc.array(tie('tree'), { maxLength: 3 }) }),
      fc.record({ not: tie('tree') }),
    ),
  })).tree;
  await fc.assert(
    fc.asyncProperty(nested, async (condition) => {
      const [core, database] = await bothWays(condition);
      expect(database).toEqual(core);
    }),
    { numRuns: 100 },
  );
});

it('a description is searched as it reads, not as it is written', async () => {
  // <i> without spaces beside, entities, and list items, as suppliers write them.
  const marked = products.filter((product) => /&\w+;|<i>|<li>/.test(product.texts?.description?.['en-GB'] ?? ''));
  expect(marked.length).toBeGreaterThan(50);
  const whole = marked.map((product) => plainText(product.texts?.description?.['en-GB'] ?? ''));
  for (const value of [...new Set(whole)].slice(0, 60)) {
    const [core, database] = await bothWays({ attribute: 'description', op: 'contains', value: value.toUpperCase() });
    expect(core.length, value).toBeGreaterThan(0);
    expect(database, value).toEqual(core);
  }
});

it('a description is searched to its end, whatever the capitals', async () => {
  const long = products.find((product) => plainText(product.texts?.description?.['en-GB'] ?? '').length > 200);
  const text = plainText(long?.texts?.description?.['en-GB'] ?? '');
  const end = text.split('\n').at(-1)?.slice(-30).toUpperCase() ?? '';
  const [core, database] = await bothWays({ attribute: 'description', op: 'contains', value: end });
  expect(core).toContain(long?.id);
  expect(database).toEqual(core);
});

it('a view opened through the interface shows what the condition as a function lets through', async () => {
  const units = (await queryRows<{ id: number }>(db, sql`SELECT DISTINCT unit_id AS id FROM product`)).map(
    (product) => product.id,
  );
  const variants = (await loadFamilies(db, 1, units)).flatMap((family) => family.variants);
  const comparison = fc.oneof(
    fc.record({
      attribute: fc.constantFrom('brand', 'colour', 'glaze', 'material'),
      op: fc.constantFrom('is', 'isNot', 'contains', 'isEmpty', 'isNotEmpty'),
      value: fc.constantFrom('moss', 'BRACKWATER', 'steel', 'Übertopf', 'ö'),
    }),
    fc.record({
      attribute: fc.constantFrom('diameter', 'weight', 'height'),
      op: fc.constantFrom('is', 'atLeast', 'atMost', 'isEmpty'),
      value: fc.constantFrom('12 cm', '120 mm', '5 in', '370 g', '1 kg'),
    }),
    fc.record({
      attribute: fc.constant('title'),
      op: fc.constantFrom('contains', 'isEmpty', 'is'),
      value: fc.constantFrom('pot', 'Hollin', 'ü'),
      language: fc.constantFrom('en-GB', 'de-DE'),
    }),
    fc.record({
      attribute: fc.constantFrom('category', 'state', 'energyClass', 'sowingMonths'),
      op: fc.constantFrom('under', 'is', 'isNot', 'contains', 'atLeast', 'atMost', 'isEmpty'),
      value: fc.constantFrom('Planters', 'Planters/Indoor pots', 'pots', 'selling', 'B', 'May', 'none of them'),
    }),
  ) as fc.Arbitrary<Condition>;
  const condition = fc.letrec<{ any: Condition }>((tie) => ({
    any: fc.oneof(
      { depthSize: 'small' },
      comparison,
      fc.record({ all: fc.array(tie('any'), { maxLength: 3 }) }),
      fc.record({ any: fc.array(tie('any'), { maxLength: 3 }) }),
      fc.record({ not: tie('any') }),
    ),
  })).any;
  await fc.assert(
    fc.asyncProperty(condition, async (condition) => {
      const holds = compileCondition(condition, dictionary.attributes, variantLookup(dictionary.attributes, 'en-GB'));
      const { body: view } = await client.send('POST', '/api/views', {
        condition: condition,
        show: 'variants',
        everything: true,
      });
      const { body: size } = await client.get(`/api/views/${view.token}`);
      expect(size.rows, JSON.stringify(condition)).toBe(variants.filter(holds).length);
    }),
    { numRuns: 60 },
  );
});
