/** The attribute types, each with its way of reading, showing and comparing. */
import type { AttributeType, SingleValue, ValueType } from '../model.js';
import { boolean } from './boolean.js';
import { choice } from './choice.js';
import { date } from './date.js';
import { file } from './file.js';
import { link } from './link.js';
import { measure } from './measure.js';
import { media } from './media.js';
import { money } from './money.js';
import { number } from './number.js';
import { richText } from './rich-text.js';
import { text } from './text.js';

const types: { [T in AttributeType]: ValueType<never> } = {
  text,
  richText,
  number,
  measure,
  money,
  boolean,
  date,
  choice,
  media,
  link,
  file,
} as unknown as { [T in AttributeType]: ValueType<never> };

/** The definition of a type; values of other types must not be handed to it. */
export function typeOf(type: AttributeType): ValueType<SingleValue> {
  return types[type];
}
