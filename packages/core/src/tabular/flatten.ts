/** Nested items as flat rows: one a variant, with the item's own fields repeated on each. */
import { keptText } from '../values/index.js';
import { UnreadableFile } from './reading.js';

export type FlatRow = Map<string, string>;

/** Joins the members of a list of plain values in one cell; what `parseValue` splits at. */
const listMark = ' | ';

/**
 * @param item what stood in the document: objects, lists, plain values
 * @param variantPath dotted keys from the item to its variants, or null
 * @returns one row a variant; one row without variant fields where there are none
 */
export function flattenItem(item: unknown, variantPath: string | null): FlatRow[] {
  const base: FlatRow = new Map();
  put(item, '', base, variantPath);
  if (variantPath === null) return [base];
  const found = variantPath.split('.').reduce<unknown>((at, key) => (isObject(at) ? at[key] : undefined), item);
  const variants = Array.isArray(found) ? found : found === undefined || found === null ? [] : [found];
  if (variants.length === 0) return [base];
  return variants.map((variant) => {
    const row = new Map(base);
    put(variant, variantPath, row, null);
    return row;
  });
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** More fields than this, or deeper ones, are nobody's goods. */
const mostFields = 2000;
const deepest = 40;

function put(value: unknown, path: string, into: FlatRow, skip: string | null, depth = 0): void {
  if (path !== '' && path === skip) return;
  if (depth > deepest) throw new UnreadableFile(`It is nested more than ${deepest} deep`);
  if (into.size > mostFields) throw new UnreadableFile(`It has more than ${mostFields} fields`);
  if (Array.isArray(value)) {
    const [first] = value as unknown[];
    if (value.every((row) => !isObject(row) && !Array.isArray(row)))
      into.set(path, value.map(sayScalar).join(listMark));
    else if (value.length === 1) put(first, path, into, skip, depth + 1);
    else value.forEach((row, i) => put(row, `${path}[${i + 1}]`, into, skip, depth + 1));
    return;
  }
  if (!isObject(value)) {
    into.set(path === '' ? 'value' : path, sayScalar(value));
    return;
  }
  for (const [written, member] of Object.entries(value)) {
    const key = keptText(written);
    put(member, key === '' ? path : path === '' ? key : `${path}.${key}`, into, skip, depth + 1);
  }
}

function sayScalar(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value === true) return 'yes';
  if (value === false) return 'no';
  return keptText(String(value).trim());
}
