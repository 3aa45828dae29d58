/** One row of a supplier's file → a supplier record with typed values, or the reasons why not. */
import {
  type Attribute,
  type ReadingStyle,
  type Role,
  type Value,
  closedList,
  foldCode,
  foldText,
  isEmptyMark,
  keyOf,
  parseValue,
  readGtin,
} from '../values/index.js';
import type { JoinLevel } from '../matching/index.js';
import { compileCell, longestKey } from './cells.js';
import type { ColumnMap } from './mapping.js';

/** Typed values by attribute key, or "key@language" for texts in one language. */
export type RecordValues = Record<string, Value>;

export interface RecordOffer {
  /** Decimal strings by currency. */
  regular?: Record<string, string>;
  sale?: Record<string, string>;
  saleFrom?: string;
  saleTo?: string;
  stock?: number;
}

export interface ReadRecord {
  outcome: 'read';
  key: string;
  family: string | undefined;
  options: [string, string][];
  values: RecordValues;
  offer: RecordOffer;
  boughtFrom: string | undefined;
  theirNumber: string | undefined;
  /** Cells that gave no value, or gave one only after repair. */
  notes: CellNote[];
}

export interface CellNote {
  column: string;
  cell: string;
  note: string;
  /** True where the cell gave no value. */
  lost: boolean;
  /** True where the value is taken just as it is written, and yet to be looked at. */
  told?: true;
}

export type ReadRow = ReadRecord | { outcome: 'refused'; key: string | undefined; reasons: string[] };

export interface RowReaderSetup {
  columns: readonly string[];
  map: ColumnMap;
  style: ReadingStyle;
  dictionary: ReadonlyMap<string, Attribute>;
  /** Language of texts whose column says none (BCP 47). */
  home: string;
}

export interface RowReader {
  read(cells: readonly string[]): ReadRow;
  /** The article number as written, "" where there is none. */
  keyOf(cells: readonly string[]): string;
  /** Marks an article number as seen without reading its row (`folded` spares the folding); a refusal where it was seen before. */
  take(key: string, folded?: string): Extract<ReadRow, { outcome: 'refused' }> | undefined;
}

/** Compiles a mapping into a reader of rows; it remembers article numbers to refuse the second. */
export function compileRowReader(setup: RowReaderSetup): RowReader {
  const readers = setup.columns.flatMap((column, at) =>
    setup.map
      .filter((entry) => entry.column === column)
      .flatMap(({ target }) => {
        const read = compileCell(column, target, setup);
        const attribute = target.to === 'attribute' ? setup.dictionary.get(target.attribute) : undefined;
        const list = attribute && closedList(attribute);
        return read ? [{ at, read, list }] : [];
      }),
  );
  const keyColumns = setup.columns.flatMap((column, at) =>
    setup.map.some((entry) => entry.column === column && entry.target.to === 'key') ? [at] : [],
  );
  const fillFromOptions = compileOptions(setup.dictionary);
  const header = setup.columns.map((column) => column.trim()).join('\u0001');
  const seen = new Set<string>();
  const take: RowReader['take'] = (key, folded = foldText(key)) => {
    if (seen.has(folded))
      return {
        outcome: 'refused',
        key,
        reasons: [`Article number ${key} stands on an earlier row of this file; the first one counts`],
      };
    seen.add(folded);
    return undefined;
  };
  const read: RowReader['read'] = (cells) => {
    const refused = refuse(cells, setup.columns, header, keyColumns);
    if (refused) return refused;
    const key = firstOf(cells, keyColumns);
    const again = take(key);
    if (again) return again;
    const record: ReadRecord = {
      outcome: 'read',
      key,
      family: undefined,
      options: [],
      values: {},
      offer: {},
      boughtFrom: undefined,
      theirNumber: undefined,
      notes: [],
    };
    for (const { at, read, list } of readers) {
      const cell = cells[at];
      if (cell !== undefined && !isEmptyMark(cell, list)) read(cell.trim(), record, cells);
    }
    fillFromOptions(record);
    return record;
  };
  return { read, take, keyOf: (cells) => firstOf(cells, keyColumns) };
}

/** The first of some cells that holds anything. */
function firstOf(cells: readonly string[], at: readonly number[]): string {
  for (const i of at) {
    const cell = (cells[i] ?? '').trim();
    if (!isEmptyMark(cell)) return cell;
  }
  return '';
}

/** Words that a totals row begins with, folded, in the languages of Europe and some beside. */
const totalWords = new Set(
  `total totals grand total subtotal sub total sum sums sum total total sum
  summe summen gesamt gesamtsumme zwischensumme insgesamt endsumme
  summa totalt totalsumma delsumma i alt ialt sum i alt samlet
  total general sous total totaux somme suma suma total totale totale generale subtotale somma
  totaal subtotaal som eindtotaal soma total geral razem ogolem lacznie suma koncowa celkem soucet mezisoucet spolu sucet
  yhteensa valisumma kokku summa kokku kopa is viso viso osszesen vegosszeg reszosszeg ukupno skupaj zbroj
  toplam ara toplam genel toplam συνολο γενικο συνολο итого всего сумма разом всього общо обща сума вкупно
  合計 小計 总计 合计 小计 합계 총계 المجموع סהכ`
    .split(/\s*\n\s*/)
    .flatMap((line) => phrases(line.trim().split(/\s+/))),
);

/** Single words, and two or three that stand together. */
function phrases(words: readonly string[]): string[] {
  return words.flatMap((_, i) => [1, 2, 3].map((n) => words.slice(i, i + n).join(' ')));
}

/** A row whose first filled cell is a word for totals and whose others are figures. */
function isTotals(cells: readonly string[]): boolean {
  const [first, ...others] = cells.map((cell) => cell.trim()).filter((cell) => cell !== '');
  if (first === undefined) return false;
  const word = foldText(first.replace(/[:=.]+$/, ''))
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
  // Nothing but the word, or the word with figures: goods have a name.
  return totalWords.has(word) && others.every((cell) => !/\p{L}{4}/u.test(cell) || /^[\d.,]+ *\p{L}+\.?$/u.test(cell));
}

function refuse(
  cells: readonly string[],
  columns: readonly string[],
  header: string,
  keyColumns: readonly number[],
): ReadRow | undefined {
  const no = (reason: string): ReadRow => ({
    outcome: 'refused',
    key: firstOf(cells, keyColumns) || undefined,
    reasons: [reason],
  });
  if (cells.every((cell) => cell.trim() === '')) return no('The row is empty');
  if (cells[0]?.trim() === columns[0]?.trim() && cells.map((cell) => cell.trim()).join('\u0001') === header)
    return no('The header stands here again');
  if (cells.length < columns.length)
    return no(
      `The row has ${cells.length} columns, the header ${columns.length}: a separator is missing, or the row was cut off`,
    );
  if (cells.length > columns.length)
    return no(
      `The row has ${cells.length} columns, the header ${columns.length}: a text holds the separator and is not in quotes`,
    );
  if (isTotals(cells)) return no('This is a totals row, not goods');
  if (columns.length >= 6 && cells.filter((cell) => cell.trim() !== '').length === 1)
    return no('Only one cell is filled: this is a note, not goods');
  if (firstOf(cells, keyColumns) === '')
    return no(
      `“${keyColumns.map((at) => columns[at]).join('” and “') || 'Article number'}” is empty: without an article number the row cannot be kept apart from others`,
    );
  const key = firstOf(cells, keyColumns);
  if (key.length > longestKey)
    return {
      outcome: 'refused',
      key: key.slice(0, longestKey),
      reasons: [`The article number has ${key.length} characters; ${longestKey} are kept at most`],
    };
  return undefined;
}

const plainStyle: ReadingStyle = { decimal: '.', dateOrder: 'ymd' };

/** An option axis named like an attribute says that attribute's value, where no column does. */
function compileOptions(dictionary: ReadonlyMap<string, Attribute>): (record: ReadRecord) => void {
  const byName = new Map<string, Attribute[]>();
  for (const attribute of dictionary.values())
    if (!attribute.perLanguage)
      for (const name of new Set([foldCode(attribute.label), foldCode(attribute.key)]))
        byName.set(name, [...(byName.get(name) ?? []), attribute]);
  const named = new Map<string, Attribute[]>();
  return (record) => {
    for (const [axis, value] of record.options) {
      let attributes = named.get(axis);
      if (!attributes) named.set(axis, (attributes = byName.get(foldCode(axis)) ?? []));
      for (const attribute of attributes) {
        if (record.values[attribute.key] !== undefined) continue;
        const read = parseValue(value, plainStyle, attribute);
        if (read.ok) record.values[attribute.key] = read.value;
      }
    }
  };
}

/** Comparable identifiers of a record, for joining. `number` names the supplier it points to. */
export function joinKeys(
  record: ReadRecord,
  supplier: { id: number; isOwn: boolean },
  supplierByName: (name: string) => number | undefined,
  dictionary: ReadonlyMap<string, Attribute>,
): Partial<Record<JoinLevel, string>> {
  const held = (role: Role) => record.values[keyOf(dictionary, role) ?? ''];
  const keys: Partial<Record<JoinLevel, string>> = {};
  const written = held('gtin');
  const gtin = typeof written === 'string' ? readGtin(written) : undefined;
  if (gtin?.ok) keys.gtin = gtin.gtin14;
  const [brand, mpn] = [held('brand'), held('mpn')];
  if (typeof brand === 'string' && typeof mpn === 'string' && foldCode(mpn) !== '')
    keys.mpn = `${foldCode(brand).slice(0, longestKey)}/${foldCode(mpn).slice(0, longestKey)}`;
  if (!supplier.isOwn) keys.number = `${supplier.id}:${foldText(record.key)}`;
  else if (record.boughtFrom && record.theirNumber && !keys.gtin && !(typeof mpn === 'string' && mpn !== '')) {
    const other = supplierByName(record.boughtFrom);
    if (other !== undefined) keys.number = `${other}:${foldText(record.theirNumber)}`;
  }
  return keys;
}
