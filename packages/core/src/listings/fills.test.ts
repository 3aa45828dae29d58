import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Family, Variant } from '../catalog/index.js';
import { type Fill, type FillRule, fillSources, ruleAt } from '../fills/index.js';
import { testAttribute } from '../values/fixtures.js';
import { AliasedMap, type ListValue } from '../values/index.js';
import { compileFill } from './fills.js';
import type { PlaceSetup } from './place.js';
import { testPlace } from './fixtures.js';
import type { View } from './sources.js';

const setup = testPlace('orrivane');
const variant: Variant = {
  id: 1,
  sku: 'S1',
  category: 'Pots',
  stock: 3,
  options: [
    ['colour', 'Moss'],
    ['diameter', '12 cm'],
  ],
  offers: { GBP: { regular: '6.99' } },
  texts: { title: { 'en-GB': 'Hollin pot', 'sv-SE': 'Hollin kruka' } },
  facts: {
    brand: 'Hobnettle',
    colour: 'Moss',
    pictures: [{ name: 'a.jpg', width: 800, height: 600 }, { name: 'b.jpg' }],
  },
};
const family: Family = { id: 9, title: 'Hollin', isSingle: false, variants: [variant] };
const view: View = { variant, family, today: '2026-11-24' };
const compiled = (rule: FillRule, fit: Fill['fit'] = []) => compileFill({ rule, fit }, setup);
const value = (rule: FillRule, fit: Fill['fit'] = []) => compiled(rule, fit).value(view);
const copy = (from: string): FillRule => ({ kind: 'copy', from });

describe('a copy', () => {
  it('reads texts in the place’s language, facts, and what is no attribute', () => {
    expect(value(copy('title'))).toBe('Hollin pot');
    expect(value(copy('brand'))).toBe('Hobnettle');
    expect(value(copy('price'))).toEqual({ kind: 'money', minor: 699, currency: 'GBP' });
    expect(value(copy('stock'))).toBe(3);
    expect(value(copy('asking'))).toEqual({ kind: 'money', minor: 699, currency: 'GBP' });
    expect(value(copy('options'))).toBe('colour Moss, diameter 12 cm');
    expect(value(copy('familyId'))).toBe('F9');
    expect(value(copy('mainPicture'))).toEqual({
      kind: 'pictures',
      pictures: [{ address: 'http://x/media/a.jpg', isOurs: true, width: 800, height: 600 }],
    });
  });
  it('gives nothing where there is nothing, and blames the catalog for it', () => {
    const fill = compiled(copy('material'));
    expect(fill.value(view)).toBeUndefined();
    expect(fill.blame(view).at).toBe('catalog');
  });
  it('of what nobody knows gives nothing, and blames the fill', () => {
    const fill = compiled(copy('nothingOfTheKind'));
    expect(fill.value(view)).toBeUndefined();
    expect(fill.blame(view)).toEqual({ at: 'fill' });
  });
  it('of a sale is sent ahead of its day only where both dates go with it', () => {
    const on = (sale: { amount: string; from?: string; to?: string }, today = '2026-11-24') =>
      compiled(copy('salePrice')).value({
        ...view,
        today,
        variant: { ...variant, offers: { GBP: { regular: '10.00', sale } } },
      });
    const open = { amount: '8.00', from: '2026-12-24' };
    expect(on(open)).toBeUndefined();
    expect(on(open, '2026-12-24')).toMatchObject({ minor: 800 });
    expect(on({ ...open, to: '2026-12-31' })).toMatchObject({ minor: 800 });
    expect(on({ amount: '8.00' })).toMatchObject({ minor: 800 });
    expect(on({ amount: '8.00', to: '2026-11-23' })).toBeUndefined();
    expect(on({ amount: '8.00', to: '2026-11-24' })).toMatchObject({ minor: 800 });
  });
  it('never sends less than no stock', () => {
    const sold = { ...view, variant: { ...variant, stock: -4 } };
    expect(compiled(copy('stock')).value(sold)).toBe(0);
  });
});

describe('a price converted', () => {
  const rule: FillRule = { kind: 'convert', from: 'asking', currency: 'GBP' };
  const rates = new Map([['GBP', { rate: '12.64', source: 'the bank', day: '2026-11-20' }]]);
  const abroad = (known: PlaceSetup['rates']) =>
    compileFill({ rule, fit: [] }, { ...setup, currency: 'SEK', ...(known ? { rates: known } : {}) });
  it('is ours at the company’s rate, to the smallest coin, and says so', () => {
    const fill = abroad(rates);
    expect(fill.value(view)).toEqual({ kind: 'money', minor: 8835, currency: 'SEK' });
    expect(fill.trace(view).map(({ words }) => words)).toEqual([
      'Converts price asked today from GBP at 12.64 SEK (the bank, 2026-11-20)',
      'price asked today in the catalog',
    ]);
  });
  it('is nothing without a rate, which is the fill’s fault, nor without a price, which is the catalog’s', () => {
    const fill = abroad(undefined);
    expect(fill.value(view)).toBeUndefined();
    expect(fill.blame(view)).toEqual({ at: 'fill' });
    const none = { ...view, variant: { ...variant, offers: {} } };
    expect(abroad(rates).value(none)).toBeUndefined();
    expect(abroad(rates).blame(none).at).toBe('catalog');
  });
  it('of what is no price is nothing; in the place’s own currency it is as it is', () => {
    expect(value({ kind: 'convert', from: 'brand', currency: 'SEK' })).toBeUndefined();
    expect(value(rule)).toEqual({ kind: 'money', minor: 699, currency: 'GBP' });
  });
});

describe('when … then', () => {
  const rule: FillRule = {
    kind: 'when',
    cases: [
      { if: { attribute: 'stock', op: 'atLeast', value: '10' }, then: { kind: 'fixed', value: 'many' } },
      { if: { attribute: 'brand', op: 'is', value: 'Hobnettle' }, then: copy('brand') },
    ],
    otherwise: { kind: 'fixed', value: 'none' },
  };
  const of = (change: Partial<Variant>) => compiled(rule).value({ ...view, variant: { ...variant, ...change } });
  it('passes over a case that compares what nobody knows', () => {
    const unknown = { if: { attribute: 'nothingOfTheKind', op: 'isEmpty' as const }, then: copy('title') };
    expect(value({ ...rule, cases: [unknown, ...rule.cases] })).toBe('Hobnettle');
    expect(value({ ...rule, cases: [{ ...unknown, if: { not: unknown.if } }] })).toBe('none');
  });
  it('takes the first case that holds, else what there is otherwise', () => {
    expect(of({ stock: 10 })).toBe('many');
    expect(of({})).toBe('Hobnettle');
    expect(of({ facts: {} })).toBe('none');
    expect(
      compiled({ ...rule, otherwise: null }).value({ ...view, variant: { ...variant, facts: {} } }),
    ).toBeUndefined();
  });
  it('reads what its conditions and its cases read', () =>
    expect([...new Set(fillSources(rule))].sort()).toEqual(['brand', 'stock']));
});

describe('a unit', () => {
  it.each([
    ['1.2 kg', 'g', '1200 g'],
    ['370 g', 'g', '370 g'],
    ['0.4994 kg', 'g', '499 g'],
    ['12 cm', 'g', '12 cm'],
    ['heavy', 'g', 'heavy'],
  ])('%s in %s is %s', (from, unit, to) =>
    expect(value({ kind: 'fixed', value: from }, [{ do: 'in-unit', unit, whole: true }])).toBe(to),
  );
});

describe('a composition', () => {
  const parts: FillRule = {
    kind: 'compose',
    parts: [{ from: 'brand', after: ' –' }, { text: ' ' }, { from: 'title' }, { from: 'material', before: ' of ' }],
  };
  it('leaves what stands around a part out with the part', () => {
    expect(value(parts)).toBe('Hobnettle – Hollin pot');
  });
  it('is nothing where none of its parts is anything', () => {
    expect(value({ kind: 'compose', parts: [{ text: 'only ' }, { from: 'material' }] })).toBeUndefined();
  });
  it('never has two spaces together, nor one at an end', () => {
    const text = fc.stringMatching(/^[ a-z]{0,6}$/);
    fc.assert(
      fc.property(fc.array(text, { maxLength: 4 }), (texts) => {
        const made = value({ kind: 'compose', parts: [...texts.map((text) => ({ text: text })), { from: 'brand' }] });
        expect(made).toMatch(/^\S+( \S+)*$/);
      }),
    );
  });
  it('names what it is composed of in its trace', () => {
    const [first, ...rest] = compiled(parts).trace(view);
    expect(first?.words).toMatch(/^Composed from brand, title/i);
    expect(rest.map((step) => step.value)).toContain('Hollin pot');
  });
});

describe('a translation', () => {
  const translate = (table: Record<string, string>, otherwise: 'keep' | 'empty'): FillRule => ({
    kind: 'translate',
    from: 'colour',
    table,
    otherwise,
  });
  it('finds words whatever their case, the exact one first', () => {
    expect(value(translate({ moss: 'green' }, 'empty'))).toBe('green');
    expect(value(translate({ MOSS: 'brown', Moss: 'green' }, 'empty'))).toBe('green');
  });
  it('keeps or drops what is not in its table, and blames the table for what is missing', () => {
    expect(value(translate({ Chalk: 'white' }, 'keep'))).toBe('Moss');
    const dropping = compiled(translate({ Chalk: 'white' }, 'empty'));
    expect(dropping.value(view)).toBeUndefined();
    expect(dropping.blame(view)).toEqual({ at: 'translation', value: 'Moss' });
  });
  it('of goods without a value blames the catalog, not the table', () => {
    const bare = { ...view, variant: { ...variant, facts: {} } };
    expect(compiled(translate({ Moss: 'green' }, 'empty')).blame(bare).at).toBe('catalog');
  });
});

describe('the first that is not empty', () => {
  it('goes on to the next, and to the fixed value at the end', () => {
    const rule = (...of: FillRule[]): FillRule => ({ kind: 'first', of });
    expect(value(rule(copy('material'), copy('brand')))).toBe('Hobnettle');
    expect(value(rule(copy('material'), { kind: 'fixed', value: 'unknown' }))).toBe('unknown');
    expect(value(rule(copy('material'), copy('finish')))).toBeUndefined();
  });
});

describe('which rule serves', () => {
  const path = (rule: FillRule) => compiled(rule).serving?.(view) ?? [];
  const empty = copy('material');
  const when = (holds: boolean, then: FillRule, otherwise: FillRule | null): FillRule => ({
    kind: 'when',
    cases: [
      { if: { attribute: 'brand', op: 'is', value: 'Nobody' }, then: copy('sku') },
      { if: { attribute: 'brand', op: 'is', value: holds ? 'Hobnettle' : 'Nobody else' }, then },
    ],
    otherwise,
  });
  it('is the rule itself where there is none inside', () => expect(path(copy('brand'))).toEqual([]));
  it('is the first with a value, and the case that holds, however deep', () => {
    expect(path({ kind: 'first', of: [empty, copy('brand')] })).toEqual([1]);
    expect(path(when(true, { kind: 'first', of: [empty, copy('title')] }, null))).toEqual([1, 1]);
    expect(path(when(false, copy('title'), copy('brand')))).toEqual([2]);
    expect(path({ kind: 'first', of: [empty, when(true, copy('title'), null)] })).toEqual([1, 1]);
  });
  it('is none where nothing gives a value', () =>
    expect(path({ kind: 'first', of: [empty, copy('finish')] })).toEqual([]));
  it('leads down to a rule that gives the same', () => {
    const rules: fc.Arbitrary<FillRule> = fc.letrec<{ rule: FillRule }>((tie) => ({
      rule: fc.oneof(
        { maxDepth: 3 },
        fc.constantFrom<FillRule>(copy('brand'), copy('title'), empty, { kind: 'fixed', value: 'x' }),
        fc.array(tie('rule'), { minLength: 1, maxLength: 3 }).map((of): FillRule => ({ kind: 'first', of })),
        fc
          .tuple(fc.boolean(), tie('rule'), fc.option(tie('rule')))
          .map(([holds, then, otherwise]) => when(holds, then, otherwise)),
      ),
    })).rule;
    fc.assert(
      fc.property(rules, (rule) => {
        const served = ruleAt(rule, path(rule));
        const given = value(rule);
        expect(served).toBeDefined();
        if (served && given !== undefined) expect(value(served)).toEqual(given);
      }),
      { seed: 30 },
    );
  });
});

describe('fits', () => {
  it('are done in their order, on texts alone', () => {
    const steps: Fill['fit'] = [
      { do: 'replace', find: 'pot', with: 'planter of stoneware' },
      { do: 'trim-at-word', length: 17 },
    ];
    expect(value(copy('title'), steps)).toBe('Hollin planter of');
    expect(value(copy('price'), steps)).toMatchObject({ minor: 699 });
    expect(value(copy('material'), steps)).toBeUndefined();
  });
  it.each([
    [copy('price'), '6.99 GBP'],
    [{ kind: 'compose', parts: [{ text: 'now ' }, { from: 'price' }] } as FillRule, '6.99 GBP'],
    [{ kind: 'first', of: [copy('salePrice'), copy('price')] } as FillRule, '6.99 GBP'],
  ])('write a price as a price in the trace', (rule, said) => {
    expect(compiled(rule).trace(view).at(-1)).toMatchObject({ at: 'catalog', value: said });
  });

  it('write a price as a price in a composed text, and keep what is copied in minor units', () => {
    expect(value({ kind: 'compose', parts: [{ text: 'now ' }, { from: 'price' }] })).toBe('now 6.99 GBP');
    expect(value(copy('price'))).toEqual({ kind: 'money', minor: 699, currency: 'GBP' });
  });

  it('say in the trace what they did, before where the value came from', () => {
    const trace = compiled(copy('title'), [{ do: 'trim-at-word', length: 6 }]).trace(view);
    expect(trace.map((step) => [step.at, step.value])).toEqual([
      ['fit', 'Hollin'],
      ['fill', undefined],
      ['catalog', 'Hollin pot'],
    ]);
  });
});

describe('a fill that names what was made one with another', () => {
  const held: ListValue[] = [
    { key: 'moss', names: { en: 'Moss' } },
    { key: 'fern', names: { en: 'Fern' }, mergedInto: 'moss' },
  ];
  const shade = testAttribute({ key: 'shade', label: 'Shade', type: 'choice', choices: held });
  const merged = {
    ...setup,
    dictionary: new AliasedMap([['shade', shade]], new Map([['tint', 'shade']])),
  };
  const shaded: View = { ...view, variant: { ...variant, facts: { shade: 'moss' } } };
  const gives = (rule: FillRule) => compileFill({ rule, fit: [] }, merged).value(shaded);

  it('reads the one that is left', () => expect(gives(copy('tint'))).toBe('Moss'));
  it('compares it in its cases', () => {
    const is = (attribute: string, value: string): FillRule => ({
      kind: 'when',
      cases: [{ if: { attribute, op: 'is', value }, then: { kind: 'fixed', value: 'yes' } }],
      otherwise: { kind: 'fixed', value: 'no' },
    });
    expect(gives(is('tint', 'moss'))).toBe('yes');
    expect(gives(is('shade', 'fern'))).toBe('yes');
    expect(gives(is('tint', 'slate'))).toBe('no');
  });
  it('translates it by the words of either, the one that is left first', () => {
    const by = (table: Record<string, string>): FillRule => ({
      kind: 'translate',
      from: 'tint',
      table,
      otherwise: 'empty',
    });
    expect(gives(by({ fern: 'green' }))).toBe('green');
    expect(gives(by({ fern: 'green', moss: 'dark green' }))).toBe('dark green');
  });
});
