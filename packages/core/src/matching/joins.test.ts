import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Decision,
  type JoinRecord,
  type MatchItem,
  findCandidates,
  joinRecords,
  pairKey,
  shareKeys,
} from './index.js';
import { itemOf } from './fixtures.js';

const record = (id: number, source: number, keys: JoinRecord['keys']): JoinRecord => ({ id, source, keys });
const groups = (records: JoinRecord[]) =>
  joinRecords(records)
    .components.map((component) => component.join('+'))
    .sort();

describe('joining records', () => {
  it('joins by GTIN, and leaves an equal number of another kind apart', () => {
    expect(groups([record(1, 1, { gtin: 'a' }), record(2, 2, { gtin: 'a' }), record(3, 3, { gtin: 'b' })])).toEqual([
      '1+2',
      '3',
    ]);
  });
  it('joins nothing by a key that stands twice in one source, and proposes it', () => {
    const { components, proposals } = joinRecords([
      record(1, 1, { gtin: 'a' }),
      record(2, 1, { gtin: 'a' }),
      record(3, 2, { gtin: 'a' }),
    ]);
    expect(components.length).toBe(3);
    expect(proposals).toMatchObject([{ key: 'a', records: [1, 2, 3], reason: 'stands-twice' }]);
  });
  it('keeps the better key where a weaker one would bring two records of one source together', () => {
    const { components, proposals } = joinRecords([
      record(1, 1, { gtin: 'a', mpn: 'm' }),
      record(2, 2, { gtin: 'a' }),
      record(3, 2, { mpn: 'm' }),
    ]);
    expect(components.map((component) => component.join('+')).sort()).toEqual(['1+2', '3']);
    expect(proposals).toMatchObject([{ level: 'mpn', reason: 'would-join-one-source-twice' }]);
  });

  it('joins what a person says is the same, and keeps apart what she says is not, whatever the keys', () => {
    const list = [record(1, 1, { gtin: 'a' }), record(2, 2, { gtin: 'a' }), record(3, 2, {}), record(4, 1, {})];
    const decided = (decisions: Decision[]) =>
      joinRecords(list, decisions)
        .components.map((component) => component.join('+'))
        .sort();
    expect(decided([])).toEqual(['1+2', '3', '4']);
    expect(decided([{ a: 3, b: 4, verdict: 'same' }])).toEqual(['1+2', '3+4']);
    expect(decided([{ a: 1, b: 2, verdict: 'different' }])).toEqual(['1', '2', '3', '4']);
    // Nobody can join two articles of one source.
    expect(decided([{ a: 1, b: 4, verdict: 'same' }])).toEqual(['1+2', '3', '4']);
  });

  const key = fc.option(fc.constantFrom('a', 'b', 'c', 'd'), { nil: undefined });
  const records = fc
    .array(fc.record({ source: fc.integer({ min: 1, max: 3 }), gtin: key, mpn: key, number: key }), { maxLength: 14 })
    .map((list) =>
      list.map(({ source, gtin, mpn, number }, i) =>
        record(i + 1, source, { ...(gtin ? { gtin } : {}), ...(mpn ? { mpn } : {}), ...(number ? { number } : {}) }),
      ),
    );
  it('gives the same joins in any order of arrival', () => {
    fc.assert(
      fc.property(records, fc.infiniteStream(fc.nat()), (list, noise) => {
        const shuffled = [...list]
          .map((join) => [noise.next().value as number, join] as const)
          .sort((a, b) => a[0] - b[0])
          .map(([, join]) => join);
        expect(groups(shuffled)).toEqual(groups(list));
      }),
    );
  });
  it('holds every “different” and any order of decisions gives the same joins', () => {
    const decision = fc.record({
      a: fc.integer({ min: 1, max: 14 }),
      b: fc.integer({ min: 1, max: 14 }),
      verdict: fc.constantFrom('same', 'different'),
    });
    const decisions = fc
      .uniqueArray(decision, { maxLength: 5, selector: ({ a, b }) => pairKey(a, b) })
      .map((all) => all.filter(({ a, b }) => a !== b) as Decision[]);
    fc.assert(
      fc.property(records, decisions, (list, decided) => {
        const { components } = joinRecords(list, decided);
        for (const { a, b, verdict } of decided)
          if (verdict === 'different')
            expect(components.some((component) => component.includes(a) && component.includes(b))).toBe(false);
        expect(joinRecords([...list].reverse(), [...decided].reverse()).components).toEqual(components);
      }),
    );
  });
  it('never holds two records of one source in one product', () => {
    fc.assert(
      fc.property(records, (list) => {
        const source = new Map(list.map((join) => [join.id, join.source]));
        for (const component of joinRecords(list).components)
          expect(new Set(component.map((id) => source.get(id))).size).toBe(component.length);
      }),
    );
  });
});

it('families that share a joined variant are one', () => {
  const answer = shareKeys([
    [1, 10],
    [1, 20],
    [2, 20],
    [3, 30],
  ]);
  expect([answer.get(1), answer.get(2), answer.get(3)]).toEqual([10, 10, 30]);
});

describe('pairs that look alike', () => {
  const item = (id: number, source: number, change: Partial<MatchItem>): MatchItem =>
    itemOf(id, { sources: [source], brand: 'Brackwater', ...change });
  const ours = item(1, 1, {
    titles: ['Hollin plant pot, 12 cm, Moss'],
    sizes: { diameter: 0.12, height: 0.11 },
    words: { glaze: 'Moss' },
  });
  const theirs = item(2, 2, {
    titles: ['Hollin Übertopf 12 cm'],
    sizes: { diameter: 0.12, height: 0.11 },
    words: { glaze: 'Waldgrün' },
  });
  const larger = item(3, 2, { titles: ['Hollin Übertopf 20 cm'], sizes: { diameter: 0.2, height: 0.19 } });
  const knownWords = new Map([
    [
      'glaze',
      new Map([
        ['waldgrun', new Set(['moss'])],
        ['moss', new Set(['waldgrun'])],
      ]),
    ],
  ]);

  it('are ranked by evidence in words: title, sizes, glaze as learnt', () => {
    const [best, ...others] = findCandidates([theirs, larger, ours], { knownWords });
    expect(best).toMatchObject({ a: 1, b: 2 });
    expect(best?.evidence.map((evidence) => evidence.kind).sort()).toEqual([
      ...['against', 'axes', 'axes', 'axes', 'brand', 'title'],
    ]);
    expect(best?.evidence.some((evidence) => evidence.words.includes('Waldgrün'))).toBe(true);
    expect(others).toEqual([]);
  });
  it('speak against each other where sizes, brand or a known word differ', () => {
    const other = item(2, 2, { ...theirs, brand: 'Wefterby', sizes: { diameter: 0.14 } });
    const [pair] = findCandidates([ours, other], { least: 0 });
    expect(pair?.evidence.filter((evidence) => evidence.points < 0).map((evidence) => evidence.words)).toEqual([
      'brand Brackwater and Wefterby',
      'diameter differs by 14 %',
      '“plant moss” and “uber” may tell them apart',
    ]);
  });
  it('are never two goods of one source, nor pairs decided before', () => {
    expect(findCandidates([ours, { ...theirs, sources: [1] }], { least: 0 }).length).toBe(0);
    expect(findCandidates([ours, theirs], { decided: new Set([pairKey(2, 1)]) })).toEqual([]);
  });
  it('an MPN that reads alike counts, one sign more is another variant', () => {
    const points = (mpn: string) =>
      findCandidates([item(1, 1, { ...ours, mpn: '1O42/12-MO' }), item(2, 2, { ...theirs, mpn })], {
        least: 0,
      })[0]?.evidence.some((evidence) => evidence.kind === 'brand-mpn');
    expect(points('1042-12 mo')).toBe(true);
    expect(points('1042/12-MA')).toBe(false);
  });
  it('an identifier that joined nothing is told', () => {
    const [pair] = findCandidates([
      item(1, 1, { ...ours, identifiers: ['GTIN 2104000004131'] }),
      item(2, 2, { ...theirs, identifiers: ['GTIN 2104000004131'] }),
    ]);
    expect(pair?.evidence.some((evidence) => evidence.words === 'the same GTIN 2104000004131')).toBe(true);
  });
  it('do not depend on the order of the goods', () => {
    const goods = Array.from({ length: 40 }, (_, i) =>
      item(i + 1, 1 + (i % 3), { titles: [`Hollin pot ${i % 7}`], sizes: { diameter: 0.1 + 0.02 * (i % 5) } }),
    );
    expect(findCandidates([...goods].reverse())).toEqual(findCandidates(goods));
  });
});
