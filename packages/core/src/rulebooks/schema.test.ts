import { publishedChannels, rulebooksOf } from '@velvet-shelf/rulebooks';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Item, loadRulebook, schemaChecks } from '../checks/index.js';
import {
  type ChannelAttribute,
  type ChannelValue,
  type Rulebook,
  attributesFor,
  compareRulebooks,
  fromJsonSchema,
  plainChannelValue,
  toJsonSchema,
  unsaidBySchema,
  withCategory,
} from './index.js';

const load = (published: unknown): Rulebook => {
  const read = loadRulebook(published);
  if (!read.ok) throw new Error(read.faults.join());
  return read.rulebook;
};
const [, second] = rulebooksOf('orrivane').map(load) as [Rulebook, Rulebook];
const marketOf = ({ markets }: Rulebook): string => markets[0]?.key ?? '';

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

describe('every category of every rulebook', () => {
  const rulebooks = publishedChannels().flatMap((channel) => rulebooksOf(channel).map(load));
  const schemas = rulebooks.flatMap((rulebook) => {
    const distinct = new Map<string, string>();
    for (const { path } of rulebook.categories) {
      const text = JSON.stringify({ ...toJsonSchema(rulebook, path, marketOf(rulebook)), title: '' });
      if (!distinct.has(text)) distinct.set(text, path);
    }
    return [...distinct.values()].map((category) => ({ rulebook, category }));
  });
  const text = fc.oneof(
    fc.string({ unit: 'grapheme', maxLength: 120 }),
    fc.constantFrom(
      'opened',
      'moss',
      'A',
      'http://shop.example/a',
      'https://shop.example/a',
      '2026-01-01',
      'x'.repeat(3300),
    ),
  );
  /** As values stand there once they are brought to the attribute’s type, where that can be. */
  const anyOf = ({ type, many }: ChannelAttribute) => {
    // An empty list is no value at all.
    if (many)
      return fc.array(text, { minLength: 1, maxLength: 25 }).map((texts) => ({ kind: 'texts' as const, texts }));
    switch (type) {
      case 'number':
        return fc.oneof(fc.integer({ min: -5, max: 5000 }), text);
      case 'boolean':
        return fc.oneof(fc.boolean(), text);
      case 'money':
        return fc.oneof(
          fc.integer({ min: -5, max: 500 }).map((minor) => ({ kind: 'money' as const, minor, currency: 'GBP' })),
          text,
        );
      case 'measure':
        return fc.oneof(fc.constant({ kind: 'measure' as const, amount: '2', unit: 'g' }), fc.constant('heavy'));
      case 'date':
        return fc.oneof(fc.constant({ kind: 'date' as const, day: '2026-01-01' }), fc.constant('soon'));
      default:
        return text;
    }
  };

  it('is one of a few kinds', () => expect(schemas.length).toBeGreaterThan(1));
  it.each(
    schemas.map(({ rulebook, category }) => [`${rulebook.channel} ${rulebook.version}`, category, rulebook] as const),
  )('is judged by Ajv as by our checks: %s %s', (_, category, rulebook) => {
    const attributes = attributesFor(rulebook, category, marketOf(rulebook)).filter(
      ({ type }) => type !== 'picture' && type !== 'category',
    );
    const validate = new Ajv2020({ allErrors: true, unicodeRegExp: true }).compile(
      toJsonSchema(rulebook, category, marketOf(rulebook)),
    );
    const tests = new Map(
      attributes.map((attribute) => [
        attribute.key,
        schemaChecks.flatMap(({ compile }) => compile(attribute, rulebook) ?? []),
      ]),
    );
    const shape = Object.fromEntries(attributes.map((attribute) => [attribute.key, anyOf(attribute)]));
    fc.assert(
      fc.property(fc.record<Record<string, ChannelValue>>(shape, { requiredKeys: [] }), (item) => {
        const plain = Object.entries(item).map(([key, value]) => [key, plainChannelValue(value)]);
        validate(Object.fromEntries(plain));
        const named = (validate.errors ?? []).map(({ keyword, params, instancePath }) =>
          keyword === 'required' ? String(params.missingProperty) : instancePath.split('/')[1],
        );
        const theirs = attributes.map(({ key }) => key).filter((key) => named.includes(key));
        const ours = attributes.flatMap(({ key, need }) => {
          const value = item[key];
          const isWrong =
            value === undefined ? need === 'required' : tests.get(key)?.some((test) => test(value) !== undefined);
          return isWrong ? [key] : [];
        });
        expect(ours).toEqual(theirs);
      }),
      { seed: 12, numRuns: 25 },
    );
  });

  it('says what a schema does not', () => {
    const left = unsaidBySchema(second, 'lighting/plant-lighting/grow-lamps', 'GB');
    expect(left.join('\n')).toContain('GTIN: the check digit');
    expect(left).toContain('The rule told-by');
    expect(new Set(left).size).toBe(left.length);
  });
});

describe('attributes out of a JSON Schema', () => {
  const read = (schema: unknown) => {
    const found = fromJsonSchema(schema);
    if (!found.ok) throw new Error(found.faults.join());
    return found;
  };
  it('have its types, needs and limits; what is not carried over is told with its place', () => {
    const { attributes, left } = read({
      $schema: 'https://json-schema.org/draft/2020-12/schema',
      type: 'object',
      required: ['name', 'gone'],
      additionalProperties: false,
      properties: {
        name: { type: 'string', title: 'Name', minLength: 3, maxLength: 90, description: 'As shoppers read it' },
        shade: { enum: ['red', 'blue'] },
        watt: { type: ['integer', 'null'], exclusiveMinimum: 0, maximum: 50 },
        page: { type: 'string', format: 'uri' },
        facts: { type: 'array', items: { type: 'string', maxLength: 20 }, minItems: 2, maxItems: 6, uniqueItems: true },
        fits: { type: 'boolean' },
        until: { type: 'string', format: 'date' },
        box: { type: 'object', properties: {} },
        odd: { type: 'string', pattern: '(?<=a)b', format: 'email' },
      },
    });
    expect(attributes.map(({ key, type, need, many = false, limits }) => [key, type, need, many, limits])).toEqual([
      ['name', 'text', 'required', false, { minLength: 3, maxLength: 90 }],
      ['shade', 'choice', 'optional', false, { values: ['red', 'blue'] }],
      ['watt', 'number', 'optional', false, { min: 1, max: 50 }],
      ['page', 'link', 'optional', false, {}],
      ['facts', 'text', 'optional', true, { maxLength: 20, minCount: 2, maxCount: 6 }],
      ['fits', 'boolean', 'optional', false, {}],
      ['until', 'date', 'optional', false, {}],
      ['odd', 'text', 'optional', false, expect.anything()],
    ]);
    expect(left).toEqual(
      expect.arrayContaining([
        'additionalProperties: not carried over',
        'properties.facts.uniqueItems: not carried over',
        'properties.odd: “email” is not carried over'.replace('odd:', 'odd.format:'),
        'required: “gone” is required and not described',
      ]),
    );
    expect(left.find((words) => words.startsWith('properties.box'))).toContain('only texts, numbers');
    expect(attributes[0]).toMatchObject({ label: 'Name', help: 'As shoppers read it' });
  });
  it('are refused where there are none, with the place', () => {
    for (const [schema, fault] of [
      [{}, 'properties'],
      [{ properties: {} }, 'properties: there are none'],
      [{ properties: { a: { minLength: -1 } } }, 'properties.a.minLength'],
      [null, 'schema'],
      [{ properties: Object.fromEntries(Array.from({ length: 501 }, (_, i) => [`a${i}`, {}])) }, 'there are 501'],
    ] as const) {
      const found = fromJsonSchema(schema);
      expect(found.ok ? '' : found.faults.join()).toContain(fault);
    }
  });
  it('never end in an error of ours, whatever is given', () => {
    fc.assert(
      fc.property(fc.anything(), fc.dictionary(fc.string(), fc.anything()), (json, properties) => {
        fromJsonSchema(json);
        fromJsonSchema({ type: 'object', properties });
      }),
      { seed: 3 },
    );
  });
  it('are asked for in their category alone, and a rulebook with them loads', () => {
    const category = 'plants-growing/pots-planters/indoor-pots';
    const { attributes } = read({
      required: ['short', 'glazeDepth'],
      properties: { short: { type: 'string', maxLength: 40 }, glazeDepth: { type: 'number', minimum: 0.1 } },
    });
    const next = withCategory(second, { category, version: 'next', attributes });
    const loaded = loadRulebook(JSON.parse(JSON.stringify(next)));
    expect(loaded.ok ? [] : loaded.faults).toEqual([]);
    const asked = (path: string) =>
      new Map(attributesFor(next, path, 'GB').map((attribute) => [attribute.key, attribute]));
    expect(asked(category).get('short')?.limits.maxLength).toBe(40);
    expect(asked(category).get('glazeDepth')).toMatchObject({ need: 'required', limits: { min: 0.1 } });
    expect(asked('furniture').has('glazeDepth')).toBe(false);
    expect(asked('furniture').get('short')?.limits.maxLength).toBe(90);
    // Once more, it is as once.
    expect(withCategory(next, { category, version: 'next', attributes })).toEqual(next);
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
    expect(change?.words.join('; ')).toContain('advised: shortest length now 5, was 3');
    expect(change?.words.join('; ')).toContain('otherwise than before in ');
  });
});
