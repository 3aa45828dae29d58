import { expect, it } from 'vitest';
import type { Attribute, Value } from '../values/index.js';
import { type Condition, compileCondition, conditionSchema } from './index.js';

const attribute = (key: string, type: Attribute['type'], change: Partial<Attribute> = {}): Attribute => ({
  key,
  label: key,
  type,
  many: false,
  perLanguage: false,
  level: 'variant',
  group: '',
  ...change,
});
const dictionary = new Map(
  [
    attribute('brand', 'text'),
    attribute('diameter', 'measure', { dimension: 'length' }),
    attribute('category', 'text'),
    attribute('tags', 'text', { many: true }),
  ].map((one) => [one.key, one]),
);
const holds = (condition: Condition, item: Record<string, Value>) =>
  compileCondition<Record<string, Value>>(condition, dictionary, (one, key) => one[key])(item);

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
