/** What the process that reads files is asked for, and what it answers. */
import type { Detection, FileRow, Format, Reading } from '@velvet-shelf/core/tabular';

/** Rows a look at a file brings along. */
export const headRows = 2000;

export type Order =
  /** How it is read is found out where it is not said. */
  | { do: 'look'; path: string; reading?: Reading | undefined; format?: Format | undefined }
  | { do: 'rows'; path: string; reading: Reading; columns: readonly string[] }
  /** The next rows are wanted. */
  | { do: 'more' };

/** What a file is, its columns, and the first rows below the header. */
export interface Looked {
  detected: Detection | undefined;
  columns: string[];
  first: FileRow[];
}

export type Answer =
  | { looked: Looked }
  | { rows: FileRow[] }
  | { end: true }
  /** The file cannot be read, and why. */
  | { unreadable: string }
  | { fault: string };
