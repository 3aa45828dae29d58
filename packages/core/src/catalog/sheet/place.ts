/** Where cells go that are pasted or filled: repeated over what is chosen where that is as many times as large, cut at the edges. */
import { type Put, type Span, edgesOf } from './model.js';

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
