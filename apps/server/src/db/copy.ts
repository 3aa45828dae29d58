/** COPY in: the fast way to write many rows. */
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type pg from 'pg';
import { from } from 'pg-copy-streams';

export type Cell = string | number | boolean | null | undefined | object;

/** One row in COPY's text format; objects are written as JSON. */
export function copyLine(cells: readonly Cell[]): string {
  return `${cells.map(copyCell).join('\t')}\n`;
}

function copyCell(cell: Cell): string {
  if (cell === null || cell === undefined) return '\\N';
  const text =
    typeof cell === 'object' ? JSON.stringify(cell).replaceAll('\\u0000', '') : String(cell).replaceAll('\u0000', '');
  return /[\\\t\n\r]/.test(text)
    ? text.replaceAll('\\', '\\\\').replaceAll('\t', '\\t').replaceAll('\n', '\\n').replaceAll('\r', '\\r')
    : text;
}

/** Writes rows to a table through COPY on a client that the caller holds (inside its transaction, if it has one). */
export async function copyIn(
  client: pg.ClientBase,
  table: string,
  columns: readonly string[],
  lines: AsyncIterable<string> | Iterable<string>,
): Promise<void> {
  const target = client.query(from(`COPY ${table} (${columns.map((one) => `"${one}"`).join(', ')}) FROM STDIN`));
  await pipeline(Readable.from(gather(lines)), target);
}

/** Joins lines into chunks of about 64 KiB: a stream of single lines is slow. */
async function* gather(lines: AsyncIterable<string> | Iterable<string>): AsyncGenerator<string> {
  let chunk = '';
  for await (const line of lines) {
    chunk += line;
    if (chunk.length > 65_536) {
      yield chunk;
      chunk = '';
    }
  }
  if (chunk !== '') yield chunk;
}
