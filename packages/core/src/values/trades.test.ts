/** Figures as other trades write them: right, or refused with the reason; never a wrong value. */
import { testAttribute } from './fixtures.js';
import { describe, expect, it } from 'vitest';
import {
  closedList,
  type Dimension,
  type Measure,
  type Money,
  checkDigit,
  isEmptyMark,
  parseMeasure,
  parseValue,
  plainStyle,
  readGtin,
  unitCode,
} from './index.js';

const withDigit = (body: string) => `${body}${checkDigit(body)}`;
const comma = { decimal: ',', dateOrder: 'dmy' } as const;
const money = testAttribute({ key: 'm', label: 'M', type: 'money' });

describe('measures', () => {
  it.each<[string, Dimension, number, string]>([
    ['1/2"', 'length', 0.0127, 'in'],
    ['1½ in', 'length', 0.0381, 'in'],
    ['2-1/4"', 'length', 0.05715, 'in'],
    ['2 1/4 inches', 'length', 0.05715, 'in'],
    ['3/8 zoll', 'length', 0.009525, 'in'],
    ['½ l', 'volume', 0.5, 'l'],
    ['6 ft 2 in', 'length', 1.8796, 'in'],
    ['6\'2"', 'length', 1.8796, 'in'],
    ['6′ 2″', 'length', 1.8796, 'in'],
    ['6’2”', 'length', 1.8796, 'in'],
    ["6'", 'length', 1.8288, 'ft'],
    ['5\'10 1/2"', 'length', 1.7907, 'in'],
    ['2 lb 4 oz', 'mass', 1.02058283325, 'oz'],
    ['2 lbs. 4 oz.', 'mass', 1.02058283325, 'oz'],
    ['1 h 30 min', 'time', 1.5 / 24, 'min'],
    ['1 m 20 cm', 'length', 1.2, 'cm'],
    ['500 mg', 'mass', 0.0005, 'mg'],
    ['1.5 t', 'mass', 1500, 't'],
    ['3 Tonnen', 'mass', 3000, 't'],
    ['2 dl', 'volume', 0.2, 'dl'],
    ['33 cl', 'volume', 0.33, 'cl'],
    ['250 cm³', 'volume', 0.25, 'cm3'],
    ['250 ccm', 'volume', 0.25, 'cm3'],
    ['15 cm²', 'area', 0.0015, 'cm2'],
    ['15 qm', 'area', 15, 'm2'],
    ['12 sq ft', 'area', 1.11483648, 'ft2'],
    ['21.5 °C', 'temperature', 294.65, 'cel'],
    ['-5 °C', 'temperature', 268.15, 'cel'],
    ['68 °F', 'temperature', 293.15, 'degf'],
    ['2700 K', 'temperature', 2700, 'k'],
    ['230 V', 'voltage', 230, 'v'],
    ['500 mA', 'current', 0.5, 'ma'],
    ['2600 mAh', 'charge', 2.6, 'mah'],
    ['45 s', 'time', 45 / 86_400, 's'],
    ['3 minutes', 'time', 3 / 1440, 'min'],
    ['12 Stunden', 'time', 0.5, 'h'],
    ['12 timmar', 'time', 0.5, 'h'],
    ['3 dagar', 'time', 3, 'd'],
    ['58 dB', 'soundLevel', 58, 'db'],
    ['58 dB(A)', 'soundLevel', 58, 'db'],
    ['400 lx', 'illuminance', 400, 'lx'],
    ['1.8 bar', 'pressure', 1.8, 'bar'],
    ['65 %', 'ratio', 0.65, '%'],
    ['12 Zentimeter', 'length', 0.12, 'cm'],
    ['12 centimetres', 'length', 0.12, 'cm'],
    ['3 Liter', 'volume', 3, 'l'],
    ['4 pounds', 'mass', 1.81436948, 'lb'],
    ['ca. 14 cm', 'length', 0.14, 'cm'],
    ['~ 14cm', 'length', 0.14, 'cm'],
    ['12 cm (4.7 in)', 'length', 0.12, 'cm'],
    ["1'250 g", 'mass', 1.25, 'g'],
    ['1 250 g', 'mass', 1.25, 'g'],
    ['5 gal', 'volume', 22.73045, 'gal'],
  ])('reads %s', (raw, dimension, base, unit) => {
    const read = parseMeasure(raw, plainStyle, dimension);
    expect(read.ok ? '' : read.reason).toBe('');
    const value = (read as { value: Measure }).value;
    expect(value.base).toBeCloseTo(base, 8);
    expect(value.unit).toBe(unit);
  });
  it.each<[string, Dimension, RegExp]>([
    ['10-12 cm', 'length', /range/],
    ['10 – 12 cm', 'length', /range/],
    ['10 to 12 cm', 'length', /range/],
    ['10 bis 12 cm', 'length', /range/],
    ['max. 24 W', 'power', /limit/],
    ['up to 5 kg', 'mass', /limit/],
    ['< 5 g', 'mass', /limit/],
    ['12 x 20 cm', 'length', /./],
    ['10/12 cm', 'length', /./],
    ['12 cm 20 cm', 'length', /./],
    ['6 ft 14 in', 'length', /./],
    ['12 cm (9 in)', 'length', /not the same/],
    ['12 kg', 'length', /weight, not a length/],
    ['12 bananas', 'length', /unit/],
    ['12', 'length', /no unit/],
    ['12 cm high', 'length', /unit/],
    ['about right', 'length', /./],
    ['1e9999 m', 'length', /./],
    [`${'9'.repeat(300)} m`, 'length', /./],
    ['4 fingers', 'length', /unit/],
    ['3 pack', 'mass', /unit/],
  ])('refuses %s', (raw, dimension, reason) => {
    const read = parseMeasure(raw, plainStyle, dimension);
    expect(read.ok ? JSON.stringify(read.value) : read.reason).toMatch(reason);
    expect(read.ok).toBe(false);
  });
  it('takes the unit of its column for a bare figure, a fraction too', () => {
    expect(parseMeasure('2 1/2', { ...plainStyle, unit: 'in' }, 'length')).toMatchObject({
      ok: true,
      value: { amount: '2.5', unit: 'in' },
    });
    expect(parseMeasure('0,37', { ...comma, unit: 'KGM' }, 'mass')).toMatchObject({ ok: true, value: { unit: 'kg' } });
  });
  it('knows the unit codes of UN/CEFACT, in capitals', () => {
    expect(['KGM', 'GRM', 'CMT', 'LTR', 'WTT', 'CEL', 'INH'].map((code) => unitCode(code))).toEqual([
      'kg',
      'g',
      'cm',
      'l',
      'w',
      'cel',
      'in',
    ]);
  });
});

describe('money', () => {
  it.each([
    ['£12.50', '12.5', 'GBP'],
    ['12.50 £', '12.5', 'GBP'],
    ['£ 12.50', '12.5', 'GBP'],
    ['-£12.50', '-12.5', 'GBP'],
    ['−12.50 EUR', '-12.5', 'EUR'],
    ['(12.50 EUR)', '', ''],
    ['EUR (12.50)', '-12.5', 'EUR'],
    ['12.50- EUR', '-12.5', 'EUR'],
    ['50p', '0.5', 'GBP'],
    ['199p', '1.99', 'GBP'],
    ['99 ct', '0.99', 'EUR'],
    ['12 Euro', '12', 'EUR'],
    ['12 euros', '12', 'EUR'],
    ['15 pounds', '15', 'GBP'],
    ['249:- SEK', '249', 'SEK'],
    ['CHF 12.-', '12', 'CHF'],
    ['12.50 zł', '12.5', 'PLN'],
    ['1,234.50 USD', '1234.5', 'USD'],
    ['US$ 12.50', '12.5', 'USD'],
    ['A$12', '12', 'AUD'],
    ['¥1500', '1500', 'JPY'],
    ["CHF 1'234.50", '1234.5', 'CHF'],
    ['EUR 12.50 €', '12.5', 'EUR'],
  ])('reads %s', (raw, amount, currency) => {
    const read = parseValue(raw, plainStyle, money);
    if (amount === '') return expect(read.ok).toBe(false);
    expect(read.ok ? '' : read.reason).toBe('');
    return expect((read as { value: Money }).value).toEqual({ amount, currency });
  });
  it.each([
    ['249:-', { ...comma, currency: 'SEK' }, '249', 'SEK'],
    ['249,-', { ...comma, currency: 'NOK' }, '249', 'NOK'],
    ['249 kr', { ...comma, currency: 'DKK' }, '249', 'DKK'],
    ['12,-- €', { ...comma, currency: 'EUR' }, '12', 'EUR'],
    ['$12', { ...plainStyle, currency: 'CAD' }, '12', 'CAD'],
    ['12,50', { ...comma, currency: 'EUR' }, '12.5', 'EUR'],
  ] as const)('reads %s in its column', (raw, style, amount, currency) =>
    expect(parseValue(raw, style, money)).toMatchObject({ ok: true, value: { amount, currency } }),
  );
  it.each([
    ['12.50', /no currency/],
    ['£12.50 EUR', /two currencies/],
    ['12.50 EUR / 10.80 GBP', /./],
    ['12.50 ABC', /not a currency/],
    ['12.50 pc', /not a currency/],
    ['12.50 per m', /not a currency/],
    ['on request', /not a price/],
    ['12,50,00 EUR', /not a price/],
    ['99999999999999 EUR', /more than/],
  ])('refuses %s', (raw, reason) => {
    const read = parseValue(raw, plainStyle, money);
    expect(read.ok ? JSON.stringify(read.value) : read.reason).toMatch(reason);
    expect(read.ok).toBe(false);
  });
  it('says of a cell in another currency than its column’s that it is', () => {
    const read = parseValue('£12', { ...plainStyle, currency: 'EUR' }, money);
    expect(read.ok ? '' : read.reason).toBe('“£12” is in GBP, the column is in EUR');
  });
  it('says of a sign that several countries share for which it took it', () => {
    expect(parseValue('249 kr', plainStyle, money)).toMatchObject({
      ok: true,
      notes: [expect.stringContaining('NOK')],
    });
  });
});

describe('GTINs', () => {
  it.each([
    ['0000000000000', 'placeholder'],
    ['00000000', 'placeholder'],
    ['1111111111111', 'placeholder'],
    ['9780000000000', 'check-digit'],
    ['0512345000107', 'no-trade-item'],
    ['9800000000007', 'no-trade-item'],
    [withDigit('981234567890'), 'no-trade-item'],
    [withDigit('991234567890'), 'no-trade-item'],
  ])('refuses %s', (raw, fault) => expect(readGtin(raw)).toMatchObject({ ok: false, fault }));
  it.each(['4006381333931.0', '4006381333931,00', '4006381333931.00', "'4006381333931"])('recovers %s', (raw) =>
    expect(readGtin(raw)).toMatchObject({ ok: true, written: '4006381333931' }),
  );
  it.each(['2104000004131', '0412345678903', '9521234543213'])('takes %s, and tells that others may use it', (raw) =>
    expect(readGtin(raw)).toMatchObject({ ok: true, internal: expect.stringContaining('others may use it') }),
  );
  it.each(['9780201379624', '4006381333931', '5901234123457', '96385074', '10012345678902'])(
    'takes %s as it is',
    (raw) => expect(readGtin(raw)).toEqual({ ok: true, written: raw, gtin14: raw.padStart(14, '0') }),
  );
});

describe('an empty mark', () => {
  it.each(['-', '–', 'n/a', 'N/A', '#N/A', 'k. A.', 'null', '', ' ', '?', 'saknas'])('“%s” is empty', (text) =>
    expect(isEmptyMark(text)).toBe(true),
  );
  it.each(['x', '0', 'no', 'nej', 'N', 'A', 'none of these', '-5'])('“%s” is not', (text) =>
    expect(isEmptyMark(text)).toBe(false),
  );
  it('means what it says where a list has it', () =>
    expect(isEmptyMark('n/a', closedList({ choices: ['N/A', 'other'] }))).toBe(false));
});
