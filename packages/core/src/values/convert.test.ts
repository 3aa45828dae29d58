/** Values read as another kind: what a person would write again, and what cannot be. */
import { describe, expect, it } from 'vitest';
import { type Attribute, type ReadingStyle, type Value, convertValue, makeMeasure, plainStyle } from './index.js';

const base = { key: 'it', label: 'It', many: false, perLanguage: false, level: 'variant', group: 'Own' } as const;
const of = (type: Attribute['type'], more: Partial<Attribute> = {}): Attribute => ({ ...base, type, ...more });
const length = of('measure', { dimension: 'length' });

const become = (value: Value, from: Attribute, to: Attribute, style: Partial<ReadingStyle> = {}) => {
  const read = convertValue(value, from, to, { ...plainStyle, ...style });
  return read.ok ? read.value : read.reason;
};

describe('a value becomes', () => {
  it.each<[string, Value, Attribute, Attribute, Partial<ReadingStyle>, Value]>([
    ['a measure from a text with its unit', '12,5 cm', of('text'), length, { decimal: ',' }, makeMeasure('12.5', 'cm')],
    ['a measure from a bare number', 30, of('number'), length, { unit: 'mm' }, makeMeasure('30', 'mm')],
    ['a number from a measure, in one unit', makeMeasure('1.5', 'm'), length, of('number'), { unit: 'cm' }, 150],
    ['a text from a measure', makeMeasure('4', 'in'), length, of('text'), {}, '4 in'],
    ['money from a number', 4.5, of('number'), of('money'), { currency: 'SEK' }, { amount: '4.5', currency: 'SEK' }],
    ['a number from money', { amount: '4.50', currency: 'SEK' }, of('money'), of('number'), { currency: 'SEK' }, 4.5],
    ['a number from a text with a comma', '1.234,5', of('text'), of('number'), { decimal: ',' }, 1234.5],
    ['a text without markup', '<p>Of <b>oak</b></p>', of('richText'), of('text'), {}, 'Of oak'],
    ['several from one that names several', 'red, blue', of('text'), of('text', { many: true }), {}, ['red', 'blue']],
    ['one from a list of one', ['red'], of('text', { many: true }), of('text'), {}, 'red'],
    ['a date', '03.04.2026', of('text'), of('date'), { dateOrder: 'dmy' }, '2026-04-03'],
    ['yes from a word', 'yes', of('text'), of('boolean'), {}, true],
  ])('%s', (_, value, from, to, style, wanted) => {
    expect(become(value, from, to, style)).toEqual(wanted);
  });
});

describe('a value stays behind', () => {
  it.each<[string, Value, Attribute, Attribute, Partial<ReadingStyle>, RegExp]>([
    ['words as a number', 'about a dozen', of('text'), of('number'), {}, /dozen/],
    ['two values as one', ['red', 'blue'], of('text', { many: true }), of('text'), {}, /2 values; one is kept/],
    ['none of several', [], of('text', { many: true }), of('text'), {}, /nothing/],
    [
      'another currency',
      { amount: '4', currency: 'EUR' },
      of('money'),
      of('number'),
      { currency: 'SEK' },
      /not in SEK/,
    ],
    ['a length as litres', makeMeasure('4', 'cm'), length, of('number'), { unit: 'l' }, /cannot be given/],
    ['a weight as a length', '4 kg', of('text'), length, {}, /weight/],
  ])('%s, and says why', (_, value, from, to, style, why) => {
    expect(become(value, from, to, style)).toMatch(why);
  });
});
