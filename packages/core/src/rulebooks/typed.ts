/** What a person types for one channel attribute, as it is kept: amounts and numbers as plain decimals. */
import { exponentOf, fromMinor, parseDecimal, parseMoney, plainStyle } from '../values/index.js';
import type { ChannelAttribute } from './model.js';
import { type ChannelValue, sayChannelValue } from './value.js';

/** What must be known of an attribute to read a text typed for it. */
export type TypedAttribute = Pick<ChannelAttribute, 'label' | 'type'> & {
  /** Its closed list, where it has one. */
  values?: readonly string[] | undefined;
};

export type ReadChannelText = { ok: true; text: string } | { ok: false; reason: string };

/** Most allowed values named where another one was typed. */
const mostNamed = 12;

/** Reads a typed text; limits but for the closed list are left to the checks. `currency` is the market's (ISO 4217). */
export function readChannelText(
  typed: string,
  { label, type, values }: TypedAttribute,
  currency: string,
): ReadChannelText {
  const text = typed.trim();
  const no = (reason: string): ReadChannelText => ({ ok: false, reason });
  if (text === '') return no('type a value, or unpin it');
  if (type === 'category') return no('the category follows from the category map');
  if (type === 'number') {
    const read = parseDecimal(text, plainStyle);
    return read.ok ? { ok: true, text: read.value } : no(read.reason);
  }
  if (type === 'money') {
    const read = parseMoney(text, { ...plainStyle, currency });
    if (!read.ok) return no(read.reason);
    const { amount } = read.value;
    const digits = exponentOf(currency);
    return amount.startsWith('-') || (amount.split('.')[1] ?? '').length > digits
      ? no(`“${text}” is not a price in ${currency}; write ${fromMinor(29 * 10 ** digits, currency)}`)
      : { ok: true, text: amount };
  }
  if (values && !values.includes(text))
    return no(
      `“${text}” is none of the values of ${label}: ${values.slice(0, mostNamed).join(', ')}${values.length > mostNamed ? ' …' : ''}`,
    );
  return { ok: true, text };
}

/** A value as one would type it: an amount without its currency. */
export const typedChannelText = (value: ChannelValue): string =>
  typeof value === 'object' && value.kind === 'money' ? fromMinor(value.minor, value.currency) : sayChannelValue(value);
