/** A row of a file, whatever its format. */
export interface FileRow {
  /** Running number; of delimited text the row, counted from 1 with the header. */
  row: number;
  /** Where it stands, where that is no row of a delimited text. */
  place?: string | undefined;
  cells: string[];
  /** Why the row cannot be read at all. */
  broken?: string | undefined;
}
