/** Headers: which of their columns are any, and a name of its own for each. */
import { UnreadableFile } from '@velvet-shelf/core/tabular';
import { sayCount } from '@velvet-shelf/core/values';

/** Rows that tell whether columns without a name at the end are any. */
export const rowsLookedAt = 200;

export const lastFilled = (cells: readonly string[]) => cells.findLastIndex((cell) => (cell ?? '').trim() !== '');

/** The header without the columns at its end that have neither a name nor a value. */
export function usedColumns(header: readonly string[], below: readonly (readonly string[])[]): string[] {
  const named = lastFilled(header);
  const used = below.reduce((most, cells) => Math.max(most, Math.min(lastFilled(cells), header.length - 1)), named);
  return Array.from({ length: used + 1 }, (_, i) => header[i] ?? '');
}

/** Cells beyond the header that hold nothing are none. */
export const withoutSurplus = (cells: string[], width: number): string[] =>
  cells.length > width && lastFilled(cells) < width ? cells.slice(0, width) : cells;

/** More than this nobody can match. */
export const mostColumns = 2000;

/** Every column has a name of its own: empty ones are numbered, repeated ones too. */
export function nameColumns(cells: readonly string[]): string[] {
  if (cells.length > mostColumns)
    throw new UnreadableFile(
      `It has ${sayCount(cells.length)} columns, and ${sayCount(mostColumns)} can be read at most. Take out those that are not needed`,
    );
  const seen = new Map<string, number>();
  return Array.from(cells, (cell, i) => {
    const name = (cell ?? '').trim().slice(0, 200) || `column ${i + 1}`;
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return count === 1 ? name : `${name} (${count})`;
  });
}
