/** Amounts with VAT from those without, and back: exact, rounded half up to the currency’s own digits once. */
import Big from 'big.js';
import { exponentOf } from '../values/index.js';

/** `rate` in percent, a decimal text; an empty one changes nothing. */
export function convertVat(
  amount: string,
  { is, rate }: { is: 'with' | 'without'; rate: string },
  currency: string,
): string {
  if (rate === '') return amount;
  const factor = new Big(rate).div(100).plus(1);
  const other = is === 'without' ? new Big(amount).times(factor) : new Big(amount).div(factor);
  return other.round(exponentOf(currency), Big.roundHalfUp).toFixed();
}
