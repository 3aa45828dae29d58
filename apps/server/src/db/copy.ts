/** COPY in: the fast way to write many rows. */
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type pg from 'pg';
import { from } from 'pg-copy-streams';

export type Cell = string | number | boolean | null | undefined | object;

/** JSON as PostgreSQL takes it: it keeps no U+0000 and no half of a surrogate pair, and nor do we. */
export function keptJson(json: string): string {
  if (!/\\u(?:0000|d[89a-f])/.test(json)) return json;
  // Escape by escape, so that a text in which "\\u0000" is written out stays as it is.
  return json.replace(/\\(?:u([0-9a-f]{4})|.)/g, (escape, code: string | undefined) =>
    code === '0000' ? '' : code !== undefined && /^d[89a-f]/.test(code) ? '\uFFFD' : escape,
  );
}

/** Lets what waits for the event loop go on: what was put together before is on its way to the database meanwhile. */
export const breathe = () => new Promise((resolve) => setImmediate(resolve));

/** One row in COPY's text format; objects are written as JSON. */
export function copyLine(cells: readonly Cell[]): string {
  let line = '';
  for (let i = 0; i < cells.length; i++) line += (i > 0 ? '\t' : '') + copyCell(cells[i]);
  return `${line}\n`;
}

function copyCell(cell: Cell): string {
  if (typeof cell === 'number') return String(cell);
  if (cell === null || cell === undefined) return '\\N';
  return copyText(typeof cell === 'object' ? keptJson(JSON.stringify(cell)) : String(cell));
}

/** A text as COPY wants it. PostgreSQL keeps no U+0000. */
export function copyText(text: string): string {
  if (!/[\\\t\n\r\0]/.test(text)) return text;
  return text
    .replaceAll('\u0000', '')
    .replaceAll('\\', '\\\\')
    .replaceAll('\t', '\\t')
    .replaceAll('\n', '\\n')
    .replaceAll('\r', '\\r');
}

/** Writes rows to a table through COPY on a client that the caller holds (inside its transaction, if it has one). */
export function copyIn(
  client: pg.ClientBase,
  table: string,
  columns: readonly string[],
  lines: Iterable<string>,
): Promise<void> {
  return sendCopy(client, table, columns, copyChunks(lines));
}

/** The same with lines that were put together before. */
export async function sendCopy(
  client: pg.ClientBase,
  table: string,
  columns: readonly string[],
  chunks: Iterable<Buffer>,
): Promise<void> {
  const target = client.query(from(`COPY ${table} (${columns.map((column) => `"${column}"`).join(', ')}) FROM STDIN`));
  await pipeline(Readable.from(chunks, { objectMode: false }), target);
}

const chunkLength = 65_536;

/** Joins lines into chunks of about 64 KiB: a stream of single lines is slow. */
export function* copyChunks(lines: Iterable<string>): Generator<Buffer> {
  let chunk = '';
  for (const line of lines) {
    chunk += line;
    if (chunk.length <= chunkLength) continue;
    yield Buffer.from(chunk);
    chunk = '';
  }
  if (chunk !== '') yield Buffer.from(chunk);
}
