import fc from 'fast-check';
import { expect, it } from 'vitest';
import { testAttribute } from '../values/fixtures.js';
import type { Attribute, Value } from '../values/index.js';
import { type Condition, compileCondition, conditionAttributes, conditionSchema } from './index.js';

const attribute = (key: string, type: Attribute['type'], change: Partial<Attribute> = {}): Attribute =>
  testAttribute({ key, type, ...change });
const dictionary = new Map(
  [
    attribute('brand', 'text'),
    attribute('diameter', 'measure', { dimension: 'length' }),
    attribute('category', 'text'),
    attribute('tags', 'text', { many: true }),
  ].map((row) => [row.key, row]),
);
const holds = (condition: Condition, item: Record<string, Value>) =>
  compileCondition<Record<string, Value>>(condition, dictionary, (row, key) => row[key])(item);

it('a missing value matches nothing but “is empty”', () => {
  expect(holds({ attribute: 'brand', op: 'isNot', value: 'x' }, {})).toBe(false);
  expect(holds({ attribute: 'brand', op: 'isEmpty' }, {})).toBe(true);
});
it('compares measures in any unit', () => {
  const item = { diameter: { amount: '120', unit: 'mm', base: 0.12 } };
  expect(holds({ attribute: 'diameter', op: 'is', value: '12 cm' }, item)).toBe(true);
  expect(holds({ attribute: 'diameter', op: 'atLeast', value: '13 cm' }, item)).toBe(false);
});
it('takes any of many, and looks below a path', () => {
  expect(holds({ attribute: 'tags', op: 'is', value: 'B' }, { tags: ['a', 'b'] })).toBe(true);
  expect(holds({ attribute: 'category', op: 'under', value: 'Planters' }, { category: 'Planters/Indoor pots' })).toBe(
    true,
  );
  expect(holds({ attribute: 'category', op: 'under', value: 'Planters' }, { category: 'Plantersville' })).toBe(false);
});
it('refuses an attribute nobody knows, and JSON that is no condition', () => {
  expect(() => holds({ attribute: 'nothing', op: 'isEmpty' }, {})).toThrow('no attribute');
  expect(conditionSchema.safeParse({ attribute: 'a', op: 'like' }).success).toBe(false);
});
it('nests: all, any and not hold as logic has them', () => {
  const brand = (value: string): Condition => ({ attribute: 'brand', op: 'is', value });
  const is = fc.constantFrom('a', 'b', 'c');
  fc.assert(
    fc.property(is, is, is, (own, row, other) => {
      const item = { brand: own };
      expect(holds({ all: [brand(row), brand(other)] }, item)).toBe(own === row && own === other);
      expect(holds({ any: [brand(row), brand(other)] }, item)).toBe(own === row || own === other);
      expect(holds({ not: { any: [brand(row), brand(other)] } }, item)).toBe(
        holds({ all: [{ not: brand(row) }, { not: brand(other) }] }, item),
      );
    }),
  );
  expect(holds({ all: [] }, {})).toBe(true);
  expect(holds({ any: [] }, {})).toBe(false);
});
it('compares without accents, capitals and doubled spaces', () => {
  expect(holds({ attribute: 'brand', op: 'is', value: 'Jörd  Ängel' }, { brand: 'jord angel' })).toBe(true);
  expect(holds({ attribute: 'brand', op: 'contains', value: 'ÄNG' }, { brand: 'Jörd Ängel' })).toBe(true);
});
it('a figure that cannot be read matches nothing', () => {
  const item = { diameter: { amount: '12', unit: 'cm', base: 0.12 } };
  expect(holds({ attribute: 'diameter', op: 'isNot', value: 'wide' }, item)).toBe(false);
  expect(holds({ attribute: 'diameter', op: 'atLeast', value: '3 kg' }, item)).toBe(false);
});
it('names what it reads, however deep', () => {
  const deep: Condition = {
    all: [{ not: { attribute: 'brand', op: 'isEmpty' } }, { any: [{ attribute: 'tags', op: 'is', value: 'a' }] }],
  };
  expect(conditionAttributes(deep)).toEqual(['brand', 'tags']);
});
