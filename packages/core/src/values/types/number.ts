import type { ValueType } from '../model.js';
import { parseDecimal } from '../numbers.js';

const largestNumber = 1e15;

export const number: ValueType<number> = {
  parse: (raw, style) => {
    const read = parseDecimal(raw, style);
    if (!read.ok) return read;
    const value = Number(read.value);
    return Math.abs(value) < largestNumber
      ? { ...read, value }
      : { ok: false, reason: `“${raw}” is larger than any number kept` };
  },
  format: (value, { locale }) => value.toLocaleString(locale, { maximumFractionDigits: 6 }),
  plain: String,
  sortKey: (value) => value,
};
