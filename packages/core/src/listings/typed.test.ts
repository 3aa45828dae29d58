import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ChannelAttribute, type ChannelValue, sayChannelValue } from '../rulebooks/index.js';
import { firstOf, typing } from './typed.js';

const as = (type: ChannelAttribute['type'], value: ChannelValue, many = false) =>
  typing({ key: 'a', label: 'A', type, many, need: 'optional', limits: {} }, 'SEK')(value);

describe('a value as the channel’s type has it', () => {
  it.each<[ChannelAttribute['type'], ChannelValue, ChannelValue]>([
    ['number', '12.50', 12.5],
    ['number', 7, 7],
    ['number', 'a dozen', 'a dozen'],
    ['number', '1,5', '1,5'],
    ['money', '49.9', { kind: 'money', minor: 4990, currency: 'SEK' }],
    ['money', '6.99 SEK', { kind: 'money', minor: 699, currency: 'SEK' }],
    ['money', '6.99 GBP', '6.99 GBP'],
    ['money', { kind: 'money', minor: 699, currency: 'GBP' }, '6.99 GBP'],
    ['money', '$5', '$5'],
    ['money', 'on request', 'on request'],
    ['measure', '370 g', { kind: 'measure', amount: '370', unit: 'g' }],
    ['measure', '370', '370'],
    ['measure', 'about 370 g', 'about 370 g'],
    ['date', '2026-11-24', { kind: 'date', day: '2026-11-24' }],
    ['date', 'soon', 'soon'],
    ['boolean', 'yes', true],
    ['boolean', 'perhaps', 'perhaps'],
    ['picture', 'http://x/a.jpg', { kind: 'pictures', pictures: [{ address: 'http://x/a.jpg' }] }],
    ['text', { kind: 'measure', amount: '12', unit: 'cm' }, '12 cm'],
    ['text', { kind: 'texts', texts: ['herb', 'annual'] }, 'herb, annual'],
    ['text', true, 'yes'],
    ['gtin', 2104000004131, '2104000004131'],
  ])('%s of %j is %j', (type, value, sent) => expect(as(type, value)).toEqual(sent));

  it('of a list keeps each value by itself, and makes one of a single text', () => {
    const texts: ChannelValue = { kind: 'texts', texts: ['herb', 'annual'] };
    expect(as('choice', texts, true)).toBe(texts);
    expect(as('choice', 'herb', true)).toEqual({ kind: 'texts', texts: ['herb'] });
    expect(firstOf(texts, 1)).toEqual({ kind: 'texts', texts: ['herb'] });
    expect(firstOf(texts, 2)).toBe(texts);
  });

  it('that was read once is read again as it is, from itself and from its words', () => {
    const written = fc.oneof(
      fc.integer({ min: -9999, max: 9999 }).map((n) => String(n / 100)),
      fc.constantFrom('1200 JPY', '12 cm', '2.5 kg', '2026-02-28', 'no', 'moss'),
      fc.string(),
    );
    const type = fc.constantFrom<ChannelAttribute['type'][]>('number', 'money', 'measure', 'date', 'boolean', 'text');
    fc.assert(
      fc.property(type, written, (kind, text) => {
        const value = as(kind, text);
        expect(as(kind, value)).toEqual(value);
        expect(as(kind, sayChannelValue(value))).toEqual(value);
      }),
    );
  });
});
