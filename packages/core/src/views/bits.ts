/** A set of rows by their numbers, 32 to a word. Never changed once it is made. */
export class Bits {
  private constructor(
    readonly size: number,
    private readonly words: Uint32Array,
  ) {}

  static none(size: number): Bits {
    return new Bits(size, new Uint32Array((size + 31) >>> 5));
  }

  static all(size: number): Bits {
    return Bits.none(size).flip();
  }

  /** Those for which `holds`. */
  static where(size: number, holds: (row: number) => boolean): Bits {
    const words = new Uint32Array((size + 31) >>> 5);
    for (let row = 0; row < size; row++) if (holds(row)) words[row >>> 5] = (words[row >>> 5] ?? 0) | (1 << (row & 31));
    return new Bits(size, words);
  }

  /** Those in a list; numbers beyond `size` are none. */
  static of(size: number, rows: Iterable<number>): Bits {
    const words = new Uint32Array((size + 31) >>> 5);
    for (const row of rows) if (row < size) words[row >>> 5] = (words[row >>> 5] ?? 0) | (1 << (row & 31));
    return new Bits(size, words);
  }

  has(row: number): boolean {
    return ((this.words[row >>> 5] ?? 0) & (1 << (row & 31))) !== 0;
  }

  /** Those of another set of as many rows too. */
  and(other: Bits): Bits {
    return new Bits(
      this.size,
      this.words.map((word, i) => word & (other.words[i] ?? 0)),
    );
  }

  or(other: Bits): Bits {
    return new Bits(
      this.size,
      this.words.map((word, i) => word | (other.words[i] ?? 0)),
    );
  }

  /** All others. */
  flip(): Bits {
    const words = this.words.map((word) => ~word);
    const rest = this.size & 31;
    if (rest !== 0) words[words.length - 1] = (words.at(-1) ?? 0) & ((1 << rest) - 1);
    return new Bits(this.size, words);
  }
}
