/** What somebody has written into a sheet, what each cell was written against, and where she stands in it. */
import { type Changes, type Span, type Spot, noChanges, putBack, redo, undo, write } from '@velvet-shelf/core/catalog';
import { useReducer } from 'react';

export interface SheetState {
  changes: Changes;
  /** By written cell: what it held when it was written. */
  against: ReadonlyMap<string, string>;
  span: Span;
  /** The cell that is written in: what it begins with. */
  editing: { begin: string } | undefined;
}

export type SheetAct =
  | { do: 'choose'; span: Span }
  | { do: 'edit'; begin: string }
  | { do: 'leave' }
  | {
      do: 'write';
      puts: readonly { key: string; text: string }[];
      held: (key: string) => string;
      words: string;
      span?: Span;
    }
  | { do: 'undo' }
  | { do: 'redo' }
  | { do: 'put back'; keys: readonly string[]; words: string }
  /** Mine stands although the cell holds something else now. */
  | { do: 'insist'; key: string; held: string }
  /** These texts are kept now, by cell. */
  | { do: 'saved'; texts: ReadonlyMap<string, string> };

const at = (spot: Spot): Span => ({ from: spot, to: spot });

const start: SheetState = {
  changes: noChanges,
  against: new Map(),
  span: at({ row: 0, column: 0 }),
  editing: undefined,
};

function turn(state: SheetState, act: SheetAct): SheetState {
  switch (act.do) {
    case 'choose':
      return { ...state, span: act.span, editing: undefined };
    case 'edit':
      return { ...state, editing: { begin: act.begin } };
    case 'leave':
      return { ...state, editing: undefined };
    case 'write': {
      const changes = write(state.changes, act.puts, act);
      const against = new Map(state.against);
      for (const { key } of act.puts) if (!state.changes.written.has(key)) against.set(key, act.held(key));
      return { changes, against, span: act.span ?? state.span, editing: undefined };
    }
    case 'undo':
      return { ...state, changes: undo(state.changes), editing: undefined };
    case 'redo':
      return { ...state, changes: redo(state.changes), editing: undefined };
    case 'put back':
      return { ...state, changes: putBack(state.changes, act.keys, act.words) };
    case 'insist':
      return { ...state, against: new Map(state.against).set(act.key, act.held) };
    case 'saved': {
      const written = new Map(state.changes.written);
      const against = new Map(state.against);
      for (const [key, text] of act.texts)
        if (written.get(key) === text) written.delete(key);
        else against.set(key, text);
      return { ...state, against, changes: { ...noChanges, written } };
    }
  }
}

export const useSheetState = () => useReducer(turn, start);
