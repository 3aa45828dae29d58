import { describe, expect, it } from 'vitest';
import type { ChannelAttribute, Rulebook } from '../rulebooks/index.js';
import { checkMeta, familyChecks, itemChecks, valueChecks } from './index.js';

const attribute: ChannelAttribute = { key: 'a', label: 'A', type: 'text', need: 'optional', limits: {} };
const rulebook = (rules: Rulebook['rules'] = []): Rulebook => ({
  channel: 'c',
  name: 'C',
  version: '1',
  validFrom: '2026-01-01',
  markets: [{ key: 'GB', name: '', country: 'GB', language: 'en-GB', currency: 'GBP' }],
  categoryNeed: 'optional',
  leafOnly: false,
  categories: [],
  attributes: [attribute],
  rules,
  eligibility: [],
  exchange: { itemKey: 'a', formats: [] },
});

describe.each(valueChecks.map((check) => [check.meta.id, check] as const))('%s', (_id, { compile, examples }) => {
  const test = compile({ ...attribute, ...examples.attribute }, rulebook(examples.rules));
  it('passes and fails as its examples say', () => {
    expect(test).toBeDefined();
    for (const value of examples.pass) expect(test?.(value), JSON.stringify(value)).toBeUndefined();
    for (const value of examples.fail) expect(test?.(value), JSON.stringify(value)).toBeDefined();
  });
  it('is not compiled where the attribute has no such limit', () =>
    expect(compile({ ...attribute, type: 'choice' }, rulebook())).toBeUndefined());
});

it.each(itemChecks.map((check) => [check.meta.id, check] as const))('%s', (_id, { compile, examples }) => {
  const test = compile(rulebook(examples.rules), examples.at);
  for (const item of examples.pass) expect(test?.(item, examples.goods), JSON.stringify(item)).toBeUndefined();
  for (const item of examples.fail) expect(test?.(item, examples.goods), JSON.stringify(item)).toBeDefined();
});

it.each(familyChecks.map((check) => [check.meta.id, check] as const))('%s', (_id, { compile, examples }) => {
  const test = compile(rulebook(examples.rules));
  for (const family of examples.pass) expect(test?.(family).some(Boolean)).toBe(false);
  for (const family of examples.fail) expect(test?.(family).some(Boolean)).toBe(true);
});

it('every check has words for what it finds', () => {
  for (const meta of checkMeta.values())
    expect(meta.say({ value: 'x', length: 5, limit: 3, reason: 'because' }, 'Label').length).toBeGreaterThan(3);
});
