/** JSON documents and JSON Lines, read item by item in constant memory. */
import { JSONParser, TokenType, Tokenizer } from '@streamparser/json';
import { keptText, sayCount } from '../values/index.js';
import { UnreadableFile } from './reading.js';

/** A list of objects in a document: keys to it joined by dots (lists in between leave no trace), and how deep it lies. */
export interface FoundList {
  path: string;
  objects: number;
  /** Lists around it. */
  depth: number;
}

/** The lists of objects in the beginning of a document, which may end anywhere; those whose names nothing can keep are none. */
export function scanJson(sample: string): FoundList[] {
  const lists = new Map<string, FoundList>();
  const stack: { list: boolean; key: string | undefined; expectsKey: boolean }[] = [];
  const pathOf = () =>
    stack.flatMap((frame, i) => (i < stack.length - 1 && frame.key !== undefined ? [frame.key] : []));
  const tokenizer = new Tokenizer();
  tokenizer.onError = () => undefined;
  tokenizer.onToken = ({ token, value }) => {
    const top = stack.at(-1);
    // Of the other tokens nothing follows for the shape.
    // eslint-disable-next-line @typescript-eslint/switch-exhaustiveness-check
    switch (token) {
      case TokenType.LEFT_BRACE: {
        if (top?.list) {
          const path = pathOf().join('.');
          const known = lists.get(path) ?? { path, objects: 0, depth: stack.filter((frame) => frame.list).length };
          known.objects++;
          lists.set(path, known);
        }
        stack.push({ list: false, key: undefined, expectsKey: true });
        break;
      }
      case TokenType.LEFT_BRACKET:
        stack.push({ list: true, key: undefined, expectsKey: false });
        break;
      case TokenType.RIGHT_BRACE:
      case TokenType.RIGHT_BRACKET:
        stack.pop();
        break;
      case TokenType.COMMA:
        if (top && !top.list) top.expectsKey = true;
        break;
      case TokenType.STRING:
        if (top?.expectsKey) {
          top.key = String(value);
          top.expectsKey = false;
        }
        break;
    }
  };
  try {
    tokenizer.write(sample);
  } catch {
    // What is wrong further on is said when it is read.
  }
  return [...lists.values()].filter(({ path }) => keptText(path) === path);
}

/** The list that holds the items, and the list in each of them that holds its variants. */
export function chooseLists(lists: readonly FoundList[]): {
  items: FoundList | undefined;
  variants: FoundList | undefined;
} {
  const items = [...lists].sort((a, b) => a.depth - b.depth || b.objects - a.objects)[0];
  if (!items) return { items: undefined, variants: undefined };
  const variants = variantLists(lists, items.path).sort((a, b) => b.objects - a.objects)[0];
  return { items, variants };
}

/** Lists right below the items, their paths from the item on. */
export function variantLists(lists: readonly FoundList[], itemPath: string): FoundList[] {
  const items = lists.find((list) => list.path === itemPath);
  const head = itemPath === '' ? '' : `${itemPath}.`;
  return lists
    .filter((list) => items && list.path !== itemPath && list.path.startsWith(head) && list.depth === items.depth + 1)
    .map((list) => ({ ...list, path: list.path.slice(head.length) }));
}

/** The items of a document, one at a time. Throws UnreadableFile with the position where it stops being JSON. */
export async function* jsonItems(chunks: AsyncIterable<string>, itemPath: string): AsyncGenerator<unknown> {
  const keys = itemPath === '' ? [] : itemPath.split('.');
  const parser = new JSONParser({ paths: [['$', ...keys, '*'].join('.')], keepStack: false });
  let ready: unknown[] = [];
  let fault: Error | undefined;
  let read = 0;
  parser.onValue = ({ value }) => void ready.push(value);
  parser.onError = (error) => (fault ??= error);
  for await (const chunk of chunks) {
    if (!parser.isEnded) parser.write(read === 0 ? chunk.replace(/^\uFEFF/, '') : chunk);
    read += chunk.length;
    yield* ready;
    ready = [];
    if (fault) throw new UnreadableFile(`It stops being JSON near character ${sayCount(read)}: ${fault.message}`);
  }
  if (!parser.isEnded) throw new UnreadableFile('It ends in the middle: a bracket is not closed');
}

export type JsonLine = { line: number; item: unknown } | { line: number; broken: string; text: string };

/** One object a line; a line that is none is handed on with what is wrong with it. */
export async function* jsonLines(chunks: AsyncIterable<string>): AsyncGenerator<JsonLine> {
  let rest = '';
  let line = 0;
  const read = (text: string): JsonLine | undefined => {
    line++;
    if (text.trim() === '') return undefined;
    try {
      return { line, item: JSON.parse(text) };
    } catch (error) {
      return { line, broken: `Line ${line} is not JSON: ${(error as Error).message}`, text };
    }
  };
  for await (const chunk of chunks) {
    const lines = (rest + chunk).split('\n');
    rest = lines.pop() ?? '';
    for (const text of lines) {
      const row = read(line === 0 ? text.replace(/^\uFEFF/, '') : text);
      if (row) yield row;
    }
  }
  const last = read(rest);
  if (last) yield last;
}
