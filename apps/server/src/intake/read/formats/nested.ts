/** What formats of nested documents share: an item of theirs becomes one row, or one a variant. */
import {
  type Detection,
  type FileRow,
  type Format,
  type FoundList,
  type Reading,
  UnreadableFile,
  flattenItem,
} from '@velvet-shelf/core/tabular';
import { sayCount } from '@velvet-shelf/core/values';
import { mostColumns } from '../header.js';
import { type Looked, type ReadFormatOf, inBatches } from './model.js';

/** Readings of formats whose items may list variants. */
export type NestedReading = Extract<Reading, { variantPath: string | null }>;
export type NestedFormat = Extract<Format, NestedReading['format']>;

/** An item where it stands, or what stands there and cannot be read. */
export type NestedItem = { place: string; item: unknown } | { place: string; broken: { reason: string; text: string } };

interface NestedKind<R extends NestedReading> {
  detect(file: Looked): Promise<Detection>;
  /** Its items, or those of its first `most` bytes. */
  items(path: string, reading: R, most?: number): AsyncGenerator<NestedItem>;
}

/** Of a nested document this much is gone through for its columns; what only stands later is named on its row. */
const columnBytes = 64 * 1024 * 1024;

export function nestedFormat<R extends NestedReading>({ detect, items }: NestedKind<R>): ReadFormatOf<R> {
  return {
    detect,
    async columns(path, reading) {
      const columns = new Set<string>();
      try {
        for await (const { flat } of nestedRows(items(path, reading, columnBytes), reading)) {
          for (const name of flat?.keys() ?? []) columns.add(name);
          if (columns.size > mostColumns)
            throw new UnreadableFile(
              `Its items have more than ${sayCount(mostColumns)} different fields. Choose another list in it, or take out what is not needed`,
            );
        }
      } catch (error) {
        if (columns.size === 0 || columns.size > mostColumns) throw error;
        // Where the document breaks off is said by the dry run, with what could be read before.
      }
      return [...columns];
    },
    batches: (path, reading, columns) => inBatches(alignedRows(nestedRows(items(path, reading), reading), columns)),
  };
}

interface NestedRow {
  place: string;
  flat?: Map<string, string>;
  broken?: { reason: string; text: string };
}

async function* nestedRows(
  items: AsyncGenerator<NestedItem>,
  { variantPath }: NestedReading,
): AsyncGenerator<NestedRow> {
  const variantName = variantPath?.split('.').at(-1) ?? 'variant';
  for await (const found of items) {
    if ('broken' in found) {
      yield found;
      continue;
    }
    const { place, item } = found;
    let rows: Map<string, string>[];
    try {
      rows = flattenItem(item, variantPath);
    } catch (error) {
      if (!(error instanceof UnreadableFile)) throw error;
      yield { place, broken: { reason: error.message, text: '' } };
      continue;
    }
    for (const [i, flat] of rows.entries())
      yield { place: rows.length > 1 ? `${place}, ${variantName} ${i + 1}` : place, flat };
  }
}

/** Items by their number in the document. */
export async function* numbered(items: AsyncIterable<unknown> | Iterable<unknown>): AsyncGenerator<NestedItem> {
  let n = 0;
  for await (const item of items) yield { place: `item ${++n}`, item };
}

/** Items of a nested document as rows of these columns. */
async function* alignedRows(rows: AsyncGenerator<NestedRow>, columns: readonly string[]): AsyncGenerator<FileRow> {
  const at = new Map(columns.map((name, i) => [name, i]));
  let row = 0;
  for await (const { place, flat, broken } of rows) {
    row++;
    const cells = columns.map(() => '');
    if (!flat) {
      cells[0] = broken?.text.slice(0, 2000) ?? '';
      yield { row, place, cells, broken: broken?.reason ?? 'It cannot be read' };
      continue;
    }
    const strangers: string[] = [];
    for (const [name, text] of flat) {
      const i = at.get(name);
      if (i === undefined) strangers.push(name);
      else cells[i] = text;
    }
    yield strangers.length > 0
      ? {
          row,
          place,
          cells,
          broken: `It has “${strangers.join('”, “')}”, which none of the items before has. Move such an item to the beginning of the file, so that the column can be matched`,
        }
      : { row, place, cells };
  }
}

/** Lists beside the one that is read: what stands in them is named, so that nobody takes it for read. */
function besideNotes(lists: readonly FoundList[], items: FoundList | undefined): string[] {
  return lists
    .filter(
      (list) => items && list.path !== items.path && !list.path.startsWith(items.path === '' ? ' ' : `${items.path}.`),
    )
    .map(
      ({ path, objects }) => `${objects} more in “${path || 'the document'}”, not read: choose them under “Items are”`,
    );
}

interface FoundLists {
  /** Lists that items may be, and those below the chosen one that variants may be. */
  lists: FoundList[];
  below: FoundList[];
  items: FoundList | undefined;
  variants: FoundList | undefined;
}

export function nestedDetection(
  reading: Reading,
  why: Record<string, string>,
  { lists, below, items, variants }: FoundLists,
): Detection {
  const choice = ({ path, objects }: FoundList) => ({ path, objects });
  return {
    reading,
    why: {
      ...why,
      itemPath: items
        ? `${sayCount(items.objects)} items in its beginning, the outermost list`
        : 'the document is one item',
      variantPath: variants
        ? `each item lists some: ${sayCount(variants.objects)} in its beginning`
        : 'items list nothing that looks like variants',
    },
    itemPaths: lists.map(choice),
    variantPaths: below.map(choice),
    notes: besideNotes(lists, items),
  };
}
