/** How goods are read out of a format. One file a format; index.ts lists them. What has to be known for it is core's (tabular/formats). */
import type { Detected, Detection, Encoding, FileRow, Format, Reading } from '@velvet-shelf/core/tabular';

export type ReadingOf<F extends Format> = Extract<Reading, { format: F }>;

/** What was seen of a file before its format was known. */
export interface Looked {
  path: string;
  /** Why it is taken for this format. */
  why: string;
  encoding: Detected<Encoding>;
  /** Its beginning, decoded; nothing of a workbook. */
  text: string;
}

/** All throw UnreadableFile, and read in constant memory. */
export interface ReadFormatOf<R extends Reading> {
  detect(file: Looked): Promise<Detection>;
  /** Its header, or the fields its items have. */
  columns(path: string, reading: R): Promise<string[]>;
  /** Rows some hundreds at a time, each as long as `columns` unless the file has it otherwise. */
  batches(path: string, reading: R, columns: readonly string[]): AsyncGenerator<FileRow[]>;
  /** The first rows, where they are not simply those that come first. */
  first?(path: string, reading: R, columns: readonly string[], count: number): Promise<FileRow[]>;
}

/** Numbers and dates of formats that have a way of their own to write them. */
export const plainStyle = { decimal: '.', dateOrder: 'ymd' } as const;
export const plainWhy = {
  decimal: 'numbers of this format have a decimal point',
  dateOrder: 'no dates other than year first',
};

const batchRows = 500;

/** Rows one by one, as batches: what came before the place where a file breaks off is handed on first. */
export async function* inBatches(rows: AsyncGenerator<FileRow>): AsyncGenerator<FileRow[]> {
  let batch: FileRow[] = [];
  try {
    for await (const row of rows) {
      batch.push(row);
      if (batch.length < batchRows) continue;
      yield batch;
      batch = [];
    }
  } catch (error) {
    if (batch.length > 0) yield batch;
    throw error;
  }
  if (batch.length > 0) yield batch;
}
