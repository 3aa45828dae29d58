/**
 * Delimited text (RFC 4180 and what people make of it), row by row, in chunks. No row is ever lost unsaid:
 * - a row ends at CR LF, LF or CR, each as it comes, mixed or not;
 * - a cell is in quotes where the quote that opens it is closed right before a separator, a line end or the end of the text.
 *   One that begins with a quoted word and goes on after it (`"Moss" pot`) is written out as it stands, and ends with its line;
 * - a quoted cell may go over lines, within limits, unless each of these lines is a whole row by itself.
 */
import type { Delimiter } from './reading.js';

/** Lines and characters a quoted cell may have. */
const mostLines = 500;
const longestCell = 200_000;
/** Cells of a row that are kept; nobody's table is wider, and what is wider is refused by its number of cells. */
const mostCells = 5000;

export interface DelimitedRow {
  cells: string[];
  /** Cells the row has, those that were not kept included. */
  width: number;
}

export interface DelimitedReader {
  /** Rows that are whole by now; the last chunk is said to be the last. */
  push(chunk: string, isLast: boolean): DelimitedRow[];
}

/** A reader of one text; rows below the header's (counted from 1) are measured by how wide that is. */
export function readDelimited(delimiter: Delimiter, headerRow?: number): DelimitedReader {
  let rest = '';
  let count = 0;
  let width: number | undefined;
  return {
    push(chunk, isLast) {
      const text = rest + chunk;
      const piece: Piece = { text, delimiter, width, isLast, next: {} };
      const rows: DelimitedRow[] = [];
      let at = 0;
      while (at < text.length) {
        const row = rowAt(piece, at);
        if (!row) break;
        rows.push({ cells: row.cells, width: row.width });
        at = row.next;
        if (++count === headerRow) piece.width = width = row.width;
      }
      rest = text.slice(at);
      return rows;
    },
  };
}

/** All rows of a text held in memory; at most `most` of them where that is said. */
export function parseRows(text: string, delimiter: Delimiter, most = Number.POSITIVE_INFINITY): string[][] {
  const rows: string[][] = [];
  const piece: Piece = { text, delimiter, width: undefined, isLast: true, next: {} };
  for (let at = 0; at < text.length && rows.length < most;) {
    const row = rowAt(piece, at);
    if (!row) break;
    rows.push(row.cells);
    at = row.next;
  }
  return rows;
}

/** A piece of a text, and what is known of its rows. */
interface Piece {
  text: string;
  delimiter: Delimiter;
  /** Cells of the header, once it was read. */
  width: number | undefined;
  /** Nothing comes after it. */
  isLast: boolean;
  /** Where signs were found last, and from where on there was none before. */
  next: Partial<Record<'\n' | '\r' | '"', { from: number; at: number }>>;
}

interface Row {
  cells: string[];
  width: number;
  /** Where the next row begins. */
  next: number;
}

/** The row that begins at a place; undefined where it may go on in the next chunk. */
function rowAt(piece: Piece, from: number): Row | undefined {
  const end = lineEnd(piece, from);
  if (!end) return undefined;
  const { width } = piece;
  if (nextOf(piece, '"', from) >= end.at) return literalRow(piece, from, end);
  const row = rowWithQuotes(piece, from);
  if (!row || width === undefined || row.width === width) return row;
  // As wide as the header where its quotes are taken for inch marks and the like.
  const literal = literalRow(piece, from, end);
  return literal.width === width ? literal : row;
}

function rowWithQuotes(piece: Piece, from: number): Row | undefined {
  const { text, delimiter } = piece;
  const cells: string[] = [];
  let count = 0;
  const add = (cell: string) => {
    if (count++ < mostCells) cells.push(cell);
  };
  for (let at = from; ;) {
    if (text[at] === '"') {
      const quoted = quotedAt(piece, at);
      if (quoted === 'later') return undefined;
      if (quoted && !(quoted.lines > 0 && isRowsInstead(piece, from, quoted.end))) {
        add(quoted.cell);
        at = quoted.end;
        if (text[at] === delimiter) {
          at++;
          continue;
        }
        const over = lineEnd(piece, at);
        return over && { cells, width: count, next: over.next };
      }
    }
    const line = lineEnd(piece, at);
    if (!line) return undefined;
    const cut = text.indexOf(delimiter, at);
    if (cut < 0 || cut >= line.at) {
      add(text.slice(at, line.at));
      return { cells, width: count, next: line.next };
    }
    add(text.slice(at, cut));
    at = cut + 1;
  }
}

function literalRow({ text, delimiter }: Piece, from: number, end: LineEnd): Row {
  const cells = text.slice(from, end.at).split(delimiter, mostCells + 1);
  if (cells.length <= mostCells) return { cells, width: cells.length, next: end.next };
  let width = 1;
  for (let at = text.indexOf(delimiter, from); at >= 0 && at < end.at; at = text.indexOf(delimiter, at + 1)) width++;
  return { cells: cells.slice(0, mostCells), width, next: end.next };
}

interface LineEnd {
  at: number;
  next: number;
}

/** Where the line ends and the next begins; undefined where that stands in the next chunk. */
function lineEnd(piece: Piece, from: number): LineEnd | undefined {
  const { text, isLast } = piece;
  const [feed, back] = [nextOf(piece, '\n', from), nextOf(piece, '\r', from)];
  if (back < feed) {
    if (back === text.length - 1) return isLast ? { at: back, next: back + 1 } : undefined;
    return { at: back, next: text[back + 1] === '\n' ? back + 2 : back + 1 };
  }
  if (feed < text.length) return { at: feed, next: feed + 1 };
  return isLast ? { at: text.length, next: text.length } : undefined;
}

/**
 * The next of a sign from here on, the text's length where there is none. Asked for row after row: what was found is
 * remembered, so that a text without it is gone through once and not once a row.
 */
function nextOf({ text, next }: Piece, sign: keyof Piece['next'], from: number): number {
  const known = next[sign];
  if (known !== undefined && known.from <= from && from <= known.at) return known.at;
  const found = text.indexOf(sign, from);
  const at = found < 0 ? text.length : found;
  next[sign] = { from, at };
  return at;
}

interface Quoted {
  cell: string;
  /** Right after the closing quote. */
  end: number;
  /** Line ends inside. */
  lines: number;
}

/** The quoted cell that begins here; undefined where none does, "later" where the next chunk tells. */
function quotedAt({ text, delimiter, isLast }: Piece, from: number): Quoted | 'later' | undefined {
  let lines = 0;
  let isEscaped = false;
  let seen = from + 1;
  for (;;) {
    const quote = text.indexOf('"', seen);
    const to = quote < 0 ? text.length : quote;
    for (let at = nextBreak(text, seen, to); at < to; at = nextBreak(text, at + 1, to))
      if (text[at] === '\n' || text[at + 1] !== '\n') lines++;
    if (lines > mostLines || to - from > longestCell) return undefined;
    if (quote < 0) return isLast ? undefined : 'later';
    const after = text[quote + 1];
    if (after === '"') {
      isEscaped = true;
      seen = quote + 2;
      continue;
    }
    if (after === undefined && !isLast) return 'later';
    if (after !== undefined && after !== delimiter && after !== '\n' && after !== '\r') return undefined;
    const inner = text.slice(from + 1, quote);
    return { cell: isEscaped ? inner.replaceAll('""', '"') : inner, end: quote + 1, lines };
  }
}

function nextBreak(text: string, from: number, to: number): number {
  for (let at = from; at < to; at++) {
    const code = text.charCodeAt(at);
    if (code === 10 || code === 13) return at;
  }
  return to;
}

/** A cell that goes over lines is none where every one of these lines, taken literally, is a row as wide as the header. */
function isRowsInstead(piece: Piece, from: number, to: number): boolean {
  const { width } = piece;
  if (width === undefined || width < 2) return false;
  for (let at = from; at < to;) {
    const end = lineEnd(piece, at);
    if (!end) return false;
    if (literalRow(piece, at, end).width !== width) return false;
    at = end.next;
  }
  return true;
}
