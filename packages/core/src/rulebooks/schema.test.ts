import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Item, schemaChecks } from '../checks/index.js';
import { attributesFor, compareRulebooks, loadRulebook, toJsonSchema } from './index.js';

const load = (version: string) => {
  const read = loadRulebook(
    JSON.parse(
      readFileSync(new URL(`../../../../apps/standins/rulebooks/orrivo-${version}.json`, import.meta.url), 'utf8'),
    ),
  );
  if (!read.ok) throw new Error(read.faults.join());
  return read.rulebook;
};
const first = load('2026.1');
const second = load('2026.2');

describe('a second opinion', () => {
  const category = 'lighting/plant-lighting/grow-lamps';
  const attributes = attributesFor(second, category, 'GB').filter(
    (one) => one.type !== 'picture' && one.type !== 'category',
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
    validate(item);
    const keys = (validate.errors ?? []).map((error) =>
      error.keyword === 'required' ? String(error.params.missingProperty) : error.instancePath.slice(1),
    );
    return attributes.map((one) => one.key).filter((key) => keys.includes(key));
  };
  const text = fc.oneof(
    fc.string({ unit: 'grapheme', maxLength: 160 }),
    fc.constantFrom('A', 'new', 'in stock', 'green', 'https://shop.example/a', '/a', '2026-01-01/2026-02-01'),
  );
  const item = fc.record(
    Object.fromEntries(
      attributes.map((one) => [one.key, one.type === 'money' ? fc.integer({ min: -5, max: 5000 }) : text]),
    ),
    { requiredKeys: [] },
  );
  it('Ajv finds fault with the same attributes as our checks', () => {
    fc.assert(
      fc.property(item, (one) => {
        expect(ours(one as Item)).toEqual(theirs(one as Item));
      }),
      { numRuns: 400 },
    );
  });
});

describe('loading and comparing', () => {
  it('holds about 250 categories, and no fault', () => expect(first.categories.length).toBeGreaterThan(240));
  it('names each difference of a new version', () => {
    const changes = compareRulebooks(first, second);
    expect(changes.find((one) => one.key === 'title')?.words).toEqual(['longest length now 120, was 140']);
    expect(changes.find((one) => one.key === 'plants-growing/pots-planters/orchid-pots')?.kind).toBe('added');
    expect(changes.find((one) => one.key === 'furniture/display/etageres')?.kind).toBe('removed');
    expect(compareRulebooks(first, first)).toEqual([]);
  });
  it('refuses what does not fit together, and says where', () => {
    const read = loadRulebook({ ...first, feed: { ...first.feed, itemKey: 'nothing' } });
    expect(read.ok ? [] : read.faults).toEqual(['feed.itemKey: there is no attribute “nothing”']);
    expect(loadRulebook({ channel: 'x' }).ok).toBe(false);
  });
});
