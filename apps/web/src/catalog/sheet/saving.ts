/** What of a sheet can be saved, and why the rest cannot: judged by what core judges typed texts by. */
import type { SheetColumn, TriedEffect } from '@velvet-shelf/contract';
import { splitCellKey } from '@velvet-shelf/core/catalog';
import { readChannelText } from '@velvet-shelf/core/rulebooks';
import { readTyped } from '@velvet-shelf/core/values';
import { sayBecoming } from '../../design/words';
import { attributeOf } from './columns';

/** Why written cells cannot be saved, by cell. */
export function faultsOf(
  written: ReadonlyMap<string, string>,
  bySlot: ReadonlyMap<string, SheetColumn>,
): Map<string, string> {
  const faults = new Map<string, string>();
  const read = new Map<string, string | undefined>();
  for (const [key, text] of written) {
    const { slot } = splitCellKey(key);
    // The same text in the same column is read once: a fill of thousands is one reading.
    const mark = `${slot} ${text}`;
    if (!read.has(mark)) read.set(mark, faultOf(text, bySlot.get(slot)));
    const fault = read.get(mark);
    if (fault !== undefined) faults.set(key, fault);
  }
  return faults;
}

function faultOf(text: string, column: SheetColumn | undefined): string | undefined {
  if (!column) return 'There is no such column any more';
  if (column.pin) {
    const pinned = text === '' ? undefined : readChannelText(text, column.pin, column.pin.currency);
    return pinned?.ok === false ? pinned.reason : undefined;
  }
  const attribute = attributeOf(column);
  if (attribute) {
    const typed = readTyped(text, attribute);
    return 'reason' in typed ? typed.reason : undefined;
  }
  if (column.attribute === 'stock')
    return /^-?\d+$/.test(text) ? undefined : `“${text}” is not a whole number of pieces`;
  return text === '' || /^\d+(\.\d{1,4})?$/.test(text) ? undefined : `“${text}” is not a price; write 12.50`;
}

/** What trying to save them came to, in words. */
export function sayTried({
  data,
  isFetching,
}: {
  data?: TriedEffect | undefined;
  isFetching: boolean;
}): string | undefined {
  if (!data) return isFetching ? 'Trying what saving would do…' : undefined;
  const { becameReady, becameBlocked, whole } = data;
  const words =
    becameReady + becameBlocked === 0
      ? 'No listing would become ready or blocked'
      : sayBecoming({ becameReady, becameBlocked }, false);
  return `${words}${whole ? '' : ', of those tried: the first 2,000 goods'}.`;
}

/** What can be saved, product by product. */
export function toSave(
  written: ReadonlyMap<string, string>,
  against: ReadonlyMap<string, string>,
  bySlot: ReadonlyMap<string, SheetColumn>,
  faults: ReadonlyMap<string, string>,
) {
  const products = new Map<
    number,
    { attribute: string; language: string | null; text: string | null; madeAgainst: string | null }[]
  >();
  for (const [key, text] of written) {
    const { product, slot } = splitCellKey(key);
    const column = bySlot.get(slot);
    if (!column || faults.has(key)) continue;
    const { attribute, language } = column;
    const before = against.get(key) ?? '';
    const edits = products.get(product) ?? [];
    edits.push({ attribute, language, text: text === '' ? null : text, madeAgainst: before === '' ? null : before });
    products.set(product, edits);
  }
  return [...products].map(([productId, edits]) => ({ productId, edits }));
}
