import type { Money, ValueType } from '../model.js';
import { parseMoney } from '../money.js';

export const money: ValueType<Money> = {
  parse: parseMoney,
  format: (value, { locale }) =>
    Number(value.amount).toLocaleString(locale, { style: 'currency', currency: value.currency }),
  plain: (value) => `${value.amount} ${value.currency}`,
  sortKey: (value) => Number(value.amount),
};
