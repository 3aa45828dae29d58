import { describe, expect, it } from 'vitest';
import type { Attribute } from '../values/index.js';
import { type Claim, type SourceRecord, empty, resolveClaims, resolveUnit } from './index.js';

const attribute = (
  key: string,
  level: Attribute['level'] = 'variant',
  type: Attribute['type'] = 'text',
): Attribute => ({ key, label: key, type, many: false, perLanguage: false, level, group: '' });
const dictionary = new Map(
  [attribute('brand'), attribute('care', 'family'), attribute('seeds', 'variant', 'number')].map((one) => [
    one.key,
    one,
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
