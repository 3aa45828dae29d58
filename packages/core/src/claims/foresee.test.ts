import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testAttribute } from '../values/fixtures.js';
import type { Attribute } from '../values/index.js';
import { type SourceRecord, type UnitClaims, foreseeRecord, resolveUnit } from './index.js';

const attribute = (key: string, level: Attribute['level']) => testAttribute({ key, level });
const dictionary = new Map(
  [attribute('brand', 'variant'), attribute('care', 'family'), attribute('colour', 'variant')].map((row) => [
    row.key,
    row,
  ]),
);
const record = (id: number, rank: number, values: Record<string, string>): SourceRecord => ({
  id,
  supplier: `s${rank}`,
  rank,
  at: String(id),
  values,
  options: [],
});
const foresee = (unit: UnitClaims, variant: number, news: SourceRecord) =>
  foreseeRecord(unit, variant, news, dictionary, new Map());

describe('what a record would do to the goods it joins', () => {
  const unit: UnitClaims = {
    familyEdits: [],
    variants: [
      {
        id: 7,
        records: [record(1, 2, { brand: 'Ash', colour: 'red' })],
        edits: [{ slot: 'colour', value: 'crimson', at: '2026', by: 'Iris' }],
      },
      { id: 8, records: [record(2, 2, { care: 'wipe' })], edits: [] },
    ],
  };
  it('adds what nobody said, and leaves what a better source or a person says', () => {
    const { changes, stays } = foresee(unit, 7, record(9, 5, { brand: 'Birch', colour: 'blue', care: 'wash' }));
    expect(changes).toEqual([]);
    expect(stays.map(({ slot, says, keeps, by }) => [slot, says, keeps, by])).toEqual([
      ['brand', 'Birch', 'Ash', 's2'],
      ['colour', 'blue', 'crimson', 'Iris'],
      ['care', 'wash', 'wipe', 's2'],
    ]);
  });
  it('changes what its source is trusted in more', () => {
    const { changes, stays } = foresee(unit, 7, record(9, 1, { brand: 'Birch', care: 'wash' }));
    expect(changes).toEqual([
      { slot: 'brand', before: 'Ash', after: 'Birch' },
      { slot: 'care', before: 'wipe', after: 'wash' },
    ]);
    expect(stays).toEqual([]);
  });
  it('says the same thing: neither', () => {
    expect(foresee(unit, 7, record(9, 5, { brand: 'Ash' }))).toEqual({ changes: [], stays: [] });
  });
});

describe('whatever is claimed', () => {
  const some = fc.dictionary(fc.constantFrom('brand', 'care', 'colour'), fc.constantFrom('a', 'b', 'c'));
  const records = fc.array(fc.tuple(fc.integer({ min: 1, max: 4 }), some), { maxLength: 4 });
  it('is what resolving with the record in place says', () => {
    fc.assert(
      fc.property(records, records, fc.integer({ min: 1, max: 4 }), some, (own, other, rank, values) => {
        const at = (list: typeof own, from: number) => list.map(([r, v], i) => record(from + i, r, v));
        const unit = (mine: SourceRecord[]): UnitClaims => ({
          familyEdits: [],
          variants: [
            { id: 7, records: mine, edits: [] },
            { id: 8, records: at(other, 50), edits: [] },
          ],
        });
        const news = record(99, rank, values);
        const { changes } = foresee(unit(at(own, 1)), 7, news);
        const held = (mine: SourceRecord[]) => resolveUnit(unit(mine), dictionary, new Map()).variants[0]?.slots;
        const [before, after] = [held(at(own, 1)), held([...at(own, 1), news])];
        for (const slot of dictionary.keys()) {
          const change = changes.find((change) => change.slot === slot);
          expect(change?.after ?? before?.get(slot)?.value).toEqual(after?.get(slot)?.value);
        }
      }),
    );
  });
});
