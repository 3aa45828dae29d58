/** A sheet: goods in rows, slots of theirs in columns, and what somebody has written over what they hold. */

/** A cell by the place of its row and its column, both from 0. */
export interface Spot {
  row: number;
  column: number;
}

/** Cells in a rectangle; `from` is where choosing them began. */
export interface Span {
  from: Spot;
  to: Spot;
}

export interface Edges {
  top: number;
  left: number;
  bottom: number;
  right: number;
}

export const edgesOf = ({ from, to }: Span): Edges => ({
  top: Math.min(from.row, to.row),
  left: Math.min(from.column, to.column),
  bottom: Math.max(from.row, to.row),
  right: Math.max(from.column, to.column),
});

export const isWithin = ({ top, left, bottom, right }: Edges, { row, column }: Spot): boolean =>
  row >= top && row <= bottom && column >= left && column <= right;

/** A text put into a cell; empty = nothing there. */
export interface Put extends Spot {
  text: string;
}
