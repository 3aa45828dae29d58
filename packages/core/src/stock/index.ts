/** What a channel may be shown of what is there. */

export interface StockFigures {
  /** Pieces in all warehouses together; may be below 0 where more went out than was counted. */
  onHand: number;
  /** Pieces promised to orders. */
  reserved?: number;
  /** Pieces no channel may sell. */
  keptBack: number;
}

/** (on hand − reserved) − kept back, in pieces, never below 0. */
export function shownStock({ onHand, reserved = 0, keptBack }: StockFigures): number {
  return Math.max(0, onHand - reserved - keptBack);
}
