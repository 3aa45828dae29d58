import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { describe, expect, it } from 'vitest';
import { loadRulebook } from '../checks/index.js';
import { type ChannelAttribute, type Rulebook, compareInCategory, compareRulebooks, marketsIn } from './index.js';

const load = (published: unknown): Rulebook => {
  const read = loadRulebook(published);
  if (!read.ok) throw new Error(read.faults.join());
  return read.rulebook;
};
const [first, second] = rulebooksOf('orrivane').map(load) as [Rulebook, Rulebook];

describe('loading and comparing', () => {
  it('holds about 250 categories, and no fault', () => expect(first.categories.length).toBeGreaterThan(240));
  it('names each difference of a new version', () => {
    const changes = compareRulebooks(first, second);
    expect(changes.find((change) => change.key === 'short')?.words).toEqual([
      'longest length now 90, was 110',
      'advised: shortest length now 30, was none',
      'advised: longest length now 80, was none',
    ]);
    expect(changes.find((change) => change.key === 'plants-growing/pots-planters/orchid-pots')).toMatchObject({
      ...{ kind: 'added', name: 'Plants & growing / Pots & planters / Orchid pots' },
    });
    expect(changes.find((change) => change.key === 'furniture/display/etageres')?.kind).toBe('removed');
    expect(compareRulebooks(first, first)).toEqual([]);
  });
  it('says which setting of a rule is another, and what it was', () => {
    const ruled = (...rules: Rulebook['rules']): Rulebook => ({ ...first, rules });
    const words = (before: Rulebook['rules'], after: Rulebook['rules']) =>
      compareRulebooks(ruled(...before), ruled(...after)).map((change) => [change.key, change.kind, change.words]);
    const quota = (items: number) => ({ check: 'quota', items });
    expect(words([quota(2000)], [quota(500)])).toEqual([['quota', 'changed', ['items now 500, was 2000']]]);
    const talk = (...phrases: string[]) => ({ check: 'sales-talk', attributes: ['short'], phrases });
    expect(words([talk('cheap', 'now')], [talk('now', 'best')])).toEqual([
      ['sales-talk', 'changed', ['phrases now with “best”, without “cheap”']],
    ]);
    expect(words([talk('a', 'b')], [talk('b', 'a')])[0]?.[2]).toEqual(['phrases in another order']);
    expect(words([talk()], [talk(...'abcdefg')])[0]?.[2]).toEqual([
      'phrases now with “a”, “b”, “c”, “d”, “e” and 2 more',
    ]);
    expect(words([quota(5)], [{ check: 'quota' }])[0]?.[2]).toEqual(['items no longer said, was 5']);
    expect(words([quota(5), quota(6)], [quota(5)])[0]?.[2]).toEqual(['its settings changed']);
    expect(words([quota(5)], [quota(5)])).toEqual([]);
  });
  it('tells what is asked otherwise in one category, wherever that is said', () => {
    const [attribute, ...rest] = first.attributes as [ChannelAttribute, ...ChannelAttribute[]];
    const [deep = '', other = ''] = [
      'plants-growing/pots-planters/indoor-pots',
      'plants-growing/watering/watering-cans',
    ];
    const of = (own: Partial<ChannelAttribute>): Rulebook => ({
      ...first,
      attributes: [{ ...attribute, ...own }, ...rest],
    });
    const at = (after: Rulebook, category: string) =>
      compareInCategory(first, after, { category, market: 'GB' }).map(({ key, kind }) => [key, kind]);
    const tighter = of({ overrides: [{ in: ['plants-growing/pots-planters'], limits: { maxCount: 1 } }] });
    expect(at(tighter, deep)).toEqual([[attribute.key, 'tightened']]);
    expect(at(tighter, other)).toEqual([]);
    expect(at(of({ categories: [other] }), deep)).toEqual([[attribute.key, 'removed']]);
    expect(at(of({ requiredIn: [deep], need: 'optional' }), deep)).toEqual(
      attribute.need === 'required' ? [] : [[attribute.key, 'tightened']],
    );
    expect(at(of({ markets: ['DE'] }), deep)).toEqual([[attribute.key, 'removed']]);
    expect(at(first, deep)).toEqual([]);
    expect(at(tighter, 'no/such')).toEqual([]);
  });
  it('tells what is tightened from what is loosened, and turned round each is the other', () => {
    const [attribute] = first.attributes as [ChannelAttribute];
    const changed = (from: Partial<ChannelAttribute>, to: Partial<ChannelAttribute>) => {
      const of = (own: Partial<ChannelAttribute>) => ({ ...first, attributes: [{ ...attribute, ...own }] });
      return [compareRulebooks(of(from), of(to)), compareRulebooks(of(to), of(from))].map(([one]) => one?.kind);
    };
    const ways: [Partial<ChannelAttribute>, Partial<ChannelAttribute>][] = [
      [{ need: 'optional' }, { need: 'required' }],
      [{ limits: {} }, { limits: { maxLength: 90 } }],
      [{ limits: { maxLength: 90 } }, { limits: { maxLength: 80 } }],
      [{ limits: { minLength: 3, min: 1 } }, { limits: { minLength: 5, min: 2 } }],
      [{ limits: { values: ['a', 'b'] } }, { limits: { values: ['b'] } }],
      [{ limits: { secure: false } }, { limits: { secure: true } }],
      [{ requiredIn: ['a'] }, { requiredIn: ['a', 'b'] }],
      [{ limits: {} }, { limits: { maxLength: 90 }, advised: { maxLength: 60 } }],
    ];
    for (const [loose, tight] of ways)
      expect(changed({ limits: {}, ...loose }, { limits: {}, ...tight }), JSON.stringify(tight)).toEqual([
        'tightened',
        'loosened',
      ]);
    expect(changed({ limits: { maxLength: 9, minLength: 1 } }, { limits: { maxLength: 8 } })).toEqual([
      'changed',
      'changed',
    ]);
    expect(changed({ limits: { values: ['a', 'b'] } }, { limits: { values: ['b', 'c'] } })).toEqual([
      'changed',
      'changed',
    ]);
  });
  it('tells what is said of the channel as a whole, and of an attribute what came and what went', () => {
    const [attribute] = first.attributes as [ChannelAttribute];
    const [one, two] = first.categories as [Rulebook['categories'][number], Rulebook['categories'][number]];
    const of = (own: Partial<ChannelAttribute>, whole: Partial<Rulebook> = {}): Rulebook => ({
      ...{ ...first, ...whole },
      attributes: [{ ...attribute, ...own }, ...first.attributes.slice(1)],
    });
    const said = (a: Rulebook, b: Rulebook) =>
      compareRulebooks(a, b).map(({ name, kind, words }) => [name, kind, words]);
    expect(said(of({ limits: { values: ['ash', 'oak'] } }), of({ limits: { values: ['oak', 'elm'] } }))).toEqual([
      [attribute.label, 'changed', ['allowed values now with “elm”, without “ash”']],
    ]);
    expect(said(of({ requiredIn: [one.path] }), of({ label: 'Else', requiredIn: [one.path, two.path] }))).toEqual([
      [
        'Else',
        'changed',
        [`called “Else”, was “${attribute.label}”`, expect.stringContaining(`required now with “${one.name}`)],
      ],
    ]);
    expect(
      said(of({}, { categoryNeed: 'optional', leafOnly: false }), of({}, { categoryNeed: 'required', leafOnly: true })),
    ).toEqual([
      [
        ...[first.name, 'tightened'],
        ['a category is now required, was optional', 'goods go into categories of the last level alone'],
      ],
    ]);
    const exchange = { ...first.exchange, itemKey: 'kin', formats: first.exchange.formats.slice(1) };
    expect(said(of({}), of({}, { exchange }))).toEqual([
      [
        first.name,
        'changed',
        [expect.stringContaining('removed and sent anew'), expect.stringMatching(/^formats now without/)],
      ],
    ]);
  });
  it('names markets that came, went or ask something else', () => {
    const [market] = first.markets as [Rulebook['markets'][number]];
    const sold = (...markets: Rulebook['markets']): Rulebook => ({ ...first, markets });
    const [there, gone] = [
      { ...market, key: 'A' },
      { ...market, key: 'B' },
    ];
    expect(
      compareRulebooks(
        sold(there, gone),
        sold({ ...there, currency: 'CLP', language: 'es-CL' }, { ...market, key: 'C' }),
      ),
    ).toEqual([
      {
        ...{ part: 'market', key: 'A', name: market.name, kind: 'changed' },
        words: [`language now es-CL, was ${market.language}`, `currency now CLP, was ${market.currency}`],
      },
      { part: 'market', key: 'C', name: market.name, kind: 'added', words: [] },
      { part: 'market', key: 'B', name: market.name, kind: 'removed', words: [] },
    ]);
  });
  it('an account of a region sells in the markets of it, one of a channel without regions in all', () => {
    const [market] = first.markets as [Rulebook['markets'][number]];
    const markets = ['n', 's', 'n'].map((region, i) => ({ ...market, key: String(i), region }));
    expect(marketsIn({ markets }, 'n').map(({ key }) => key)).toEqual(['0', '2']);
    expect(marketsIn({ markets }, '')).toBe(markets);
    const read = loadRulebook({ ...first, regions: [{ key: 'n', name: 'North' }], markets });
    expect(read.ok ? [] : read.faults).toEqual(['markets.1: there is no region “s”']);
  });
  it('refuses what does not fit together, and says where', () => {
    const read = loadRulebook({ ...first, exchange: { ...first.exchange, itemKey: 'nothing', formats: ['csv'] } });
    expect(read.ok ? [] : read.faults).toEqual([
      'exchange.itemKey: there is no attribute “nothing”',
      'exchange.formats: how csv is written is not described',
    ]);
    expect(loadRulebook({ channel: 'x' }).ok).toBe(false);
  });
});
