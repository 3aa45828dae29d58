import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Axis, differing, rackOf, usedAxes } from './index.js';

const axes: Axis[] = [
  { key: 'Size', kind: 'size' },
  { key: 'Length', kind: 'measure' },
  { key: 'Wood', kind: 'text' },
];
const variant = (id: number, Size?: string, Length?: string, Wood?: string) => ({
  id,
  options: { Size, Length, Wood },
});
const goods = [
  variant(1, 'XL', '1.5 m', 'Ash'),
  variant(2, 'S', '150 cm', 'Ash'),
  variant(3, 'S', '2 m', 'Birch'),
  variant(4, 'S', '2 m', 'Birch'),
  variant(5, 'XL', undefined, 'Birch'),
];
const ids = (cells: { id: number }[][][]) => cells.map((row) => row.map((here) => here.map(({ id }) => id)));

describe('a rack', () => {
  it('lays variants out in a shop’s order, the same value once however it is written', () => {
    const rack = rackOf(axes, goods, { down: 'Size', across: 'Length' });
    expect([rack.down, rack.across]).toEqual([
      ['S', 'XL'],
      ['1.5 m', '2 m', undefined],
    ]);
    expect(ids(rack.cells)).toEqual([
      [[2], [3, 4], []],
      [[1], [], [5]],
    ]);
  });
  it('shows of further axes what is looked at, and keeps its places', () => {
    const rack = rackOf(axes, goods, { down: 'Size', across: 'Length', at: { Wood: 'ash' } });
    expect(rack.across).toEqual(['1.5 m', '2 m', undefined]);
    const ash = rackOf(axes, goods, { down: 'Size', across: 'Length', at: { Wood: 'Ash' } });
    expect(ids(ash.cells)).toEqual([
      [[2], []],
      [[1], []],
    ]);
  });
  it('has one column where nothing stands across', () => {
    expect(ids(rackOf(axes, goods, { down: 'Wood' }).cells)).toEqual([[[1, 2]], [[3, 4, 5]]]);
  });
  it('goes by an order that somebody gave, the rest behind it', () => {
    const lists = { Size: ['XL'] };
    expect(usedAxes(axes, goods, { lists })[0]?.values).toEqual(['XL', 'S']);
    expect(rackOf(axes, goods, { down: 'Size', lists }).down).toEqual(['XL', 'S']);
  });
  it('shows every variant once, whatever they are', () => {
    const value = fc.option(fc.constantFrom('S', 's', 'XL', '2XL', 'XXL', '10 cm', '0.1 m', ''), { nil: undefined });
    fc.assert(
      fc.property(fc.array(fc.tuple(value, value), { maxLength: 12 }), (rows) => {
        const all = rows.map(([size, length], id) => variant(id, size, length));
        const shown = rackOf(axes.slice(0, 2), all, { down: 'Size', across: 'Length' }).cells.flat(2);
        expect(shown.map(({ id }) => id).sort((a, b) => a - b)).toEqual(all.map(({ id }) => id));
      }),
    );
  });
});

describe('what differs', () => {
  const held = (id: number, values: Record<string, string>) => ({ id, held: new Map(Object.entries(values)) });
  it('is what most siblings do not hold', () => {
    const found = differing([
      held(1, { weight: '1 kg', made: 'by hand' }),
      held(2, { weight: '1 kg', made: 'by hand' }),
      held(3, { weight: '2 kg' }),
    ]);
    expect([...found.values()]).toEqual([
      [],
      [],
      [
        { name: 'weight', value: '2 kg' },
        { name: 'made', value: undefined },
      ],
    ]);
  });
  it('is everybody’s own where there is no usual value', () => {
    expect([...differing([held(1, { weight: '1 kg' }), held(2, { weight: '2 kg' })]).values()]).toEqual([
      [{ name: 'weight', value: '1 kg' }],
      [{ name: 'weight', value: '2 kg' }],
    ]);
  });
});
