/** XML documents, read item by item in constant memory: attributes, namespaces, CDATA; no external entities. */
import { SaxesParser } from 'saxes';
import { UnreadableFile } from './reading.js';
import type { FoundList } from './json.js';

const local = (name: string) => name.slice(name.indexOf(':') + 1);

/** A parser that says where a document is broken and takes no document type with entities (XXE, entity expansion). */
function makeParser(): SaxesParser {
  const parser = new SaxesParser({ position: true });
  parser.on('error', (error) => {
    throw new UnreadableFile(`It stops being XML at line ${parser.line}: ${error.message.replace(/^\d+:\d+: /, '')}`);
  });
  parser.on('doctype', (text) => {
    if (/\[|SYSTEM|PUBLIC|ENTITY/i.test(text))
      throw new UnreadableFile(
        'Its document type names entities or other documents. These are never loaded; ask for the file without a DOCTYPE',
      );
  });
  return parser;
}

interface Open {
  path: string;
  structured: boolean;
  repeats: Map<string, number>;
}

/** An element far below all others is nobody's goods. */
const deepest = 60;

/** What the beginning of a document holds: its lists, and local names that stand for several things in one item. */
export interface ScannedXml {
  lists: FoundList[];
  apart: string[];
}

/** Repeated elements with structure in the beginning of a document, by their path of local names; it may end anywhere. */
export function scanXml(sample: string): ScannedXml {
  const lists = new Map<string, FoundList & { structured: boolean; repeated: boolean }>();
  const names = new Map<string, Set<string>>();
  const stack: Open[] = [];
  const parser = makeParser();
  parser.on('opentag', ({ name, attributes }) => {
    const parent = stack.at(-1);
    const tag = local(name);
    const path = parent ? `${parent.path}.${tag}` : tag;
    names.set(path, (names.get(path) ?? new Set()).add(name));
    if (parent) {
      parent.structured = true;
      parent.repeats.set(tag, (parent.repeats.get(tag) ?? 0) + 1);
      const above = lists.get(parent.path);
      if (above) above.structured = true;
    }
    const known = lists.get(path) ?? { path, objects: 0, depth: stack.length, structured: false, repeated: false };
    known.objects++;
    known.structured ||= Object.keys(attributes).some((key) => !key.startsWith('xmlns'));
    known.repeated ||= (parent?.repeats.get(tag) ?? 0) > 1;
    lists.set(path, known);
    stack.push({ path, structured: false, repeats: new Map() });
    if (stack.length > deepest)
      throw new UnreadableFile(`It is nested more than ${deepest} deep at line ${parser.line}`);
  });
  parser.on('closetag', () => void stack.pop());
  try {
    parser.write(sample);
  } catch (error) {
    if (lists.size === 0 || /DOCTYPE|nested/.test((error as Error).message)) throw error;
  }
  const apart = [...names].flatMap(([path, written]) =>
    written.size > 1 ? [path.slice(path.lastIndexOf('.') + 1)] : [],
  );
  return { lists: [...lists.values()].filter((list) => list.structured && list.repeated), apart: [...new Set(apart)] };
}

/** The shallowest repeated element, and the most frequent one inside it. */
export function chooseElements(lists: readonly FoundList[]): {
  items: FoundList | undefined;
  variants: FoundList | undefined;
} {
  const items = [...lists].sort((a, b) => a.depth - b.depth || b.objects - a.objects)[0];
  if (!items) return { items: undefined, variants: undefined };
  return { items, variants: variantElements(lists, items.path).sort((a, b) => b.objects - a.objects)[0] };
}

/** Repeated elements below the items, their paths from the item on. */
export function variantElements(lists: readonly FoundList[], itemPath: string): FoundList[] {
  return lists
    .filter((list) => list.path.startsWith(`${itemPath}.`))
    .map((list) => ({ ...list, path: list.path.slice(itemPath.length + 1) }));
}

interface Building {
  /** With its prefix. */
  name: string;
  value: Record<string, unknown>;
  text: string;
  /** Local names of its children, and how the first of each was written. */
  written: Map<string, string>;
}

/**
 * The elements at a path of local names, each as an object: attributes under "@name", child elements under their local
 * name (a list where they repeat), text under "". An element with text alone is that text. Names that are to be kept `apart`
 * keep their prefix; so does one that turns out to stand for two things.
 */
export async function* xmlItems(
  chunks: AsyncIterable<string>,
  itemPath: string,
  apart: readonly string[] = [],
): AsyncGenerator<unknown> {
  const parser = makeParser();
  const path: string[] = [];
  const building: Building[] = [];
  const kept = new Set(apart);
  let ready: unknown[] = [];
  parser.on('opentag', ({ name, attributes }) => {
    path.push(local(name));
    if (path.length > deepest)
      throw new UnreadableFile(`It is nested more than ${deepest} deep at line ${parser.line}`);
    if (building.length === 0 && path.join('.') !== itemPath) return;
    const value: Record<string, unknown> = {};
    for (const [key, text] of Object.entries(attributes)) if (!key.startsWith('xmlns')) value[`@${local(key)}`] = text;
    building.push({ name, value, text: '', written: new Map() });
  });
  const onText = (text: string) => {
    const top = building.at(-1);
    if (top) top.text += text;
  };
  parser.on('text', onText);
  parser.on('cdata', onText);
  parser.on('closetag', () => {
    path.pop();
    const done = building.pop();
    if (!done) return;
    const text = done.text.trim();
    const bare = Object.keys(done.value).length === 0;
    if (!bare && text !== '') done.value[''] = text;
    const value = bare ? text : done.value;
    const parent = building.at(-1);
    if (!parent) ready.push(value);
    else addChild(parent, done.name, value, kept);
  });
  for await (const chunk of chunks) {
    parser.write(chunk);
    yield* ready;
    ready = [];
  }
  parser.close();
  yield* ready;
}

/** Under its local name, unless another name with the same local part stands there. */
function addChild({ value: into, written }: Building, name: string, value: unknown, apart: ReadonlySet<string>): void {
  const tag = local(name);
  const first = written.get(tag) ?? name;
  written.set(tag, first);
  const key = first !== name || apart.has(tag) ? name : tag;
  const known = into[key];
  if (known === undefined) into[key] = value;
  else if (Array.isArray(known)) known.push(value);
  else into[key] = [known, value];
}
