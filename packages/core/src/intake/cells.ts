/** One cell → what it feeds: an attribute, a price, the stock. Compiled once per column and target. */
import { readOptions } from '../catalog/index.js';
import {
  type Attribute,
  type Money,
  type ReadingStyle,
  type Value,
  foldText,
  parseDecimal,
  parseValue,
  readGtin,
  typeOf,
} from '../values/index.js';
import type { ColumnTarget } from './mapping.js';
import { convertVat } from './vat.js';
import type { ReadRecord, RowReaderSetup } from './rows.js';

/** `cells` is the whole row: a figure's unit may stand beside it. */
export type CellReader = (cell: string, into: ReadRecord, cells: readonly string[]) => void;

/** Undefined where the column feeds nothing by itself. */
export function compileCell(column: string, target: ColumnTarget, setup: RowReaderSetup): CellReader | undefined {
  const { style } = setup;
  const lost = (into: ReadRecord, cell: string, note: string) => into.notes.push({ column, cell, note, lost: true });
  const beside = (name: string | undefined) => {
    const at = name === undefined ? -1 : setup.columns.indexOf(name);
    return (cells: readonly string[]) => (at < 0 ? '' : (cells[at] ?? '').trim());
  };
  switch (target.to) {
    case 'ignore':
    case 'key':
      return undefined;
    case 'family':
      return (cell, into) => {
        if (cell.length > longestKey)
          lost(into, cell.slice(0, 100), `a family’s name has ${longestKey} characters at most`);
        else into.family ??= cell;
      };
    case 'options':
      return (cell, into) => (into.options = readOptions(cell));
    case 'boughtFrom':
      return (cell, into) => (into.boughtFrom ??= cell);
    case 'theirNumber':
      return (cell, into) => (into.theirNumber ??= cell);
    case 'stock':
      return (cell, into) => {
        const read = parseDecimal(cell, style);
        if (!read.ok || !/^-?\d+$/.test(read.value)) lost(into, cell, `“${cell}” is not a whole number of pieces`);
        else if (Math.abs(Number(read.value)) > mostPieces)
          lost(into, cell, `“${cell}” is more pieces than anybody has`);
        else into.offer.stock ??= Number(read.value);
      };
    case 'saleFrom':
    case 'saleTo':
      return (cell, into) => {
        const read = typeOf('date').parse(cell, style, dateAttribute);
        if (read.ok) into.offer[target.to] ??= String(read.value);
        else lost(into, cell, read.reason);
      };
    case 'price': {
      const currencyOf = beside(target.currencyFrom);
      const usual = target.currency ?? style.currency;
      const parse = (currency: string | undefined) => (cell: string) =>
        typeOf('money').parse(cell, { ...style, ...(currency ? { currency } : {}) }, dateAttribute);
      const parseUsual = remembering(parse(usual));
      return (cell, into, cells) => {
        const named = currencyOf(cells).toUpperCase() || usual;
        const read = named === usual ? parseUsual(cell) : parse(named)(cell);
        if (!read.ok) return void lost(into, cell, read.reason);
        const { amount: written, currency } = read.value as Money;
        const amount = target.vat ? convertVat(written, target.vat, currency) : written;
        if (amount.startsWith('-')) return void lost(into, cell, `“${cell}” is below zero; a price is not`);
        if (into.offer[target.kind]?.[currency] !== undefined) return;
        into.offer[target.kind] = { ...into.offer[target.kind], [currency]: amount };
        const converted = target.vat
          ? [
              `${written} ${target.vat.is} VAT is ${amount} ${target.vat.is === 'with' ? 'without' : 'with'} (${target.vat.rate} %)`,
            ]
          : [];
        for (const note of [...(read.notes ?? []), ...converted]) into.notes.push({ column, cell, note, lost: false });
      };
    }
    case 'attribute':
      return attributeReader(column, target, setup, beside(target.unitFrom), beside(target.currencyFrom));
  }
}

/** What an index takes, and what anybody reads. */
export const longestKey = 200;
const mostPieces = 1_000_000_000;

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
  target: Extract<ColumnTarget, { to: 'attribute' }>,
  { style, dictionary, home }: RowReaderSetup,
  unitOf: (cells: readonly string[]) => string,
  currencyOf: (cells: readonly string[]) => string,
): CellReader | undefined {
  const attribute = dictionary.get(target.attribute);
  if (!attribute) return undefined;
  const columnStyle: ReadingStyle = {
    ...style,
    ...(target.unit ? { unit: target.unit } : {}),
    ...(target.currency ? { currency: target.currency } : {}),
  };
  const translations = new Map(Object.entries(target.values ?? {}).map(([from, to]) => [foldText(from), to]));
  const parse = remembering((text) => parseValue(text, columnStyle, attribute));
  const slot = attribute.perLanguage ? `${attribute.key}@${target.language ?? home}` : attribute.key;
  return (cell, into, cells) => {
    const held = into.values[slot];
    if (held !== undefined && target.join === undefined && !attribute.many) return;
    const [unit, currency] = [unitOf(cells), currencyOf(cells).toUpperCase()];
    const part = target.part === undefined ? cell : partOf(cell, target.part);
    if (part === undefined)
      return void into.notes.push({ column, cell, note: `“${cell}” has no part ${target.part}`, lost: true });
    const text = translations.size === 0 ? part : (translations.get(foldText(part)) ?? part);
    const read =
      unit || currency
        ? parseValue(text, { ...columnStyle, ...(unit ? { unit } : {}), ...(currency ? { currency } : {}) }, attribute)
        : parse(text);
    if (!read.ok) return void into.notes.push({ column, cell, note: read.reason, lost: true });
    into.values[slot] = held === undefined ? read.value : together(held, read.value, target.join ?? ' ');
    for (const note of read.notes ?? []) into.notes.push({ column, cell, note, lost: false });
    if (attribute.type === 'money' && Number((read.value as Money).amount) === 0)
      into.notes.push({ column, cell, note: 'the amount is 0', lost: false, told: true });
    if (attribute.role === 'gtin') noteGtin(column, cell, into);
  };
}

/** Texts remembered at most, and how many are looked at before it is known whether a column repeats itself. */
const mostRemembered = 5000;

/** Most columns say the same few things again and again: those are read once, and share one value. */
function remembering<T>(read: (text: string) => T): (text: string) => T {
  const known = new Map<string, T>();
  let [asked, fresh] = [0, 0];
  return (text) => {
    if (fresh >= mostRemembered && fresh * 2 > asked) return read(text);
    asked++;
    let answer = known.get(text);
    if (answer !== undefined) return answer;
    fresh++;
    if (known.size >= mostRemembered) known.clear();
    known.set(text, (answer = read(text)));
    return answer;
  };
}

/** Lists grow; texts are put together; of other values the first counts. */
function together(held: Value, more: Value, between: string): Value {
  if (Array.isArray(held)) return [...held, ...(Array.isArray(more) ? more : [more])];
  if (typeof held === 'string' && typeof more === 'string') return `${held}${between}${more}`;
  return held;
}

/** "12 x 20 cm": the parts stand between the signs, and a unit at the end holds for all before it. */
export function partOf(cell: string, part: number): string | undefined {
  const parts = cell.split(/\s*[x×*]\s*/i);
  const text = parts[part - 1]?.trim();
  if (text === undefined || text === '') return undefined;
  const unit = /[\d.,]\s*([^\d\s.,].*)$/u.exec(parts.at(-1) ?? '')?.[1] ?? '';
  return /\d\s*[^\d\s.,]+$/u.test(text) || unit === '' ? text : `${text} ${unit}`;
}

/**
 * A GTIN that cannot be right is kept as written, said here, and blocks listings later; a repaired one replaces it; one that
 * stands for a number nobody knows is none.
 */
function noteGtin(column: string, cell: string, into: ReadRecord): void {
  const read = readGtin(cell);
  if (!read.ok) {
    if (read.fault === 'placeholder') delete into.values.gtin;
    const isLost = read.fault === 'placeholder';
    into.notes.push({ column, cell, note: read.reason, lost: isLost, ...(isLost ? {} : { told: true }) });
  } else {
    into.values.gtin = read.written;
    if (read.note) into.notes.push({ column, cell, note: read.note, lost: false });
  }
}
