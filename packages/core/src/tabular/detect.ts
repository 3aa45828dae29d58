/** What a file is, judged from its first bytes, each finding with what made us decide. */
import { parseRows } from './delimited.js';
import { type Delimiter, type Detected, type Encoding, delimiters } from './reading.js';

export type NotText = { ok: false; reason: string };

const signatures: [number[], string][] = [
  [[0x89, 0x50, 0x4e, 0x47], 'a PNG picture'],
  [[0xff, 0xd8, 0xff], 'a JPEG picture'],
  [[0x47, 0x49, 0x46, 0x38], 'a GIF picture'],
  [[0x52, 0x49, 0x46, 0x46], 'a WebP picture or sound file'],
  [[0x25, 0x50, 0x44, 0x46], 'a PDF document'],
  [[0xd0, 0xcf, 0x11, 0xe0], 'an old binary workbook (XLS): save it as XLSX and drop that'],
  [[0x1f, 0x8b], 'a gzip archive: unpack it and drop what is in it'],
];

/** True for a ZIP archive, which is what an XLSX workbook is inside. */
export function isZip(sample: Uint8Array): boolean {
  return [0x50, 0x4b, 0x03, 0x04].every((byte, i) => sample[i] === byte);
}

/** Refuses what cannot be a table of text: empty files, pictures and other binary files. */
export function refuseNonText(sample: Uint8Array): NotText | { ok: true } {
  if (sample.length === 0) return { ok: false, reason: 'The file is empty' };
  for (const [bytes, name] of signatures)
    if (bytes.every((byte, i) => sample[i] === byte)) return { ok: false, reason: `The file is ${name}` };
  const wide = (sample[0] === 0xff && sample[1] === 0xfe) || (sample[0] === 0xfe && sample[1] === 0xff);
  if (!wide && sample.includes(0)) return { ok: false, reason: 'The file is binary, not a table of text' };
  return { ok: true };
}

/** UTF-8 where the bytes are valid UTF-8 or a byte order mark says so, else Windows-1252. */
export function detectEncoding(sample: Uint8Array): Detected<Encoding> {
  if (sample[0] === 0xef && sample[1] === 0xbb && sample[2] === 0xbf)
    return { value: 'utf-8', why: 'it begins with a UTF-8 byte order mark' };
  if (sample[0] === 0xff && sample[1] === 0xfe)
    return { value: 'utf-16le', why: 'it begins with a UTF-16 byte order mark' };
  if (sample[0] === 0xfe && sample[1] === 0xff)
    return { value: 'utf-16be', why: 'it begins with a UTF-16 byte order mark' };
  const broken = firstInvalidUtf8(sample);
  if (broken === -1) {
    const wide = sample.some((byte) => byte > 0x7f);
    return { value: 'utf-8', why: wide ? 'all its bytes are valid UTF-8' : 'it holds plain ASCII only' };
  }
  const byte = sample[broken] ?? 0;
  return {
    value: 'windows-1252',
    why: `byte 0x${byte.toString(16).toUpperCase()} at position ${broken + 1} is not valid UTF-8`,
  };
}

/** Position of the first byte that is not UTF-8; a sequence cut off at the end of the sample is fine. */
function firstInvalidUtf8(bytes: Uint8Array): number {
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i] ?? 0;
    if (byte < 0x80) continue;
    const more =
      byte >= 0xc2 && byte < 0xe0 ? 1 : byte >= 0xe0 && byte < 0xf0 ? 2 : byte >= 0xf0 && byte < 0xf5 ? 3 : -1;
    if (more < 0) return i;
    for (let k = 1; k <= more; k++) {
      const next = bytes[i + k];
      if (next === undefined) return -1;
      if ((next & 0xc0) !== 0x80) return i;
    }
    i += more;
  }
  return -1;
}

export interface Layout {
  delimiter: Detected<Delimiter>;
  /** Row of the header, counted from 1. */
  headerRow: Detected<number>;
  decimal: Detected<'.' | ','>;
  dateOrder: Detected<'dmy' | 'mdy' | 'ymd'>;
}

/** Delimiter, header row, decimal mark and date order, from the decoded beginning of a file. */
export function detectLayout(sample: string): Layout {
  const tried = delimiters.map((delimiter) => {
    const rows = parseRows(sample, delimiter, 60).filter((row) => row.some((cell) => cell.trim() !== ''));
    const width = mostFrequent(rows.map((row) => row.length));
    const steady = rows.filter((row) => row.length === width).length / Math.max(1, rows.length);
    return { delimiter, rows, width, steady, score: width > 1 ? steady * Math.log2(width) : 0 };
  });
  const best = tried.reduce((a, b) => (b.score > a.score ? b : a));
  const names: Record<Delimiter, string> = { ';': 'semicolon', '\t': 'tab', ',': 'comma', '|': 'bar' };
  const headerRow = findHeader(parseRows(sample, best.delimiter, 60), best.width);
  const body = best.rows.slice(headerRow.value).flat();
  return {
    delimiter: {
      value: best.delimiter,
      why: `${names[best.delimiter]}s give ${best.width} columns in ${Math.round(best.steady * 100)} % of the first rows`,
    },
    headerRow,
    ...detectStyle(body),
  };
}

/** A cell without a letter is a figure, a date, a number of something: no name of a column. */
const isFigure = (cell: string) => cell !== '' && !/\p{L}/u.test(cell);
const longestName = 100;

/**
 * The first row that can be a header: at least half of the table's width filled (titles above have few cells), no figures
 * among the names, none of them a text. Names may repeat, and some may be missing. Where they repeat and the row below can be
 * a header too, and is no row like those below it, that is the header and this one names groups of columns.
 */
export function findHeader(rows: readonly (readonly string[])[], width: number): Detected<number> {
  const filledOf = (row: readonly string[]) => row.map((cell) => (cell ?? '').trim()).filter((cell) => cell !== '');
  const canBeHeader = (row: readonly string[]) => {
    const filled = filledOf(row);
    return (
      filled.length >= Math.max(2, 0.5 * width) &&
      row.length >= Math.max(2, 0.5 * width) &&
      filled.every((cell) => !isFigure(cell) && cell.length <= longestName && !/[\r\n]{2}/.test(cell))
    );
  };
  const index = rows.findIndex(canBeHeader);
  if (index < 0) return { value: 1, why: 'no row looks like a header; the first is taken' };
  const filled = filledOf(rows[index] ?? []);
  const isRagged = filled.length < width || new Set(filled.map((cell) => cell.toLowerCase())).size < filled.length;
  const next = rows[index + 1];
  if (isRagged && next && canBeHeader(next) && isUnlike(next, rows.slice(index + 2, index + 22)))
    return { value: index + 2, why: `row ${index + 2} names the columns, row ${index + 1} groups of them` };
  return { value: index + 1, why: `row ${index + 1} is the first with ${filled.length} names and no figures` };
}

/** Whether a row of names stands above columns of figures. */
function isUnlike(row: readonly string[], below: readonly (readonly string[])[]): boolean {
  if (below.length < 2) return false;
  return row.some((name, i) => {
    if ((name ?? '').trim() === '' || /\d/.test(name)) return false;
    const cells = below.map((row) => (row[i] ?? '').trim()).filter((cell) => cell !== '');
    return cells.length >= 2 && cells.filter((cell) => /\d/.test(cell)).length > 0.8 * cells.length;
  });
}

/** Decimal mark and date order of texts, wherever they stand. */
export function detectStyle(cells: readonly string[]): Pick<Layout, 'decimal' | 'dateOrder'> {
  return { decimal: detectDecimal(cells), dateOrder: detectDateOrder(cells) };
}

function detectDecimal(cells: readonly string[]): Detected<'.' | ','> {
  const count = (pattern: RegExp) => cells.filter((cell) => pattern.test(cell.trim())).length;
  const commas = count(/^[^\d]{0,4}-?\d{1,3}(\.\d{3})*,\d{1,2}(\D{0,4})$|^-?\d+,\d+$/);
  const points = count(/^[^\d]{0,4}-?\d{1,3}(,\d{3})*\.\d{1,2}(\D{0,4})$|^-?\d+\.\d+$/);
  return commas > points
    ? { value: ',', why: `${commas} cells are figures with a comma, ${points} with a point` }
    : { value: '.', why: `${points} cells are figures with a point, ${commas} with a comma` };
}

function detectDateOrder(cells: readonly string[]): Detected<'dmy' | 'mdy' | 'ymd'> {
  const dates = cells
    .map((cell) => /^(\d{1,2})[./-](\d{1,2})[./-](?:\d{4}|\d{2})$/.exec(cell.trim()))
    .filter((date) => date !== null);
  if (dates.length === 0) return { value: 'ymd', why: 'no dates other than year first' };
  const american = dates.filter((date) => Number(date[2]) > 12).length;
  return american > 0
    ? { value: 'mdy', why: `${american} dates have a second number above 12` }
    : { value: 'dmy', why: `${dates.length} dates fit day first` };
}

function mostFrequent(numbers: number[]): number {
  const counts = new Map<number, number>();
  for (const n of numbers) counts.set(n, (counts.get(n) ?? 0) + 1);
  return [...counts].reduce((a, b) => (b[1] > a[1] ? b : a), [0, 0])[0];
}
