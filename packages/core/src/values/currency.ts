/** Currencies as ISO 4217 has them: amounts in whole minor units, exactly, and back. */

import Big from 'big.js';

/** Digits behind the point, where they are not two (ISO 4217:2015, list one, “minor unit”). */
const exponents: Readonly<Record<string, number>> = {
  ...all(0, 'BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF'),
  ...all(3, 'BHD IQD JOD KWD LYD OMR TND'),
  ...all(4, 'CLF UYW'),
};

function all(digits: number, codes: string): Record<string, number> {
  return Object.fromEntries(codes.split(' ').map((code) => [code, digits]));
}

/** Digits behind the point of this currency. */
export const exponentOf = (currency: string): number => exponents[currency] ?? 2;

/**
 * A decimal amount in minor units of its currency: "6.99" GBP → 699, "1200" JPY → 1200, "1.2345" KWD → 1235. What is finer than
 * the currency is rounded half away from zero. Exact for all amounts below 10¹¹.
 */
export function toMinor(amount: string, currency: string): number {
  const digits = exponentOf(currency);
  const isNegative = amount.startsWith('-');
  const [whole = '0', fraction = ''] = amount.replace('-', '').split('.');
  const kept = fraction.slice(0, digits).padEnd(digits, '0');
  const minor = Number(`${whole}${kept}`) + (fraction.charAt(digits) >= '5' ? 1 : 0);
  return isNegative && minor !== 0 ? -minor : minor;
}

/** What one of a currency is in another. */
export interface Rate {
  /** In plain decimals, above zero. */
  rate: string;
  /** Who says so, and for which day (ISO 8601). */
  source: string;
  day: string;
}

/** Minor units of one currency in those of another, at a rate in plain decimals: exact, and rounded half away from zero at the end. */
export function convertMinor(minor: number, from: string, to: string, rate: string): number {
  const amount = new Big(minor).times(rate).times(new Big(10).pow(exponentOf(to) - exponentOf(from)));
  return amount.round(0, Big.roundHalfUp).toNumber();
}

/** Minor units as a decimal amount with all its digits: 699 GBP → "6.99", 1200 JPY → "1200". */
export function fromMinor(minor: number, currency: string): string {
  const digits = exponentOf(currency);
  const sign = minor < 0 ? '-' : '';
  const text = String(Math.abs(minor)).padStart(digits + 1, '0');
  return digits === 0 ? `${sign}${text}` : `${sign}${text.slice(0, -digits)}.${text.slice(-digits)}`;
}
