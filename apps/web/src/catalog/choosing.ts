/** Which rows of the grid are chosen: some, or all of the view but some. */
import type { Chosen, GridRow } from '@velvet-shelf/contract';
import { useMemo, useState } from 'react';

type Row = Pick<GridRow, 'id' | 'familyId'>;

export interface Choosing {
  isChosen: (row: Row) => boolean;
  /** Its family says it, for all its variants. */
  isDecided: (row: Row) => boolean;
  toggle: (ids: readonly number[], to: boolean) => void;
  all: () => void;
  none: () => void;
  isAll: boolean;
  /** As the server is told; undefined where nothing is. */
  chosen: Chosen | undefined;
}

interface Picked {
  /** Of which view, as text: another one begins with nothing chosen. */
  view: string;
  isAll: boolean;
  /** Chosen, or of all those that are not. */
  rows: ReadonlySet<number>;
}

const noRows: ReadonlySet<number> = new Set();

export function useChoosing(view: string, token: string | undefined): Choosing {
  const [held, setHeld] = useState<Picked>({ view, isAll: false, rows: noRows });
  const { isAll, rows } = held.view === view ? held : { isAll: false, rows: noRows };
  // The same as long as nothing else is chosen: what is asked of it is not asked again for every drawing.
  const chosen = useMemo(() => sentOf(isAll, rows, token), [isAll, rows, token]);
  const isDecided = ({ familyId }: Row) => familyId !== null && rows.has(familyId);
  const set = (to: Omit<Picked, 'view'>) => setHeld({ view, ...to });
  return {
    isChosen: (row) => (rows.has(row.id) || isDecided(row)) !== isAll,
    isDecided,
    toggle: (ids, to) => {
      const next = new Set(rows);
      for (const id of ids)
        if (to !== isAll) next.add(id);
        else next.delete(id);
      set({ isAll, rows: next });
    },
    all: () => set({ isAll: true, rows: noRows }),
    none: () => set({ isAll: false, rows: noRows }),
    isAll,
    chosen,
  };
}

function sentOf(isAll: boolean, rows: ReadonlySet<number>, token: string | undefined): Chosen | undefined {
  if (isAll) return token === undefined ? undefined : { view: token, except: [...rows] };
  return rows.size === 0 ? undefined : { rows: [...rows] };
}
