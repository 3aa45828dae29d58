/** Items of nested documents (JSON, JSON Lines, JSON-LD, XML) as rows. */
import { stat } from 'node:fs/promises';
import {
  type FileRow,
  type Reading,
  UnreadableFile,
  flattenItem,
  jsonItems,
  jsonLines,
  linkedItems,
  xmlItems,
} from '@velvet-shelf/core/tabular';
import { readLinked, textOf } from './text.js';

export type NestedReading = Exclude<Reading, { format: 'delimited' | 'xlsx' }>;

interface NestedRow {
  place: string;
  flat?: Map<string, string>;
  broken?: { reason: string; text: string };
}

export async function* nestedRows(path: string, reading: NestedReading, most?: number): AsyncGenerator<NestedRow> {
  const { variantPath } = reading;
  const variantName = variantPath?.split('.').at(-1) ?? 'variant';
  const spread = function* (item: unknown, place: string): Generator<NestedRow> {
    let rows: Map<string, string>[];
    try {
      rows = flattenItem(item, variantPath);
    } catch (error) {
      if (!(error instanceof UnreadableFile)) throw error;
      yield { place, broken: { reason: error.message, text: '' } };
      return;
    }
    for (const [i, flat] of rows.entries())
      yield { place: rows.length > 1 ? `${place}, ${variantName} ${i + 1}` : place, flat };
  };
  const cut = most !== undefined && (await stat(path)).size > most;
  let n = 0;
  switch (reading.format) {
    case 'jsonl':
      for await (const line of jsonLines(textOf(path, reading.encoding, most))) {
        if ('item' in line) yield* spread(line.item, `line ${line.line}`);
        else if (!cut) yield { place: `line ${line.line}`, broken: { reason: line.broken, text: line.text } };
      }
      return;
    case 'jsonld':
      for (const item of linkedItems(await readLinked(path, reading.encoding))) yield* spread(item, `item ${++n}`);
      return;
    case 'json':
      if (reading.itemPath === '' && !(await beginsWithList(path, reading.encoding))) {
        yield* spread(parseJson(await readLinked(path, reading.encoding)), 'the item');
        return;
      }
      for await (const item of jsonItems(textOf(path, reading.encoding, most), reading.itemPath))
        yield* spread(item, `item ${++n}`);
      return;
    case 'xml':
      for await (const item of xmlItems(textOf(path, reading.encoding, most), reading.itemPath, reading.apart))
        yield* spread(item, `item ${++n}`);
  }
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    throw new UnreadableFile(`It is not JSON: ${error instanceof Error ? error.message : String(error)}`);
  }
}

async function beginsWithList(path: string, encoding: string): Promise<boolean> {
  for await (const chunk of textOf(path, encoding, 1)) return /^\uFEFF?\s*\[/.test(chunk);
  return false;
}

/** Items of a nested document as rows of these columns. */
export async function* alignedRows(
  path: string,
  reading: NestedReading,
  columns: readonly string[],
): AsyncGenerator<FileRow> {
  const at = new Map(columns.map((name, i) => [name, i]));
  let row = 0;
  for await (const { place, flat, broken } of nestedRows(path, reading)) {
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
