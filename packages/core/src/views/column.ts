/** One attribute of all goods, as conditions and orders read it: the sort keys of each row's value. */
import { Bits } from './bits.js';

export type Key = number | string;

const nothing = -1;
const several = -2;
const figure = -3;

/**
 * Texts are kept once, and a row has the number of its text: a test is made once for each that differs, however many rows
 * have it.
 */
export class Column {
  private readonly texts: string[] = [];
  private readonly numberOf = new Map<string, number>();
  /** By row: the number of its one text, or what else is there. */
  private readonly codes: number[] = [];
  private readonly figures: number[] = [];
  private readonly many = new Map<number, readonly Key[]>();

  /** What a row's value is compared by; no keys where it has none. Rows may be set in any order, and again. */
  set(row: number, keys: readonly Key[]): void {
    for (let next = this.codes.length; next <= row; next++) this.codes[next] = nothing;
    for (let next = this.figures.length; next <= row; next++) this.figures[next] = 0;
    this.many.delete(row);
    const [key] = keys;
    if (key === undefined) this.codes[row] = nothing;
    else if (keys.length > 1) {
      this.codes[row] = several;
      this.many.set(row, keys);
    } else if (typeof key === 'string') this.codes[row] = this.number(key);
    else {
      this.codes[row] = figure;
      this.figures[row] = key;
    }
  }

  /** One more key beside those a row has. */
  add(row: number, key: Key): void {
    this.set(row, [...this.keys(row), key]);
  }

  keys(row: number): readonly Key[] {
    const code = this.codes[row] ?? nothing;
    if (code >= 0) return [this.texts[code] ?? ''];
    if (code === figure) return [this.figures[row] ?? 0];
    return this.many.get(row) ?? [];
  }

  /** The rows of `size` one of whose keys passes. */
  having(size: number, test: (key: Key) => boolean): Bits {
    const passes = Uint8Array.from(this.texts, (text) => (test(text) ? 1 : 0));
    return Bits.where(size, (row) => {
      const code = this.codes[row] ?? nothing;
      if (code >= 0) return passes[code] === 1;
      if (code === figure) return test(this.figures[row] ?? 0);
      return code === several && (this.many.get(row) ?? []).some(test);
    });
  }

  /** The rows of `size` that have a value. */
  filled(size: number): Bits {
    return Bits.where(size, (row) => (this.codes[row] ?? nothing) !== nothing);
  }

  private number(text: string): number {
    const known = this.numberOf.get(text);
    if (known !== undefined) return known;
    const number = this.texts.push(text) - 1;
    this.numberOf.set(text, number);
    return number;
  }
}
