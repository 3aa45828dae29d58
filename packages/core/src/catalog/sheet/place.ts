/** Where cells go that are pasted or filled: repeated over what is chosen where that is as many times as large, cut at the edges. */
import { type Put, type Span, type Spot, edgesOf, isWithin } from './model.js';

export interface Placed {
  puts: Put[];
  /** Cells that lie beyond the last row or column. */
  beyond: number;
  span: Span;
}

/** `size`: rows and columns of the sheet. */
export function placeCells(
  block: readonly (readonly string[])[],
  span: Span,
  size: { rows: number; columns: number },
): Placed {
  const { top, left, bottom, right } = edgesOf(span);
  const [high, wide] = [block.length, Math.max(0, ...block.map((row) => row.length))];
  const [chosenHigh, chosenWide] = [bottom - top + 1, right - left + 1];
  const [down, across] = [repeats(chosenHigh, high) * high, repeats(chosenWide, wide) * wide];
  const puts: Put[] = [];
  let beyond = 0;
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      const text = block[y % high]?.[x % wide];
      if (text === undefined) continue;
      const [row, column] = [top + y, left + x];
      if (row >= size.rows || column >= size.columns) beyond++;
      else puts.push({ row, column, text });
    }
  const last = { row: Math.min(size.rows, top + down) - 1, column: Math.min(size.columns, left + across) - 1 };
  return { puts, beyond, span: { from: { row: top, column: left }, to: last } };
}

const repeats = (chosen: number, own: number): number => (own > 0 && chosen % own === 0 ? chosen / own : 1);

/** The first row of what is chosen, in all rows below it. */
export function fillDown(span: Span, textAt: (row: number, column: number) => string): Put[] {
  const { top, left, bottom, right } = edgesOf(span);
  const puts: Put[] = [];
  for (let column = left; column <= right; column++) {
    const text = textAt(top, column);
    for (let row = top + 1; row <= bottom; row++) puts.push({ row, column, text });
  }
  return puts;
}

/** What is chosen and the cells up to `to` in the direction that lies further; undefined where that is within it. */
export function reachOf(span: Span, to: Spot): Span | undefined {
  const { top, left, bottom, right } = edgesOf(span);
  const down = Math.max(to.row - bottom, top - to.row);
  const across = Math.max(to.column - right, left - to.column);
  if (down <= 0 && across <= 0) return undefined;
  const edges =
    down >= across
      ? { top: Math.min(top, to.row), bottom: Math.max(bottom, to.row), left, right }
      : { top, bottom, left: Math.min(left, to.column), right: Math.max(right, to.column) };
  return {
    from: { row: edges.top, column: edges.left },
    to: { row: edges.bottom, column: edges.right },
  };
}

/** What is chosen, repeated in the cells around it up to the edges of `reach`. */
export function fillOver(span: Span, reach: Span, textAt: (row: number, column: number) => string): Put[] {
  const own = edgesOf(span);
  const over = edgesOf(reach);
  const [high, wide] = [own.bottom - own.top + 1, own.right - own.left + 1];
  const within = (offset: number, length: number) => ((offset % length) + length) % length;
  const puts: Put[] = [];
  for (let row = over.top; row <= over.bottom; row++)
    for (let column = over.left; column <= over.right; column++) {
      if (isWithin(own, { row, column })) continue;
      const text = textAt(own.top + within(row - own.top, high), own.left + within(column - own.left, wide));
      puts.push({ row, column, text });
    }
  return puts;
}
