import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testAttribute } from './fixtures.js';
import { agree, canonical, cleanMarkup, decodeEntities, makeMeasure, parseValue, plainStyle } from './index.js';

const attribute = testAttribute;

describe('two sources that say the same', () => {
  const weight = attribute({ type: 'measure', dimension: 'mass' });
  it('may say it in another unit', () => {
    expect(agree(makeMeasure('370', 'g'), makeMeasure('0.37', 'kg'), weight)).toBe(true);
    expect(agree(makeMeasure('370', 'g'), makeMeasure('0.38', 'kg'), weight)).toBe(false);
  });
  it('may write a GTIN shorter or longer, not another one, and no fault is taken for one', () => {
    const gtin = attribute({ key: 'gtin', role: 'gtin' });
    expect(agree('614141000012', '0614141000012', gtin)).toBe(true);
    expect(agree('00614141000012', '614141000012', gtin)).toBe(true);
    expect(agree('614141000012', '4006381333931', gtin)).toBe(false);
    expect(agree('614141000013', '0614141000013', gtin)).toBe(false);
  });
  it('say different words where they say different words', () => {
    expect(agree('Moss', 'Waldgrün', attribute({}))).toBe(false);
    expect(agree(undefined, 'Moss', attribute({}))).toBe(false);
  });
});

describe('canonical text', () => {
  it('does not depend on the order of keys, and is JSON', () => {
    expect(canonical({ b: 1, a: [{ d: 'x', c: null }] })).toBe('{"a":[{"c":null,"d":"x"}],"b":1}');
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (value) => {
        const turned = Object.fromEntries(Object.entries(value).reverse());
        expect(canonical(turned)).toBe(canonical(value));
        expect(JSON.parse(canonical(value))).toEqual(JSON.parse(JSON.stringify(value)));
      }),
    );
  });
  it('leaves out what is undefined', () => expect(canonical({ a: undefined, b: 2 })).toBe('{"b":2}'));
});

describe('entities and markup', () => {
  it('decodes as often as it was escaped, and no further', () => {
    expect(decodeEntities('Basil &amp;amp;lsquo;Ombrel&rsquo;')).toBe('Basil ‘Ombrel’');
    expect(decodeEntities('AT&T &nothing;')).toBe('AT&T &nothing;');
  });
  it('never turns escaped markup into markup', () => {
    const read = parseValue('5 &amp;lt;script&amp;gt; 6', plainStyle, attribute({ type: 'richText' }));
    expect(read.ok && read.value).toBe('5 &lt;script&gt; 6');
  });
  it.each([
    ['<p>Moss</p>', '<p>Moss</p>'],
    ['<p onclick="x()">Moss</p>', '<p>Moss</p>'],
    ['<img src=x onerror=y><b>Moss</b>', '<b>Moss</b>'],
    ['<SCRIPT>x</SCRIPT>Moss', 'Moss'],
    ['<a href="javascript:x">Moss</a>', 'Moss'],
    ['<p/ onload=x>Moss</p>', '<p>Moss</p>'],
  ])('cleans %s', (raw, clean) => expect(cleanMarkup(raw).html).toBe(clean));
});

describe('spans of figures', () => {
  it.each([
    ['6-12 days', '6–12 days'],
    ['6 — 12 days', '6–12 days'],
    ['1042/10-MO', '1042/10-MO'],
    ['10-12', '10-12'],
  ])('%s is kept as %s', (raw, kept) => {
    const read = parseValue(raw, plainStyle, attribute({}));
    expect(read.ok && read.value).toBe(kept);
  });
});
