/** What is made of the columns of suppliers’ files of many trades and languages, judged against what they are. */
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { startSet } from '../catalog/index.js';
import { suggestColumns } from './index.js';

/** A supplier’s file, made up: “# trade · language · currency [· own]”, then its columns, one a line. */
interface LabelledFile {
  language: string;
  /** Currency the company keeps its prices in. */
  currency: string;
  isOwn: boolean;
  /** “Header~kind of cells~what it is[~unit or currency it is read in]”. */
  columns: string[][];
}

const filesIn = (name: string): LabelledFile[] =>
  readFileSync(new URL(`labelled/${name}`, import.meta.url), 'utf8')
    .split(/^# /m)
    .filter(Boolean)
    .map((text) => {
      const [head = '', ...columns] = text.trim().split('\n');
      const [, language = '', currency = '', own] = head.split(' · ');
      return { language, currency, isOwn: own === 'own', columns: columns.map((column) => column.split('~')) };
    });

/** `later.txt` was written when the code had been built on the first twenty, and read once before anything was made of it. */
const labelled = ['files.txt', 'later.txt'].flatMap(filesIn);

/** Cells of a kind, the same every time. */
function cellsOf(kind: string, rows: number): string[] {
  const pick = (list: readonly string[], i: number, by = 1) => list[(i * by) % list.length] ?? '';
  const make: Record<string, (i: number) => string> = {
    code: (i) => `K${4100 + i * 7}-${pick(['A', 'B', 'C'], i)}`,
    code2: (i) => `${900 + i * 13}/${pick(['x', 'y', 'z'], i)}${i}`,
    ean: (i) => withDigit(`40012${String(3400000 + i * 37)}`),
    title: (i) =>
      `${pick(['Alva', 'Brin', 'Corra', 'Dunst', 'Elmo'], Math.floor(i / 4))} ${pick(['klein', 'groß', 'mini', 'maxi'], i)} ${pick(['rund', 'eckig', 'flach'], i)} ${i}`,
    series: (i) => pick(['Alva', 'Brin', 'Corra', 'Dunst', 'Elmo'], Math.floor(i / 4)),
    brand: (i) => pick(['Halvorn', 'Tessaly', 'Quillmark'], Math.floor(i / 7)),
    group: (i) => pick(['Nord', 'Basis', 'Plus'], Math.floor(i / 6)),
    path: (i) => pick(['Haus > Küche', 'Haus > Bad', 'Garten > Werkzeug'], Math.floor(i / 6)),
    colour: (i) => pick(['schwarz', 'rot', 'bleu', 'grön', 'white', 'sininen'], i),
    size: (i) => pick(['S', 'M', 'L', 'XL'], i),
    shoe: (i) => String(36 + (i % 10)),
    material: (i) => pick(['100 % Baumwolle', 'Leinen', '80 % Wolle, 20 % Polyamid'], i),
    price: (i) => `${8 + i * 3},${pick(['90', '50', '00'], i)}`,
    stock: (i) => String((i * 17) % 140),
    few: (i) => pick(['6', '12', '24'], Math.floor(i / 3)),
    decimal: (i) => `0,${2 + (i % 7)}`,
    figure: (i) => String(12 + i * 5),
    watt: (i) => `${20 + i * 5} W`,
    ml: (i) => `${50 * (1 + (i % 4))} ml`,
    gsm: (i) => `${400 + (i % 3) * 50} g/m²`,
    pack: (i) => pick(['12 x 85 g', '6 x 400 g', '24 x 85 g'], i),
    sizes: (i) => pick(['50 x 100 cm', '70 x 140 cm', '30 x 50 cm'], i),
    threeSizes: (i) => `${120 + i}x${80 + i}x${40 + i}`,
    hs: (i) => pick(['61101130', '73239300', '94051140'], Math.floor(i / 5)),
    country: (i) => pick(['Portugal', 'DE', 'Italia', 'Sverige'], Math.floor(i / 2)),
    picture: (i) => `k${4100 + i * 7}.jpg`,
    pictureUrl: (i) => `https://files.example/k${4100 + i * 7}.jpg`,
    pdf: (i) => `https://files.example/k${4100 + i * 7}.pdf`,
    url: (i) => `https://shop.example/p/${i}`,
    long: (i) =>
      `Ein Stück für jeden Tag, das hält, was es verspricht, und dabei gut aussieht; Ausführung ${i}, geprüft und sorgfältig verpackt für den Versand.`,
    html: (i) => `<p>Gut gemacht, Ausführung <b>${i}</b>.</p><ul><li>fest</li></ul>`,
    empty: () => '',
    eur: () => 'EUR',
    unit: () => 'szt',
    percent: (i) => pick(['23 %', '8 %'], i),
    yes: (i) => pick(['ja', 'nej'], i),
    months: (i) => pick(['24 mån', '36 mån'], i),
    hours: (i) => pick(['12 h', '40 h'], i),
    energy: (i) => pick(['E', 'F', 'D'], i),
    ip: (i) => pick(['IP44', 'IP20'], i),
    state: (i) => pick(['active', 'new', 'discontinued'], i),
    abc: (i) => pick(['A', 'B', 'C'], i),
    care: (i) => pick(['40°', '60° Kochwäsche nicht möglich'], i),
    gender: (i) => pick(['dam', 'herr'], i),
    season: (i) => pick(['SS27', 'FW26'], i),
    bin: (i) => `H${i % 9}-${i % 4}`,
    date: (i) => `2026-1${i % 3}-0${1 + (i % 8)}`,
    year: (i) => pick(['2021', '2022', '2023'], i),
    words: (i) => pick(['doos', 'zakje'], i),
  };
  const cell = make[kind];
  if (!cell) throw new Error(`There is no kind of cells “${kind}”`);
  return Array.from({ length: rows }, (_, i) => cell(i));
}

/** Twelve figures with their check digit (GS1 General Specifications, 7.9). */
function withDigit(figures: string): string {
  const sum = [...figures].reduce((total, figure, i) => total + Number(figure) * (i % 2 === 0 ? 1 : 3), 0);
  return `${figures}${(10 - (sum % 10)) % 10}`;
}

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

function judge({ columns: listed, language, currency, isOwn }: LabelledFile): Judged[] {
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

const all = labelled.flatMap(judge);
const share = (some: readonly unknown[], of: readonly unknown[] = all) => some.length / of.length;

describe('columns of thirty files in fourteen languages', () => {
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
  it('of several prices the lower is what goods cost, and none is taken for it that is the highest', () => {
    const asked = (first: string, second: string, by: number) => {
      const found = suggestColumns({
        columns: ['SKU', first, second],
        sample: [10, 24.9, 7.5, 130, 18].map((amount, i) => [`A${i}`, amount.toFixed(2), (amount * by).toFixed(2)]),
        dictionary,
        language: 'en-GB',
        languages: ['en-GB'],
        currency: 'GBP',
        isOwn: false,
      });
      return found.slice(1).map(({ target: to }) => (to.to === 'attribute' ? to.attribute : to.to));
    };
    expect(asked('Price 1', 'Price 2', 1.9)).toEqual(['purchasePrice', 'recommendedPrice']);
    expect(asked('Price A', 'Price B', 0.5)).toEqual(['recommendedPrice', 'purchasePrice']);
    expect(asked('Cost price', 'RRP', 0.5)).toEqual(['ignore', 'ignore']);
    expect(asked('Price', 'Freight', 0.01)).toEqual(['purchasePrice', 'ignore']);
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
