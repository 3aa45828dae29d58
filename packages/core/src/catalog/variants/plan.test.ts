import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Option,
  isHiddenBy,
  noPlan,
  optionPlanSchema,
  optionsBy,
  ordersBy,
  planDifferences,
  surchargeBy,
} from './index.js';

const plan = optionPlanSchema.parse({
  axes: [
    { name: 'size', values: [{ value: 'L' }] },
    {
      name: 'tint',
      from: ['glaze', 'Glasur'],
      values: [
        { value: 'Terracotta', from: ['Rust', 'Rost'], surcharge: { GBP: '2.50', CLP: '900' } },
        { value: 'Moss', hidden: true },
      ],
    },
    { name: 'box', gone: true },
  ],
});

describe('options by a plan', () => {
  it('go by its names, whatever the source’s spelling, in its order, without what is gone', () => {
    const said: Option[] = [
      ['Glaze', 'RUST'],
      ['box', 'yes'],
      ['diameter', '16 cm'],
      ['Size', 'l'],
    ];
    expect(optionsBy(plan, said)).toEqual([
      ['size', 'L'],
      ['tint', 'Terracotta'],
      ['diameter', '16 cm'],
    ]);
  });
  it('are what somebody says of the variant itself, before what its sources say', () => {
    const said: Option[] = [['glaze', 'Moss']];
    expect(
      optionsBy(plan, said, [
        ['tint', 'Rost'],
        ['size', 'XL'],
      ]),
    ).toEqual([
      ['size', 'XL'],
      ['tint', 'Terracotta'],
    ]);
    expect(optionsBy(plan, said, [['GLAZE', null]])).toEqual([]);
  });
  it('are as the sources say them where nothing is planned', () => {
    const option = fc.tuple(fc.string(), fc.string());
    fc.assert(
      fc.property(fc.array(option), (said) => {
        expect(optionsBy(noPlan, said)).toEqual(said);
      }),
    );
  });
  it('stay as they are when they go through it again', () => {
    const option = fc.tuple(
      fc.constantFrom('glaze', 'tint', 'size', 'box', 'Größe', 'diameter'),
      fc.constantFrom('Rust', 'Terracotta', 'moss', 'L', 'l', '16 cm'),
    );
    fc.assert(
      fc.property(fc.array(option), (said) => {
        const once = optionsBy(plan, said);
        expect(optionsBy(plan, once)).toEqual(once);
      }),
    );
  });
  it('hide a variant by any of its values, and add up what each adds', () => {
    expect([isHiddenBy(plan, [['tint', 'moss']]), isHiddenBy(plan, [['tint', 'Rust']])]).toEqual([true, false]);
    expect(surchargeBy(plan, [['tint', 'Terracotta']])).toEqual({ GBP: '2.5', CLP: '900' });
    const two = optionPlanSchema.parse({
      axes: ['a', 'b'].map((name, i) => ({
        name,
        values: [{ value: 'x', surcharge: { EUR: i === 0 ? '0.1' : '0.2' } }],
      })),
    });
    expect(
      surchargeBy(two, [
        ['a', 'x'],
        ['b', 'x'],
      ]),
    ).toEqual({ EUR: '0.3' });
    const none = optionPlanSchema.parse({
      axes: ['a', 'b'].map((name, i) => ({
        name,
        values: [{ value: 'x', surcharge: { EUR: i === 0 ? '-1' : '1.00' } }],
      })),
    });
    expect(
      surchargeBy(none, [
        ['a', 'x'],
        ['b', 'x'],
      ]),
    ).toEqual({});
  });
});

describe('a plan', () => {
  const axes = (...given: object[]) => optionPlanSchema.safeParse({ axes: given }).success;
  it('names each axis and each value once, whatever the spelling', () => {
    expect(axes({ name: 'Size' }, { name: 'size ' })).toBe(false);
    expect(axes({ name: 'Size', from: ['Größe'] }, { name: 'GRÖSSE' })).toBe(false);
    expect(axes({ name: 'tint', values: [{ value: 'Moss' }, { value: 'Green', from: ['moss'] }] })).toBe(false);
    expect(axes({ name: 'tint', values: [{ value: '1 2' }, { value: '12' }] })).toBe(true);
  });
  it('refuses what cannot be written into a sheet, and amounts that are none', () => {
    expect([axes({ name: 'a:b' }), axes({ name: '' }), axes({ name: 'a', values: [{ value: 'x|y' }] })]).toEqual([
      ...[false, false, false],
    ]);
    expect(axes({ name: 'a', values: [{ value: 'x', surcharge: { GBP: '1e9' } }] })).toBe(false);
  });
  it('tells what is another in it', () => {
    const before = optionPlanSchema.parse({ axes: [{ name: 'glaze', values: [{ value: 'Rust' }] }] });
    expect(planDifferences(before, plan)).toEqual([
      'glaze is tint now',
      'Rust of tint is Terracotta now',
      'Terracotta adds 2.50 GBP',
      'Terracotta adds 900 CLP',
      'Moss is hidden',
      'box is no option any more',
    ]);
    expect(planDifferences(plan, plan)).toEqual([]);
    const ordered = optionPlanSchema.parse({ axes: [{ name: 'size', isOrdered: true, values: [{ value: 'L' }] }] });
    expect([ordersBy(ordered), planDifferences(noPlan, ordered)]).toEqual([
      { size: ['L'] },
      ['the values of size stand in another order'],
    ]);
  });
});
