import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { convertMinor, exponentOf, fromMinor, toMinor } from './currency.js';

describe('an amount in minor units', () => {
  it.each([
    ['6.99', 'GBP', 699],
    ['12', 'EUR', 1200],
    ['0.005', 'EUR', 1],
    ['1.234', 'EUR', 123],
    ['-0.005', 'EUR', -1],
    ['-12.5', 'EUR', -1250],
    ['-0', 'EUR', 0],
    ['1200', 'JPY', 1200],
    ['1200.5', 'JPY', 1201],
    ['1.2345', 'KWD', 1235],
    ['0.00004', 'CLF', 0],
    ['9999999999.99', 'SEK', 999999999999],
  ])('of %s %s is %i', (amount, currency, minor) => expect(toMinor(amount, currency)).toBe(minor));

  it('has as many digits as its currency has', () => {
    expect(['GBP', 'JPY', 'ISK', 'BHD', 'TND', 'CLF', 'CHF'].map(exponentOf)).toEqual([2, 0, 0, 3, 3, 4, 2]);
  });

  it('is written out with all of them', () => {
    expect([
      fromMinor(5, 'GBP'),
      fromMinor(699, 'GBP'),
      fromMinor(-1, 'GBP'),
      fromMinor(7, 'JPY'),
      fromMinor(7, 'KWD'),
    ]).toEqual(['0.05', '6.99', '-0.01', '7', '0.007']);
  });

  it('comes back as it was, in every currency there is', () => {
    const currency = fc.constantFrom(...Intl.supportedValuesOf('currency'));
    fc.assert(
      fc.property(fc.integer({ min: -1e14, max: 1e14 }), currency, (minor, code) => {
        expect(toMinor(fromMinor(minor, code), code)).toBe(minor === 0 ? 0 : minor);
      }),
    );
  });
});

describe('an amount in another currency', () => {
  it.each([
    [699, 'GBP', 'SEK', '13.1234', 9173],
    [1000, 'JPY', 'EUR', '0.0061', 610],
    [610, 'EUR', 'JPY', '163.5', 997],
    [1, 'KWD', 'JPY', '500', 1],
    [-250, 'GBP', 'EUR', '1.1', -275],
    [5, 'GBP', 'EUR', '1.1', 6],
    [999999999999, 'SEK', 'SEK', '1', 999999999999],
  ])('of %i %s in %s at %s is %i', (minor, from, to, rate, converted) =>
    expect(convertMinor(minor, from, to, rate)).toBe(converted),
  );
});
