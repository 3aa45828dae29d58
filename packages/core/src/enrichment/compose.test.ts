import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Part, compose, varied } from './compose.js';

const value = (of: string, before = '', after = ''): Part => ({ of, before, after });
const words = (before: string): Part => ({ of: null, before, after: '' });
const told = (parts: Part[], values: Record<string, string>) =>
  compose(parts, (source) => (Object.hasOwn(values, source) ? values[source] : undefined));

describe('a composed text', () => {
  const title = [value('brand', '', ' '), value('kind'), value('glaze', ', '), value('size', ', ', ' across')];

  it('has each value with its words, and neither where there is none', () => {
    const all = { brand: 'Ambrel', kind: 'footed pot', glaze: 'moss', size: '13 cm' };
    expect(told(title, all)).toBe('Ambrel footed pot, moss, 13 cm across');
    expect(told(title, { ...all, glaze: '' })).toBe('Ambrel footed pot, 13 cm across');
    expect(told(title, { kind: 'footed pot' })).toBe('footed pot');
    expect(told(title, { size: '13 cm' })).toBe('13 cm across');
    expect(told(title, {})).toBe('');
  });

  it('has words alone between values that are there, and at its ends', () => {
    const parts = [words('Hand-made '), value('kind'), words(' of '), value('material'), words('. Boxed.')];
    expect(told(parts, { kind: 'Jug', material: 'clay' })).toBe('Hand-made Jug of clay. Boxed.');
    expect(told([value('kind'), words(' of '), value('material')], { kind: 'Jug' })).toBe('Jug');
    expect(told([value('kind'), words(' of '), value('material')], { material: 'clay' })).toBe('clay');
  });

  it('has no mark, bracket or space left of what is not there', () => {
    expect(told([value('a'), words(' ('), value('b'), words(')')], { a: 'Pot' })).toBe('Pot');
    expect(told([value('a', '', ' ,'), value('b', ' ; ', ';')], { a: 'x', b: 'y' })).toBe('x, y');
  });

  it('takes values as they are: what looks like a pattern is text', () => {
    expect(told([value('a'), value('b', ' ')], { a: '$1', b: '{b} %s' })).toBe('$1 {b} %s');
  });

  it('never begins or ends with a mark or a space, whatever is there', () => {
    const text = fc.string({ maxLength: 12 });
    fc.assert(
      fc.property(
        fc.array(fc.record({ of: fc.option(fc.constantFrom('a', 'b')), before: text, after: text })),
        text,
        (parts, a) => {
          const made = told(parts, { a });
          expect(made).toBe(made.trim());
          expect(made).not.toMatch(/^[,;:]|[,;:]$|\s{2}/u);
        },
      ),
    );
  });
});

describe('goods to look at', () => {
  const composed = (id: number, text: string, kind: string) => ({ id, text, kind });

  it('are the shortest, the longest, and then one of each kind', () => {
    const all = [
      composed(1, 'aaa', 'pots'),
      composed(2, 'aaaa', 'pots'),
      composed(3, 'a', 'pots'),
      composed(4, 'aaa', 'lamps'),
      composed(5, 'aaaaaaa', 'seeds'),
    ];
    expect(varied(all, 4).map(({ id }) => id)).toEqual([3, 5, 1, 4]);
    expect(varied(all, 9)).toHaveLength(5);
    expect(varied([], 10)).toEqual([]);
    expect(varied(all, 0)).toEqual([]);
  });
});
