/** A file on disk as rows, whatever its format, streamed in constant memory. */
import { type FileRow, type Reading, UnreadableFile, readDelimited } from '@velvet-shelf/core/tabular';
import { sayCount } from '@velvet-shelf/core/values';
import { mostColumns, nameColumns, rowsLookedAt, usedColumns, withoutSurplus } from './header.js';
import { alignedRows, nestedRows } from './nested.js';
import { headersOf, workbookRows } from './sheets.js';
import { textOf } from './text.js';
import { openWorkbook } from './workbook.js';

/** Of a nested document this much is gone through for its columns; what only stands later is named on its row. */
const columnBytes = 64 * 1024 * 1024;

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
      for (const file of below) file.cells = withoutSurplus(file.cells, columns.length);
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

/** The first rows, for suggestions and for showing what they become. */
export async function readFirst(
  path: string,
  reading: Reading,
  columns: readonly string[],
  count: number,
): Promise<FileRow[]> {
  const first: FileRow[] = [];
  // Of a workbook every sheet is seen.
  if (reading.format === 'xlsx') {
    const sheets = reading.sheets.filter((sheet) => sheet.read);
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
    for await (const row of readRows(path, reading, columns)) {
      first.push(row);
      if (first.length >= count) break;
    }
  } catch (error) {
    if (first.length === 0) throw error;
  }
  return first;
}
