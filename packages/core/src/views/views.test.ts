import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Condition, compileCondition } from '../conditions/index.js';
import { testAttribute } from '../values/fixtures.js';
import { type Value, sortKeys } from '../values/index.js';
import { Bits, Column, Order, comparedRows, comparing, matchingRows } from './index.js';

const rowsIn = (bits: Bits): number[] => [...Array(bits.size).keys()].filter((row) => bits.has(row));

describe('rows as bits', () => {
  it('are joined, met and turned as sets are, whatever their number', () => {
    const some = fc.integer({ min: 0, max: 100 }).chain((size) =>
      fc.record({
        size: fc.constant(size),
        x: fc.uniqueArray(fc.nat(120)),
        y: fc.uniqueArray(fc.nat(120)),
      }),
    );
    fc.assert(
      fc.property(some, ({ size, x, y }) => {
        const [a, b] = [Bits.of(size, x), Bits.of(size, y)];
        const among = (holds: (row: number) => boolean) => [...Array(size).keys()].filter(holds);
        expect(rowsIn(a.and(b))).toEqual(among((row) => x.includes(row) && y.includes(row)));
        expect(rowsIn(a.or(b))).toEqual(among((row) => x.includes(row) || y.includes(row)));
        expect(rowsIn(a.flip())).toEqual(among((row) => !x.includes(row)));
        expect(rowsIn(Bits.all(size))).toEqual(among(() => true));
        // Nothing beyond the last row.
        expect(a.flip().has(size)).toBe(false);
      }),
    );
  });
});

const attributes = new Map(
  [
    testAttribute({ key: 'word' }),
    testAttribute({ key: 'words', many: true }),
    testAttribute({ key: 'figure', type: 'number' }),
    testAttribute({
      key: 'listed',
      type: 'choice',
      choices: ['s', 'm', 'l'].map((key) => ({ key, names: { 'en-GB': key.toUpperCase() } })),
    }),
  ].map((attribute) => [attribute.key, attribute]),
);
type Goods = Partial<Record<string, Value>>;

const word = fc.constantFrom('Rust', 'rust', 'Übertopf', 'a b', '', 'x');
const goods: fc.Arbitrary<Goods> = fc.record(
  {
    word,
    words: fc.array(word, { minLength: 1, maxLength: 3 }),
    figure: fc.constantFrom('1', '2.5', '-3', '10'),
    listed: fc.constantFrom('s', 'm', 'l'),
  },
  { requiredKeys: [] },
);
const comparison = fc.record({
  attribute: fc.constantFrom(...attributes.keys()),
  op: fc.constantFrom('is', 'isNot', 'contains', 'under', 'atLeast', 'atMost', 'isEmpty', 'isNotEmpty'),
  value: fc.oneof(word, fc.constantFrom('1', '2', '2.5', 'm', 'M', 'L', 'none of them')),
}) as fc.Arbitrary<Condition>;
const condition = fc.letrec<{ any: Condition }>((tie) => ({
  any: fc.oneof(
    { depthSize: 'small' },
    comparison,
    fc.record({ all: fc.array(tie('any'), { maxLength: 3 }) }),
    fc.record({ any: fc.array(tie('any'), { maxLength: 3 }) }),
    fc.record({ not: tie('any') }),
  ),
})).any;

const columnOf = (key: string, list: readonly Goods[]): Column => {
  const column = new Column();
  const attribute = attributes.get(key);
  list.forEach((one, row) => {
    const value = one[key];
    if (attribute && value !== undefined) column.set(row, sortKeys(value, attribute));
  });
  return column;
};

describe('a condition over columns', () => {
  it('lets through what it lets through as a function, and after goods have changed', () => {
    fc.assert(
      fc.property(
        fc.array(goods, { maxLength: 70 }),
        fc.array(fc.tuple(fc.nat(80), goods), { maxLength: 10 }),
        condition,
        (list, changes, wanted) => {
          const columns = new Map([...attributes.keys()].map((key) => [key, columnOf(key, list)]));
          const now = [...list];
          for (const [at, one] of changes) {
            const row = Math.min(at, now.length);
            now[row] = one;
            for (const [key, attribute] of attributes) {
              const value = one[key];
              columns.get(key)?.set(row, value === undefined ? [] : sortKeys(value, attribute));
            }
          }
          const holds = compileCondition<Goods>(wanted, attributes, (one, key) => one[key]);
          const rows = matchingRows(wanted, now.length, (compared) => {
            const [attribute, column] = [attributes.get(compared.attribute), columns.get(compared.attribute)];
            if (!attribute || !column) throw new Error('Not in the dictionary');
            return comparedRows(compared, attribute, column, now.length);
          });
          expect(rowsIn(rows)).toEqual([...now.keys()].filter((row) => holds(now[row] ?? {})));
        },
      ),
      { numRuns: 500, seed: 11 },
    );
  });

  it('asks a test once for each text, however many rows have it', () => {
    const column = new Column();
    for (let row = 0; row < 1000; row++) column.set(row, [row % 3 === 0 ? 'clay' : 'steel']);
    let asked = 0;
    const rows = column.having(1000, (key) => {
      asked++;
      return key === 'clay';
    });
    expect([asked, rowsIn(rows).length]).toEqual([2, 334]);
  });
});

describe('an order', () => {
  it('is the one a sort gives, whichever rows changed since it was made', () => {
    const one = fc.record({
      figure: fc.option(fc.integer({ min: 0, max: 3 }), { nil: undefined }),
      text: fc.option(fc.constantFrom('a', 'b', 'B', 'ü'), { nil: undefined }),
    });
    fc.assert(
      fc.property(
        fc.array(one, { maxLength: 40 }),
        fc.array(fc.tuple(fc.nat(50), one), { maxLength: 12 }),
        fc.boolean(),
        (list, changes, isDown) => {
          const now = [...list];
          // Ids run against the rows: ties go by them.
          const rank = { figure: (row: number) => now[row]?.figure, text: (row: number) => now[row]?.text };
          const compare = comparing(rank, isDown, (row) => -row);
          const order = new Order(now.length, compare);
          const changed = new Set<number>();
          for (const [at, next] of changes) {
            const row = Math.min(at, now.length);
            now[row] = next;
            changed.add(row);
          }
          order.renew(changed, now.length);
          expect([...order.rows]).toEqual([...now.keys()].sort(compare));
        },
      ),
      { numRuns: 500, seed: 12 },
    );
  });

  it('has what has nothing last, up and down', () => {
    const figures = [2, undefined, 1];
    const rows = (isDown: boolean) => [
      ...new Order(
        3,
        comparing({ figure: (row) => figures[row], text: () => undefined }, isDown, (row) => row),
      ).rows,
    ];
    expect([rows(false), rows(true)]).toEqual([
      [2, 0, 1],
      [0, 2, 1],
    ]);
  });
});
