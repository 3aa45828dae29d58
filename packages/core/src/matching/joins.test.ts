import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type JoinRecord, joinRecords, shareKeys } from './index.js';

const record = (id: number, source: number, keys: JoinRecord['keys']): JoinRecord => ({ id, source, keys });
const groups = (records: JoinRecord[]) =>
  joinRecords(records)
    .components.map((one) => one.join('+'))
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
    expect(components.map((one) => one.join('+')).sort()).toEqual(['1+2', '3']);
    expect(proposals).toMatchObject([{ level: 'mpn', reason: 'would-join-one-source-twice' }]);
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
          .map((one) => [noise.next().value as number, one] as const)
          .sort((a, b) => a[0] - b[0])
          .map(([, one]) => one);
        expect(groups(shuffled)).toEqual(groups(list));
      }),
    );
  });
  it('never holds two records of one source in one product', () => {
    fc.assert(
      fc.property(records, (list) => {
        const source = new Map(list.map((one) => [one.id, one.source]));
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
