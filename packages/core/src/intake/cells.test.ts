/** Cells as they are read: parts, units and currencies beside, several columns into one, several out of one. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Attribute, ReadingStyle } from '../values/index.js';
import { testAttribute } from '../values/fixtures.js';
import { partOf } from './cells.js';
import { type ColumnMap, type ReadRecord, compileRowReader } from './index.js';

const attribute = (key: string, type: Attribute['type'], change: Partial<Attribute> = {}): [string, Attribute] => [
  key,
  testAttribute({ key, type, ...change }),
];
const dictionary = new Map([
  attribute('title', 'text', { perLanguage: true }),
  attribute('material', 'text'),
  attribute('glaze', 'text'),
  attribute('length', 'measure', { dimension: 'length' }),
  attribute('height', 'measure', { dimension: 'length' }),
  attribute('weight', 'measure', { dimension: 'mass' }),
  attribute('purchasePrice', 'money'),
  attribute('tags', 'text', { many: true }),
  attribute('gtin', 'text'),
]);
const comma: ReadingStyle = { decimal: ',', dateOrder: 'dmy' };

function read(map: ColumnMap, cells: Record<string, string>, style = comma): ReadRecord {
  const columns = ['No', ...Object.keys(cells)];
  const reader = compileRowReader({
    columns,
    map: [{ column: 'No', target: { to: 'key' } }, ...map],
    style,
    dictionary,
    home: 'en-GB',
  });
  const row = reader.read(['A-1', ...Object.values(cells)]);
  if (row.outcome !== 'read') throw new Error(row.reasons.join());
  return row;
}
const to = (name: string, more: object = {}) => ({ to: 'attribute', attribute: name, ...more }) as const;

describe('a part of a cell', () => {
  it.each([
    ['12 x 20 cm', 1, '12 cm'],
    ['12 x 20 cm', 2, '20 cm'],
    ['12cm × 20mm', 1, '12cm'],
    ['12,5*20*7 in', 3, '7 in'],
    ['30', 1, '30'],
    ['30 cm', 2, undefined],
    [' x 20 cm', 1, undefined],
  ])('%s, part %i', (cell, part, text) => expect(partOf(cell, part)).toBe(text));

  it('gives back what was put together, with the unit of the last', () => {
    const figure = fc.integer({ min: 1, max: 999 });
    fc.assert(
      fc.property(
        fc.array(figure, { minLength: 1, maxLength: 4 }),
        fc.constantFrom(' x ', 'x', ' × ', '*'),
        (all, sign) => {
          const cell = `${all.join(sign)} cm`;
          expect(all.map((_, i) => partOf(cell, i + 1))).toEqual(all.map((id) => `${id} cm`));
          expect(partOf(cell, all.length + 1)).toBeUndefined();
        },
      ),
    );
  });

  it('that is not there is a lost cell, and says which part', () => {
    const { values, notes } = read([{ column: 'Size', target: to('height', { part: 2 }) }], { Size: '12 cm' });
    expect(values.height).toBeUndefined();
    expect(notes).toEqual([{ column: 'Size', cell: '12 cm', note: '“12 cm” has no part 2', lost: true }]);
  });
});

describe('one column into two, two into one', () => {
  it('a size feeds length and height, in the style of the file', () => {
    const { values } = read(
      [
        { column: 'Size', target: to('length', { part: 1 }) },
        { column: 'Size', target: to('height', { part: 2 }) },
      ],
      { Size: '12,5 x 20 cm' },
    );
    expect(values.length).toMatchObject({ amount: '12.5', unit: 'cm' });
    expect(values.height).toMatchObject({ amount: '20', unit: 'cm' });
  });

  it('texts are put together in the order of the columns, empty ones left out', () => {
    const map: ColumnMap = [
      { column: 'A', target: to('material') },
      { column: 'B', target: to('material', { join: ', ' }) },
      { column: 'C', target: to('material', { join: ' / ' }) },
    ];
    expect(read(map, { A: 'oak', B: 'oiled', C: 'FSC' }).values.material).toBe('oak, oiled / FSC');
    expect(read(map, { A: 'oak', B: '', C: 'FSC' }).values.material).toBe('oak / FSC');
    expect(read(map, { A: '', B: 'oiled', C: '' }).values.material).toBe('oiled');
  });

  it('without words between, the first column that says something counts', () => {
    const map: ColumnMap = [
      { column: 'A', target: to('glaze') },
      { column: 'B', target: to('glaze') },
    ];
    expect(read(map, { A: '', B: 'Moss' }).values.glaze).toBe('Moss');
    expect(read(map, { A: 'Chalk', B: 'Moss' }).values.glaze).toBe('Chalk');
  });

  it('lists grow from column to column', () => {
    const map: ColumnMap = [
      { column: 'A', target: to('tags') },
      { column: 'B', target: to('tags') },
    ];
    expect(read(map, { A: 'pot, clay', B: 'gift' }).values.tags).toEqual(['pot', 'clay', 'gift']);
  });
});

describe('what stands beside', () => {
  it('a unit of its own for each row', () => {
    const map: ColumnMap = [{ column: 'W', target: to('weight', { unitFrom: 'U' }) }];
    expect(read(map, { W: '1,5', U: 'kg' }).values.weight).toMatchObject({ amount: '1.5', unit: 'kg', base: 1.5 });
    expect(read(map, { W: '300', U: 'g' }).values.weight).toMatchObject({ base: 0.3 });
  });
  it('a bare figure takes the unit of its column, a written one keeps its own', () => {
    const map: ColumnMap = [{ column: 'W', target: to('weight', { unit: 'g' }) }];
    expect(read(map, { W: '300' }).values.weight).toMatchObject({ base: 0.3 });
    expect(read(map, { W: '2 kg' }).values.weight).toMatchObject({ base: 2 });
  });
  it('a currency, for costs and for prices', () => {
    const cost: ColumnMap = [{ column: 'P', target: to('purchasePrice', { currency: 'GBP', currencyFrom: 'C' }) }];
    expect(read(cost, { P: '1.234,50', C: 'sek' }).values.purchasePrice).toMatchObject({
      amount: '1234.5',
      currency: 'SEK',
    });
    const price: ColumnMap = [
      { column: 'P', target: { to: 'price', kind: 'regular', currency: 'GBP', currencyFrom: 'C' } },
    ];
    expect(read(price, { P: '9,90', C: 'EUR' }).offer.regular).toEqual({ EUR: '9.9' });
    expect(read(price, { P: '9,90', C: '' }).offer.regular).toEqual({ GBP: '9.9' });
  });
});

describe('cells that say less than they seem', () => {
  const stock: ColumnMap = [{ column: 'S', target: { to: 'stock' } }];
  it('stock is whole pieces; half a piece is lost, the row goes on', () => {
    expect(read(stock, { S: '1.250' }).offer.stock).toBe(1250);
    const { offer, notes } = read(stock, { S: '2,5' });
    expect(offer.stock).toBeUndefined();
    expect(notes[0]).toMatchObject({ column: 'S', cell: '2,5', lost: true });
  });
  it('a cost of 0 is kept, and said', () => {
    const { values, notes } = read([{ column: 'P', target: to('purchasePrice', { currency: 'GBP' }) }], { P: '0,00' });
    expect(values.purchasePrice).toMatchObject({ currency: 'GBP' });
    expect(notes).toMatchObject([{ note: 'the amount is 0', lost: false }]);
  });
  it('a GTIN that lost its zero is put back, one with a wrong digit stays as written and is said', () => {
    const map: ColumnMap = [{ column: 'E', target: to('gtin') }];
    const mended = read(map, { E: '614141000012' });
    expect(mended.values.gtin).toBe('614141000012');
    const wrong = read(map, { E: '4006381333932' });
    expect(wrong.values.gtin).toBe('4006381333932');
    expect(wrong.notes).toMatchObject([{ column: 'E', lost: false }]);
  });
  it('words are translated as they were learnt, however they are written', () => {
    const map: ColumnMap = [{ column: 'G', target: to('glaze', { values: { Waldgrün: 'Moss' } }) }];
    for (const word of ['Waldgrün', 'waldgrün', '  WALDGRÜN '])
      expect(read(map, { G: word }).values.glaze).toBe('Moss');
    expect(read(map, { G: 'Kreide' }).values.glaze).toBe('Kreide');
  });
  it('the same text is read alike, the first time and the ten thousandth', () => {
    const reader = compileRowReader({
      columns: ['No', 'W'],
      map: [
        { column: 'No', target: { to: 'key' } },
        { column: 'W', target: to('weight') },
      ],
      style: comma,
      dictionary,
      home: 'en-GB',
    });
    const texts = Array.from({ length: 12_000 }, (_, i) => `${i % 7} kg`).concat(
      Array.from({ length: 6_000 }, (_, i) => `${i} g`),
    );
    texts.forEach((text, i) => {
      const row = reader.read([String(i), text]);
      const base = row.outcome === 'read' ? (row.values.weight as { base: number }).base : Number.NaN;
      const [figure = '', unit] = text.split(' ');
      expect(base).toBeCloseTo(unit === 'kg' ? Number(figure) : Number(figure) / 1000, 9);
    });
  });
});
