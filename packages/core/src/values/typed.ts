/** What a person types into a field: a value, nothing on purpose, or why it can be neither. */
import { parseValue } from './cell.js';
import { readGtin } from './gtin.js';
import type { Attribute, Value } from './model.js';
import { plainStyle } from './model.js';

export type Typed = { claim: { value: Value } | { empty: true } } | { reason: string };

/** Reads it in plain writing (decimal point, ISO dates); nothing typed is empty on purpose, a GTIN needs its check digit. */
export function readTyped(text: string | null, attribute: Attribute): Typed {
  if (text === null || text.trim() === '') return { claim: { empty: true } };
  const read = parseValue(text, plainStyle, attribute);
  if (!read.ok) return { reason: read.reason };
  if (attribute.role !== 'gtin') return { claim: { value: read.value } };
  const gtin = readGtin(text);
  return gtin.ok ? { claim: { value: gtin.written } } : { reason: gtin.reason };
}
