/** A file on disk as rows, whatever its format, streamed in constant memory. */
import { createReadStream } from 'node:fs';
import { readFile, stat } from 'node:fs/promises';
import {
  type Reading,
  type SheetLayout,
  UnreadableFile,
  flattenItem,
  jsonItems,
  jsonLines,
  linkedItems,
  readDelimited,
  xmlItems,
} from '@velvet-shelf/core/tabular';
import { sayCount } from '@velvet-shelf/core/values';
import iconv from 'iconv-lite';
import { type Workbook, openWorkbook } from './workbook.js';

/** Of a nested document this much is gone through for its columns; what only stands later is named on its row. */
const columnBytes = 64 * 1024 * 1024;
/** A page or JSON-LD document is held in memory. */
const largestLinked = 50_000_000;

export interface FileRow {
  /** Running number; of delimited text the row, counted from 1 with the header. */
  row: number;
  /** Where it stands, where that is no row of a delimited text. */
  place: string | undefined;
  cells: string[];
  /** Why the row cannot be read at all. */
  broken?: string;
}

/** A page or document as a whole. */
export async function readLinked(path: string, encoding: string): Promise<string> {
  const { size } = await stat(path);
  if (size > largestLinked)
    throw new UnreadableFile(`A page or JSON-LD document may have ${largestLinked / 1e6} MB at most`);
  return iconv.decode(await readFile(path), encoding);
}

/** A file's text in chunks; closes the file when left early. */
async function* textOf(path: string, encoding: string, most = Number.POSITIVE_INFINITY): AsyncGenerator<string> {
  const source = createReadStream(path, { highWaterMark: 256 * 1024 });
  const decoded = source.pipe(iconv.decodeStream(encoding));
  let read = 0;
  try {
    for await (const chunk of decoded as AsyncIterable<string>) {
      // No text has U+0000; files of some old programs are padded with it.
      yield chunk.includes('\0') ? chunk.replaceAll('\0', '') : chunk;
      read += chunk.length;
      if (read >= most) return;
    }
  } finally {
    source.destroy();
  }
}

/** The columns of a file: its header, or the fields its items have. */
export async function readColumns(path: string, reading: Reading): Promise<string[]> {
  switch (reading.format) {
    case 'delimited': {
      let header: string[] | undefined;
      const below: string[][] = [];
      for await (const batch of delimitedRows(path, reading)) {
        for (const { row, cells } of batch)
          if (row === reading.headerRow) header = cells;
          else if (row > reading.headerRow) below.push(cells);
        if (header && below.length >= rowsLookedAt) break;
      }
      return header ? nameColumns(usedColumns(header, below)) : [];
    }
    case 'xlsx': {
      const book = await openWorkbook(path);
      try {
        const columns = new Set<string>();
        for (const { header } of await headersOf(book, reading)) for (const name of header) columns.add(name);
        return [...columns];
      } finally {
        book.close();
      }
    }
    default: {
      const columns = new Set<string>();
      const expectFew = () => {
        if (columns.size > mostColumns)
          throw new UnreadableFile(
            `Its items have more than ${sayCount(mostColumns)} different fields. Choose another list in it, or take out what is not needed`,
          );
      };
      try {
        for await (const { flat } of nestedRows(path, reading, columnBytes))
          for (const name of flat?.keys() ?? []) {
            columns.add(name);
            expectFew();
          }
      } catch (error) {
        if (columns.size === 0 || columns.size > mostColumns) throw error;
        // Where the document breaks off is said by the dry run, with what could be read before.
      }
      return [...columns];
    }
  }
}

/** Rows below the header, each as long as `columns` unless the file has it otherwise; constant memory. */
export async function* readRows(path: string, reading: Reading, columns: readonly string[]): AsyncGenerator<FileRow> {
  for await (const batch of rowBatches(path, reading, columns)) yield* batch;
}

const batchRows = 500;

/** The same rows some hundreds at a time: one by one, the waiting between them costs more than the reading. */
export async function* rowBatches(
  path: string,
  reading: Reading,
  columns: readonly string[],
): AsyncGenerator<FileRow[]> {
  if (reading.format === 'delimited') {
    for await (const batch of delimitedRows(path, reading)) {
      const below = batch.filter((row) => row.row > reading.headerRow);
      for (const one of below) one.cells = withoutSurplus(one.cells, columns.length);
      yield below;
    }
    return;
  }
  let batch: FileRow[] = [];
  const source = reading.format === 'xlsx' ? workbookRows(path, reading, columns) : alignedRows(path, reading, columns);
  try {
    for await (const row of source) {
      batch.push(row);
      if (batch.length < batchRows) continue;
      yield batch;
      batch = [];
    }
  } catch (error) {
    // What came before the place where a file breaks off is handed on first.
    if (batch.length > 0) yield batch;
    throw error;
  }
  if (batch.length > 0) yield batch;
}

/** Items of a nested document as rows of these columns. */
async function* alignedRows(path: string, reading: NestedReading, columns: readonly string[]): AsyncGenerator<FileRow> {
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

/** A text that somebody reads has no longer cell. */
const longestCell = 1_000_000;

async function* delimitedRows(
  path: string,
  reading: Extract<Reading, { format: 'delimited' }>,
): AsyncGenerator<FileRow[]> {
  const reader = readDelimited(reading.delimiter, reading.headerRow);
  let row = 0;
  let isFirst = true;
  const take = (chunk: string, isLast: boolean): FileRow[] =>
    reader.push(chunk, isLast).flatMap(({ cells }): FileRow[] => {
      row++;
      if (cells.length === 1 && cells[0] === '') return [];
      const long = cells.findIndex((cell) => cell.length > longestCell);
      return long < 0
        ? [{ row, place: undefined, cells }]
        : [
            {
              row,
              place: undefined,
              cells: cells.map((cell) => cell.slice(0, 2000)),
              broken: `Cell ${long + 1} has more than ${sayCount(longestCell)} characters`,
            },
          ];
    });
  for await (const chunk of textOf(path, reading.encoding)) {
    const batch = take(isFirst ? chunk.replace(/^\uFEFF/, '') : chunk, false);
    isFirst = false;
    if (batch.length > 0) yield batch;
  }
  const last = take('', true);
  if (last.length > 0) yield last;
}

type NestedReading = Exclude<Reading, { format: 'delimited' | 'xlsx' }>;

interface NestedRow {
  place: string;
  flat?: Map<string, string>;
  broken?: { reason: string; text: string };
}

async function* nestedRows(path: string, reading: NestedReading, most?: number): AsyncGenerator<NestedRow> {
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

type XlsxReading = Extract<Reading, { format: 'xlsx' }>;

async function headersOf(book: Workbook, reading: XlsxReading) {
  const found = [];
  for (const wanted of reading.sheets.filter((one) => one.read)) {
    const sheet = book.sheets.find((one) => one.name === wanted.name);
    if (!sheet) throw new UnreadableFile(`The workbook has no sheet “${wanted.name}”`);
    let header: string[] = [];
    let width = 0;
    let looked = 0;
    for await (const row of book.rows(sheet, { merged: [], hiddenColumns: new Set() })) {
      if (row.row < wanted.headerRow) continue;
      if (row.row === wanted.headerRow) header = row.cells;
      width = Math.max(width, lastFilled(row.cells) + 1);
      if (looked++ >= rowsLookedAt) break;
    }
    header = nameColumns(Array.from({ length: header.length === 0 ? 0 : width }, (_, i) => header[i] ?? ''));
    found.push({ sheet, headerRow: wanted.headerRow, header, merged: wanted.merged === true });
  }
  return found;
}

async function* workbookRows(path: string, reading: XlsxReading, columns: readonly string[]): AsyncGenerator<FileRow> {
  const book = await openWorkbook(path);
  try {
    let n = 0;
    for (const { sheet, headerRow, header, merged } of await headersOf(book, reading)) {
      const fill = merged ? await mergedBelow(book, sheet, headerRow) : () => undefined;
      const at = header.map((name) => columns.indexOf(name));
      for await (const { row, cells, numeric } of book.rows(sheet, { merged: [], hiddenColumns: new Set() })) {
        if (row <= headerRow) continue;
        const line = columns.map(() => '');
        for (const [i, target] of at.entries()) {
          const own = cells[i] ?? '';
          const text = own === '' ? (fill(row, i, cells) ?? '') : own;
          if (target >= 0) line[target] = numeric.has(i) ? text.replace('.', reading.decimal) : text;
        }
        const beyond = lastFilled(cells);
        yield {
          row: ++n,
          place: `${sheet.name}, row ${row}`,
          cells: line,
          ...(beyond >= header.length
            ? { broken: `It has a value in column ${columnName(beyond)}, which has no name in the header` }
            : {}),
        };
      }
    }
  } finally {
    book.close();
  }
}

/**
 * Cells merged down over rows of goods stand for each of them; the range is only known at the end of a sheet, so the
 * sheet is gone through once before. Answers the text of the range's first cell, remembered as its row passes.
 */
async function mergedBelow(book: Workbook, sheet: Workbook['sheets'][number], headerRow: number) {
  const layout: SheetLayout = { merged: [], hiddenColumns: new Set() };
  const rows = book.rows(sheet, layout);
  while (!(await rows.next()).done);
  const ranges = layout.merged.filter((range) => range.top > headerRow && range.bottom > range.top);
  const held = new Map<SheetLayout['merged'][number], string>();
  return (row: number, column: number, cells: readonly string[]): string | undefined => {
    for (const range of ranges) {
      if (row < range.top || row > range.bottom) continue;
      if (row === range.top) held.set(range, cells[range.left] ?? '');
      if (column >= range.left && column <= range.right) return held.get(range);
    }
    return undefined;
  };
}

/** 0 → "A", 27 → "AB", as a workbook names its columns. */
const columnName = (at: number): string =>
  (at >= 26 ? columnName(Math.floor(at / 26) - 1) : '') + String.fromCharCode(65 + (at % 26));

/** Rows that tell whether columns without a name at the end are any. */
const rowsLookedAt = 200;

const lastFilled = (cells: readonly string[]) => cells.findLastIndex((cell) => (cell ?? '').trim() !== '');

/** The header without the columns at its end that have neither a name nor a value. */
function usedColumns(header: readonly string[], below: readonly (readonly string[])[]): string[] {
  const named = lastFilled(header);
  const used = below.reduce((most, cells) => Math.max(most, Math.min(lastFilled(cells), header.length - 1)), named);
  return Array.from({ length: used + 1 }, (_, i) => header[i] ?? '');
}

/** Cells beyond the header that hold nothing are none. */
const withoutSurplus = (cells: string[], width: number): string[] =>
  cells.length > width && lastFilled(cells) < width ? cells.slice(0, width) : cells;

/** More than this nobody can match. */
const mostColumns = 2000;

/** Every column has a name of its own: empty ones are numbered, repeated ones too. */
function nameColumns(cells: readonly string[]): string[] {
  if (cells.length > mostColumns)
    throw new UnreadableFile(
      `It has ${sayCount(cells.length)} columns, and ${sayCount(mostColumns)} can be read at most. Take out those that are not needed`,
    );
  const seen = new Map<string, number>();
  return Array.from(cells, (cell, i) => {
    const name = (cell ?? '').trim().slice(0, 200) || `column ${i + 1}`;
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return count === 1 ? name : `${name} (${count})`;
  });
}

/** The first rows, for suggestions and for showing what they become. */
export async function readFirst(
  path: string,
  reading: Reading,
  columns: readonly string[],
  count: number,
): Promise<FileRow[]> {
  const first: FileRow[] = [];
  const take = async (source: AsyncGenerator<FileRow>) => {
    for await (const row of source) {
      first.push(row);
      if (first.length >= count) break;
    }
  };
  // Of a workbook every sheet is seen.
  if (reading.format === 'xlsx') {
    const sheets = reading.sheets.filter((one) => one.read);
    const share = Math.ceil(count / Math.max(1, sheets.length));
    for (const sheet of sheets) {
      let taken = 0;
      for await (const row of workbookRows(path, { ...reading, sheets: [sheet] }, columns)) {
        first.push(row);
        if (++taken >= share) break;
      }
    }
    return first;
  }
  try {
    await take(readRows(path, reading, columns));
  } catch (error) {
    if (first.length === 0) throw error;
  }
  return first;
}
