/** Closed lists: their values are referred to by key, named in each language of the company, and may stand in a tree. */
import { foldText } from './folding.js';
import type { Attribute } from './model.js';

/** One value of a closed list. */
export interface ListValue {
  /** What refers to the value: never shown and never changed, so that names can be. */
  key: string;
  /** By language (BCP 47), the company's own first. */
  names: Readonly<Record<string, string>>;
  /** Other ways it is written. */
  spellings?: readonly string[] | undefined;
  /** Key of the value it stands under, in a tree. */
  parent?: string | undefined;
  /** Not offered any more; goods that have it keep it. */
  hidden?: boolean | undefined;
}

/** A closed list ready to be asked. */
export interface ClosedList {
  /** In their order, a tree from the root down. */
  values: readonly ListValue[];
  has(key: string): boolean;
  /** Key of the value that a text means: by a name in any language, with those above it or alone, a spelling, or its key. */
  read(text: string): string | undefined;
  /** Names from the root down to a value; a language it has no name in gets the company's own. A key it does not know stands for itself. */
  names(key: string, language?: string): string[];
  /** The same as one text: “Planters / Indoor pots”. */
  say(key: string, language?: string): string;
  /** Itself and all that stands under it. */
  under(key: string): ReadonlySet<string>;
  /** Place in the order; -1 where it is not on the list. */
  position(key: string): number;
}

const compiled = new WeakMap<object, ClosedList>();

/** The closed list of an attribute; undefined where it may be anything. A bare text is a value of that name and key. */
export function closedList(of: Required<Pick<Attribute, 'choices'>>): ClosedList;
export function closedList(of: Pick<Attribute, 'choices'>): ClosedList | undefined;
export function closedList({ choices }: Pick<Attribute, 'choices'>): ClosedList | undefined {
  if (!choices) return undefined;
  const known = compiled.get(choices);
  if (known) return known;
  const list = compileList(choices.map((choice) => (typeof choice === 'string' ? bare(choice) : choice)));
  compiled.set(choices, list);
  return list;
}

const bare = (text: string): ListValue => ({ key: text, names: { '': text } });

/** A path as it is compared: whatever parts it, and whatever stands around that. */
const foldPath = (path: string) => foldText(path.replace(/\s*[/>»›|]\s*/g, '/'));

function compileList(given: readonly ListValue[]): ClosedList {
  const byKey = new Map(given.map((value) => [value.key, value]));
  const below = new Map<string | undefined, ListValue[]>();
  for (const value of given) {
    const parent = value.parent !== undefined && byKey.has(value.parent) ? value.parent : undefined;
    below.set(parent, [...(below.get(parent) ?? []), value]);
  }
  const values: ListValue[] = [];
  const walk = (parent: string | undefined) => {
    for (const value of below.get(parent) ?? []) {
      values.push(value);
      walk(value.key);
    }
  };
  walk(undefined);
  const positions = new Map(values.map(({ key }, i) => [key, i]));
  const nameOf = ({ names, key }: ListValue, language: string | undefined) => {
    if (language !== undefined) {
      const named = names[language] ?? names[language.split('-')[0] ?? ''] ?? sibling(names, language);
      if (named !== undefined) return named;
    }
    return Object.values(names)[0] ?? key;
  };
  const names = (key: string, language?: string): string[] => {
    const path: string[] = [];
    for (let value = byKey.get(key); value && path.length < byKey.size; value = byKey.get(value.parent ?? ''))
      path.unshift(nameOf(value, language));
    return path.length === 0 ? [key] : path;
  };
  let meanings: Map<string, string> | undefined;
  return {
    values,
    has: (key) => byKey.has(key),
    read: (text) => {
      meanings ??= readings(values, names);
      return meanings.get(foldPath(text)) ?? meanings.get(foldText(text));
    },
    names,
    say: (key, language) => names(key, language).join(' / '),
    under: (key) => {
      const found = new Set([key]);
      const add = (parent: string) => {
        for (const value of below.get(parent) ?? []) {
          if (found.has(value.key)) continue;
          found.add(value.key);
          add(value.key);
        }
      };
      add(key);
      return found;
    },
    position: (key) => positions.get(key) ?? -1,
  };
}

/** A name in the same language of another region. */
function sibling(names: ListValue['names'], language: string): string | undefined {
  const [base] = language.split('-');
  return Object.entries(names).find(([named]) => named.split('-')[0] === base)?.[1];
}

/** Folded text → key. What is surer stands before what is not; a name that several values have means none of them. */
function readings(values: readonly ListValue[], names: ClosedList['names']): Map<string, string> {
  const meanings = new Map<string, string>();
  const put = (text: string, key: string) => {
    if (!meanings.has(text)) meanings.set(text, key);
  };
  for (const value of values)
    for (const language of [undefined, ...Object.keys(value.names)])
      put(foldPath(names(value.key, language).join('/')), value.key);
  const alone = new Map<string, Set<string>>();
  for (const { key, names: own, spellings = [] } of values)
    for (const text of [...Object.values(own), ...spellings].map(foldText))
      alone.set(text, (alone.get(text) ?? new Set()).add(key));
  for (const [text, keys] of alone) if (keys.size === 1) put(text, [...keys][0] ?? '');
  for (const { key } of values) put(foldPath(key), key);
  return meanings;
}
