/** A file on disk as rows, whatever its format, streamed in constant memory. */
import type { FileRow, Reading } from '@velvet-shelf/core/tabular';
import { formatOf } from './formats/index.js';

/** The columns of a file: its header, or the fields its items have. */
export const readColumns = (path: string, reading: Reading): Promise<string[]> =>
  formatOf(reading.format).columns(path, reading);

/** Rows below the header some hundreds at a time: one by one, the waiting between them costs more than the reading. */
export const rowBatches = (path: string, reading: Reading, columns: readonly string[]): AsyncGenerator<FileRow[]> =>
  formatOf(reading.format).batches(path, reading, columns);

/** The same rows one by one. */
export async function* readRows(path: string, reading: Reading, columns: readonly string[]): AsyncGenerator<FileRow> {
  for await (const batch of rowBatches(path, reading, columns)) yield* batch;
}

/** The first rows, for suggestions and for showing what they become. */
export async function readFirst(
  path: string,
  reading: Reading,
  columns: readonly string[],
  count: number,
): Promise<FileRow[]> {
  const own = formatOf(reading.format).first?.(path, reading, columns, count);
  if (own) return own;
  const first: FileRow[] = [];
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
