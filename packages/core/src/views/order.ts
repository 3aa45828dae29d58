/** Rows in an order that is kept up as some of them change. */

/** What a row is put in order by; undefined where it has nothing, and then it comes last whichever way. */
export interface Rank {
  figure: (row: number) => number | undefined;
  text: (row: number) => string | undefined;
}

/** Compares rows by their figures, then by their texts (code units), then by their ids. */
export function comparing({ figure, text }: Rank, isDown: boolean, id: (row: number) => number) {
  const along = isDown ? -1 : 1;
  return (x: number, y: number): number =>
    alongOrLast(figure(x), figure(y), along) || alongOrLast(text(x), text(y), along) || id(x) - id(y);
}

function alongOrLast<T extends number | string>(x: T | undefined, y: T | undefined, along: number): number {
  if (x === y) return 0;
  if (x === undefined) return 1;
  if (y === undefined) return -1;
  return x < y ? -along : along;
}

export class Order {
  private sorted: Uint32Array;

  constructor(
    size: number,
    private readonly compare: (x: number, y: number) => number,
  ) {
    this.sorted = Uint32Array.from({ length: size }, (_, row) => row).sort(compare);
  }

  get rows(): Uint32Array {
    return this.sorted;
  }

  /** Puts rows that changed, and new ones up to `size`, where they belong now; all others have kept their order. */
  renew(changed: ReadonlySet<number>, size: number): void {
    const old = this.sorted.filter((row) => !changed.has(row));
    const added = new Set(changed);
    for (let row = this.sorted.length; row < size; row++) added.add(row);
    const fresh = Uint32Array.from(added).sort(this.compare);
    const merged = new Uint32Array(old.length + fresh.length);
    for (let i = 0, j = 0, at = 0; at < merged.length; at++) {
      const [kept, come] = [old[i], fresh[j]];
      const isKept = come === undefined || (kept !== undefined && this.compare(kept, come) < 0);
      merged[at] = (isKept ? kept : come) ?? 0;
      if (isKept) i++;
      else j++;
    }
    this.sorted = merged;
  }
}
