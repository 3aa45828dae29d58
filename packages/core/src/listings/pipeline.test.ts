import { describe, expect, it } from 'vitest';
import type { Family, Variant } from '../catalog/index.js';
import type { Condition } from '../conditions/index.js';
import type { Fill } from '../fills/index.js';
import { testPlace } from './fixtures.js';
import { type PlaceSetup, axisSources, causeKey, compilePlace, parseCause, printOf } from './index.js';

const copy = (from: string): Fill => ({ rule: { kind: 'copy', from }, fit: [] });
const fills: Record<string, Fill> = {
  own: copy('sku'),
  short: copy('title'),
  long: copy('description'),
  page: copy('page'),
  view: copy('mainPicture'),
  leavesIn: {
    rule: {
      kind: 'when',
      cases: [{ if: { attribute: 'stock', op: 'atLeast', value: '1' }, then: { kind: 'fixed', value: '0' } }],
      otherwise: null,
    },
    fit: [],
  },
  asks: copy('asking'),
  askedBefore: copy('askedBefore'),
  until: copy('saleEnd'),
  maker: copy('brand'),
  gtin: copy('gtin'),
  makerNumber: copy('mpn'),
  kin: copy('familyId'),
  differsShade: { rule: { kind: 'translate', from: 'colour', table: { Moss: 'moss' }, otherwise: 'empty' }, fit: [] },
};
const setup = (change: Partial<PlaceSetup> = {}, changed: Record<string, Fill> = {}): PlaceSetup =>
  testPlace('orrivane', {
    categoryMap: new Map([['Pots', { target: 'plants-growing/pots-planters/indoor-pots' }]]),
    fills: Object.entries({ ...fills, ...changed }).map(([attribute, fill]) => ({ attribute, fill })),
    ...change,
  });
const published = setup().rulebook;
const long = 'A pot for herbs on a dark sill. It stands firm, and is easy on the eye.';
/** With true check digits, by variant. */
const gtins: Record<number, string> = { 1: '2104000004131', 2: '2104000004162' };
const variant = (id: number, change: Partial<Variant> = {}): Variant => ({
  id,
  sku: `S${id}`,
  category: 'Pots',
  stock: 3,
  options: [['colour', 'Moss']],
  offers: { GBP: { regular: '6.99' } },
  texts: { title: { 'en-GB': 'A pot for herbs' }, description: { 'en-GB': long } },
  facts: {
    brand: 'Hobnettle',
    mpn: `M${id}`,
    gtin: gtins[id],
    page: 'https://x.example/a',
    pictures: [{ name: 'a.jpg', width: 800, height: 800 }],
    colour: 'Moss',
  },
  ...change,
});
const family = (...variants: Variant[]): Family => ({
  id: 9,
  title: 'Pots',
  isSingle: variants.length === 1,
  variants,
});
const today = '2026-11-24';
const pounds = (minor: number) => ({ kind: 'money', minor, currency: 'GBP' });
const findings = (row: Family, place = compilePlace(setup())) =>
  place
    .evaluate(row, today)
    .map((result) =>
      result.findings.filter((each) => each.severity === 'blocker').map((each) => [each.check, each.cause]),
    );

describe('evaluating a family', () => {
  it('is ready where nothing is wrong', () => {
    const [result] = compilePlace(setup()).evaluate(family(variant(1)), today);
    expect(result).toMatchObject({
      readiness: 'ready',
      category: 'plants-growing/pots-planters/indoor-pots',
      values: { own: 'S1', asks: { kind: 'money', minor: 699, currency: 'GBP' }, leavesIn: 0, differsShade: 'moss' },
    });
  });
  it('blames the first missing link: the catalog, the table, or the fill', () => {
    expect(findings(family(variant(1, { texts: {} })))[0]).toEqual([
      ['required', 'catalog:title@en-GB'],
      ['required', 'catalog:description@en-GB'],
    ]);
    const without = compilePlace(setup({ fills: setup().fills.filter((fill) => fill.attribute !== 'maker') }));
    expect(findings(family(variant(1)), without)[0]).toEqual(
      expect.arrayContaining([['required', 'fill:orrivane::maker']]),
    );
    const keeping = compilePlace(
      setup(
        {},
        { differsShade: { rule: { kind: 'translate', from: 'colour', table: {}, otherwise: 'keep' }, fit: [] } },
      ),
    );
    expect(findings(family(variant(1)), keeping)[0]).toEqual([
      ['allowed-value', 'translate:orrivane::differsShade:Moss'],
    ]);
  });
  it('asks for the text to be fitted, or the value to be mended, by the kind of fault', () => {
    expect(
      findings(
        family(variant(1, { texts: { title: { 'en-GB': 'P'.repeat(141) }, description: { 'en-GB': long } } })),
      )[0]?.map(([, cause]) => cause),
    ).toContain('fit:orrivane::short:max-length');
    expect(findings(family(variant(1, { offers: { GBP: { regular: '0.00' } } })))[0]).toEqual([
      ['positive-price', 'catalog:price:positive-price'],
    ]);
  });
  it('compares siblings, and needs an axis the channel knows', () => {
    const [first, second] = findings(family(variant(1), variant(2)));
    expect(first).toEqual([['sibling-options', 'catalog:options:sibling-options']]);
    expect(second).toEqual(first);
    const bare = variant(2, { facts: { ...variant(2).facts, colour: undefined }, options: [['plug', 'UK']] });
    expect(findings(family(variant(1), bare))[1]).toEqual([['variant-axis', 'axis:orrivane::kin']]);
  });
  it('ranks what would tell variants apart, by the siblings it tells', () => {
    const told = (id: number, weight: number, material: string) =>
      variant(id, {
        facts: { weight: { amount: String(weight), unit: 'g', base: weight }, material },
        options: [
          ['weight', `${weight} g`],
          ['Material', material],
        ],
      });
    const lamps = family(told(1, 12, 'oak'), told(2, 14, 'oak'), told(3, 16, 'ash'));
    const axes = published.attributes.filter(({ key }) => key === 'differsSize');
    const ranked = axisSources([lamps], new Set([1, 2]), axes, setup());
    expect(ranked.map(({ source, filled, apart }) => [source, filled, apart])).toEqual([
      ['options', 2, 2],
      ['weight', 2, 2],
      ['material', 2, 0],
    ]);
    expect(axisSources([lamps], new Set([3]), axes, setup()).find(({ source }) => source === 'material')?.apart).toBe(
      1,
    );
    // On a closed list only its own values count.
    const closed = axes.map((axis) => ({ ...axis, limits: { values: ['Ash'] } }));
    expect(axisSources([lamps], new Set([1, 2, 3]), closed, setup()).map(({ filled }) => filled)).toEqual([1]);
  });
  it('leaves goods out that the channel does not take, and says by which rule', () => {
    const rulebook = {
      ...published,
      eligibility: [{ id: 'x', words: 'No pots', when: { attribute: 'title', op: 'contains' as const, value: 'pot' } }],
    };
    expect(compilePlace(setup({ rulebook })).evaluate(family(variant(1)), today)[0]).toMatchObject({
      readiness: 'not for this channel',
      notFor: 'No pots',
      findings: [],
    });
  });
  it('has in its assortment what its condition says, by stock too', () => {
    const assortment = { attribute: 'stock', op: 'atLeast' as const, value: '5' };
    const standing = (stock: number) =>
      compilePlace(setup({ assortment })).evaluate(family({ ...variant(1), stock }), today)[0]?.standing;
    expect([standing(5), standing(4), standing(-3)]).toEqual(['in', 'left', 'left']);
  });
  it('sends a sale while it lasts, and knows the day it ends', () => {
    const sale = variant(1, {
      offers: { GBP: { regular: '10.00', sale: { amount: '8.00', from: '2026-11-20', to: '2026-11-30' } } },
    });
    expect(compilePlace(setup()).evaluate(family(sale), today)[0]).toMatchObject({
      values: { asks: pounds(800), askedBefore: pounds(1000), until: '2026-11-30' },
      nextChangeAt: '2026-12-01',
    });
    expect(compilePlace(setup()).evaluate(family(sale), '2026-12-01')[0]?.values).toMatchObject({ asks: pounds(1000) });
  });
  it('asks less from the first day of a sale to its last', () => {
    const on = (sale: { amount: string; from?: string; to?: string }, day = today) =>
      compilePlace(setup()).evaluate(family(variant(1, { offers: { GBP: { regular: '10.00', sale } } })), day)[0];
    const open = { amount: '8.00', from: '2026-12-24' };
    expect(on(open)?.values).toMatchObject({ asks: pounds(1000) });
    expect(on(open)?.values.askedBefore).toBeUndefined();
    expect(on(open)?.nextChangeAt).toBe('2026-12-24');
    expect(on(open, '2026-12-24')?.values).toMatchObject({ asks: pounds(800), askedBefore: pounds(1000) });
    expect(on({ ...open, to: '2026-12-31' })?.values.asks).toEqual(pounds(1000));
    expect(on({ amount: '8.00', to: '2026-11-23' })?.values.asks).toEqual(pounds(1000));
    expect(on({ amount: '8.00', to: today })?.values.asks).toEqual(pounds(800));
  });
  it('refuses a sale that is no cheaper', () => {
    const dear = variant(1, { offers: { GBP: { regular: '8.00', sale: { amount: '8.00' } } } });
    expect(findings(family(dear))[0]).toEqual([['sale-price', 'catalog:price:sale-price']]);
  });
  it('tells by stock whether and when it leaves, and says which case holds', () => {
    const gone = variant(1, { stock: 0 });
    expect(compilePlace(setup()).evaluate(family(gone), today)[0]?.values.leavesIn).toBeUndefined();
    const steps = compilePlace(setup()).trace(family(variant(1)), variant(1), 'leavesIn', today);
    expect(steps.map(({ at, words }) => [at, words])).toEqual([
      ['channel', expect.any(String)],
      ['fill', 'Case 1 of 1 holds'],
      ['catalog', 'stock in the catalog'],
      ['fill', 'A fixed value'],
    ]);
  });
  it('follows a pin before the fill', () => {
    const pinned = compilePlace(setup({ hand: new Map(), pins: new Map([[1, { short: 'A pinned pot' }]]) }));
    expect(pinned.evaluate(family(variant(1)), today)[0]?.values.short).toBe('A pinned pot');
    expect(pinned.trace(family(variant(1)), variant(1), 'short', today).map((step) => step.at)).toEqual([
      'channel',
      'pin',
    ]);
  });
  it('prints the same outcome equally and another one differently', () => {
    const place = compilePlace(setup());
    const prints = [variant(1), variant(1), variant(1, { category: undefined })].map((row) =>
      printOf(place.evaluate(family(row), today)[0] as never),
    );
    expect(prints[0]).toBe(prints[1]);
    expect(prints[0]).not.toBe(prints[2]);
  });
});

it('traces a value from the channel back to the catalog', () => {
  const steps = compilePlace(setup()).trace(family(variant(1)), variant(1), 'differsShade', today);
  expect(steps.map((step) => [step.at, step.value])).toEqual([
    ['channel', 'moss'],
    ['fill', undefined],
    ['catalog', 'Moss'],
  ]);
});

it('reads back every cause it writes', () => {
  for (const key of [
    'map-category:orrivane:GB:Seeds/Herbs',
    'fill:o:GB:title',
    'translate:o:GB:colour:a=b',
    'translate:o:GB:colour:a%3Ab%25c:glaze',
    'map-category:o:GB:Pots%40home%3A indoors',
    'fit:o:GB:title:max-length',
    'fit:o:GB:title:max-length:Pots/Indoor',
    'fill:o:GB:title:!Pots',
    'translate:o:GB:colour:a:glaze:Pots/Indoor',
    'translate:o:GB:colour:a::!',
    'catalog:title@en-GB',
    'catalog:gtin:gtin-unique',
    'report:o:GB:gtin-twice',
  ]) {
    const cause = parseCause(key);
    expect(cause && causeKey(cause)).toBe(key);
  }
});

describe('a category of ours that is split', () => {
  const [indoor = '', other = '', further = ''] = published.categories
    .map(({ path }) => path)
    .filter((path) => path.split('/').length === 3);
  const is = (attribute: string, value: string): Condition => ({ attribute, op: 'is', value });
  const two: PlaceSetup['rulebook'] = {
    ...published,
    secondCategory: 'also',
    attributes: [
      ...published.attributes,
      { key: 'also', label: 'Also', type: 'category', need: 'optional', limits: {} },
    ],
  };
  const place = (map: NonNullable<ReturnType<PlaceSetup['categoryMap']['get']>>, rulebook = two) =>
    compilePlace(setup({ rulebook, categoryMap: new Map([['Pots', map]]) }));
  const stands = (of: ReturnType<typeof place>, ...variants: Variant[]) =>
    of.evaluate(family(...variants), today).map(({ category, values }) => [category, values.also]);

  it('stands where the first of its conditions says, the others where it stands itself', () => {
    const map = {
      target: indoor,
      splits: [
        { condition: is('mpn', 'M2'), target: other },
        { condition: { any: [is('mpn', 'M2'), is('mpn', 'M3')] }, target: further, second: indoor },
      ],
    };
    expect(stands(place(map), variant(1), variant(2), variant(3))).toEqual([
      [indoor, undefined],
      [other, undefined],
      [further, indoor],
    ]);
  });
  it('is of a further category where the channel takes one, and of none that its tree does not have', () => {
    const map = { target: indoor, second: other };
    expect(stands(place(map), variant(1))).toEqual([[indoor, other]]);
    expect(stands(place(map, published), variant(1))).toEqual([[indoor, undefined]]);
    expect(stands(place({ target: indoor, second: 'gone' }), variant(1))).toEqual([[indoor, undefined]]);
    expect(stands(place({ target: 'gone', splits: [{ condition: { all: [] }, target: other }] }), variant(1))).toEqual([
      [other, undefined],
    ]);
  });
  it('by what nobody keeps is not split', () =>
    expect(
      stands(place({ target: indoor, splits: [{ condition: is('unknown', 'x'), target: other }] }), variant(1)),
    ).toEqual([[indoor, undefined]]));
});

describe('a place with another currency', () => {
  it.each([
    ['JPY', '1200', 1200, '1200 JPY'],
    ['KWD', '6.9995', 7000, '7.000 KWD'],
    ['SEK', '69.90', 6990, '69.90 SEK'],
  ])('asks prices in %s with its own digits', (currency, regular, minor, said) => {
    const place = compilePlace(setup({ currency }));
    const goods = family(variant(1, { offers: { [currency]: { regular } } }));
    expect(place.evaluate(goods, today)[0]?.values.asks).toEqual({ kind: 'money', minor, currency });
    expect(place.trace(goods, goods.variants[0] as Variant, 'asks', today)[0]?.value).toBe(said);
  });
  it('takes no amount in another currency for one in its own', () => {
    const place = compilePlace(setup({}, { asks: { rule: { kind: 'fixed', value: '9.90 EUR' }, fit: [] } }));
    const [result] = place.evaluate(family(variant(1)), today);
    expect(result?.readiness).toBe('blocked');
    expect(result?.findings).toContainEqual(
      expect.objectContaining({ check: 'value-kind', attribute: 'asks', severity: 'blocker' }),
    );
  });
});

describe('what is required of some items only', () => {
  const asked = (
    requiredWhen: Condition,
    change: Partial<Variant> = {},
    need: 'optional' | 'recommended' = 'optional',
  ) => {
    const { rulebook } = setup();
    const attributes = rulebook.attributes.map((attribute) =>
      attribute.key === 'factEnergy'
        ? { ...attribute, need, categories: undefined, requiredIn: undefined, requiredWhen }
        : attribute,
    );
    const place = compilePlace(setup({ rulebook: { ...rulebook, attributes } }));
    const [result] = place.evaluate(family(variant(1, change)), today);
    return result?.findings.flatMap(({ check, attribute }) => (attribute === 'factEnergy' ? [check] : []));
  };
  it.each<[string, Condition, string[]]>([
    ['a price over ten pounds', { attribute: 'asks', op: 'atLeast', value: '10' }, []],
    ['a price over five', { attribute: 'asks', op: 'atLeast', value: '5' }, ['required']],
    ['goods that leave today', { attribute: 'leavesIn', op: 'is', value: '0' }, ['required']],
    ['another shade', { attribute: 'differsShade', op: 'is', value: 'slate' }, []],
    ['its shade', { attribute: 'differsShade', op: 'is', value: 'moss' }, ['required']],
    ['no further pictures', { attribute: 'moreViews', op: 'isEmpty' }, ['required']],
  ])('is judged by the values that are sent: %s', (_what, when, checks) => expect(asked(when)).toEqual(checks));
  it('is advised of the others, where the rulebook recommends it', () => {
    expect(asked({ attribute: 'asks', op: 'atLeast', value: '10' }, {}, 'recommended')).toEqual(['recommended']);
    expect(asked({ attribute: 'asks', op: 'atLeast', value: '5' }, {}, 'recommended')).toEqual(['required']);
  });
});
