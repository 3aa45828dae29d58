import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Family, Variant } from '../catalog/index.js';
import type { Fill } from '../fills/index.js';
import { type PlacedFill, type PlaceSetup, type Preset, compilePlace, slotName, slotOf } from './index.js';
import { testPlace } from './fixtures.js';

const pots = 'plants-growing/pots-planters/indoor-pots';
const fixed = (value: string): Fill => ({ rule: { kind: 'fixed', value }, fit: [] });
const setup = (change: Partial<PlaceSetup>): PlaceSetup =>
  testPlace('orrivane', { categoryMap: new Map([['Pots', { target: pots }]]), ...change });
const variant = (id: number, brand: string): Variant => ({
  id,
  sku: `S${id}`,
  category: 'Pots',
  stock: 3,
  options: [['colour', 'Moss']],
  offers: {},
  texts: { title: { 'en-GB': 'A pot for herbs' } },
  facts: { brand },
});
const family: Family = {
  id: 9,
  title: 'Hollin',
  isSingle: false,
  variants: [variant(1, 'Hobnettle'), variant(2, 'Hobnettle'), variant(3, 'Other')],
};
const today = '2026-11-30';
const hobnettle: Preset = {
  id: 5,
  name: 'Hobnettle goods',
  condition: { attribute: 'brand', op: 'is', value: 'Hobnettle' },
  hand: new Map(),
};
const makers = (change: Partial<PlaceSetup>) =>
  compilePlace(setup(change))
    .evaluate(family, today)
    .map(({ values }) => values.maker);
const general: PlacedFill = { attribute: 'maker', fill: fixed('general') };

describe('a preset', () => {
  it('fills otherwise for the goods its condition holds of', () => {
    const fills = [general, { attribute: 'maker', preset: 5, fill: fixed('by preset') }];
    expect(makers({ fills, presets: [hobnettle] })).toEqual(['by preset', 'by preset', 'general']);
    // Fills of one that is gone reach nobody.
    expect(makers({ fills, presets: [] })).toEqual(['general', 'general', 'general']);
  });
  it('goes by a person before its condition, and a variant’s own word before its family’s', () => {
    const fills = [general, { attribute: 'maker', preset: 5, fill: fixed('by preset') }];
    const hand = new Map([
      [9, true],
      [2, false],
    ]);
    expect(makers({ fills, presets: [{ ...hobnettle, hand }] })).toEqual(['by preset', 'general', 'by preset']);
    const byHand: Preset = { id: 5, name: 'By hand', hand: new Map([[3, true]]) };
    expect(makers({ fills, presets: [byHand] })).toEqual(['general', 'general', 'by preset']);
  });
  it('stands before fills of a category, and the first of several before the others', () => {
    const fills: PlacedFill[] = [
      general,
      { attribute: 'maker', category: pots, fill: fixed('pots') },
      { attribute: 'maker', preset: 5, fill: fixed('five') },
      { attribute: 'maker', preset: 6, category: pots, fill: fixed('six') },
    ];
    const six: Preset = { id: 6, name: 'All', condition: { all: [] }, hand: new Map() };
    expect(makers({ fills, presets: [hobnettle, six] })).toEqual(['five', 'five', 'six']);
    expect(makers({ fills, presets: [six, hobnettle] })).toEqual(['six', 'six', 'six']);
    const place = compilePlace(setup({ fills, presets: [hobnettle, six] }));
    const [one] = family.variants;
    if (!one) throw new Error('no variant');
    expect(place.fitting(family, one, 'maker').map(({ preset, category }) => [preset, category])).toEqual([
      [5, undefined],
      [6, pots],
      [undefined, pots],
      [undefined, undefined],
    ]);
    expect(place.presets(family, one)).toEqual([5, 6]);
    expect(place.giving(family, one, 'maker', today)).toMatchObject({ by: 'fill', placed: { preset: 5 } });
    expect(place.trace(family, one, 'maker', today)[1]).toMatchObject({ words: 'By the preset “Hobnettle goods”' });
  });
  it('is named by the cause of what it gives and the channel does not take, or does not give', () => {
    const fills: PlacedFill[] = [general, { attribute: 'short', preset: 5, fill: fixed('') }];
    const [first, , third] = compilePlace(setup({ fills, presets: [hobnettle] })).evaluate(family, today);
    const causeOf = (result: typeof first) => result?.findings.find(({ attribute }) => attribute === 'short')?.cause;
    expect(causeOf(first)).toBe('fill:orrivane::short:#5#');
    expect(causeOf(third)).toBe('fill:orrivane::short');
  });
  it('whose condition compares what is no attribute is applied by hand alone', () => {
    const fills = [general, { attribute: 'maker', preset: 5, fill: fixed('by preset') }];
    const odd: Preset = {
      ...hobnettle,
      condition: { attribute: 'gone', op: 'is', value: 'x' },
      hand: new Map([[1, true]]),
    };
    expect(makers({ fills, presets: [odd] })).toEqual(['by preset', 'general', 'general']);
  });
});

describe('the slot of a fill', () => {
  it('is read back as it was named', () => {
    expect(slotOf({ market: 'GB' })).toEqual({ market: '', category: '', preset: null });
    const category = fc.string().filter((text) => !/^(?:!|#\d+#)/u.test(text));
    const preset = fc.option(fc.integer({ min: 1 }), { nil: undefined });
    fc.assert(
      fc.property(category, fc.boolean(), preset, (path, isOwn, number) => {
        const slot = slotName({
          ...(path === '' ? {} : { category: path }),
          ...(isOwn ? { market: 'SE' } : {}),
          ...(number === undefined ? {} : { preset: number }),
        });
        expect(slotOf({ market: 'SE', slot })).toEqual({
          market: isOwn ? 'SE' : '',
          category: path,
          preset: number ?? null,
        });
      }),
    );
  });
});
