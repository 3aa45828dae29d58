import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Attribute } from '../values/index.js';
import {
  type Claim,
  type Edited,
  type SourceRecord,
  type TrustPolicy,
  type UnitClaims,
  claimsOn,
  empty,
  resolveClaims,
  resolveUnit,
  trustPolicies,
} from './index.js';

const attribute = (
  key: string,
  level: Attribute['level'] = 'variant',
  type: Attribute['type'] = 'text',
): Attribute => ({ key, label: key, type, many: false, perLanguage: false, level, group: '' });
const dictionary = new Map(
  [attribute('brand'), attribute('care', 'family'), attribute('seeds', 'variant', 'number')].map((row) => [
    row.key,
    row,
  ]),
);
const source = (value: Claim['value'], rank: number, record: number, at = ''): Claim => ({
  value,
  rank,
  at,
  origin: { from: 'record', record, source: `s${rank}` },
});
const record = (id: number, rank: number, values: SourceRecord['values']): SourceRecord => ({
  id,
  supplier: `s${rank}`,
  rank,
  at: String(id),
  values,
  options: [],
});

describe('who wins', () => {
  const seeds = attribute('seeds', 'variant', 'number');
  const claims = [source(60, 1, 1, '2026-01'), source(80, 2, 2, '2026-03'), source(50, 3, 3, '2026-02')];
  it.each([
    ['ranked', 60],
    ['newest', 80],
    ['lowest', 50],
    ['highest', 80],
  ] as const)('%s', (policy, value) => expect(resolveClaims(claims, { policy }, seeds)?.value).toBe(value));
  it('a person always, even with “empty on purpose”', () => {
    const edit: Claim = { value: empty, rank: -1, at: '', origin: { from: 'edit', at: '', by: 'Iris' } };
    const resolved = resolveClaims([...claims, edit], { policy: 'highest' }, seeds);
    expect(resolved?.value).toBeUndefined();
    expect(resolved?.against.length).toBe(3);
  });
  it('does not depend on the order of arrival', () => {
    expect(resolveClaims([...claims].reverse(), { policy: 'ranked' }, seeds)?.value).toBe(60);
  });
  it('an attribute may rank its sources in an order of its own; those not named follow', () => {
    expect(resolveClaims(claims, { policy: 'ranked', ranking: ['s3'] }, seeds)?.value).toBe(50);
    expect(resolveClaims(claims.slice(0, 2), { policy: 'ranked', ranking: ['s3'] }, seeds)?.value).toBe(60);
  });
});

describe('a family', () => {
  it('hands family-level values and family edits down, and lets a variant’s own edit win', () => {
    const unit = resolveUnit(
      {
        familyEdits: [{ slot: 'brand', value: 'Mosswick', at: '', by: 'Iris' }],
        variants: [
          { id: 1, records: [record(1, 1, { brand: 'Brackwater', care: 'Wipe clean' })], edits: [] },
          {
            id: 2,
            records: [record(2, 1, { brand: 'Brackwater' })],
            edits: [{ slot: 'brand', value: 'Own', at: '', by: 'Iris' }],
          },
        ],
      },
      dictionary,
      new Map(),
    );
    const [first, second] = unit.variants;
    expect(first?.slots.get('brand')).toMatchObject({ value: 'Mosswick', inherited: true });
    expect(second?.slots.get('brand')).toMatchObject({ value: 'Own', inherited: false });
    expect(second?.slots.get('care')).toMatchObject({ value: 'Wipe clean', inherited: true });
  });
});

describe('whatever the sources', () => {
  const seeds = attribute('seeds', 'variant', 'number');
  const list = fc
    .uniqueArray(
      fc.record({
        record: fc.integer({ min: 1, max: 50 }),
        rank: fc.integer({ min: 1, max: 4 }),
        value: fc.nat(5),
        day: fc.nat(9),
      }),
      { minLength: 1, maxLength: 6, selector: (row) => row.record },
    )
    .map((all) => all.map(({ record: id, rank, value, day }) => source(value, rank, id, `2026-01-0${day}`)));
  const policy = fc.constantFrom(...trustPolicies);
  const shuffled = fc.infiniteStream(fc.nat());

  it('the winner is one of them, and every claim is its equal or stands against it', () => {
    fc.assert(
      fc.property(list, policy, (claims, which) => {
        const { value, against, origin } = resolveClaims(claims, { policy: which }, seeds) ?? { against: [] };
        expect(claims.some((claim) => claim.value === value && claim.origin === origin)).toBe(true);
        expect(against.every((claim) => claim.value !== value)).toBe(true);
        expect(against.length).toBe(claims.filter((claim) => claim.value !== value).length);
      }),
    );
  });

  it('the order of arrival decides neither the winner nor the order of those against', () => {
    fc.assert(
      fc.property(list, policy, shuffled, (claims, which, noise) => {
        const weights = new Map(claims.map((claim) => [claim, [...noise.take(1)][0] ?? 0]));
        const other = [...claims].sort((a, b) => (weights.get(a) ?? 0) - (weights.get(b) ?? 0));
        expect(resolveClaims(other, { policy: which }, seeds)).toEqual(resolveClaims(claims, { policy: which }, seeds));
      }),
    );
  });

  it('the policy holds: none is better by it than the winner', () => {
    const better: Record<Exclude<TrustPolicy, 'longest'>, (a: Claim, b: Claim) => boolean> = {
      ranked: (a, b) => a.rank < b.rank,
      newest: (a, b) => a.at > b.at,
      lowest: (a, b) => Number(a.value) < Number(b.value),
      highest: (a, b) => Number(a.value) > Number(b.value),
    };
    fc.assert(
      fc.property(list, fc.constantFrom('ranked', 'newest', 'lowest', 'highest'), (claims, which) => {
        const resolved = resolveClaims(claims, { policy: which }, seeds);
        const winner = claims.find((claim) => claim.origin === resolved?.origin) as Claim;
        expect(claims.filter((claim) => better[which](claim, winner))).toEqual([]);
      }),
    );
  });
});

describe('a variant of one source', () => {
  const values = fc.record(
    { brand: fc.constantFrom('Brackwater', 'Tarrowby'), care: fc.constantFrom('Wipe clean', 'Dry'), seeds: fc.nat(9) },
    { requiredKeys: [] },
  );
  const edits = fc.array(
    fc.record<Edited>({
      slot: fc.constantFrom('brand', 'seeds'),
      value: fc.oneof(fc.constant(empty), fc.constant('by hand')),
      at: fc.constant(''),
      by: fc.constant('Iris'),
    }),
    { maxLength: 1 },
  );
  const said = (unit: UnitClaims) =>
    resolveUnit(unit, dictionary, new Map()).variants.map(({ id, slots, options }) => ({
      id,
      options,
      slots: [...slots].map(([slot, row]) => [slot, row.value, row.inherited, row.origin.from]).sort(),
    }));

  it('comes to what it would if a worse source said nothing beside it', () => {
    fc.assert(
      fc.property(fc.array(values, { minLength: 1, maxLength: 4 }), edits, (all, familyEdits) => {
        const unit = (extra: boolean): UnitClaims => ({
          familyEdits,
          variants: all.map((row, i) => ({
            id: i,
            records: [record(i + 1, 1, row), ...(extra ? [record(i + 100, 2, {})] : [])],
            edits: [],
          })),
        });
        expect(said(unit(false))).toEqual(said(unit(true)));
      }),
    );
  });

  it('leaves out what the dictionary does not know, and says that nobody else speaks', () => {
    const [variant] = resolveUnit(
      { familyEdits: [], variants: [{ id: 1, records: [record(1, 1, { seeds: 5, unknown: 'x' })], edits: [] }] },
      dictionary,
      new Map(),
    ).variants;
    expect([...(variant?.slots.keys() ?? [])]).toEqual(['seeds']);
    expect(variant?.slots.get('seeds')).toMatchObject({
      value: 5,
      why: 'the only source',
      against: [],
      inherited: false,
    });
  });
});

describe('claims on some slots alone', () => {
  const value = fc.constantFrom('clay', 'steel', 'oak');
  const values = fc.dictionary(fc.constantFrom('brand', 'care', 'seeds'), value, { maxKeys: 3 });
  const edits = fc.array(
    fc.record({
      slot: fc.constantFrom('brand', 'care', 'seeds'),
      value: fc.oneof(value, fc.constant(empty)),
      at: fc.constantFrom('2026-01', '2026-02'),
      by: fc.constant('Iris'),
    }),
    { maxLength: 3 },
  );
  it('hold out there what all claims do', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.array(values, { maxLength: 2 }), edits), { minLength: 1, maxLength: 3 }),
        edits,
        fc.constantFrom('brand', 'care', 'seeds'),
        (members, familyEdits, slot) => {
          const unit: UnitClaims = {
            familyEdits,
            variants: members.map(([held, own], id) => ({
              id,
              edits: own,
              records: held.map((each, rank) => record(10 * id + rank, rank, each)),
            })),
          };
          const whole = resolveUnit(unit, dictionary, new Map());
          const part = resolveUnit(claimsOn(new Set([slot]), unit, dictionary), dictionary, new Map());
          expect(part.family.get(slot)).toEqual(whole.family.get(slot));
          expect(part.variants.map(({ slots }) => slots.get(slot))).toEqual(
            whole.variants.map(({ slots }) => slots.get(slot)),
          );
        },
      ),
      { numRuns: 300, seed: 7 },
    );
  });
});
