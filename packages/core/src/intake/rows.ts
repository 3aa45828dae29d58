/** One row of a supplier's file → a supplier record with typed values, or the reasons why not. */
import { readOptions } from '../catalog/index.js';
import {
  type Attribute,
  type ReadingStyle,
  type Value,
  foldCode,
  foldText,
  parseDecimal,
  parseValue,
  readGtin,
  typeOf,
} from '../values/index.js';
import type { JoinLevel } from '../matching/index.js';
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
}

export type ReadRow = ReadRecord | { outcome: 'refused'; key: string | undefined; reasons: string[] };

export interface RowReaderSetup {
  columns: readonly string[];
  map: ColumnMap;
  style: ReadingStyle;
  dictionary: ReadonlyMap<string, Attribute>;
}

type CellReader = (cell: string, into: ReadRecord) => void;

/** Compiles a mapping into a function that reads rows; it remembers article numbers to refuse the second. */
export function compileRowReader(setup: RowReaderSetup): (cells: readonly string[]) => ReadRow {
  const readers = setup.columns.map((column) => cellReader(column, setup));
  const keyColumn = setup.columns.findIndex((column) =>
    setup.map.some((entry) => entry.column === column && entry.target.to === 'key'),
  );
  const header = setup.columns.map((column) => column.trim()).join('\u0001');
  const seen = new Set<string>();
  return (cells) => {
    const refused = refuse(cells, setup.columns, header, keyColumn);
    if (refused) return refused;
    const key = (cells[keyColumn] ?? '').trim();
    const folded = foldText(key);
    if (seen.has(folded))
      return {
        outcome: 'refused',
        key,
        reasons: [`Article number ${key} stands on an earlier row of this file; the first one counts`],
      };
    seen.add(folded);
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
    for (let i = 0; i < readers.length; i++) {
      const cell = cells[i];
      if (cell !== undefined && cell.trim() !== '') readers[i]?.(cell.trim(), record);
    }
    fillFromOptions(record, setup.dictionary);
    return record;
  };
}

/** What the first cell of a totals row says, in English, German and Swedish. */
const totals = /^(?:(?:grand |sub)?total|sum|summe|gesamt(?:summe)?|zwischensumme|summa|totalt)\b:?$/i;

function refuse(
  cells: readonly string[],
  columns: readonly string[],
  header: string,
  keyColumn: number,
): ReadRow | undefined {
  const no = (reason: string): ReadRow => ({
    outcome: 'refused',
    key: cells[keyColumn]?.trim() || undefined,
    reasons: [reason],
  });
  if (cells.every((cell) => cell.trim() === '')) return no('The row is empty');
  if (cells.map((cell) => cell.trim()).join('\u0001') === header) return no('The header stands here again');
  if (cells.length < columns.length)
    return no(
      `The row has ${cells.length} columns, the header ${columns.length}: a separator is missing, or the row was cut off`,
    );
  if (cells.length > columns.length)
    return no(
      `The row has ${cells.length} columns, the header ${columns.length}: a text holds the separator and is not in quotes`,
    );
  if (totals.test((cells[0] ?? '').trim())) return no('This is a totals row, not goods');
  if ((cells[keyColumn] ?? '').trim() === '')
    return no(
      `“${columns[keyColumn] ?? 'Article number'}” is empty: without an article number the row cannot be kept apart from others`,
    );
  return undefined;
}

function cellReader(column: string, { map, style, dictionary }: RowReaderSetup): CellReader {
  const target = map.find((entry) => entry.column === column)?.target ?? { to: 'ignore' };
  const lost = (into: ReadRecord, cell: string, note: string) => into.notes.push({ column, cell, note, lost: true });
  switch (target.to) {
    case 'ignore':
    case 'key':
      return () => undefined;
    case 'family':
      return (cell, into) => (into.family = cell);
    case 'options':
      return (cell, into) => (into.options = readOptions(cell));
    case 'boughtFrom':
      return (cell, into) => (into.boughtFrom = cell);
    case 'theirNumber':
      return (cell, into) => (into.theirNumber = cell);
    case 'stock':
      return (cell, into) => {
        const read = parseDecimal(cell, style);
        if (read.ok && /^-?\d+$/.test(read.value)) into.offer.stock = Number(read.value);
        else lost(into, cell, `“${cell}” is not a whole number of pieces`);
      };
    case 'saleFrom':
    case 'saleTo':
      return (cell, into) => {
        const read = typeOf('date').parse(cell, style, dateAttribute);
        if (read.ok) into.offer[target.to] = String(read.value);
        else lost(into, cell, read.reason);
      };
    case 'price':
      return (cell, into) => {
        const read = typeOf('money').parse(cell, { ...style, currency: target.currency }, dateAttribute);
        if (!read.ok) return void lost(into, cell, read.reason);
        const { amount } = read.value as { amount: string };
        into.offer[target.kind] = { ...into.offer[target.kind], [target.currency]: amount };
      };
    case 'attribute':
      return attributeReader(column, target, style, dictionary);
  }
}

const dateAttribute: Attribute = {
  key: 'date',
  label: 'Date',
  type: 'date',
  many: false,
  perLanguage: false,
  level: 'variant',
  group: '',
};

function attributeReader(
  column: string,
  target: {
    attribute: string;
    language?: string | undefined;
    unit?: string | undefined;
    currency?: string | undefined;
    values?: Record<string, string> | undefined;
  },
  style: ReadingStyle,
  dictionary: ReadonlyMap<string, Attribute>,
): CellReader {
  const attribute = dictionary.get(target.attribute);
  if (!attribute) return () => undefined;
  const columnStyle: ReadingStyle = {
    ...style,
    ...(target.unit ? { unit: target.unit } : {}),
    ...(target.currency ? { currency: target.currency } : {}),
  };
  const translations = new Map(Object.entries(target.values ?? {}).map(([from, to]) => [foldText(from), to]));
  const slot = attribute.perLanguage ? `${attribute.key}@${target.language ?? 'en-GB'}` : attribute.key;
  return (cell, into) => {
    const text = translations.get(foldText(cell)) ?? cell;
    const read = parseValue(text, columnStyle, attribute);
    if (!read.ok) return void into.notes.push({ column, cell, note: read.reason, lost: true });
    into.values[slot] = read.value;
    for (const note of read.notes ?? []) into.notes.push({ column, cell, note, lost: false });
    if (attribute.key === 'gtin') noteGtin(column, cell, into);
  };
}

/** A GTIN that cannot be right is kept as written, said here, and blocks listings later; a repaired one replaces it. */
function noteGtin(column: string, cell: string, into: ReadRecord): void {
  const read = readGtin(cell);
  if (!read.ok) into.notes.push({ column, cell, note: read.reason, lost: false });
  else {
    into.values.gtin = read.written;
    if (read.note) into.notes.push({ column, cell, note: read.note, lost: false });
  }
}

/** An option axis named like an attribute says that attribute's value, where no column does. */
function fillFromOptions(record: ReadRecord, dictionary: ReadonlyMap<string, Attribute>): void {
  for (const [axis, value] of record.options) {
    const folded = foldCode(axis);
    for (const attribute of dictionary.values()) {
      if (attribute.perLanguage || record.values[attribute.key] !== undefined) continue;
      if (foldCode(attribute.label) !== folded && foldCode(attribute.key) !== folded) continue;
      const read = parseValue(value, { decimal: '.', dateOrder: 'ymd' }, attribute);
      if (read.ok) record.values[attribute.key] = read.value;
    }
  }
}

/** Comparable identifiers of a record, for joining. `number` names the supplier it points to. */
export function joinKeys(
  record: ReadRecord,
  supplier: { id: number; isOwn: boolean },
  supplierByName: (name: string) => number | undefined,
): Partial<Record<JoinLevel, string>> {
  const keys: Partial<Record<JoinLevel, string>> = {};
  const gtin = typeof record.values.gtin === 'string' ? readGtin(record.values.gtin) : undefined;
  if (gtin?.ok) keys.gtin = gtin.gtin14;
  const { brand, mpn } = record.values;
  if (typeof brand === 'string' && typeof mpn === 'string' && foldCode(mpn) !== '')
    keys.mpn = `${foldCode(brand)}/${foldCode(mpn)}`;
  if (!supplier.isOwn) keys.number = `${supplier.id}:${foldText(record.key)}`;
  else if (record.boughtFrom && record.theirNumber && !keys.gtin && !(typeof mpn === 'string' && mpn !== '')) {
    const other = supplierByName(record.boughtFrom);
    if (other !== undefined) keys.number = `${other}:${foldText(record.theirNumber)}`;
  }
  return keys;
}
