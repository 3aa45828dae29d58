import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Axis,
  type AxisKind,
  axesOf,
  missingCombinations,
  orderValues,
  orderVariants,
  siblingFaults,
} from './index.js';

/** Axes as shops show them: kind, language, values in their right order. */
const axes: [AxisKind, string, string][] = [
  ['size', 'en', 'XS|S|M|L|XL|2XL|3XL|One size'],
  ['size', 'en', 'XXS|X-Small|Small|Medium|Large|X-Large|XX-Large|XXX Large|4XL|OS'],
  ['size', 'en', 'XSM|SML|MED|LRG|XLG|XXL'],
  ['size', 'en', 'Extra small|small|medium|large|extra large|double extra large|triple XL'],
  ['size', 'en', 'S/M|M/L|L/XL|XL/XXL'],
  ['size', 'en', 'XS-S|S-M|M-L|L-XL'],
  ['size', 'en', '2XS|XS|SM|MD|LG|XL|2X Large'],
  ['size', 'en', 'Newborn|0-3 months|3-6 months|6-12 months|12-18 months|18-24 months|2-3 years|3-4 years|5 years'],
  ['size', 'en', 'NB|3M|6M|9M|12M|18M|24M|3T|4T'],
  ['size', 'en', 'Preemie|Newborn|1 month|3 months'],
  ['size', 'en', '0-6 mths|6-12 mths|1-2 yrs|2-3 yrs|10-11 yrs'],
  ['size', 'en', '3-4 Y|5-6 Y|7-8 Y|9-10 Y|11-12 Y'],
  ['size', 'en', 'Age 3-4|Age 5-6|Age 7-8|Age 11-12'],
  ['size', 'en', '3/4|5/6|7/8|9/10'],
  ['size', 'en', '36|37|38 2/3|39|40.5|41'],
  ['size', 'en', '36/38|40/42|44/46'],
  ['size', 'en', 'UK 4|UK 5½|UK 6|UK 10'],
  ['size', 'en', 'EU 38|EU 39|EU 40|UK 5|UK 6'],
  ['size', 'en', 'W30 L32|W30 L34|W32 L32|W34 L30'],
  ['size', 'en', '34A|34B|34DD|36A|40C'],
  ['size', 'en', '90 x 200|140 x 200|200 x 200'],
  ['size', 'en', 'S (36-38)|M (38-40)|L (40-42)'],
  ['size', 'en', 'S - 36|M - 38|L - 40'],
  ['size', 'en', 'Single|Double|King|Super king'],
  ['size', 'en', 'Twin|Full|Queen|California king'],
  ['size', 'en', 'Mini|Midi|Maxi'],
  ['size', 'en', 'XL Short|XL|XL Tall|2XL'],
  ['size', 'en', 'size 8|size 10|size 12|size 14'],
  ['size', 'en', '1X|2X|3X'],
  ['size', 'en', '7|7 1/8|7¼|7 3/8'],
  ['size', 'en', 'Men S|Men M|Men L|Women S|Women XL'],
  ['size', 'en', '12 cm|18 cm|24 cm|1 m'],
  ['size', 'en', 'S|M|L|something else|One size fits all'],
  ['size', 'en', '38 narrow|38 wide|40 narrow'],
  ['size', 'en', '1-2|3-5|6-8|9-12'],
  ['size', 'de', 'klein|mittel|groß|sehr groß'],
  ['size', 'de', 'Gr. S|Gr. M|Gr. XL'],
  ['size', 'de', '6 Monate|12 Monate|2 Jahre|4 Jahre'],
  ['size', 'de', '50/56|62/68|74/80|86/92|98/104'],
  ['size', 'de', '37|37,5|38|Einheitsgröße'],
  ['size', 'de', 'Größe 36|Größe 38|Größe 100'],
  ['size', 'sv', 'Liten|Mellan|Stor'],
  ['size', 'sv', '2 år|4 år|6 år|10 år'],
  ['size', 'sv', '3 mån|6 mån|1 år'],
  ['size', 'sv', 'Stl 38|Stl 40|En storlek'],
  ['size', 'fr', 'Petit|Moyen|Grand|Très grand|Taille unique'],
  ['size', 'fr', '3 mois|6 mois|12 mois|2 ans|10 ans'],
  ['size', 'es', 'Pequeño|Mediano|Grande|Talla única'],
  ['size', 'it', '6 mesi|12 mesi|2 anni'],
  ['size', 'nl', 'klein|normaal|groot|extra groot'],
  ['size', 'pl', 'mały|średni|duży'],
  ['size', 'da', 'Lille|Mellem|Stor|Ekstra stor'],
  ['size', 'cs', 'malá|střední|velká'],
  ['size', 'pt', '3 meses|9 meses|2 anos'],
  ['number', 'en', '1/2|3/4|1|1 1/4|1 1/2|2'],
  ['number', 'en', '5|10|20|100'],
  ['number', 'en', '1-5|5-10|10-20|20+'],
  ['number', 'en', '-10|-5|0|5'],
  ['number', 'en', '0.5|0.75|1|1.25|1,000'],
  ['number', 'de', '0,5|0,75|1|1.000'],
  ['number', 'en', '½|¾|1½|2'],
  ['number', 'sv', '9|10|11,5|100'],
  ['number', 'en', '2 to 4|5 to 8|10 to 12'],
  ['measure', 'en', '1/4"|3/8"|1/2"|3/4"|1"|1 1/4"'],
  ['measure', 'en', '50 cm|1 m|1.5 m|2000 mm|10 m'],
  ['measure', 'de', '250 ml|0,5 l|75 cl|1 Liter|1,5 l'],
  ['measure', 'en', '90 x 200 cm|100 x 200 cm|140 x 200 cm'],
  ['measure', 'en', '10-20 cm|20-30 cm|1-2 m'],
  ['measure', 'en', '4 ft|5 ft|1.6 m|6 ft 2 in'],
  ['measure', 'en', '40 W|60 W|0.1 kW'],
  ['measure', 'sv', '5 dl|1 liter|1,5 l|10 l'],
  ['measure', 'en', '100 g|8 oz|0.5 kg|2 lb'],
  ['measure', 'en', '2700 K|3000 K|4000 K'],
  ['measure', 'de', '0,8 mm|1 mm|1,25 mm|2 cm'],
  ['measure', 'en', 'Ø 8 cm|Ø 12 cm|Ø 1 m'],
  ['measure', 'en', 'up to 5 kg|up to 10 kg|up to 25 kg'],
  ['measure', 'en', '9|10 cm|20'],
  ['measure', 'en', '30 min|1 h|90 min|2 days'],
  ['measure', 'en', '5 %|10 %|25 %'],
  ['measure', 'fr', '0,5 m|75 cm|1 m'],
  ['text', 'en', 'Pack of 6|Pack of 12|Pack of 100'],
  ['text', 'en', '1.25 turns|1.5 turns|10 turns'],
  ['text', 'de', 'Äpfel|Birne|Öl|Zebra'],
  ['text', 'sv', 'Apa|Zebra|Åsna|Ärta|Öl'],
  ['text', 'en', 'No. 2 brush|No. 10 brush|No. 12 brush'],
  ['text', 'en', 'A4|A5|B5'],
  ['text', 'en', 'S|M|L'],
  ['text', 'da', 'Abe|Zebra|Ærte|Øl|Ål'],
  ['text', 'en', '50 cm|1 m|2 m'],
  ['choice', 'en', '12 months|24 months|3 years'],
  ['choice', 'en', 'Cotton|Linen|Wool'],
  ['choice', 'en', '2-pin|3-pin|10-pin'],
  ['colour', 'en', 'Ash|Clay|Moss'],
  ['colour', 'de', 'Anthrazit|Ärmelgrün|Blau|Weiß'],
  ['colour', 'en', 'Grey 5|Grey 20|Grey 100'],
  ['colour', 'fr', 'blanc|écru|noir'],
  ['colour', 'en', 'RAL 3020|RAL 5010|RAL 9005'],
  ['colour', 'sv', 'blå|grön|röd|svart'],
  ['text', 'es', 'nube|ñandú|oca'],
  ['text', 'en', '1 1/2 turn|2 turn|10 turn'],
];

describe('values of an axis', () => {
  it.each(axes)('%s, %s: %s', (kind, language, written) => {
    const right = written.split('|');
    for (const given of [[...right].reverse(), [...right.slice(2), ...right.slice(0, 2)]])
      expect(orderValues(given, { kind, language })).toEqual(right);
  });

  it('are a hundred axes', () => {
    expect(axes.length).toBeGreaterThanOrEqual(100);
  });

  it('stand as their list has them, colours and choices alike, and what is on none behind', () => {
    const list = ['Moss', 'Ash', 'Clay'];
    expect(orderValues(['clay', 'Zinc', 'ASH', 'Moss', 'Bone'], { kind: 'colour', list })).toEqual([
      'Moss',
      'ASH',
      'clay',
      'Bone',
      'Zinc',
    ]);
  });

  it('keep their order where they mean the same, blanks last', () => {
    expect(orderValues(['L', 'XXL', ' ', '2XL', 'xxl', 'S'], { kind: 'size' })).toEqual([
      'S',
      'L',
      'XXL',
      '2XL',
      'xxl',
      ' ',
    ]);
    expect(orderValues(['150 cm', '1.5 m', '20 cm'], { kind: 'measure' })).toEqual(['20 cm', '150 cm', '1.5 m']);
  });

  it('take whatever somebody typed', () => {
    const kinds: AxisKind[] = ['size', 'colour', 'measure', 'choice', 'number', 'text'];
    fc.assert(
      fc.property(fc.array(fc.string({ unit: 'grapheme' })), fc.constantFrom(...kinds), (values, kind) => {
        const once = orderValues(values, { kind });
        expect([...once].sort()).toEqual([...values].sort());
        expect(orderValues(once, { kind })).toEqual(once);
      }),
      { seed: 20, numRuns: 400 },
    );
  });

  it('reads a very long text at once', () => {
    for (const text of ['9'.repeat(20_000), `${'x'.repeat(20_000)}l`, '1 '.repeat(10_000), `${'a '.repeat(10_000)}5`])
      expect(orderValues([text, 'S'], { kind: 'size' })).toHaveLength(2);
  });
});

const pot: Axis[] = [
  { key: 'glaze', kind: 'colour' },
  { key: 'size', kind: 'size' },
  { key: 'length', kind: 'measure' },
];

describe('combinations that are missing', () => {
  it('are those of the values in use, as they were spelt first', () => {
    const variants = [
      { id: 1, options: { glaze: 'Moss', size: 'XXL' } },
      { id: 2, options: { glaze: 'moss ', size: 'M' } },
      { id: 3, options: { glaze: 'Slate', size: '2xl', length: null } },
    ];
    expect(missingCombinations(pot, variants)).toEqual({ count: 1, sets: [{ glaze: 'Slate', size: 'M' }] });
  });

  it('are counted where there are more than anybody could list', () => {
    const many = [0, 1, 2, 3].map((at) => ({ key: `a${at}`, kind: 'text' as const }));
    const variants = Array.from({ length: 900 }, (_, i) => ({
      id: i,
      options: Object.fromEntries(many.map(({ key }) => [key, `v${i}`])),
    }));
    const found = missingCombinations(many, variants, { most: 5 });
    expect(found.count).toBe(900 ** 4 - 900);
    expect(found.sets).toHaveLength(5);
  });

  it('and those there are make up all of them', () => {
    const value = fc.constantFrom('a', 'A', 'b', 'c', '', null, undefined);
    fc.assert(
      fc.property(fc.array(fc.record({ x: value, y: value })), (options) => {
        const both: Axis[] = [
          { key: 'x', kind: 'text' },
          { key: 'y', kind: 'text' },
        ];
        const variants = options.map((each, id) => ({ id, options: each }));
        const { count, sets } = missingCombinations(both, variants);
        const fold = (text: string | null | undefined) => (text ? text.toLowerCase() : undefined);
        const used = (axis: 'x' | 'y') => new Set(options.map((each) => fold(each[axis])).filter(Boolean)).size;
        const inUse = (['x', 'y'] as const).filter((axis) => used(axis) > 0);
        const held = new Set(
          options
            .map((each) => inUse.map((axis) => fold(each[axis])))
            .filter((all) => all.length > 0 && all.every(Boolean))
            .map((all) => all.join()),
        );
        expect(sets).toHaveLength(count);
        const all = inUse.length === 0 ? 0 : inUse.reduce((product, axis) => product * used(axis), 1);
        expect(count + held.size).toBe(all);
      }),
      { seed: 7, numRuns: 300 },
    );
  });
});

describe('faults between siblings', () => {
  it('finds a combination twice, whatever its spelling', () => {
    const variants = [
      { id: 'a', options: { glaze: 'Moss', size: 'XXL', length: '1.5 m' } },
      { id: 'b', options: { glaze: 'moss', size: '2XL', length: '150 cm' } },
      { id: 'c', options: { glaze: 'Moss', size: 'L', length: '150 cm' } },
    ];
    const faults = siblingFaults(pot, variants);
    expect(faults[0]).toEqual({
      kind: 'duplicate-combination',
      variants: ['a', 'b'],
      values: ['Moss', 'XXL', '1.5 m'],
    });
    expect(faults.slice(1).map(({ kind, axis, values }) => [kind, axis, values])).toEqual([
      ['same-value-spelt-differently', 'glaze', ['Moss', 'moss']],
      ['same-value-spelt-differently', 'size', ['XXL', '2XL']],
      ['same-value-spelt-differently', 'length', ['1.5 m', '150 cm']],
    ]);
  });

  it('finds an axis without a value, absent, null, empty or blank alike', () => {
    const axis: Axis[] = [{ key: 'glaze', kind: 'colour' }];
    const variants = [{}, { glaze: null }, { glaze: '' }, { glaze: '  ' }, { glaze: 'Moss' }].map((options, id) => ({
      id,
      options,
    }));
    expect(siblingFaults(axis, variants)).toEqual([{ kind: 'missing-value', axis: 'glaze', variants: [0, 1, 2, 3] }]);
  });

  it('finds an axis under a name that siblings do not have', () => {
    const axis: Axis[] = [{ key: 'glaze', kind: 'colour' }];
    const variants = [
      { id: 1, options: { glaze: 'Moss' } },
      { id: 2, options: { glaze: 'Slate', Glasur: 'Slate' } },
      { id: 3, options: { ' GLAZE': 'Bone' } },
    ];
    expect(siblingFaults(axis, variants)).toEqual([{ kind: 'differing-axes', axis: 'Glasur', variants: [2] }]);
  });

  it('finds none in a family without fault: accents and signs tell values apart', () => {
    const axis: Axis[] = [{ key: 'shade', kind: 'colour' }];
    const variants = ['Rose', 'Rosé', 'Rose/Grey', '1 2', '12', '-5', '5'].map((shade, id) => ({
      id,
      options: { shade },
    }));
    expect(siblingFaults(axis, variants)).toEqual([]);
  });
});

describe('variants of a family', () => {
  const variants = [
    { id: 1, options: { Size: 'XL', Length: '1 m' } },
    { id: 2, options: { Size: 'S', Length: '50 cm' } },
    { id: 3, options: { size: 'S', Length: '20 cm' } },
    { id: 4, options: { Length: '2 m', Grösse: 'M' } },
  ];
  const attributes = [
    { label: 'size', type: 'text', role: 'size' },
    { label: 'Length', type: 'measure', role: 'length' },
  ] as const;

  it('have the axes that most of them have, of the kind their attribute is', () => {
    expect(axesOf(variants, attributes)).toEqual([
      { key: 'Size', kind: 'size' },
      { key: 'Length', kind: 'measure' },
    ]);
    expect(axesOf([], attributes)).toEqual([]);
  });

  it('stand by their first axis, then the next; without a value last', () => {
    const axes = axesOf(variants, attributes);
    expect(orderVariants(axes, variants, 'en').map(({ id }) => id)).toEqual([3, 2, 1, 4]);
  });
});
