/** Finding in cells, and replacing: plain texts, or patterns in RE2's syntax, which no cell can make run for ever. */
import { RE2JS } from 're2js';

export interface Sought {
  text: string;
  isPattern: boolean;
  matchCase: boolean;
  /** The whole cell, not a part of it. */
  whole: boolean;
}

export type Finder =
  | { ok: true; finds: (cell: string) => boolean; replace: (cell: string, by: string) => string }
  | { ok: false; reason: string };

/** In what replaces a pattern `$1` is the first part in brackets, `$&` all that was found. */
export function compileFinder({ text, isPattern, matchCase, whole }: Sought): Finder {
  if (text === '') return { ok: true, finds: () => false, replace: (cell) => cell };
  const source = isPattern ? text : RE2JS.quote(text);
  try {
    const pattern = RE2JS.compile(whole ? `^(?:${source})$` : source, matchCase ? 0 : RE2JS.CASE_INSENSITIVE);
    return {
      ok: true,
      finds: (cell) => pattern.matcher(cell).find(),
      replace: (cell, by) => pattern.matcher(cell).replaceAll(isPattern ? by : by.replaceAll('$', '$$$$')),
    };
  } catch (error) {
    return { ok: false, reason: `It is no pattern: ${error instanceof Error ? error.message : String(error)}` };
  }
}
