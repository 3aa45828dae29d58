/** What was written into a sheet and is not saved yet, step by step, so that each can be taken back and done again. */

/** By goods and slot: the text that stands there instead of what is held. */
export type Written = ReadonlyMap<string, string>;

export const cellKey = (product: number, slot: string): string => `${product} ${slot}`;
export function splitCellKey(key: string): { product: number; slot: string } {
  const gap = key.indexOf(' ');
  return { product: Number(key.slice(0, gap)), slot: key.slice(gap + 1) };
}

interface Step {
  words: string;
  /** By cell: what was written there before and after; undefined where it was as held. */
  cells: ReadonlyMap<string, readonly [before: string | undefined, after: string | undefined]>;
}

export interface Changes {
  written: Written;
  done: readonly Step[];
  undone: readonly Step[];
}

export const noChanges: Changes = { written: new Map(), done: [], undone: [] };

/** Steps one can go back. */
const mostSteps = 200;

/** Writes texts into cells as one step. What is written as it is held is no change; a step that changes nothing is none. */
export function write(
  changes: Changes,
  puts: readonly { key: string; text: string }[],
  { held, words }: { held: (key: string) => string; words: string },
): Changes {
  const cells = new Map<string, readonly [string | undefined, string | undefined]>();
  for (const { key, text } of puts) {
    const before = changes.written.get(key);
    const after = text === held(key) ? undefined : text;
    if (before === after) cells.delete(key);
    else cells.set(key, [before, after]);
  }
  if (cells.size === 0) return changes;
  const step = { words, cells };
  return { written: turned(changes.written, step, 1), done: [...changes.done, step].slice(-mostSteps), undone: [] };
}

/** Puts these cells back to what they hold, as a step. */
export const putBack = (changes: Changes, keys: readonly string[], words: string): Changes =>
  write(
    changes,
    keys.map((key) => ({ key, text: '' })),
    { held: () => '', words },
  );

function turned(written: Written, { cells }: Step, to: 0 | 1): Written {
  const next = new Map(written);
  for (const [key, sides] of cells) {
    const text = sides[to];
    if (text === undefined) next.delete(key);
    else next.set(key, text);
  }
  return next;
}

export function undo({ written, done, undone }: Changes): Changes {
  const step = done.at(-1);
  if (!step) return { written, done, undone };
  return { written: turned(written, step, 0), done: done.slice(0, -1), undone: [...undone, step] };
}

export function redo({ written, done, undone }: Changes): Changes {
  const step = undone.at(-1);
  if (!step) return { written, done, undone };
  return { written: turned(written, step, 1), done: [...done, step], undone: undone.slice(0, -1) };
}
