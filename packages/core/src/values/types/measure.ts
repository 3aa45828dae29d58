import { parseMeasure } from '../measure.js';
import type { Measure, ValueType } from '../model.js';
import { unitLabel } from '../units.js';

export const measure: ValueType<Measure> = {
  parse: (raw, style, attribute) => parseMeasure(raw, style, attribute.dimension),
  format: (value, locale) =>
    `${Number(value.amount).toLocaleString(locale, { maximumFractionDigits: 6 })} ${unitLabel[value.unit] ?? value.unit}`,
  plain: (value) => `${value.amount} ${unitLabel[value.unit] ?? value.unit}`,
  sortKey: (value) => value.base,
};
