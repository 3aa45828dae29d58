/** Numbers, measures and amounts of money that can be added and compared: those of one kind. */
import Big from 'big.js';
import {
  type Attribute,
  type Measure,
  type Money,
  type SingleValue,
  exponentOf,
  sayLabel,
  steady,
} from '../values/index.js';
import type { Input, Wanted } from './model.js';
import { inUnit, sayKind } from './quantities.js';

const counted = new Set(['number', 'measure', 'money']);

/** Why these are not of the kind that shall come out. */
export function unlike(inputs: readonly Attribute[], { attribute }: Wanted): string | undefined {
  if (!counted.has(attribute.type)) return `${attribute.label} is no number, measure or amount of money`;
  const other = inputs.find(({ type, dimension }) => type !== attribute.type || dimension !== attribute.dimension);
  return other && `${other.label} is of another kind: ${sayKind(other)}, and no ${sayKind(attribute)}`;
}

/** In base units, or in decimals of its currency: exact for money. */
export const sizeOf = (value: SingleValue): Big =>
  new Big(
    typeof value === 'number' ? value : 'base' in Object(value) ? (value as Measure).base : (value as Money).amount,
  );

/** The one currency of all these; the reason where there is none. */
export function currencyOf(values: readonly SingleValue[]): { currency: string } | { reason: string } {
  const codes = [...new Set(values.map((value) => (value as Money).currency))];
  return codes.length === 1 && codes[0] !== undefined
    ? { currency: codes[0] }
    : { reason: `amounts in ${codes.join(' and ')} cannot be put together` };
}

/** An amount changed, to what there is of its currency: exact until then. */
export function changeMoney(value: SingleValue, change: (amount: Big) => Big): Money {
  const { amount, currency } = value as Money;
  return { amount: change(new Big(amount)).toFixed(exponentOf(currency)), currency };
}

/** A sum or difference as a value of the attribute. */
export function amountOf(size: Big, { attribute, unit }: Wanted, currency: string): SingleValue {
  if (attribute.type === 'money') return { amount: size.toFixed(exponentOf(currency)), currency };
  if (attribute.type === 'number') return steady(size.toNumber());
  return inUnit(size.toNumber(), unit ?? '');
}

/** Values of all inputs, or which is missing. */
export function allOf(inputs: readonly Input[]): { values: SingleValue[] } | { reason: string } {
  const missing = inputs.filter(({ value }) => value === undefined).map(({ attribute }) => sayLabel(attribute.label));
  if (missing.length > 0) return { reason: `${missing.join(' and ')} ${missing.length === 1 ? 'is' : 'are'} missing` };
  return { values: inputs.flatMap(({ value }) => value ?? []) };
}
