/**
 * The parts of an XLSX workbook (ECMA-376, SpreadsheetML) as rows of text. The archive is opened by the caller, who hands
 * in the XML of each part; sheets are read in one pass and constant memory. Written on a SAX parser because the packages
 * that read sheets as a stream drop merged ranges and hidden columns.
 */
import { SaxesParser } from 'saxes';
import { UnreadableFile } from './reading.js';

/** A parser that hands on local names. */
function parse(on: Handlers): SaxesParser {
  const parser = new SaxesParser();
  parser.on('error', (error) => {
    throw new UnreadableFile(`The workbook is damaged: ${error.message}`);
  });
  parser.on('opentag', ({ name, attributes }) =>
    on.open(name.slice(name.indexOf(':') + 1), attributes as Record<string, string>),
  );
  parser.on('closetag', ({ name }) => on.close?.(name.slice(name.indexOf(':') + 1)));
  parser.on('text', (text) => on.text?.(text));
  return parser;
}

interface Handlers {
  open(tag: string, attributes: Record<string, string>): void;
  close?(tag: string): void;
  text?(text: string): void;
}

export interface SheetEntry {
  name: string;
  /** Path inside the archive. */
  path: string;
  hidden: boolean;
}

/** Sheets in their order, from xl/workbook.xml and its relations. */
export function readWorkbook(workbook: string, relations: string): { sheets: SheetEntry[]; date1904: boolean } {
  const targets = new Map<string, string>();
  parse({
    open: (tag, { Id, Target }) => {
      if (tag === 'Relationship' && Id && Target) targets.set(Id, Target);
    },
  })
    .write(relations)
    .close();
  const sheets: SheetEntry[] = [];
  let date1904 = false;
  parse({
    open: (tag, attributes) => {
      if (tag === 'workbookPr') date1904 = /^(1|true)$/.test(attributes.date1904 ?? '');
      if (tag !== 'sheet') return;
      const id = Object.entries(attributes).find(([key]) => /(^|:)id$/.test(key))?.[1] ?? '';
      const target = targets.get(id);
      if (target)
        sheets.push({
          name: attributes.name ?? `Sheet ${sheets.length + 1}`,
          path: target.startsWith('/') ? target.slice(1) : `xl/${target}`,
          hidden: (attributes.state ?? 'visible') !== 'visible',
        });
    },
  })
    .write(workbook)
    .close();
  return { sheets, date1904 };
}

/** Texts that cells refer to by number; runs of a rich text are put together, phonetic guides left out. */
export async function readSharedStrings(chunks: AsyncIterable<string>): Promise<string[]> {
  const strings: string[] = [];
  let taking = false;
  let phonetic = false;
  const parser = parse({
    open: (tag) => {
      if (tag === 'si') strings.push('');
      else if (tag === 'rPh') phonetic = true;
      else if (tag === 't') taking = !phonetic;
    },
    close: (tag) => {
      if (tag === 't') taking = false;
      else if (tag === 'rPh') phonetic = false;
    },
    text: (text) => {
      if (taking) strings[strings.length - 1] += text;
    },
  });
  for await (const chunk of chunks) parser.write(chunk);
  return strings;
}

/** Built-in number formats that show a date or a time (ECMA-376 part 1, 18.8.30). */
const builtInDates = new Set([14, 15, 16, 17, 18, 19, 20, 21, 22, 27, 30, 36, 45, 46, 47, 50, 57]);

/** For each cell style whether it shows a date. */
export function readDateStyles(styles: string): boolean[] {
  const formats = new Map<number, boolean>();
  const dates: boolean[] = [];
  let inCells = false;
  parse({
    open: (tag, { numFmtId, formatCode }) => {
      if (tag === 'numFmt')
        formats.set(Number(numFmtId), /[dmyh]/i.test((formatCode ?? '').replace(/"[^"]*"|\[[^\]]*\]|\\./g, '')));
      else if (tag === 'cellXfs') inCells = true;
      else if (tag === 'xf' && inCells) dates.push(formats.get(Number(numFmtId)) ?? builtInDates.has(Number(numFmtId)));
    },
    close: (tag) => {
      if (tag === 'cellXfs') inCells = false;
    },
  })
    .write(styles)
    .close();
  return dates;
}

/** Columns count from 0, rows from 1. */
export interface MergedRange {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

export interface SheetLayout {
  merged: MergedRange[];
  hiddenColumns: Set<number>;
}

export interface SheetRow {
  row: number;
  /** By column; "" where a cell is empty. */
  cells: string[];
  /** Columns whose cell is a number: it has a decimal point whatever the sheet's language. */
  numeric: Set<number>;
}

export interface SheetContext {
  strings: readonly string[];
  dateStyles: readonly boolean[];
  date1904: boolean;
}

/** Rows of a sheet that hold anything; `layout` is filled on the way and is whole when the last row has been read. */
export async function* sheetRows(
  chunks: AsyncIterable<string>,
  context: SheetContext,
  layout: SheetLayout,
): AsyncGenerator<SheetRow> {
  let ready: SheetRow[] = [];
  let row: SheetRow | undefined;
  let lastRow = 0;
  let cell: { column: number; type: string; style: number; text: string } | undefined;
  let taking = false;
  const parser = parse({
    open(tag, attributes) {
      if (tag === 'row') {
        row = { row: Number(attributes.r) || lastRow + 1, cells: [], numeric: new Set() };
        if (row.row > lastSheetRow)
          throw new UnreadableFile('The workbook is damaged: a row stands beyond its last, 1,048,576');
      } else if (tag === 'c' && row)
        cell = {
          column: attributes.r ? columnOf(attributes.r) : row.cells.length,
          type: attributes.t ?? 'n',
          style: Number(attributes.s ?? -1),
          text: '',
        };
      else if (tag === 'v' || tag === 't') taking = true;
      else if (tag === 'col' && /^(1|true)$/.test(attributes.hidden ?? ''))
        for (let i = Number(attributes.min); i <= Math.min(Number(attributes.max), 16_384); i++)
          layout.hiddenColumns.add(i - 1);
      else if (tag === 'mergeCell') {
        const range = rangeOf(attributes.ref ?? '');
        if (range) layout.merged.push(range);
        if (layout.merged.length > mostMerged)
          throw new UnreadableFile(`A sheet has more than ${mostMerged} merged ranges`);
      }
    },
    text(text) {
      if (taking && cell) cell.text += text;
    },
    close(tag) {
      if (tag === 'v' || tag === 't') taking = false;
      else if (tag === 'c' && cell && row) {
        const text = cellText(cell, context).trim();
        if (text.length > longestCell)
          throw new UnreadableFile(`Row ${row.row} has a cell of more than ${longestCell} characters`);
        // Empty cells far to the right are styles, and no cells.
        if (text !== '') {
          while (row.cells.length < cell.column) row.cells.push('');
          row.cells[cell.column] = text;
        } else if (cell.column < row.cells.length) row.cells[cell.column] ??= '';
        if (cell.type === 'n' && text !== '' && !context.dateStyles[cell.style]) row.numeric.add(cell.column);
        cell = undefined;
      } else if (tag === 'row' && row) {
        lastRow = row.row;
        if (row.cells.some((cell) => cell !== '')) ready.push(row);
        row = undefined;
      }
    },
  });
  for await (const chunk of chunks) {
    parser.write(chunk);
    yield* ready;
    ready = [];
  }
}

function cellText(
  cell: { type: string; style: number; text: string },
  { strings, dateStyles, date1904 }: SheetContext,
): string {
  switch (cell.type) {
    case 's':
      return strings[Number(cell.text)] ?? '';
    case 'b':
      return cell.text === '1' ? 'yes' : cell.text === '0' ? 'no' : '';
    case 'n':
      if (cell.text === '') return '';
      return dateStyles[cell.style] ? serialDate(Number(cell.text), date1904) : plainNumber(cell.text);
    default:
      return cell.text;
  }
}

/** A stored double as the person typed it: 15 significant digits, never an exponent below 10^21. */
export function plainNumber(text: string): string {
  const value = Number(text);
  if (!Number.isFinite(value)) return text;
  return Number.isInteger(value) ? BigInt(value).toString() : String(Number(value.toPrecision(15)));
}

/** A serial day of a workbook as ISO 8601; 1900 is counted as a leap year there (ECMA-376 part 1, 18.17.4.1). */
export function serialDate(serial: number, date1904: boolean): string {
  const days = date1904 ? serial + 1462 : serial < 61 ? serial + 1 : serial;
  const moment = new Date(Math.round((days - 25_569) * 86_400_000));
  const text = moment.toISOString();
  return Number.isInteger(serial) ? text.slice(0, 10) : text.slice(0, 19);
}

/** A workbook goes to column XFD and row 1,048,576, and a cell to 32,767 characters (some writers go on). */
const lastColumn = 16_383;
const lastSheetRow = 1_048_576;
const longestCell = 1_000_000;
const mostMerged = 100_000;

/** "AB12" → 27. */
function columnOf(reference: string): number {
  let column = 0;
  for (const letter of reference) {
    if (letter < 'A' || letter > 'Z') break;
    column = column * 26 + letter.charCodeAt(0) - 64;
  }
  if (column - 1 > lastColumn)
    throw new UnreadableFile('The workbook is damaged: a cell stands beyond its last column, XFD');
  return column - 1;
}

function rangeOf(reference: string): MergedRange | undefined {
  const match = /^([A-Z]+)(\d+):([A-Z]+)(\d+)$/.exec(reference);
  if (!match) return undefined;
  const [, left = '', top = '', right = '', bottom = ''] = match;
  return { left: columnOf(left), top: Number(top), right: columnOf(right), bottom: Number(bottom) };
}
