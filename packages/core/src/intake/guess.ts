/** What kind of attribute a column without a home would make: guessed from its name and its values, shown before it is made. */
import {
  type Attribute,
  type AttributeType,
  type Dimension,
  type ReadingStyle,
  foldText,
  parseMeasure,
  parseValue,
  plainText,
  units,
} from '../values/index.js';
import { describe, type Naming } from './column.js';
import { hasMarkup, isFile, isPicture, isUrl, listed } from './traits.js';
import { guessLanguage } from './vocabulary.js';

export interface GuessedAttribute {
  label: string;
  type: AttributeType;
  many: boolean;
  perLanguage: boolean;
  dimension: Dimension | null;
  /** Of a closed list, as its cells write them. */
  values: string[];
  /** Unit of bare figures, from the header. */
  unit: string | null;
  /** What made us say so. */
  why: string;
}

/** Share of the cells that has to be of a kind. */
const most = 0.9;
/** Different words that a closed list may have, and the share of the cells that may be different ones. */
const longestList = 40;
const repeated = 0.5;
const longestWord = 60;

/** `name` is the header; `cells` are those of the first rows. */
export function guessAttribute(
  name: string,
  cells: readonly string[],
  style: ReadingStyle,
  naming: Omit<Naming, 'sample'> = {},
): GuessedAttribute {
  const column = describe(name, 0, { ...naming, sample: cells.map((cell) => [cell]) });
  const { values, unit } = column;
  const different = [...new Set(values)];
  const guess = (type: AttributeType, why: string, more: Partial<GuessedAttribute> = {}): GuessedAttribute => ({
    label: labelOf(name),
    type,
    many: false,
    perLanguage: false,
    dimension: null,
    values: [],
    unit: null,
    why,
    ...more,
  });
  if (values.length === 0) return guess('text', 'it is empty in the first rows');
  const share = (test: (cell: string) => boolean) => values.filter(test).length / values.length;
  const reads = (type: AttributeType, more: Partial<Attribute> = {}) => {
    const attribute: Attribute = { ...blank, type, ...more };
    return (cell: string) => parseValue(cell, style, attribute).ok;
  };
  if (share((cell) => listed(cell).every(isPicture)) >= most)
    return guess('media', 'its cells name pictures', { many: share((cell) => listed(cell).length > 1) > 0 });
  if (share(isUrl) >= most) return guess('link', 'its cells are addresses');
  if (share((cell) => listed(cell).every(isFile)) >= most)
    return guess('file', 'its cells name files', { many: share((cell) => listed(cell).length > 1) > 0 });
  const isCode = (cell: string) => /^0\d|\d{13,}/.test(cell);
  if (
    different.length <= 2 &&
    values.length > 2 &&
    share(reads('boolean')) === 1 &&
    !values.every((cell) => /^\d+$/.test(cell))
  )
    return guess('boolean', `its cells say ${different.join(' or ')}`);
  const ofHeader = unit === undefined ? undefined : units[unit]?.dimension;
  if (unit !== undefined && ofHeader) {
    const inUnit = (cell: string) => parseMeasure(cell, { ...style, unit }, ofHeader).ok;
    if (share(inUnit) >= most)
      return guess('measure', `its header names the unit ${unit}`, { dimension: ofHeader, unit });
  }
  const named = values.map((cell) => parseMeasure(cell, style, undefined));
  const dimensionsOf = new Set(named.flatMap((read) => (read.ok ? [units[read.value.unit]?.dimension] : [])));
  const [dimension] = dimensionsOf;
  if (dimension && dimensionsOf.size === 1 && named.filter(({ ok }) => ok).length >= most * values.length)
    return guess('measure', `its cells name units, such as ${different[0]}`, { dimension });
  if (share((cell) => reads('number')(cell) && !isCode(cell)) >= most) return guess('number', 'its cells are figures');
  if (share((cell) => reads('date')(cell) && /\D/.test(cell)) >= most) return guess('date', 'its cells are dates');
  if (share((cell) => /\p{Sc}|\b[A-Z]{3}\b/u.test(cell) && reads('money')(cell)) >= most)
    return guess('money', 'its cells are amounts');
  if (share((cell) => cell.length > 80 || hasMarkup(cell)) >= 0.3) {
    const isMarkup = values.some((cell) => plainText(cell) !== cell && hasMarkup(cell));
    return guess(isMarkup ? 'richText' : 'text', 'its cells are texts', { perLanguage: true });
  }
  const isSentence = guessLanguage(values) !== undefined && share((cell) => cell.split(/\s+/).length > 4) > 0.5;
  if (isSentence) return guess('text', 'its cells are sentences', { perLanguage: true });
  const words = [...new Map(different.map((cell) => [foldText(cell), cell])).values()];
  const isList =
    words.length >= 2 &&
    words.length <= longestList &&
    words.length <= repeated * values.length &&
    words.every((word) => word.length <= longestWord) &&
    share((cell) => /\p{L}/u.test(cell)) >= most;
  if (isList) return guess('choice', `${words.length} words come again and again`, { values: words });
  return guess('text', different.length === values.length ? 'every cell is another' : 'its cells are words');
}

const blank: Attribute = {
  key: 'guessed',
  label: '',
  type: 'text',
  many: false,
  perLanguage: false,
  level: 'variant',
  group: '',
};

/** The header as a name: without what says the unit, and with a capital. */
function labelOf(name: string): string {
  const bare = name
    .replace(/[[(][^\])]*[\])]/g, '')
    .replace(/[_]+/g, ' ')
    .trim();
  const label = bare === '' ? name.trim() : bare;
  return label.charAt(0).toLocaleUpperCase() + label.slice(1);
}
