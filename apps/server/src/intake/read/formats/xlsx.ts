/** Workbooks: rows of their sheets under the columns of them all. */
import {
  type Detection,
  type FileRow,
  type SheetLayout,
  UnreadableFile,
  detectStyle,
  findHeader,
} from '@velvet-shelf/core/tabular';
import { lastFilled, nameColumns, rowsLookedAt } from '../header.js';
import { type Workbook, openWorkbook } from '../workbook.js';
import { type ReadFormatOf, type ReadingOf, inBatches } from './model.js';

type XlsxReading = ReadingOf<'xlsx'>;

export const xlsx: ReadFormatOf<XlsxReading> = {
  detect: ({ path, why }) => detectSheets(path, why),
  async columns(path, reading) {
    const book = await openWorkbook(path);
    try {
      const columns = new Set<string>();
      for (const { header } of await headersOf(book, reading)) for (const name of header) columns.add(name);
      return [...columns];
    } finally {
      book.close();
    }
  },
  batches: (path, reading, columns) => inBatches(workbookRows(path, reading, columns)),
  /** Of every sheet that is read. */
  async first(path, reading, columns, count) {
    const first: FileRow[] = [];
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
  },
};

async function detectSheets(path: string, format: string): Promise<Detection> {
  const book = await openWorkbook(path);
  try {
    const sheets: { name: string; headerRow: number; read: boolean; merged?: boolean }[] = [];
    const notes: string[] = [];
    const why: string[] = [];
    const texts: string[] = [];
    let merged = 0;
    for (const sheet of book.sheets) {
      const head: string[][] = [];
      const layout: SheetLayout = { merged: [], hiddenColumns: new Set() };
      let rows = 0;
      let width = 0;
      for await (const row of book.rows(sheet, layout)) {
        rows++;
        width = Math.max(width, row.cells.length);
        if (row.row > 200) continue;
        while (head.length < row.row - 1) head.push([]);
        head.push(row.cells);
        texts.push(...row.cells.filter((_, i) => !row.numeric.has(i)));
      }
      const header = findHeader(head, width);
      const goods = Math.max(0, rows - head.slice(0, header.value).filter((row) => row.length > 0).length);
      const isMerged = layout.merged.some((range) => range.bottom > Math.max(range.top, header.value));
      sheets.push({
        name: sheet.name,
        headerRow: header.value,
        read: !sheet.hidden && width > 1 && goods > 0,
        ...(isMerged ? { merged: true } : {}),
      });
      why.push(`${sheet.name}: header in row ${header.value}, ${goods} rows below it${sheet.hidden ? ', hidden' : ''}`);
      merged += layout.merged.length;
      for (const column of layout.hiddenColumns)
        if (head[header.value - 1]?.[column])
          notes.push(`hidden column “${head[header.value - 1]?.[column]}” on ${sheet.name}`);
    }
    if (merged > 0) notes.push(`${merged} merged ranges`);
    if (sheets.length === 0) throw new UnreadableFile('The workbook has no sheet');
    const { decimal, dateOrder } = detectStyle(texts);
    return {
      reading: { format: 'xlsx', sheets, decimal: decimal.value, dateOrder: dateOrder.value },
      why: {
        format,
        sheets: why.join('; '),
        decimal: `in texts: ${decimal.why}`,
        dateOrder: `in texts: ${dateOrder.why}`,
      },
      itemPaths: [],
      variantPaths: [],
      notes,
    };
  } finally {
    book.close();
  }
}

async function headersOf(book: Workbook, reading: XlsxReading) {
  const found = [];
  for (const wanted of reading.sheets.filter((sheet) => sheet.read)) {
    const sheet = book.sheets.find((sheet) => sheet.name === wanted.name);
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
