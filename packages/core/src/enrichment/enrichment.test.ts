import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compileExtractor } from './index.js';
import { sought } from './fixtures.js';

const brands = ['Orange & Sons', 'Woolworth Brown', 'Silberfuchs'];
const extract = compileExtractor({ attributes: sought, brands, languages: ['en', 'de', 'sv'] });

/** What is found, as “attribute value”. */
const found = (title: string, description = '', language?: string): string[] =>
  extract({ title, description, ...(language ? { language } : {}) }).map(
    ({ attribute, value }) =>
      `${attribute} ${typeof value === 'object' ? Object.values(value).flat().join(' ') : String(value)}`,
  );

describe('a value in a text', () => {
  it.each<[string, string, string[]]>([
    // Numbers of models and articles.
    ['Drill XR-1800W', '', []],
    ['Sander, model 250 W', '', []],
    ['Lamp Art.-Nr. 30 W', '', []],
    // Brands, ranges, plants, scents, flavours.
    ['Orange & Sons kettle', '', []],
    ['Silberfuchs Decke', '', []],
    ['Scented candle red rose', '', []],
    ['Shelf Silver Lake, white', '', ['colour white']],
    ["Tomato seeds 'Black Prince'", '', []],
    ['Chocolate with orange', '', []],
    // Words inside words.
    ['Rotwein-Karaffe', '', []],
    ['Goldfish food', '', []],
    ['Ekorre', '', []],
    // Figures of something else.
    ['Hook, holds up to 5 kg', '', []],
    ['Saucer for pots up to 12 cm', '', []],
    ['Bench', 'Shipping weight 14 kg.', []],
    ['Bench', 'Weight 12 kg. Shipping weight 14 kg.', ['weight 12 kg']],
    ['Sleeve for 15 inch', '', []],
    ['Bulb', 'Replaces a 60 W bulb.', []],
    // Light is no colour.
    ['LED bulb 9 W warm white', '', ['power 9 W']],
    ['Shirt, white', '', ['colour white']],
    // Sizes that are units and units that are sizes.
    ['Jug 2 L', '', ['volume 2 l']],
    ['Shirt, L', '', ['size L']],
    ['Rope 5 m', '', ['length 5 m']],
    ['Shirt, size M', '', ['size M']],
    // A pack of n × m is of one piece’s m.
    ['Juice 6 x 200 ml', '', ['volume 200 ml', 'pieces 6']],
    ['Bulbs 4 × 9 W', '', ['power 9 W', 'pieces 4']],
    // Denials and questions.
    ['Jar without lid', '', ['lid false']],
    ['Mug', 'Not dishwasher safe.', ['dishwasher false']],
    ['Mug', 'Is it dishwasher safe? Ask us.', []],
    ['Mug', 'Dishwasher safe: no', ['dishwasher false']],
    ['Bag', 'Contains no leather.', []],
    ['Bag', 'Looks like leather.', []],
    ['Bag, faux leather', '', []],
    ['Table, oak effect', '', []],
    ['Cleaner for steel', '', []],
    // Said of a part.
    ['Kettle, copper', 'With a lid of brass.', ['material copper', 'lid true']],
    ['Sofa', 'Seat height 44 cm. Height 80 cm.', ['height 80 cm']],
    // Two, where the text says two.
    ['Scarf black/white', '', ['colour black', 'colour white']],
    // Ranges are no measure.
    ['Clamp 10-20 cm long', '', []],
    ['Towel 500 g/m²', '', []],
    // Accents tell words apart.
    ['Bläck 30 ml', '', ['volume 30 ml']],
  ])('%s | %s', (title, description, right) => {
    expect(found(title, description)).toEqual(right);
  });

  it('is no letter that is a word, a unit or a sign of something else', () => {
    const read = compileExtractor({
      attributes: [
        {
          key: 'class',
          label: 'Energy class',
          aliases: ['Energieklasse'],
          kind: 'choice',
          spellings: { A: ['A'], B: ['B'], C: ['C'] },
        },
        { key: 'plug', label: 'Plug', kind: 'choice', spellings: { eu: ['EU'], uk: ['UK', 'three-pin'] } },
      ],
    });
    const values = (title: string, description = '') => read({ title, description }).map(({ value }) => value);
    expect(values('Pot', 'A matt pot. Three-pin plug (3 A fuse). Sow at 22 °C. Plan B.')).toEqual(['uk']);
    expect(values('Lamp, energy class A')).toEqual(['A']);
    expect(values('Lampe, Energieklasse: C')).toEqual(['C']);
    expect(values('Panel 96 W, EU')).toEqual(['eu']);
    expect(values('Made in EU of oak')).toEqual([]);
    expect(values('Adapter with EU plug')).toEqual(['eu']);
  });

  it('is announced by the trade’s words for what its attribute is', () => {
    const read = compileExtractor({
      attributes: [
        { key: 'weight', label: 'Weight', kind: 'measure', dimension: 'mass' },
        { key: 'length', label: 'Length', kind: 'measure', dimension: 'length' },
        { key: 'width', label: 'Width', kind: 'measure', dimension: 'length' },
      ],
    });
    const text = { title: 'Decke', description: 'Gewicht 1,2 kg. Länge 180 cm, Breite 130 cm.', language: 'de' };
    expect(read(text).map(({ attribute, value, score }) => [attribute, value, score])).toEqual([
      ['weight', { amount: '1.2', unit: 'kg' }, 0.94],
      ['length', { amount: '180', unit: 'cm' }, 0.94],
      ['width', { amount: '130', unit: 'cm' }, 0.94],
    ]);
  });

  it('has the decimal mark of its language, and UCUM’s code', () => {
    expect(found('Powerbank 10.000 mAh', '', 'de')).toEqual(['charge 10000 mA.h']);
    expect(found('Kettle 1.7 l', '', 'en')).toEqual(['volume 1.7 l']);
    expect(found('Kanne 1,7 l', '', 'de')).toEqual(['volume 1.7 l']);
  });

  it('is read where letters are composed of several signs, and points at them', () => {
    const title = 'Schüssel, Höhe 12 cm'.normalize('NFD');
    const [height] = extract({ title, language: 'de' });
    expect(height).toMatchObject({ attribute: 'height', value: { amount: '12', unit: 'cm' } });
    expect(title.slice(height?.start, height?.end)).toBe('12 cm');
  });

  it('comes out of whatever text there is, in its bounds', () => {
    const piece = fc.constantFrom(
      'red',
      'not',
      '12',
      'cm',
      'x',
      'Ø',
      "'",
      '(',
      'Gr.',
      'M',
      '½',
      '-',
      'ohne',
      'Deckel',
      '6er',
      '.',
      '9'.repeat(50),
      '\u202e',
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(piece, fc.string({ unit: 'grapheme' }))), (parts) => {
        const title = parts.join(' ');
        for (const one of extract({ title, description: title })) {
          expect(one.start).toBeGreaterThanOrEqual(0);
          expect(one.end).toBeGreaterThan(one.start);
          expect(one.end).toBeLessThanOrEqual(title.length);
          expect(one.score).toBeGreaterThanOrEqual(0.5);
        }
      }),
      { seed: 11, numRuns: 300 },
    );
  });
});
