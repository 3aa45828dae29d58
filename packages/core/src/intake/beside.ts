/** Columns that say what another's figures are in: "height.unit", "Currency", "Weight unit". */
import { type Attribute, isCurrency, unitCode } from '../values/index.js';
import { currencyWords, unitWords } from '../catalog/index.js';
import type { Column } from './column.js';

/** Columns that only say the unit or currency of another: "height.unit", "offers.priceCurrency". */
interface Helper {
  /** The column it helps; undefined = all that need it. */
  of: string | undefined;
  kind: 'unit' | 'currency';
}

export function helperColumns(columns: readonly Column[]): Map<string, Helper> {
  const helpers = new Map<string, Helper>();
  for (const column of columns) {
    const cut = column.name.lastIndexOf('.');
    if (cut < 0) continue;
    const head = column.name.slice(0, cut);
    const kind = /^@?(?:unit|unitCode|unitText)$/.test(column.name.slice(cut + 1))
      ? 'unit'
      : /^@?(?:currency|priceCurrency)$/.test(column.name.slice(cut + 1))
        ? 'currency'
        : undefined;
    const names =
      kind === 'unit' ? [head, `${head}.value`] : [head, `${head}.value`, `${head}.price`, `${head}.amount`];
    const of = kind && columns.find((row) => names.includes(row.name) && row !== column);
    if (kind && of) helpers.set(column.name, { of: of.name, kind });
  }
  return helpers;
}

/** The same of a table: a column of currencies is that of all its amounts, one of units that of the figures left of it. */
export function flatHelpers(columns: readonly Column[]): Map<string, Helper> {
  const helpers = new Map<string, Helper>();
  columns.forEach((column, i) => {
    if (isCurrencyColumn(column)) helpers.set(column.name, { of: undefined, kind: 'currency' });
    const of = unitOwner(column, columns[i - 1], columns);
    if (of) helpers.set(column.name, { of: of.name, kind: 'unit' });
  });
  return helpers;
}

const mostAre = (values: readonly string[], test: (value: string) => boolean) =>
  values.length > 0 && values.filter(test).length > 0.8 * values.length;

const isCurrencyColumn = ({ words, values }: Column) =>
  currencyWords.has(words.join(' ')) && mostAre(values, (value) => /^[a-z]{3}$/i.test(value) && isCurrency(value));

/** The column whose figures this one gives the unit of: "Weight unit" that of "Weight", "Unit" that left of it. */
function unitOwner(column: Column, left: Column | undefined, columns: readonly Column[]): Column | undefined {
  if (!mostAre(column.values, (value) => unitCode(value) !== undefined)) return undefined;
  const phrase = column.words.join(' ');
  const named = columns.find((row) => {
    const owner = row.words.join(' ');
    return (
      row !== column && owner !== '' && phrase.startsWith(owner) && unitWords.has(phrase.slice(owner.length).trim())
    );
  });
  if (named) return named;
  return unitWords.has(phrase) && left && mostAre(left.values, (value) => /^[\d.,]+$/.test(value)) ? left : undefined;
}

/** The column that holds the currency of this one's amounts, row by row. */
export function currencyBeside(column: Column, columns: readonly Column[]): Column | undefined {
  if (column.currency) return undefined;
  return (
    besideOf(column, columns, ['currency', 'priceCurrency', '@currency', '@priceCurrency']) ??
    columns.find((row) => row !== column && !row.name.includes('.') && isCurrencyColumn(row))
  );
}

function unitBeside(column: Column, columns: readonly Column[]): Column | undefined {
  if (column.unit) return undefined;
  return (
    besideOf(column, columns, ['unit', '@unit', 'unitCode', '@unitCode', 'unitText']) ??
    columns.find((row, i) => unitOwner(row, columns[i - 1], columns) === column)
  );
}

function besideOf(column: Column, columns: readonly Column[], names: string[]): Column | undefined {
  const head = column.name.slice(0, Math.max(0, column.name.lastIndexOf('.')));
  const heads = [column.name, head].filter((text) => text !== '');
  return columns.find(
    (row) => row !== column && heads.some((each) => names.some((name) => row.name === `${each}.${name}`)),
  );
}

/** What bare figures of a column are in: as its header, the column beside it or the company says. */
export function figuresOf(
  column: Column,
  columns: readonly Column[],
  { type }: Pick<Attribute, 'type'>,
  currency: string | undefined,
): { unit?: string; unitFrom?: string; currency?: string; currencyFrom?: string } {
  if (type === 'measure') {
    const beside = unitBeside(column, columns);
    return { ...(column.unit ? { unit: column.unit } : {}), ...(beside ? { unitFrom: beside.name } : {}) };
  }
  if (type !== 'money') return {};
  const beside = currencyBeside(column, columns);
  const named = column.currency ?? (beside ? undefined : currency);
  return { ...(named ? { currency: named } : {}), ...(beside ? { currencyFrom: beside.name } : {}) };
}
