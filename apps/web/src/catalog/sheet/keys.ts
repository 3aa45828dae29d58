/** What keys do in a sheet, as in any: go, choose, write, fill, take back. */
import { type Span, type Spot, edgesOf } from '@velvet-shelf/core/catalog';
import type { KeyboardEvent } from 'react';

const page = 20;

export type KeyAct =
  | { do: 'choose'; span: Span }
  | { do: 'edit'; typed?: string }
  | { do: 'clear' | 'fill' | 'undo' | 'redo' | 'find' | 'save' };

/** What a key means; undefined where it is the browser’s own. */
export function readKey(
  event: KeyboardEvent,
  { from, to }: Span,
  size: { rows: number; columns: number },
): KeyAct | undefined {
  const { key, shiftKey } = event;
  const isCommand = event.ctrlKey || event.metaKey;
  const within = ({ row, column }: Spot): Spot => ({
    row: Math.max(0, Math.min(size.rows - 1, row)),
    column: Math.max(0, Math.min(size.columns - 1, column)),
  });
  const go = (spot: Spot): KeyAct => {
    const next = within(spot);
    return { do: 'choose', span: shiftKey ? { from, to: next } : { from: next, to: next } };
  };
  const last = { row: size.rows - 1, column: size.columns - 1 };
  // With Shift what is chosen grows at its far end; without it one goes on from where one stands.
  const here = shiftKey ? to : from;
  switch (key) {
    case 'ArrowDown':
      return go({ ...here, row: isCommand ? last.row : here.row + 1 });
    case 'ArrowUp':
      return go({ ...here, row: isCommand ? 0 : here.row - 1 });
    case 'ArrowRight':
      return go({ ...here, column: isCommand ? last.column : here.column + 1 });
    case 'ArrowLeft':
      return go({ ...here, column: isCommand ? 0 : here.column - 1 });
    case 'PageDown':
      return go({ ...here, row: here.row + page });
    case 'PageUp':
      return go({ ...here, row: here.row - page });
    case 'Home':
      return go({ row: isCommand ? 0 : here.row, column: 0 });
    case 'End':
      return go({ row: isCommand ? last.row : here.row, column: last.column });
    case 'Tab': {
      const column = from.column + (shiftKey ? -1 : 1);
      // Past the last cell of a row the key leaves the sheet, as it does anywhere.
      if (column < 0 || column > last.column) return undefined;
      const spot = { row: from.row, column };
      return { do: 'choose', span: { from: spot, to: spot } };
    }
    case 'Enter':
    case 'F2':
      return { do: 'edit' };
    case 'Delete':
    case 'Backspace':
      return { do: 'clear' };
    default:
      break;
  }
  if (isCommand)
    switch (key.toLowerCase()) {
      case 'a':
        return { do: 'choose', span: { from: { row: 0, column: 0 }, to: last } };
      case 'd':
        return { do: 'fill' };
      case 'z':
        return { do: shiftKey ? 'redo' : 'undo' };
      case 'y':
        return { do: 'redo' };
      case 'f':
        return { do: 'find' };
      case 's':
        return { do: 'save' };
      default:
        return undefined;
    }
  return key.length === 1 && !event.altKey ? { do: 'edit', typed: key } : undefined;
}

/** One cell on from where writing ended. */
export function stepFrom(
  { from }: Span,
  way: 'down' | 'up' | 'right' | 'left' | 'stay',
  size: { rows: number; columns: number },
): Span {
  const [down, right] = { down: [1, 0], up: [-1, 0], right: [0, 1], left: [0, -1], stay: [0, 0] }[way] as [
    number,
    number,
  ];
  const spot = {
    row: Math.max(0, Math.min(size.rows - 1, from.row + down)),
    column: Math.max(0, Math.min(size.columns - 1, from.column + right)),
  };
  return { from: spot, to: spot };
}

/** Cells of a span, row by row. */
export function* spotsOf(span: Span): Generator<Spot> {
  const { top, left, bottom, right } = edgesOf(span);
  for (let row = top; row <= bottom; row++) for (let column = left; column <= right; column++) yield { row, column };
}
