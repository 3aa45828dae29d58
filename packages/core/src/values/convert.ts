/** Values of an attribute as values of another kind: read as a person would write them again. */
import { parseValue, plainValue, members } from './cell.js';
import { plainText } from './markup.js';
import { convertMeasure } from './measure.js';
import type { Attribute, Measure, Money, Parsed, ReadingStyle, SingleValue, Value } from './model.js';
import { typeOf } from './types/index.js';

/**
 * Reads a value of one attribute as one of another; `style` says how texts write figures, and which unit or currency bare
 * numbers are in, or become. The reason where it cannot be.
 */
export function convertValue(value: Value, from: Attribute, to: Attribute, style: ReadingStyle): Parsed<Value> {
  const parts = members(value).map((one) => writtenAs(one, from, to, style));
  const bad = parts.find((part) => !part.ok);
  if (bad && !bad.ok) return bad;
  const texts = parts.flatMap((part) => (part.ok ? [part.value] : []));
  if (!Array.isArray(value)) return parseValue(texts[0] ?? '', style, to);
  if (texts.length === 0) return { ok: false, reason: 'It holds nothing' };
  if (!to.many)
    return texts.length === 1
      ? parseValue(texts[0] ?? '', style, to)
      : { ok: false, reason: `“${texts.join(', ')}” are ${texts.length} values; one is kept` };
  const type = typeOf(to.type);
  const read = texts.map((text) => type.parse(text, style, to));
  const fault = read.find((one) => !one.ok);
  return fault && !fault.ok ? fault : { ok: true, value: read.flatMap((one) => (one.ok ? [one.value] : [])) };
}

/** One value as text that the other type reads. */
function writtenAs(value: SingleValue, from: Attribute, to: Attribute, style: ReadingStyle): Parsed<string> {
  if (from.type === 'measure' && to.type === 'number') {
    const measure = value as Measure;
    const inUnit = style.unit === undefined ? measure : convertMeasure(measure, style.unit);
    return inUnit
      ? { ok: true, value: inDecimals(inUnit.amount, style) }
      : { ok: false, reason: `“${plainValue(measure, from)}” cannot be given in that unit` };
  }
  if (from.type === 'money' && to.type === 'number') {
    const { amount, currency } = value as Money;
    return style.currency === undefined || currency === style.currency
      ? { ok: true, value: inDecimals(amount, style) }
      : { ok: false, reason: `“${amount} ${currency}” is not in ${style.currency}` };
  }
  const text = plainValue(value, from);
  if (from.type === 'richText' && to.type !== 'richText') return { ok: true, value: plainText(text) };
  // Figures that are kept have a point; texts have what their writer had.
  const isKept = from.type === 'number' || from.type === 'measure' || from.type === 'money';
  return { ok: true, value: isKept ? inDecimals(text, style) : text };
}

const inDecimals = (text: string, { decimal }: ReadingStyle): string =>
  decimal === '.' ? text : text.replace('.', decimal);
