/** Rows of a sheet: all windows of the view are read, so that what is done to many cells is done to all of them. */
import { type UseQueryResult, useQueries } from '@tanstack/react-query';
import { type CellOrigin, type SheetRow, api, mostSheetRows } from '@velvet-shelf/contract';
import { cellKey } from '@velvet-shelf/core/catalog';
import { call } from '../../api/call';
import type { OpenedView } from '../opened';

const windowRows = 500;

export interface SheetRows {
  rows: readonly Omit<SheetRow, 'cells'>[];
  /** By goods and slot. */
  held: ReadonlyMap<string, HeldCell>;
  /** Rows still to come. */
  coming: number;
  error: Error | null;
  read(): Promise<unknown>;
}

export interface HeldCell {
  text: string;
  origin: CellOrigin;
}

/** What an edit of a cell is made against: nothing where its value follows a fill, for an edit sets a value of its own. */
export const claimOf = (cell: HeldCell | undefined): string =>
  cell === undefined || cell.origin === 'fill' ? '' : cell.text;

export function useSheetRows(opened: OpenedView | undefined, slots: readonly string[]): SheetRows {
  const total = Math.min(opened?.rows ?? 0, mostSheetRows);
  const token = opened?.token ?? '';
  const windows = Array.from({ length: Math.ceil(total / windowRows) }, (_, i) => i * windowRows);
  return useQueries({
    queries: windows.map((from) => ({
      queryKey: ['sheet', token, from, slots.join(',')],
      queryFn: async (): Promise<Part> => ({
        slots,
        items: (
          await call(api.sheet.rows, {
            params: { token },
            query: { from, count: Math.min(windowRows, total - from), columns: slots.join(',') },
          })
        ).items,
      }),
      staleTime: 'static' as const,
      gcTime: 0,
      // Of another choice of columns: those that stand in both are shown until the new ones come.
      placeholderData: (before: Part | undefined) => before,
    })),
    combine: gather,
  });
}

interface Part {
  slots: readonly string[];
  items: SheetRow[];
}

/** Windows in their order, as far as they have come without a gap. */
function gather(windows: readonly UseQueryResult<Part>[]): SheetRows {
  const rows: Omit<SheetRow, 'cells'>[] = [];
  const held = new Map<string, HeldCell>();
  for (const { data } of windows) {
    if (!data) break;
    for (const { cells, ...row } of data.items) {
      rows.push(row);
      data.slots.forEach((slot, i) => {
        const [text, origin] = cells[i] ?? [null, 'none'];
        held.set(cellKey(row.id, slot), { text: text ?? '', origin });
      });
    }
  }
  return {
    rows,
    held,
    coming: windows.filter(({ isPending, isPlaceholderData }) => isPending || isPlaceholderData).length * windowRows,
    error: windows.find(({ error }) => error)?.error ?? null,
    read: () => Promise.all(windows.map((window) => window.refetch())),
  };
}
