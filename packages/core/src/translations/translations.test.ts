/** Which value of a channel's list one of ours is: by names, words, meaning, look and letters, labelled by hand, and whatever is asked. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compileTranslator } from './index.js';

const shades = 'Black, White, Red, Blue, Green, Yellow, Brown, Grey, Pink, Purple, Orange, Beige'.split(', ');
const colours = await compileTranslator({ values: shades, language: 'en-GB', isColour: true });
const materials = await compileTranslator({
  values: 'Cotton, Linen, Wool, Leather, Wood, Metal, Plastic, Glass, Paper'.split(', '),
  language: 'en',
  isColour: false,
});
const best = (ask: typeof colours, word: string, others: string[] = []) => ask({ word, others }, 3)[0];

describe('values of a channel’s list', () => {
  it.each([
    ['black', 'Black', 100],
    ['REDS', 'Red', 97],
    ['Grün', 'Green', 94],
    ['svart', 'Black', 94],
    ['Moorgrün', 'Green', 75],
    ['himmelblau', 'Blue', 70],
    ['Moss', 'Green', 50],
    ['navy', 'Blue', 55],
    ['Off-white', 'White', 80],
    ['dark green', 'Green', 60],
    ['rouge', 'Red', 80],
    ['niebieski', 'Blue', 80],
  ])('%s is %s, by its look or its meaning', (word, value, score) => {
    const found = best(colours, word);
    expect(found?.value).toBe(value);
    expect(found?.score).toBeGreaterThanOrEqual(score);
    expect(found?.evidence.length).toBeGreaterThan(0);
  });

  it.each([
    ['Baumwolle', 'Cotton'],
    ['Merino wool', 'Wool'],
    ['oak', 'Wood'],
    ['steel', 'Metal'],
    ['cardboard', 'Paper'],
    ['suede', 'Leather'],
    ['Coton', 'Cotton'],
  ])('%s is %s, and no colour', (word, value) => {
    const found = best(materials, word);
    expect(found?.value).toBe(value);
    expect(found?.evidence.join()).not.toContain('looks');
  });

  it('are found by any name of ours', () => {
    expect(best(materials, 'Werkstoff 7', ['glas', 'Glass'])).toMatchObject({ value: 'Glass', score: 98 });
    expect(best(materials, 'Werkstoff 7')).toBeUndefined();
  });

  it('that are colours are known by the list itself', async () => {
    const list = { values: shades, language: 'en', isColour: false };
    expect(best(await compileTranslator(list), 'Moorgrün')?.value).toBe('Green');
  });

  it('are told apart by what they are kinds of, and never by a part of a word', () => {
    expect(best(colours, 'Multicoloured')).toBeUndefined();
    expect(best(colours, 'Tired')?.value).not.toBe('Red');
    expect(best(materials, 'Glassfibre 2000')?.score ?? 0).toBeLessThan(90);
  });

  it('are a few at most, the likest first, of scores between 35 and 100, whatever is asked', () => {
    const word = fc.string({ unit: 'grapheme', maxLength: 12 });
    fc.assert(
      fc.property(word, fc.array(word, { maxLength: 3 }), (own, others) => {
        const found = colours({ word: own, others }, 3);
        expect(found.length).toBeLessThanOrEqual(3);
        for (const [i, { value, score }] of found.entries()) {
          expect(shades).toContain(value);
          expect(score).toBeGreaterThanOrEqual(35);
          expect(score).toBeLessThanOrEqual(Math.min(100, found[i - 1]?.score ?? 100));
        }
      }),
      { seed: 5, numRuns: 200 },
    );
  });
});
