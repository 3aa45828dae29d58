/** Values of an attribute, one or many: read from a cell, shown, written, compared. */
import { isSame } from './canonical.js';
import { foldText } from './folding.js';
import { readGtin } from './gtin.js';
import { type ClosedList, closedList } from './lists.js';
import type { Attribute, Measure, Parsed, Reader, ReadingStyle, SingleValue, Value } from './model.js';
import { typeOf } from './types/index.js';

/** What separates the members of a list in one cell. */
const listMark = /\s*[|,]\s*|\s*;\s+/;

/**
 * A part of a list that names several of an ordered closed list: "Mar–May", "Oct to Apr" (over the end of the list),
 * "all year"; names may be cut to three letters or more.
 */
function choiceSpan(part: string, list: ClosedList): string[] | undefined {
  const choices = list.values.map(({ key }) => key);
  if (/^(?:all|all year|ganzjährig|hela året)$/i.test(part)) return choices;
  const named = (word: string) => {
    const folded = foldText(word);
    const found = list.values.filter(({ names }) =>
      Object.values(names).some((name) => foldText(name).startsWith(folded)),
    );
    return folded.length >= 3 && found.length === 1 ? list.position(found[0]?.key ?? '') : -1;
  };
  const match = /^(.+?)\s*(?:[-–—]|\bto\b|\bbis\b|\btill\b)\s*(.+)$/iu.exec(part);
  const [first, last] = match ? [named(match[1] ?? ''), named(match[2] ?? '')] : [named(part), named(part)];
  if (first < 0 || last < 0) return undefined;
  const length = ((last - first + choices.length) % choices.length) + 1;
  return Array.from({ length }, (_, i) => choices[(first + i) % choices.length] as string);
}

/** Reads one cell into a value of the attribute; lists are split at commas, bars and semicolons. */
export function parseValue(raw: string, style: ReadingStyle, attribute: Attribute): Parsed<Value> {
  const cell = raw.trim();
  const type = typeOf(attribute.type);
  if (!attribute.many) return type.parse(cell, style, attribute);
  const list = closedList(attribute);
  // A name may hold what parts a list: as a whole it is one value.
  const whole = list?.read(cell);
  if (whole !== undefined) return { ok: true, value: [whole] };
  const values: SingleValue[] = [];
  const notes: string[] = [];
  for (const part of cell.split(listMark)) {
    if (part === '') continue;
    const several = list && choiceSpan(part, list);
    if (several) {
      values.push(...several.filter((word) => !values.includes(word)));
      continue;
    }
    const read = type.parse(part, style, attribute);
    if (!read.ok) return read;
    values.push(read.value);
    notes.push(...(read.notes ?? []));
  }
  return notes.length > 0 ? { ok: true, value: values, notes } : { ok: true, value: values };
}

/** Both sides of a many-valued attribute treated alike. */
export function members(value: Value): SingleValue[] {
  return Array.isArray(value) ? value : [value];
}

/** A value for people. */
export function formatValue(value: Value, attribute: Attribute, reader: Reader): string {
  const type = typeOf(attribute.type);
  return members(value)
    .map((singleValue) => type.format(singleValue, reader, attribute))
    .join(', ');
}

/** A value as plain text for files. */
export function plainValue(value: Value, attribute: Attribute): string {
  const type = typeOf(attribute.type);
  return members(value)
    .map((singleValue) => type.plain(singleValue, attribute))
    .join(', ');
}

/** The comparable keys of a value, one a member. */
export function sortKeys(value: Value, attribute: Attribute): (number | string)[] {
  const type = typeOf(attribute.type);
  return members(value).map((singleValue) => type.sortKey(singleValue, attribute));
}

/** Equal as goods data, wherever the two were kept. */
export function sameValue(a: Value | undefined, b: Value | undefined): boolean {
  return a === b || (a !== undefined && b !== undefined && isSame(a, b));
}

/** Two sources that say the same: a measure in another unit and a GTIN of another length agree; anything else is compared as it is. */
export function agree(a: Value | undefined, b: Value | undefined, attribute: Attribute): boolean {
  if (attribute.type === 'measure' && !attribute.many && a !== undefined && b !== undefined)
    return (a as Measure).base === (b as Measure).base;
  if (attribute.role === 'gtin' && typeof a === 'string' && typeof b === 'string') {
    const [x, y] = [readGtin(a), readGtin(b)];
    if (x.ok && y.ok) return x.gtin14 === y.gtin14;
  }
  return sameValue(a, b);
}
