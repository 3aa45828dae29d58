import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Item, loadRulebook, schemaChecks } from '../checks/index.js';
import {
  type ChannelAttribute,
  type Rulebook,
  attributesFor,
  compareRulebooks,
  plainChannelValue,
  toJsonSchema,
} from './index.js';

const [first, second] = rulebooksOf('orrivane').map((published) => {
  const read = loadRulebook(published);
  if (!read.ok) throw new Error(read.faults.join());
  return read.rulebook;
}) as [Rulebook, Rulebook];

describe('a second opinion', () => {
  const category = 'lighting/plant-lighting/grow-lamps';
  const attributes = attributesFor(second, category, 'GB').filter(
    (row) => row.type !== 'picture' && row.type !== 'category',
  );
  const validate = new Ajv2020({ allErrors: true, unicodeRegExp: true }).compile(toJsonSchema(second, category, 'GB'));
  const tests = attributes.map((attribute) => ({
    attribute,
    tests: schemaChecks.flatMap(({ compile }) => compile(attribute, second) ?? []),
  }));
  const ours = (item: Item): string[] =>
    tests
      .filter(({ attribute, tests: list }) => {
        const value = item[attribute.key];
        return value === undefined ? attribute.need === 'required' : list.some((test) => test(value) !== undefined);
      })
      .map(({ attribute }) => attribute.key);
  const theirs = (item: Item): string[] => {
    validate(
      Object.fromEntries(
        Object.entries(item).map(([key, value]) => [key, value === undefined ? undefined : plainChannelValue(value)]),
      ),
    );
    const keys = (validate.errors ?? []).map((error) =>
      error.keyword === 'required' ? String(error.params.missingProperty) : error.instancePath.slice(1),
    );
    return attributes.map((attribute) => attribute.key).filter((key) => keys.includes(key));
  };
  const text = fc.oneof(
    fc.string({ unit: 'grapheme', maxLength: 160 }),
    fc.constantFrom('A', 'opened', 'moss', 'https://shop.example/a', '/a', '2026-01-01'),
  );
  const item = fc.record(
    Object.fromEntries(
      attributes.map((attribute) => [
        attribute.key,
        attribute.type === 'money'
          ? fc.integer({ min: -5, max: 5000 }).map((minor) => ({ kind: 'money', minor, currency: 'GBP' }))
          : attribute.type === 'number'
            ? fc.oneof(fc.integer({ min: -5, max: 5000 }), fc.constant('many'))
            : attribute.type === 'measure'
              ? fc.oneof(fc.constant({ kind: 'measure', amount: '1.5', unit: 'g' }), fc.constant('heavy'))
              : text,
      ]),
    ),
    { requiredKeys: [] },
  );
  it('Ajv finds fault with the same attributes as our checks', () => {
    fc.assert(
      fc.property(item, (row) => {
        expect(ours(row as Item)).toEqual(theirs(row as Item));
      }),
      { numRuns: 400 },
    );
  });
});

describe('loading and comparing', () => {
  it('holds about 250 categories, and no fault', () => expect(first.categories.length).toBeGreaterThan(240));
  it('names each difference of a new version', () => {
    const changes = compareRulebooks(first, second);
    expect(changes.find((change) => change.key === 'short')?.words).toEqual([
      'longest length now 90, was 110',
      'best length now 30–80 characters, was none',
    ]);
    expect(changes.find((change) => change.key === 'plants-growing/pots-planters/orchid-pots')?.kind).toBe('added');
    expect(changes.find((change) => change.key === 'furniture/display/etageres')?.kind).toBe('removed');
    expect(compareRulebooks(first, first)).toEqual([]);
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

describe('an attribute that is otherwise in some categories', () => {
  const [attribute] = second.attributes.filter(({ key }) => key === 'short') as [ChannelAttribute];
  const asked = (
    overrides: ChannelAttribute['overrides'],
    category: string | undefined,
    own: Partial<ChannelAttribute> = {},
  ) => attributesFor({ ...second, attributes: [{ ...attribute, ...own, overrides }] }, category, 'GB')[0];
  const pots = 'plants-growing/pots-planters';

  it('is so in them and all below, and nowhere else', () => {
    const overrides = [{ in: [pots], need: 'optional' as const, limits: { maxLength: 40 } }];
    expect(asked(overrides, `${pots}/indoor-pots`)).toMatchObject({
      need: 'optional',
      limits: { minLength: attribute.limits.minLength, maxLength: 40 },
    });
    for (const category of ['plants-growing', 'lighting', undefined])
      expect(asked(overrides, category)).toMatchObject({ need: attribute.need, limits: attribute.limits });
  });

  it('goes by the deepest where several hold, in whatever order they stand', () => {
    const overrides = [
      { in: [`${pots}/indoor-pots`], limits: { maxLength: 20 } },
      { in: ['plants-growing'], need: 'recommended' as const, limits: { maxLength: 60 } },
      { in: [pots], limits: { maxLength: 40 } },
    ];
    expect(asked(overrides, `${pots}/indoor-pots`)).toMatchObject({ need: 'recommended', limits: { maxLength: 20 } });
    expect(asked([...overrides].reverse(), pots)).toMatchObject({ need: 'recommended', limits: { maxLength: 40 } });
  });

  it('changes what is advised bit by bit, and what is required in a category unless it says so itself', () => {
    const own = { requiredIn: [pots], need: 'optional' as const, advised: { minLength: 10, maxLength: 50 } };
    expect(asked([{ in: [pots], advised: { maxLength: 30 } }], pots, own)).toMatchObject({
      need: 'required',
      advised: { minLength: 10, maxLength: 30 },
    });
    expect(asked([{ in: [pots], need: 'recommended' }], pots, own)?.need).toBe('recommended');
  });

  it('is refused where it names a category there is none of', () => {
    const read = loadRulebook({
      ...second,
      attributes: [{ ...attribute, overrides: [{ in: ['moon'], need: 'optional' }] }],
    });
    expect(read.ok).toBe(false);
    expect(read.ok ? '' : read.faults.join()).toContain('no category “moon”');
  });

  it('is told when a new version changes it', () => {
    const changed = {
      ...second,
      attributes: [{ ...attribute, advised: { minLength: 5 }, overrides: [{ in: [pots] }] }],
    };
    const [change] = compareRulebooks({ ...second, attributes: [attribute] }, changed);
    expect(change?.words.join('; ')).toContain('best length now 5–… characters');
    expect(change?.words.join('; ')).toContain('otherwise in other categories');
  });
});
