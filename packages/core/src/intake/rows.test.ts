import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { testAttribute } from '../values/fixtures.js';
import { type Attribute, canonical } from '../values/index.js';
import { parseRows } from '../tabular/index.js';
import {
  compileRowReader,
  contentChanges,
  contentOf,
  joinKeys,
  mappingFaults,
  mergeContent,
  sameForFamily,
  suggestColumns,
} from './index.js';

const file = (name: string) => readFileSync(new URL(`../../../../demo/files/intake/${name}`, import.meta.url));
const attributes: Attribute[] = (
  [
    ['title', 'text'],
    ['description', 'richText'],
    ['category', 'choice'],
    ['brand', 'text'],
    ['gtin', 'text'],
    ['mpn', 'text'],
    ['glaze', 'text'],
    ['colour', 'text'],
    ['diameter', 'measure', 'length'],
    ['height', 'measure', 'length'],
    ['volume', 'measure', 'volume'],
    ['weight', 'measure', 'mass'],
    ['material', 'text'],
    ['state', 'choice'],
    ['pictures', 'media'],
    ['purchasePrice', 'money'],
    ['recommendedPrice', 'money'],
    ['frostProof', 'boolean'],
  ] as const
).map(([key, type, dimension]) =>
  testAttribute({
    key,
    type,
    many: key === 'pictures',
    perLanguage: key === 'title' || key === 'description',
    ...(dimension ? { dimension } : {}),
    ...(key === 'state' ? { choices: ['selling', 'paused', 'withdrawn'] } : {}),
  }),
);
const dictionary = new Map(attributes.map((attribute) => [attribute.key, attribute]));

function readAll(rows: string[][], decimal: '.' | ',') {
  const [columns = [], ...body] = rows;
  const map = suggestColumns({
    columns,
    sample: body.slice(0, 50),
    dictionary,
    language: 'en-GB',
    languages: ['en-GB', 'de-DE', 'sv-SE'],
  }).map(({ column, target }) => ({ column, target }));
  expect(mappingFaults(map)).toEqual([]);
  const { read } = compileRowReader({ columns, map, style: { decimal, dateOrder: 'ymd' }, dictionary, home: 'en-GB' });
  return body.map((cells) => read(cells));
}

describe('the pottery file', () => {
  const text = new TextDecoder('latin1').decode(file('brackwater-pottery.csv'));
  const rows = readAll(parseRows(text.replace(/\r\n$/, ''), ';'), ',');
  const good = rows.flatMap((row) => (row.outcome === 'read' ? [row] : []));
  const reasons = rows.flatMap((row) => (row.outcome === 'refused' ? row.reasons : []));
  const count = (part: string) => reasons.filter((reason) => reason.includes(part)).length;

  it('has 197 records, of which 179 can be used', () => {
    expect(rows.length).toBe(197);
    expect(good.length).toBe(179);
  });
  it('says why each of the others cannot', () => {
    expect(count('without an article number')).toBe(3);
    expect(count('was cut off')).toBe(5);
    expect(count('holds the separator')).toBe(2);
    expect(count('stands on an earlier row')).toBe(4);
    expect(count('header stands here again')).toBe(1);
    expect(count('row is empty')).toBe(2);
    expect(count('totals row')).toBe(1);
  });
  it('makes 28 families', () => expect(new Set(good.map((row) => row.family)).size).toBe(28));
  it('finds the faults in the cells', () => {
    const noted = (part: string) => good.filter((row) => row.notes.some((note) => note.note.includes(part))).length;
    expect(noted('a script')).toBe(6);
    expect(noted('an iframe')).toBe(5);
    expect(noted('inline styles')).toBe(7);
    expect(noted('wrong check digit')).toBe(5);
    expect(good.filter((row) => row.values['description@de-DE'] === undefined).length).toBe(6);
    expect(good.filter((row) => row.values.gtin === undefined).length).toBe(5);
    expect(good.filter((row) => row.values.state === 'withdrawn').length).toBe(6);
    expect(good.filter((row) => (row.values.weight as { unit?: string } | undefined)?.unit === 'g').length).toBe(6);
    expect(good.filter((row) => row.values.pictures === undefined).length).toBe(6);
  });
});

describe('the own sheet', () => {
  const rows = readAll(
    parseRows(
      file('mosswick-own.tsv')
        .toString('utf8')
        .replace(/^\uFEFF/, '')
        .replace(/\n$/, ''),
      '\t',
    ),
    '.',
  );
  const good = rows.flatMap((row) => (row.outcome === 'read' ? [row] : []));
  it('has 417 rows in 76 families, all readable', () => {
    expect(good.length).toBe(417);
    expect(new Set(good.map((row) => row.family)).size).toBe(76);
  });
  it('reads prices with a pound sign, sales and stock', () => {
    expect(good.filter((row) => row.offer.regular?.GBP !== undefined).length).toBe(417);
    expect(good.filter((row) => row.offer.sale !== undefined).length).toBe(31);
    expect(good.filter((row) => (row.offer.stock ?? 0) < 0).length).toBe(6);
    expect(good.filter((row) => Number(row.offer.regular?.GBP) === 0).length).toBe(5);
  });
  it('finds GTINs that cannot be right', () => {
    const noted = (part: string) => good.filter((row) => row.notes.some((note) => note.note.includes(part))).length;
    expect(noted('wrong check digit')).toBe(6);
    expect(noted('has dropped')).toBe(6);
    expect(noted('leading zero')).toBe(5);
    expect(good.filter((row) => row.values.gtin === undefined).length).toBe(72);
  });
  it('takes a supplier’s number as a key only where there is neither GTIN nor MPN', () => {
    const keys = good.map((row) =>
      joinKeys(row, { id: 1, isOwn: true }, (name) => (name === 'Brackwater Pottery' ? 2 : undefined), dictionary),
    );
    expect(keys.filter((key) => key.number !== undefined && (key.gtin ?? key.mpn) !== undefined)).toEqual([]);
  });
  it('keeps contents with their keys in order, so that equal goods have equal text', () => {
    for (const row of good) expect(JSON.stringify(contentOf(row))).toBe(canonical(contentOf(row)));
  });
  it('lays news over what is held, and leaves what they do not mention', () => {
    const [first] = good;
    if (!first) throw new Error('no rows');
    const held = contentOf(first);
    const news = contentOf({ ...first, family: undefined, options: [], values: {}, offer: { regular: { SEK: '9' } } });
    const merged = mergeContent(held, news);
    expect(merged.offer.regular).toEqual({ ...held.offer.regular, SEK: '9' });
    expect(canonical({ ...merged, offer: { ...merged.offer, regular: held.offer.regular } })).toBe(canonical(held));
  });
  it('names what changes, field by field', () => {
    const [first, second] = good;
    if (!first || !second) throw new Error('no rows');
    expect(contentChanges(contentOf(first), contentOf(first))).toEqual([]);
    const changed = contentOf({
      ...first,
      offer: { ...first.offer, stock: 5 },
      values: { ...first.values, brand: 'Other' },
    });
    expect(
      contentChanges(contentOf(first), changed)
        .map((change) => change.field)
        .sort(),
    ).toEqual(['brand', 'stock']);
  });
});

it('refuses a mapping without an article number, or with one column for the same thing twice', () => {
  expect(mappingFaults([{ column: 'A', target: { to: 'stock' } }])[0]).toContain('article number');
  const twice = { column: 'A', target: { to: 'stock' } } as const;
  expect(mappingFaults([{ column: 'K', target: { to: 'key' } }, twice, twice])[0]).toContain('“A”');
});

describe('news that concern one variant alone', () => {
  const levels = new Map(
    attributes.map((attribute) => [
      attribute.key,
      { ...attribute, level: attribute.key === 'brand' ? 'family' : 'variant' } as Attribute,
    ]),
  );
  const before = {
    family: 'Fell',
    options: [['glaze', 'Moss']] as [string, string][],
    values: { brand: 'Brackwater', 'title@en-GB': 'Fell pot', weight: { amount: '1', unit: 'kg', base: 1 } },
    offer: { stock: 3 },
  };
  it('are its own values, texts, prices and stock', () => {
    const after = { ...before, values: { ...before.values, 'title@en-GB': 'Fell pot, Moss' }, offer: { stock: 9 } };
    expect(sameForFamily(before, after, levels)).toBe(true);
  });
  it.each([
    ['another family', { ...before, family: 'Tarn' }],
    ['no family any more', { values: before.values, options: before.options, offer: before.offer }],
    ['another option', { ...before, options: [['glaze', 'Chalk']] as [string, string][] }],
    ['a value the family shares', { ...before, values: { ...before.values, brand: 'Other' } }],
    ['a shared value gone', { ...before, values: { 'title@en-GB': 'Fell pot' } }],
  ])('are not: %s', (_, after) => expect(sameForFamily(before, after, levels)).toBe(false));
});
