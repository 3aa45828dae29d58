/** What is made of the columns of suppliers’ files of many trades and languages, judged against what they are. */
import { describe, expect, it } from 'vitest';
import { startSet } from '../catalog/index.js';
import { suggestColumns } from './index.js';
import { cellsOf, labelledFiles } from './fixtures.js';

const dictionary = new Map(startSet.map((attribute) => [attribute.key, attribute]));
const rows = 24;

interface Judged {
  header: string;
  expected: string;
  is: string;
  score: number;
  /** Of what is right, whether it is read in the unit or currency it is in. */
  figures: boolean | undefined;
}

function judge({ columns, language, currency, isOwn = false }: (typeof labelledFiles)[number]): Judged[] {
  const listed = columns.split('|').map((column) => column.split('~'));
  const cells = listed.map(([, kind = '']) => cellsOf(kind, rows));
  const found = suggestColumns({
    columns: listed.map(([header = '']) => header),
    sample: Array.from({ length: rows }, (_, i) => cells.map((column) => column[i] ?? '')),
    dictionary,
    language,
    languages: [language],
    currency,
    isOwn,
    style: { decimal: ',', dateOrder: 'dmy' },
    pricesWithVat: true,
  });
  return listed.map(([header = '', , expected = '', figures]) => {
    const own = found.filter(({ column }) => column === header);
    const target = own[0]?.target;
    const is =
      own.length > 1
        ? 'sizes'
        : target?.to === 'attribute'
          ? target.attribute.replace('morePictures', 'pictures')
          : target === undefined || target.to === 'ignore'
            ? '-'
            : target.to;
    const read =
      target?.to === 'attribute'
        ? (target.unit ?? target.currency)
        : target?.to === 'price'
          ? target.currency
          : undefined;
    return {
      header,
      expected,
      is,
      score: own[0]?.score ?? 0,
      figures: figures === undefined || is !== expected ? undefined : read === figures,
    };
  });
}

const all = labelledFiles.flatMap(judge);
const share = (some: readonly unknown[], of: readonly unknown[] = all) => some.length / of.length;

describe('columns of twenty files in fourteen languages', () => {
  it('are known, and few are taken for what they are not', () => {
    const wrong = all.filter(({ is, expected }) => is !== expected && is !== '-');
    expect(share(all.filter(({ is, expected }) => is === expected)), JSON.stringify(wrong)).toBeGreaterThan(0.95);
    expect(share(wrong)).toBeLessThan(0.02);
  });
  it('are read in the unit or currency that header, neighbour or cell says', () => {
    const told = all.filter(({ figures }) => figures !== undefined);
    expect(told.length).toBeGreaterThan(35);
    expect(told.filter(({ figures }) => !figures)).toEqual([]);
  });
  it('are suggested with a score that means what it says: nothing below even odds, and the surest are right', () => {
    const suggested = all.filter(({ is }) => is !== '-');
    expect(suggested.filter(({ score }) => score < 50)).toEqual([]);
    const surest = suggested.filter(({ score }) => score >= 95);
    expect(
      share(
        surest.filter(({ is, expected }) => is === expected),
        surest,
      ),
    ).toBeGreaterThan(0.97);
  });
});

describe('traps', () => {
  const target = (header: string, cells: string[], beside: Record<string, string[]> = {}) => {
    const columns = [header, ...Object.keys(beside)];
    const lists = [cells, ...Object.values(beside)];
    const [found] = suggestColumns({
      columns,
      sample: cells.map((_, i) => lists.map((list) => list[i] ?? '')),
      dictionary,
      language: 'en-GB',
      languages: ['en-GB'],
      currency: 'GBP',
      isOwn: false,
    });
    return found?.target.to === 'attribute' ? found.target.attribute : found?.target.to;
  };
  const gtins = cellsOf('ean', 12);
  it.each([
    ['Carton EAN', gtins],
    ['Code EAN colis', gtins],
    ['GTIN Umkarton', gtins],
    ['Pack', cellsOf('pack', 12)],
    ['Class', cellsOf('abc', 12)],
    ['Weight (g/m²)', ['180', '220', '300', '180']],
    ['Grammage', ['180 g/m²', '220 g/m²', '300 g/m²', '180 g/m²']],
    ['Old price', ['12.00', '14.00', '18.00']],
    ['Gewicht Palette (kg)', ['120', '240', '300']],
  ])('%s is of nothing that the article has', (header, cells) => expect(target(header, cells)).toBe('ignore'));
  it('what rows share is no title, and what each has of its own is', () => {
    expect(target('Model', cellsOf('series', 20))).toBe('family');
    expect(target('Product name', cellsOf('title', 20))).toBe('title');
  });
  it('sizes of a cloth are no diameter', () =>
    expect(target('Size', ['140 x 200', '200 x 220', '140 x 220', '90 x 200'])).not.toBe('diameter'));
  it('true numbers are known whatever they are called, and others are not', () => {
    expect(target('Column 7', gtins)).toBe('gtin');
    expect(
      target(
        'Column 7',
        gtins.map((gtin) => `${gtin.slice(0, -1)}${(Number(gtin.at(-1)) + 1) % 10}`),
      ),
    ).not.toBe('gtin');
  });
  it('numbered pictures feed one list together', () => {
    const found = suggestColumns({
      columns: ['SKU', 'Image 1', 'Image 2', 'Image 3'],
      sample: cellsOf('picture', 8).map((name, i) => [`A${i}`, name, name, name]),
      dictionary,
      language: 'en-GB',
    });
    expect(found.slice(1).map(({ target: { to } }) => to)).toEqual(['attribute', 'attribute', 'attribute']);
  });
  it('an own price without VAT waits for its rate where ours are with it', () => {
    const [, price] = suggestColumns({
      columns: ['SKU', 'Pris exkl. moms'],
      sample: [
        ['A', '100'],
        ['B', '250'],
      ],
      dictionary,
      language: 'sv-SE',
      currency: 'SEK',
      isOwn: true,
      pricesWithVat: true,
    });
    expect(price?.target).toEqual({ to: 'price', kind: 'regular', currency: 'SEK', vat: { is: 'without', rate: '' } });
  });
});
