import { describe, expect, it } from 'vitest';
import { testAttribute } from '../values/fixtures.js';
import { compileRowReader } from './rows.js';

const title = testAttribute({ key: 'title', level: 'family' });
const read = (...cells: string[]) =>
  compileRowReader({
    columns: ['Art', 'Name', 'Price', 'Stock'],
    map: [
      { column: 'Art', target: { to: 'key' } },
      { column: 'Name', target: { to: 'attribute', attribute: 'title' } },
    ],
    style: { decimal: '.', dateOrder: 'ymd' },
    dictionary: new Map([['title', title]]),
    home: 'en-GB',
  }).read(cells);

describe('a totals row', () => {
  it.each([
    'Total',
    'Summe:',
    'Totale',
    'Razem',
    'Celkem',
    'Yhteensä',
    'Összesen',
    'Toplam',
    'Totaal',
    'Итого',
    'Σύνολο',
    'Suma',
    'Somme',
    'I alt',
  ])('“%s” is no goods', (word) => {
    for (const row of [
      [word, '', '120.00', '40'],
      ['', word, '120.00', '40'],
      [word, '12', '1.200,00 €', '40'],
    ])
      expect(read(...row)).toMatchObject({ outcome: 'refused', reasons: ['This is a totals row, not goods'] });
  });
  it.each([
    ['Total', 'Garden hose', '12.00', '4'],
    ['SUM-1', 'Pot', '3', '4'],
    ['T-9', 'Total control sprayer', '3', '4'],
    ['Soma', 'Cube lamp', '3', '4'],
  ])('%s, %s is goods all the same', (...row) => expect(read(...row).outcome).toBe('read'));
});
