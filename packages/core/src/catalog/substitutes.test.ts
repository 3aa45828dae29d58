/** How alike goods are: figures, words, lists and prices, what only one of them says, and whole catalogs of them. */
import { describe, expect, it } from 'vitest';
import { testAttribute } from '../values/fixtures.js';
import { type Attribute, type Value, makeMeasure } from '../values/index.js';
import { alike } from './substitutes.js';

const attributes: Attribute[] = [
  testAttribute({ key: 'title', perLanguage: true }),
  testAttribute({ key: 'sku' }),
  testAttribute({ key: 'colour', label: 'Colour' }),
  testAttribute({ key: 'plug', label: 'Plug', type: 'choice', choices: ['C', 'G'] }),
  testAttribute({ key: 'months', label: 'Months', type: 'choice', many: true, choices: ['Jan', 'Feb', 'Mar', 'Apr'] }),
  testAttribute({ key: 'width', label: 'Width', type: 'measure', dimension: 'length' }),
  testAttribute({ key: 'pieces', label: 'Pieces', type: 'number' }),
  testAttribute({ key: 'note', label: 'Note' }),
];
const dictionary = new Map(attributes.map((attribute) => [attribute.key, attribute]));
const of = (facts: Record<string, Value>, price: string | null = null) => ({ facts, price, family: null });
const near = (mine: Record<string, Value>, theirs: Record<string, Value>) =>
  alike(of(mine), of(theirs), dictionary).score;

describe('how alike goods are', () => {
  it('is all where they say the same, in whatever unit and case', () => {
    const mine = { colour: 'Moss', plug: 'C', width: makeMeasure('12', 'cm'), pieces: '6' };
    const theirs = { colour: 'moss', plug: 'C', width: makeMeasure('120', 'mm'), pieces: '6' };
    expect(alike(of(mine, '4.50'), of(theirs, '4.5'), dictionary)).toEqual({
      score: 1,
      same: ['Colour', 'Plug', 'Width', 'Pieces'],
      other: [],
    });
  });

  it('falls with the distance of figures, and is nothing at half or double', () => {
    const wide = (amount: string) => near({ width: makeMeasure('10', 'cm') }, { width: makeMeasure(amount, 'cm') });
    expect([wide('10'), wide('9'), wide('8'), wide('5'), wide('4'), wide('20')]).toEqual([
      1,
      expect.closeTo(0.8),
      expect.closeTo(0.6),
      0,
      0,
      0,
    ]);
    expect(near({ pieces: '-2' }, { pieces: '2' })).toBe(0);
  });

  it('counts what lists share', () => {
    expect(near({ months: ['Jan', 'Feb'] }, { months: ['Feb', 'Jan'] })).toBe(1);
    expect(near({ months: ['Jan', 'Feb'] }, { months: ['Feb', 'Mar'] })).toBeCloseTo(1 / 3);
  });

  it('says in what they differ, and takes what only one says for half as bad', () => {
    const differs = alike(of({ colour: 'Moss', plug: 'C' }), of({ colour: 'Rust', plug: 'C' }), dictionary);
    expect(differs).toEqual({ score: 0.5, same: ['Plug'], other: ['Colour'] });
    const silent = alike(of({ colour: 'Moss', plug: 'C' }), of({ plug: 'C' }), dictionary);
    expect(silent).toEqual({ score: 1 / 1.5, same: ['Plug'], other: [] });
  });

  it('counts a family they share for them', () => {
    const [mine, theirs] = [of({ plug: 'C', colour: 'Moss' }), of({ plug: 'G', colour: 'Rust' })];
    expect(alike({ ...mine, family: 7 }, { ...theirs, family: 8 }, dictionary).score).toBe(0);
    expect(alike({ ...mine, family: 7 }, { ...theirs, family: 7 }, dictionary).score).toBeCloseTo(0.6);
  });

  it('hears neither numbers that name one thing, nor sentences, nor goods without a word', () => {
    expect(near({ sku: 'A' }, { sku: 'A' })).toBe(0);
    const sentence = 'Stoneware that is thrown by hand and fired twice, so that no two are quite alike';
    expect(near({ note: sentence, plug: 'C' }, { note: `${sentence}.`, plug: 'C' })).toBe(1);
    expect(near({}, { plug: 'C' })).toBe(0);
  });
});
