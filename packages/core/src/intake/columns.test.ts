import { describe, expect, it } from 'vitest';
import { testAttribute } from '../values/fixtures.js';
import type { Attribute } from '../values/index.js';
import {
  type ColumnMap,
  compileRowReader,
  completeMap,
  guessLanguage,
  learnWords,
  mergeContent,
  suggestColumns,
  suggestScope,
  withFileCurrency,
} from './index.js';

const months = 'January February March April May June July August September October November December'.split(' ');
const dictionary = new Map(
  (
    [
      { key: 'title', type: 'text', perLanguage: true },
      { key: 'brand', type: 'text' },
      { key: 'gtin', type: 'text' },
      { key: 'category', type: 'choice', choices: ['Seeds/Herbs'] },
      { key: 'height', type: 'measure', dimension: 'length' },
      { key: 'diameter', type: 'measure', dimension: 'length' },
      { key: 'power', type: 'measure', dimension: 'power' },
      { key: 'weight', type: 'measure', dimension: 'mass' },
      { key: 'germination', type: 'text' },
      { key: 'sowingMonths', label: 'Sowing months', type: 'choice', many: true, choices: months },
      { key: 'purchasePrice', label: 'Purchase price', type: 'money' },
    ] as (Partial<Attribute> & Pick<Attribute, 'key' | 'type'>)[]
  ).map((row): [string, Attribute] => [row.key, testAttribute(row)]),
);
const suggest = (columns: string[], sample: string[][], change = {}) =>
  suggestColumns({ columns, sample, dictionary, language: 'en-GB', languages: ['en-GB', 'de-DE', 'sv-SE'], ...change });
const style = { decimal: ',', dateOrder: 'dmy' } as const;
const read = (columns: string[], map: ColumnMap, cells: string[]) => {
  const row = compileRowReader({ columns, map, style, dictionary, home: 'en-GB' }).read(cells);
  if (row.outcome !== 'read') throw new Error(row.reasons[0]);
  return row;
};

describe('suggestions', () => {
  it('know the trade’s words in German and Swedish, and units in brackets', () => {
    const found = suggest(['Artikelnummer', 'Höjd [cm]', 'Max. Leistung', 'Benämning'], [['A', '12', '24 W', 'Kruka']]);
    expect(found.map((suggestion) => suggestion.target)).toEqual([
      { to: 'key' },
      { to: 'attribute', attribute: 'height', unit: 'cm' },
      { to: 'attribute', attribute: 'power' },
      { to: 'attribute', attribute: 'title', language: 'sv-SE' },
    ]);
  });
  it('read paths of nested items: the variant’s code is the key, the item’s id the family, units stand beside', () => {
    const found = suggest(
      [
        'id',
        'height.value',
        'height.unit',
        'packets.code',
        'packets.price',
        'germination.@from',
        'germination.@to',
        'germination.@unit',
      ],
      [['K', '40', 'cm', 'K-1', '1.20', '6', '12', 'days']],
      { isNested: true, variantPath: 'packets', isOwn: false, currency: 'GBP' },
    );
    expect(found.map((suggestion) => suggestion.target)).toEqual([
      { to: 'family' },
      { to: 'attribute', attribute: 'height', unitFrom: 'height.unit' },
      { to: 'ignore' },
      { to: 'key' },
      { to: 'attribute', attribute: 'purchasePrice', currency: 'GBP' },
      { to: 'attribute', attribute: 'germination' },
      { to: 'attribute', attribute: 'germination', join: '–' },
      { to: 'attribute', attribute: 'germination', join: ' ' },
    ]);
  });
  describe('in a file of families', () => {
    const rows = (names: [family: string, text: string][]) =>
      names.flatMap(([family, text], i) => [1, 2, 3].map((n) => [`A-${i}${n}`, family, text, String(n)]));
    const titled = (names: [string, string][]) => suggest(['Article no.', 'Parent SKU', 'Name', 'No.'], rows(names))[2];

    it('a text of each family is their title, however often rows repeat it', () => {
      const names: [string, string][] = ['Oak bench', 'Ash stool', 'Elm table', 'Pine shelf'].map((name, i) => [
        `F${i}`,
        `${name}, oiled`,
      ]);
      const found = titled(names);
      expect(found?.target).toMatchObject({ to: 'attribute', attribute: 'title' });
      expect(found?.score).toBeGreaterThan(90);
    });
    it('a text that several families share is none', () => {
      const names: [string, string][] = ['F0', 'F1', 'F2', 'F3', 'F4', 'F5'].map((family, i) => [
        family,
        i < 3 ? 'Hearth & Home' : 'Garden Days',
      ]);
      expect(titled(names)?.target).toEqual({ to: 'ignore' });
    });
  });
  it('take sizes of several parts apart as the header names them, and leave them where it does not', () => {
    const rows = [
      ['A', '12 x 20 cm'],
      ['B', '14 x 22 cm'],
      ['C', '9 x 9 cm'],
    ];
    expect(
      suggest(['SKU', 'Maße (Ø x H)'], rows)
        .slice(1)
        .map(({ target }) => target),
    ).toEqual([
      { to: 'attribute', attribute: 'diameter', part: 1 },
      { to: 'attribute', attribute: 'height', part: 2 },
    ]);
    expect(suggest(['SKU', 'Maße'], rows)[1]?.target).toEqual({ to: 'ignore' });
  });
  it('let two columns feed one thing only where no row has both, as on two sheets', () => {
    const apart = suggest(
      ['Art. no.', 'Artikelnr'],
      [
        ['A', ''],
        ['', 'B'],
      ],
    );
    expect(apart.map((suggestion) => suggestion.target.to)).toEqual(['key', 'key']);
    const both = suggest(['Art. no.', 'Artikelnr'], [['A', 'B']]);
    expect(both[1]).toMatchObject({ target: { to: 'ignore' }, why: '“Art. no.” already fills what its name suggests' });
  });
  it('keep what was confirmed before, and the words learnt then', () => {
    const remembered: ColumnMap = [{ column: 'Gruppe', target: { to: 'attribute', attribute: 'category' } }];
    const learnt = new Map([['category', { Kräuter: 'Seeds/Herbs' }]]);
    expect(suggest(['Gruppe'], [['Kräuter']], { remembered, learnt })[0]).toMatchObject({
      score: 100,
      target: { attribute: 'category', values: { Kräuter: 'Seeds/Herbs' } },
    });
  });
  it('tell the language of texts', () => {
    expect(guessLanguage(['Die Wand ist dünn und der Boden stark, damit nichts kippt', 'mit und ohne'])).toBe('de');
    expect(guessLanguage(['Moss'])).toBeUndefined();
  });
  it('are in the languages of the company, whatever those are', () => {
    const [title] = suggest(['Bezeichnung'], [['Schale mit Untersetzer']], {
      language: 'fr-BE',
      languages: ['fr-BE', 'de-AT'],
    });
    expect(title?.target).toMatchObject({ attribute: 'title', language: 'de-AT' });
    const [own] = suggest(['Title (sv)'], [['Kruka']], { language: 'fr-BE', languages: ['fr-BE'] });
    expect(own?.target).toMatchObject({ language: 'fr-BE' });
  });
});

describe('a row', () => {
  const key = { column: 'A', target: { to: 'key' } } as const;
  it('puts columns together, takes parts of a cell, and lets the first of several count', () => {
    const row = read(
      ['A', 'B', 'C', 'D', 'E'],
      [
        key,
        { column: 'B', target: { to: 'attribute', attribute: 'germination' } },
        { column: 'C', target: { to: 'attribute', attribute: 'germination', join: '–' } },
        { column: 'D', target: { to: 'attribute', attribute: 'diameter', part: 1 } },
        { column: 'D', target: { to: 'attribute', attribute: 'height', part: 2 } },
        { column: 'E', target: { to: 'attribute', attribute: 'height', unit: 'cm' } },
      ],
      ['1', '6', '12', '12 × 20,5 cm', '99'],
    );
    expect(row.values).toMatchObject({
      germination: '6–12',
      diameter: { amount: '12', unit: 'cm' },
      height: { amount: '20.5', unit: 'cm' },
    });
  });
  it('takes the unit or currency from the column beside, row by row', () => {
    const map: ColumnMap = [
      key,
      { column: 'B', target: { to: 'attribute', attribute: 'height', unitFrom: 'C' } },
      { column: 'D', target: { to: 'price', kind: 'regular', currency: 'GBP', currencyFrom: 'E' } },
    ];
    const row = read(['A', 'B', 'C', 'D', 'E'], map, ['1', '3', 'in', '9,90', 'sek']);
    expect(row.values.height).toMatchObject({ unit: 'in', base: 0.0762 });
    expect(row.offer.regular).toEqual({ SEK: '9.9' });
  });
  it.each([
    ['Mar–May', 'March April May'],
    ['Mar to May; Sep', 'March April May September'],
    ['Oct-Jan', 'October November December January'],
    ['March, April', 'March April'],
    ['all year', months.join(' ')],
  ])('reads the span %s', (cell, list) => {
    const row = read(
      ['A', 'B'],
      [key, { column: 'B', target: { to: 'attribute', attribute: 'sowingMonths' } }],
      ['1', cell],
    );
    expect(row.values.sowingMonths).toEqual(list.split(' '));
  });
  it('decodes HTML entities however often they were escaped', () => {
    const row = read(
      ['A', 'B'],
      [key, { column: 'B', target: { to: 'attribute', attribute: 'brand' } }],
      ['1', 'Basil &amp;amp;lsquo;Ombrel&rsquo;'],
    );
    expect(row.values.brand).toBe('Basil ‘Ombrel’');
  });
});

it('words of a supplier are learnt where most goods that both sides describe agree', () => {
  const words = learnWords([
    ['Waldgrün', 'Moss'],
    ['Waldgrün', 'Moss'],
    ['waldgrün', 'Slate'],
    ['Kalk', 'Chalk'],
    ['Sage', 'Sage'],
    ['Sage', 'Sage'],
  ]);
  expect(words).toEqual([{ value: 'Waldgrün', ours: 'Moss', agree: 2, seen: 3 }]);
});

it('a file of prices and stock alone updates goods, and leaves the rest of a record as it was', () => {
  const fast: ColumnMap = [
    { column: 'Nr', target: { to: 'key' } },
    { column: 'Netto', target: { to: 'attribute', attribute: 'purchasePrice' } },
    { column: 'Bestand', target: { to: 'stock' } },
  ];
  const same = { listed: 100, rows: 90, known: 80, ofRows: 90 };
  expect(suggestScope(fast, same, dictionary)).toBe('update');
  const described: ColumnMap = [...fast, { column: 'Name', target: { to: 'attribute', attribute: 'title' } }];
  const scopeOf = (overlap: Partial<typeof same>) => suggestScope(described, { ...same, ...overlap }, dictionary);
  expect(scopeOf({})).toBe('whole');
  expect(scopeOf({ listed: 0, known: 0 })).toBe('some');
  expect(scopeOf({ known: 30 })).toBe('some');
  expect(scopeOf({ rows: 5, known: 5, ofRows: 5 })).toBe('some');
  expect(scopeOf({ listed: 90_000, rows: 2000, known: 1990, ofRows: 88_000 })).toBe('whole');
  const held = { family: 'F', values: { brand: 'B' }, offer: { regular: { GBP: '9' }, stock: 3 } };
  expect(mergeContent(held, { values: {}, offer: { regular: { EUR: '11' }, stock: 5 } })).toEqual({
    family: 'F',
    values: { brand: 'B' },
    offer: { regular: { GBP: '9', EUR: '11' }, stock: 5 },
  });
});

describe('a supplier that makes what it sells', () => {
  const columns = ['Code', 'Name', 'Brand'];
  const textual = (key: string): [string, Attribute] => [key, testAttribute({ key })];
  const named = new Map([...dictionary, textual('brand'), textual('mpn')]);
  const suggested = (supplier: string, brands: string[], more: string[] = []) =>
    suggestColumns({
      columns: [...columns, ...more],
      sample: brands.map((brand, i) => [`KG-${i}`, `Seed ${i}`, brand, ...more.map(() => `M-${i}`)]),
      dictionary: named,
      language: 'en-GB',
      supplier,
    })
      .filter(({ target }) => target.to === 'attribute' && target.attribute === 'mpn')
      .map((suggestion) => suggestion.column);

  it('gives its article numbers as part numbers', () => {
    expect(suggested('Kestrelgate Seeds', ['Kestrelgate', 'KESTRELGATE'])).toEqual(['Code']);
  });
  it('does not where it sells for others, or names the part number itself', () => {
    expect(suggested('Kestrelgate Seeds', ['Kestrelgate', 'Wefterby'])).toEqual([]);
    expect(suggested('Wholesale Ltd', ['Kestrelgate', 'Kestrelgate'])).toEqual([]);
    expect(suggested('Kestrelgate Seeds', ['Kestrelgate', 'Kestrelgate'], ['MPN'])).toEqual(['MPN']);
  });
});

describe('figures whose unit or currency stands elsewhere', () => {
  it('are in the currency of the column of currencies, and in the unit of the column right of them', () => {
    const found = suggest(
      ['SKU', 'Selling price', 'Currency', 'Weight', 'Unit'],
      [
        ['A', '12.50', 'CHF', '3', 'KGM'],
        ['B', '14.00', 'CHF', '400', 'GRM'],
      ],
      { isOwn: true },
    );
    expect(found.map((suggestion) => suggestion.target)).toEqual([
      { to: 'key' },
      { to: 'price', kind: 'regular', currency: 'CHF', currencyFrom: 'Currency' },
      { to: 'ignore' },
      { to: 'attribute', attribute: 'weight', unitFrom: 'Unit' },
      { to: 'ignore' },
    ]);
  });
  it('keep what header and neighbour say where a person chooses the column', () => {
    const setup = {
      columns: ['Nr', 'Hight [mm]', 'Wt', 'UOM', 'VK in CHF'],
      sample: [['A', '12', '3', 'KGM', '4.50']],
      dictionary,
      language: 'en-GB',
    };
    const map = completeMap(
      [
        { column: 'Hight [mm]', target: { to: 'attribute', attribute: 'height' } },
        { column: 'Wt', target: { to: 'attribute', attribute: 'weight' } },
        { column: 'VK in CHF', target: { to: 'price', kind: 'regular' } },
      ],
      setup,
    );
    expect(map.map((row) => row.target)).toEqual([
      { to: 'attribute', attribute: 'height', unit: 'mm' },
      { to: 'attribute', attribute: 'weight', unitFrom: 'UOM' },
      { to: 'price', kind: 'regular', currency: 'CHF' },
    ]);
  });
  it('are in the currency a person says once for the file, unless their column names another', () => {
    const setup = {
      columns: ['Nr', 'Price', 'Preis EUR'],
      sample: [['A', '1', '2']],
      dictionary,
      language: 'en-GB',
      languages: ['en-GB', 'de-DE', 'sv-SE'],
    };
    const map = withFileCurrency(
      [
        { column: 'Price', target: { to: 'price', kind: 'regular', currency: 'GBP' } },
        { column: 'Preis EUR', target: { to: 'price', kind: 'regular', currency: 'EUR' } },
      ],
      setup,
      'PLN',
    );
    expect(map.map((row) => (row.target as { currency?: string }).currency)).toEqual(['PLN', 'EUR']);
  });
});
