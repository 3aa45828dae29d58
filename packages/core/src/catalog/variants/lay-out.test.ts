import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beginningOf, combinationsOf, layOut, newValues, numbersOf, openCombinations, readValueList } from './index.js';

describe('values that are pasted', () => {
  it.each([
    ['S\nM\r\nL', ['S', 'M', 'L']],
    ['S\tM\nL', ['S', 'M', 'L']],
    ['S\tM\tL', ['S', 'M', 'L']],
    ['140 x 200 cm; 200 x 220 cm', ['140 x 200 cm', '200 x 220 cm']],
    ['1,5 m; 2,5 m', ['1,5 m', '2,5 m']],
    ['1,5 m, 2,5 m', ['1,5 m', '2,5 m']],
    ['S,M,L', ['S', 'M', 'L']],
    ['night   blue', ['night blue']],
    [' ; ;', []],
    ['', []],
  ])('are read: %j', (text, values) => expect(readValueList(text)).toEqual(values));
  it('are known again whatever their spelling', () => {
    expect(newValues(['10 cm'], ['0.1 m', '12 cm', '120 mm'], 'measure')).toEqual({
      fresh: ['12 cm'],
      there: ['0.1 m', '120 mm'],
    });
    expect(newValues([], ['XXL', '2XL', 'xl'], 'size')).toEqual({ fresh: ['XXL', 'xl'], there: ['2XL'] });
    expect(newValues(['Moss'], ['moss ', '', 'Rust'], 'text')).toEqual({ fresh: ['Rust'], there: ['moss '] });
  });
});

describe('a family laid out', () => {
  const sizes = { key: 'size', kind: 'size', values: ['L', 'S', 'M'] } as const;
  const colours = { key: 'colour', kind: 'text', values: ['rust', 'moss'] } as const;

  it('has every combination once, in a shop’s order, the last axis turning fastest', () => {
    expect(layOut([sizes, colours], 100)).toEqual([
      ['S', 'moss'],
      ['S', 'rust'],
      ['M', 'moss'],
      ['M', 'rust'],
      ['L', 'moss'],
      ['L', 'rust'],
    ]);
    expect(combinationsOf([sizes, colours])).toBe(6);
  });
  it('has none where an axis has no value, or where there is no axis', () => {
    expect(layOut([sizes, { ...colours, values: [] }], 100)).toEqual([]);
    expect([layOut([], 100), combinationsOf([])]).toEqual([[], 0]);
  });
  it('is laid out no further than it is wanted, however many there would be', () => {
    const many = { kind: 'text', values: Array.from({ length: 1000 }, (_, i) => `v${i}`) } as const;
    expect(layOut([many, many, many, many], 50)).toHaveLength(50);
    expect(combinationsOf([many, many, many, many])).toBe(1e12);
  });
  it('leaves out what a variant has, by what its values mean', () => {
    const spans = { key: 'span', kind: 'measure', values: ['1.5 m', '2 m'] } as const;
    const held = [
      { id: 1, options: { span: '150 cm', colour: 'Moss' } },
      { id: 2, options: { span: '2 m', colour: 'rust' } },
    ];
    expect(openCombinations([spans, colours], held, 100)).toEqual([
      ['1.5 m', 'rust'],
      ['2 m', 'moss'],
    ]);
  });
});

describe('numbers of variants', () => {
  it('begin as the family’s, and say what each is', () => {
    expect(numbersOf('FJ', [['140 x 200 cm', 'Größe ß'], ['1,5 m']])).toEqual(['FJ-140X200CM-GROSSESS', 'FJ-1.5M']);
  });
  it('are never two of one, nor one that is taken', () =>
    fc.assert(
      fc.property(fc.string(), fc.array(fc.array(fc.string(), { maxLength: 2 }), { maxLength: 12 }), (base, rows) => {
        const taken = numbersOf(base, rows.slice(0, 3));
        const numbers = numbersOf(base, rows, taken).map((number) => number.toLowerCase());
        expect(new Set([...numbers, ...taken.map((number) => number.toLowerCase())]).size).toBe(
          numbers.length + taken.length,
        );
      }),
    ));
  it('have a beginning in common, in whole parts', () => {
    expect(beginningOf(['MS-AMB71-13-HA', 'MS-AMB71-16-EI'])).toBe('MS-AMB71');
    expect(beginningOf(['A-1', 'B-1'])).toBe('');
    expect(beginningOf(['ONE-TWO'])).toBe('ONE');
    expect(beginningOf([])).toBe('');
  });
});
