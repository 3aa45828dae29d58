import { parseMeasure } from '../measure.js';
import type { Measure, ValueType } from '../model.js';
import { sayUnit } from '../units.js';

export const measure: ValueType<Measure> = {
  parse: (raw, style, attribute) => parseMeasure(raw, style, attribute.dimension),
  format: (value, { locale }) =>
    `${Number(value.amount).toLocaleString(locale, { maximumFractionDigits: 6 })} ${sayUnit(value.unit)}`,
  plain: (value) => `${value.amount} ${sayUnit(value.unit)}`,
  sortKey: (value) => value.base,
};
