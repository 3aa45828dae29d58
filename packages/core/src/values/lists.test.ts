/** Closed lists: values known by their keys, named in several languages, standing in trees. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compileCondition } from '../conditions/index.js';
import { testAttribute } from './fixtures.js';
import {
  type ListValue,
  closedList,
  currentValue,
  foldText,
  formatValue,
  isEmptyMark,
  parseValue,
  plainStyle,
  plainValue,
} from './index.js';

const tree: ListValue[] = [
  { key: 'k3', names: { 'en-GB': 'Lamps', 'de-DE': 'Leuchten' } },
  { key: 'k1', names: { 'en-GB': 'Pots', 'de-DE': 'Töpfe' } },
  { key: 'k2', names: { 'en-GB': 'Indoor', 'de-DE': 'Innen' }, parent: 'k1', spellings: ['inside pots'] },
  { key: 'k5', names: { 'en-GB': 'Indoor' }, parent: 'k3' },
  { key: 'k4', names: { 'en-GB': 'Bowls & dishes / large' }, parent: 'k2', hidden: true },
];
const category = testAttribute({ key: 'category', label: 'Category', type: 'choice', choices: tree });
const list = closedList(category);
const read = (text: string) => parseValue(text, plainStyle, category);

describe('values that were made one', () => {
  const merged: ListValue[] = [
    { key: 'a', names: { en: 'Settees', de: 'Sofas' }, mergedInto: 'b' },
    { key: 'b', names: { en: 'Couches' }, spellings: ['divans'] },
    { key: 'c', names: { en: 'Corner' }, parent: 'a' },
    { key: 'd', names: { en: 'Loungers' }, mergedInto: 'a' },
    { key: 'e', names: { en: 'Beds' } },
  ];
  const kind = testAttribute({ key: 'kind', type: 'choice', choices: merged });
  const one = closedList({ choices: merged });
  it.each([
    ['Settees', 'b'],
    ['sofas', 'b'],
    ['Loungers', 'b'],
    ['a', 'b'],
    ['Couches', 'b'],
    ['Couches / Corner', 'c'],
    ['Settees > Corner', 'c'],
    ['Beds', 'e'],
  ])('are all meant by “%s”', (text, key) => expect(one.read(text)).toBe(key));
  it('are offered as the one that is left, with what stood below either', () => {
    expect(one.values.map(({ key }) => key)).toEqual(['b', 'c', 'e']);
    expect(one.names('c')).toEqual(['Couches', 'Corner']);
    expect(one.say('d')).toBe('Couches');
    expect([...one.under('a')]).toEqual(['b', 'c']);
    expect(one.position('d')).toBe(0);
  });
  it('are found by conditions that name either', () => {
    const holds = (value: string) =>
      ['b', 'c', 'e'].filter(
        compileCondition({ attribute: 'kind', op: 'is', value }, new Map([['kind', kind]]), (key: string) => key),
      );
    expect(holds('a')).toEqual(['b']);
    expect(holds('Settees')).toEqual(['b']);
  });
  it('are one in what goods hold, once', () => {
    expect(currentValue('d', kind)).toBe('b');
    expect(currentValue(['a', 'b', 'e'], kind)).toEqual(['b', 'e']);
    expect(currentValue(4, kind)).toBe(4);
  });
  it('end, however they are merged in a ring', () => {
    const ring = closedList({
      choices: [
        { key: 'x', names: { en: 'X' }, mergedInto: 'y' },
        { key: 'y', names: { en: 'Y' }, mergedInto: 'x' },
      ],
    });
    expect(ring.read('X')).toBeDefined();
  });
});

describe('a value of a closed list', () => {
  it.each([
    ['Pots', 'k1'],
    ['töpfe', 'k1'],
    ['Pots/Indoor', 'k2'],
    ['Pots > Indoor', 'k2'],
    ['Töpfe / Innen', 'k2'],
    ['innen', 'k2'],
    ['Inside Pots', 'k2'],
    ['Bowls & dishes / large', 'k4'],
    ['k5', 'k5'],
  ])('is meant by “%s”', (text, key) => expect(read(text)).toEqual({ ok: true, value: key }));
  it('is not meant by a name that two of them have', () => expect(read('Indoor').ok).toBe(false));
  it('is refused with what it may be', () => {
    const few = testAttribute({ type: 'choice', choices: ['A', 'B'] });
    expect(parseValue('C', plainStyle, few)).toEqual({ ok: false, reason: '“C” is not one of A, B' });
  });
  it('is shown by its names, in the reader’s language where it has one there', () => {
    expect(formatValue('k2', category, { locale: 'de-AT', names: 'de-AT' })).toBe('Töpfe / Innen');
    expect(formatValue('k5', category, { locale: 'de-DE', names: 'de-DE' })).toBe('Leuchten / Indoor');
    expect(plainValue('k2', category)).toBe('Pots / Indoor');
    expect(formatValue('gone', category, { locale: 'en-GB', names: 'en-GB' })).toBe('gone');
  });
  it('is found by all that stands above it, and in the order of the list', () => {
    const holds = (op: 'under' | 'is' | 'isNot' | 'contains' | 'atLeast' | 'atMost', value: string) =>
      ['k1', 'k2', 'k3', 'k4', 'k5'].filter(
        compileCondition({ attribute: 'category', op, value }, new Map([['category', category]]), (key: string) => key),
      );
    expect(holds('under', 'k1')).toEqual(['k1', 'k2', 'k4']);
    expect(holds('under', 'Lamps')).toEqual(['k3', 'k5']);
    expect(holds('is', 'k2')).toEqual(['k2']);
    expect(holds('isNot', 'k2')).toEqual(['k1', 'k3', 'k4', 'k5']);
    expect(holds('contains', 'innen')).toEqual(['k2', 'k4']);
    expect(holds('atLeast', 'k1')).toEqual(['k1', 'k2', 'k4']);
    expect(holds('atMost', 'k1')).toEqual(['k1', 'k3', 'k5']);
    expect(holds('is', 'nothing of ours')).toEqual([]);
  });
  it('keeps its meaning when it is renamed or moved: what refers to it has its key', () => {
    const moved = closedList({
      choices: tree.map((value) =>
        value.key === 'k2' ? { key: 'k2', names: { 'en-GB': 'Windowsill' }, parent: 'k3' } : value,
      ),
    });
    expect(moved?.names('k4')).toEqual(['Lamps', 'Windowsill', 'Bowls & dishes / large']);
    expect([...(moved?.under('k3') ?? [])].sort()).toEqual(['k2', 'k3', 'k4', 'k5']);
  });
});

it('a list that holds an empty mark means it', () => {
  expect(isEmptyMark('n/a', closedList({ choices: ['N/A'] }))).toBe(false);
  expect(isEmptyMark('n/a', list)).toBe(true);
});

it('a list of values in one cell takes one whose name holds what parts them', () => {
  const many = testAttribute({
    type: 'choice',
    many: true,
    choices: [
      { key: 'a', names: { en: 'Red, white' } },
      { key: 'b', names: { en: 'Blue' } },
    ],
  });
  expect(parseValue('Red, white', plainStyle, many)).toEqual({ ok: true, value: ['a'] });
  expect(parseValue('Blue', plainStyle, many)).toEqual({ ok: true, value: ['b'] });
});

const folded = (path: string) => foldText(path.replace(/\s*[/>»›|]\s*/g, '/'));

it('whatever a value is called, its whole name is read back as it', () => {
  const name = fc
    .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
    .filter((text) => /[\p{L}\p{N}]/u.test(text));
  const values = fc
    .uniqueArray(fc.tuple(name, fc.option(fc.nat({ max: 5 }), { nil: undefined })), { maxLength: 8, minLength: 1 })
    .map((drawn) =>
      drawn.map(([text, above], i): ListValue => ({
        key: `v${i}`,
        names: { en: text },
        ...(above !== undefined && above < i ? { parent: `v${above}` } : {}),
      })),
    );
  fc.assert(
    fc.property(values, (choices) => {
      const compiled = closedList({ choices });
      for (const { key } of choices) {
        const said = compiled?.say(key) ?? '';
        // Two that are called the same once folded cannot be told apart; every other is itself.
        expect(folded(compiled?.say(compiled.read(said) ?? '') ?? '')).toBe(folded(said));
      }
    }),
  );
});

it('what is required is inherited down a tree, also by way of what was made one with another', () => {
  const tree = closedList({
    choices: [
      { key: 'a', names: { en: 'Pots' }, requires: ['brand', 'height'] },
      { key: 'b', names: { en: 'Indoor' }, parent: 'a', requires: ['glaze', 'brand'] },
      { key: 'c', names: { en: 'Tall' }, parent: 'b' },
      { key: 'old', names: { en: 'Jars' }, mergedInto: 'b', requires: ['lid'] },
      { key: 'd', names: { en: 'Loop' }, parent: 'd' },
    ],
  });
  expect(tree.requires('c')).toEqual(['glaze', 'brand', 'height']);
  expect(tree.requires('a')).toEqual(['brand', 'height']);
  expect(tree.requires('old')).toEqual(tree.requires('b'));
  expect([tree.requires('d'), tree.requires('unknown')]).toEqual([[], []]);
});
