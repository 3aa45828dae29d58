/** What columns without a home make: the attribute guessed of them, trees out of cells, values that lists lack. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testAttribute } from '../values/fixtures.js';
import { closedList, plainStyle } from '../values/index.js';
import { guessAttribute } from './guess.js';
import { lackingValues, noMakes, withMakes } from './makes.js';
import { readTree } from './tree.js';
import { convertVat } from './vat.js';

const german = { decimal: ',', dateOrder: 'dmy' } as const;

describe('an attribute is guessed of a column', () => {
  it.each([
    ['Technik', ['Webstuhl', 'Häkeln', 'Webstuhl', 'Häkeln', 'Webstuhl'], 'choice'],
    ['Stiche', ['3', '4', '7', '12'], 'number'],
    ['Brenndauer [h]', ['12', '40', '20'], 'measure'],
    ['Reichweite', ['12 m', '40 m', '7,5 m'], 'measure'],
    ['Spülfest', ['ja', 'nein', 'ja', 'ja'], 'boolean'],
    ['Datenblatt', ['https://a.example/1.pdf', 'https://a.example/2.pdf'], 'link'],
    ['Skizze', ['a.png', 'b.png', 'c.png'], 'media'],
    ['Erscheint', ['01.03.2026', '15.04.2026', '02.05.2026'], 'date'],
    ['Code', ['0012', '0013', '0450'], 'text'],
    ['Hinweis', ['<p>Nur für <b>innen</b></p>', '<p>Auch für außen</p>'], 'richText'],
    ['Blatt', ['a-de.pdf', 'b-de.pdf, b-en.PDF'], 'file'],
    ['Nichts', [], 'text'],
  ] as const)('%s %j: %s', (name, cells, type) => expect(guessAttribute(name, cells, german).type).toBe(type));

  it('with its list, its dimension and unit, and a name without them', () => {
    expect(guessAttribute('technik_art', ['a b', 'c', 'a b', 'C'], plainStyle)).toMatchObject({
      label: 'Technik art',
      type: 'choice',
      values: ['a b', 'C'],
    });
    expect(guessAttribute('Reichweite (cm)', ['12', '40'], plainStyle)).toMatchObject({
      label: 'Reichweite',
      dimension: 'length',
      unit: 'cm',
    });
  });
});

describe('a tree out of cells', () => {
  it.each([
    [
      ['A > B', 'A > C'],
      [
        ['A', 'B'],
        ['A', 'C'],
      ],
    ],
    [
      ['Bad / Tücher', 'Bad / Seife'],
      [
        ['Bad', 'Tücher'],
        ['Bad', 'Seife'],
      ],
    ],
    [
      ['Cups/Mugs', 'Bowls', 'Plates', 'Jugs'],
      [['Cups/Mugs'], ['Bowls'], ['Plates'], ['Jugs']],
    ],
    [
      ['Home/Cups', 'Home/Bowls', 'Garden/Pots'],
      [
        ['Home', 'Cups'],
        ['Home', 'Bowls'],
        ['Garden', 'Pots'],
      ],
    ],
    [['Saucers & trays', ' Saucers & trays '], [['Saucers & trays']]],
  ])('%j', (cells, paths) => expect([...readTree(cells).values()]).toEqual(paths));
});

describe('what a list lacks', () => {
  const list = testAttribute({
    key: 'category',
    type: 'choice',
    choices: [
      { key: 'home', names: { en: 'Home' } },
      { key: 'cups', names: { en: 'Cups', de: 'Tassen' }, parent: 'home' },
    ],
  });
  const keyFor = () => {
    let n = 0;
    return () => `new-${++n}`;
  };
  it('is made below what is there, once, and nothing of what it has by any name', () => {
    expect(
      lackingValues(
        list,
        [
          ['home', 'Bowls'],
          ['Home', 'bowls'],
          ['Home', 'Tassen'],
          ['Garden', 'Pots'],
        ],
        keyFor(),
      ),
    ).toEqual([
      { attribute: 'category', key: 'new-1', name: 'Bowls', parent: 'home' },
      { attribute: 'category', key: 'new-2', name: 'Garden', parent: null },
      { attribute: 'category', key: 'new-3', name: 'Pots', parent: 'new-2' },
    ]);
  });
  it('makes every cell readable, whatever the cells are', () => {
    const name = fc.string({ minLength: 1, maxLength: 8 }).filter((text) => /^[\p{L}\d]+$/u.test(text));
    fc.assert(
      fc.property(fc.array(fc.array(name, { minLength: 1, maxLength: 3 }), { maxLength: 12 }), (paths) => {
        const values = lackingValues(list, paths, keyFor());
        const made = withMakes(new Map([['category', list]]), { ...noMakes, values }, 'en').get('category');
        const closed = closedList({ choices: made?.choices ?? [] });
        for (const path of paths) expect(closed.read(path.join(' / '))).toBeDefined();
      }),
    );
  });
});

describe('VAT', () => {
  it.each([
    ['100', 'without', '25', 'SEK', '125'],
    ['24', 'with', '20', 'GBP', '20'],
    ['7.90', 'with', '19', 'EUR', '6.64'],
    ['1000', 'without', '10', 'JPY', '1100'],
    ['9.99', 'without', '5.5', 'EUR', '10.54'],
  ] as const)('%s %s at %s %% in %s is %s', (amount, is, rate, currency, other) =>
    expect(Number(convertVat(amount, { is, rate }, currency))).toBe(Number(other)),
  );
  it('there and back again is the same to a hundredth', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e9 }), fc.integer({ min: 1, max: 30 }), (cents, percent) => {
        const amount = (cents / 100).toFixed(2);
        const rate = String(percent);
        const back = convertVat(convertVat(amount, { is: 'without', rate }, 'EUR'), { is: 'with', rate }, 'EUR');
        expect(Math.abs(Number(back) - Number(amount))).toBeLessThan(0.011);
      }),
    );
  });
});
