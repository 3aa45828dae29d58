/** What holds of checks for any value, beside the examples each of them brings. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ChannelAttribute, Rulebook } from '../rulebooks/index.js';
import { checkDigit, readGtin } from '../values/index.js';
import { type Sibling, checkMeta, collectiveChecks, familyChecks, itemChecks, valueChecks } from './index.js';

const rulebook = (rules: Rulebook['rules'] = []) => ({ attributes: [], rules }) as unknown as Rulebook;
const attribute = (change: Partial<ChannelAttribute> = {}): ChannelAttribute => ({
  key: 'a',
  label: 'A',
  type: 'text',
  need: 'optional',
  limits: {},
  ...change,
});
const value = (id: string, change: Partial<ChannelAttribute>, rules: Rulebook['rules'] = []) => {
  const test = valueChecks.find(({ meta }) => meta.id === id)?.compile(attribute(change), rulebook(rules));
  if (!test) throw new Error(`${id} was not compiled`);
  return test;
};
const family = (id: string, rules: Rulebook['rules'] = []) => {
  const test = familyChecks.find(({ meta }) => meta.id === id)?.compile(rulebook(rules));
  if (!test) throw new Error(`${id} was not compiled`);
  return test;
};
const text = fc.string({ unit: 'grapheme', maxLength: 40 });

describe('lengths', () => {
  it('are counted in characters as people see code points, not in halves of them', () => {
    const most = value('max-length', { limits: { maxLength: 3 } });
    expect(most('🌱🌱🌱')).toBeUndefined();
    expect(most('🌱🌱🌱🌱')).toMatchObject({ length: 4, limit: 3 });
    expect(value('min-length', { limits: { minLength: 3 } })('🌱🌱')).toMatchObject({ length: 2, limit: 3 });
  });
  it('either hold or say by how much they do not', () => {
    fc.assert(
      fc.property(text, fc.integer({ min: 1, max: 40 }), (word, limit) => {
        const length = Array.from(word).length;
        const long = value('max-length', { limits: { maxLength: limit } })(word);
        expect(long === undefined).toBe(length <= limit);
        if (long) expect(long).toMatchObject({ length, limit });
        const short = value('min-length', { limits: { minLength: limit } })(word);
        expect(short === undefined).toBe(length >= limit);
      }),
    );
  });
});

describe('capitals', () => {
  const test = value('capitals', {}, [{ check: 'capitals', attributes: ['a'] }]);
  it('are no fault of a text without any, nor of short codes', () => {
    fc.assert(
      fc.property(text, (word) => {
        expect(test(word.toLowerCase())).toBeUndefined();
      }),
    );
    expect(test('LED UK')).toBeUndefined();
    expect(test('')).toBeUndefined();
  });
  it('do not depend on what is no letter', () => {
    const letters = fc.stringMatching(/^[A-Za-z]{0,20}$/);
    const others = fc.stringMatching(/^[0-9 .,-]{0,10}$/);
    fc.assert(
      fc.property(letters, others, (word, other) => {
        expect(test(word + other) === undefined).toBe(test(word) === undefined);
      }),
    );
  });
});

describe('sales talk', () => {
  const rules: Rulebook['rules'] = [
    { check: 'sales-talk', attributes: ['a'], phrases: ['best price', '50% off', 'c++'] },
  ];
  const test = value('sales-talk', {}, rules);
  it('is found in any case and however it is spaced, as whole words', () => {
    expect(test('BEST  price of all')).toMatchObject({ phrase: 'best price' });
    expect(test('now 50% off')).toMatchObject({ phrase: '50% off' });
    expect(test('bestprices')).toBeUndefined();
    expect(test('the best prices')).toBeUndefined();
  });
  it('takes signs in a phrase as they are written', () => {
    expect(test('a book of C++ for gardeners')).toBeDefined();
    expect(test('a book of ccc for gardeners')).toBeUndefined();
  });
});

describe('identifiers', () => {
  const gtin = value('gtin-digits', { type: 'gtin' });
  it('with a true check digit pass at each length; with any other digit they do not', () => {
    const digits = fc.constantFrom(7, 11, 12, 13).chain((n) => fc.stringMatching(new RegExp(`^[1-9][0-9]{${n - 1}}$`)));
    fc.assert(
      fc.property(digits, fc.integer({ min: 1, max: 9 }), (body, off) => {
        const right = checkDigit(body);
        // Numbers of ranges that are no goods are another check's matter.
        const read = readGtin(`${body}${right}`);
        fc.pre(read.ok || !['no-trade-item', 'placeholder'].includes(read.fault));
        expect(gtin(`${body}${right}`)).toBeUndefined();
        expect(gtin(`${body}${(Number(right) + off) % 10}`)).toBeDefined();
      }),
    );
  });
  it('are asked for only as the rulebook says', () => {
    for (const { compile } of itemChecks) expect(compile(rulebook())).toBeUndefined();
    for (const { compile } of collectiveChecks) expect(compile(rulebook())).toBeUndefined();
  });
  it('that two items share are one key, however long they are written', () => {
    const [unique] = collectiveChecks.filter(({ meta }) => meta.id === 'gtin-unique');
    const compiled = unique?.compile(rulebook([{ check: 'gtin-unique', gtin: 'gtin' }]));
    expect(compiled?.keys({ gtin: '012345678905' })).toEqual(compiled?.keys({ gtin: '0012345678905' }));
    expect(compiled?.keys({ gtin: 'none' })).toEqual([]);
    expect(compiled?.keys({})).toEqual([]);
    expect([1, 2, 5].map((items) => unique?.judge({ items, families: 1 }))).toEqual([false, true, true]);
  });
});

describe('words that are banned', () => {
  const test = value('banned-words', {}, [{ check: 'banned-words', attributes: ['a'], words: ['c++', 'über gut'] }]);
  it('are met whole, in any case, whatever stands between them', () => {
    expect(test('ÜBER  GUT')).toMatchObject({ word: 'ÜBER  GUT' });
    expect(test('über-gut!')).toBeDefined();
    expect(test('überaus gut')).toBeUndefined();
    fc.assert(
      fc.property(fc.stringMatching(/^[0-9 .,c]{0,20}$/), (other) => {
        expect(test(other)).toBeUndefined();
      }),
    );
  });
});

describe('bytes', () => {
  it('are those of UTF-8, whatever the text', () => {
    fc.assert(
      fc.property(text, fc.integer({ min: 1, max: 60 }), (word, limit) => {
        const bytes = Buffer.byteLength(word, 'utf8');
        expect(value('max-bytes', { limits: { maxBytes: limit } })(word)).toEqual(
          bytes > limit ? { bytes, limit } : undefined,
        );
      }),
    );
  });
});

describe('goods of a place', () => {
  it('have titles that tell them apart, whatever the order of words; siblings need not', () => {
    const [unique] = collectiveChecks.filter(({ meta }) => meta.id === 'title-unique');
    const compiled = unique?.compile(rulebook([{ check: 'title-unique', attribute: 'a' }]));
    const keys = (title: string) => compiled?.keys({ a: title });
    expect(keys('Moss pot, 12 cm')).toEqual(keys('12 cm pot – MOSS'));
    expect(keys('Moss pot')).not.toEqual(keys('Moss pots'));
    expect([keys('Pot'), keys(''), compiled?.keys({})]).toEqual([[], [], []]);
    expect(
      [
        { items: 3, families: 1 },
        { items: 2, families: 2 },
      ].map((one) => unique?.judge(one)),
    ).toEqual([false, true]);
  });
});

describe('siblings', () => {
  const glazes = ['Moss', 'Slate', 'Chalk', 'Ochre'];
  const sibling = fc.constantFrom(...glazes).map((glaze): Sibling => ({ item: {}, options: [['glaze', glaze]] }));
  const siblings = fc.array(sibling, { maxLength: 6 });
  it('each have one answer, in their order', () => {
    for (const { compile, examples } of familyChecks) {
      const test = compile(rulebook(examples.rules));
      fc.assert(
        fc.property(siblings, (list) => {
          expect(test?.(list)).toHaveLength(list.length);
        }),
      );
    }
  });
  it('that are alike are all named, and nobody else', () => {
    fc.assert(
      fc.property(siblings, (list) => {
        const faults = family('sibling-options')(list).map(Boolean);
        const alike = list.map(
          ({ options }) => list.filter((other) => other.options[0]?.[1] === options[0]?.[1]).length > 1,
        );
        expect(faults).toEqual(alike);
      }),
    );
  });
  it('that vary on other axes than most are told what most vary on', () => {
    const on = (axis: string, name: string): Sibling => ({ item: {}, options: [[axis, name]] });
    const faults = family('sibling-axes')([on('glaze', 'Moss'), on('size', 'L'), on('glaze', 'Slate')]);
    expect(faults.map((fault) => fault?.params)).toEqual([undefined, { axes: 'size', usual: 'glaze' }, undefined]);
  });
});

it('every check is described for people in whole sentences', () => {
  for (const meta of checkMeta.values()) expect(meta.describes).toMatch(/^[A-Z].*\.$/);
});
