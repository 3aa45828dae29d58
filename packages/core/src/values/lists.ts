/** Closed lists: their values are referred to by key, named in each language of the company, and may stand in a tree. */
import { foldText } from './folding.js';
import type { Attribute, Value } from './model.js';

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
  /** Keys of attributes that goods of it must have a value of, besides those of what it stands under. */
  requires?: readonly string[] | undefined;
  /** Key of the value it was made one with: whatever refers to it means that one, and what stood below it stands there. */
  mergedInto?: string | undefined;
}

/** A closed list ready to be asked. */
export interface ClosedList {
  /** In their order, a tree from the root down; those that were made one with another are told by their keys alone. */
  values: readonly ListValue[];
  has(key: string): boolean;
  /** The key that a key stands for since values were made one; itself for all others. */
  current(key: string): string;
  /** Of values that were made one with another: their keys, and whom they stand for now. */
  merged: ReadonlyMap<string, string>;
  /** Key of the value that a text means: by a name in any language, with those above it or alone, a spelling, or its key. */
  read(text: string): string | undefined;
  /** Names from the root down to a value; a language it has no name in gets the company's own. A key it does not know stands for itself. */
  names(key: string, language?: string): string[];
  /** The same as one text: “Planters / Indoor pots”. */
  say(key: string, language?: string): string;
  /** Keys of attributes that goods of a value must have, its own first, then those of what it stands under. */
  requires(key: string): string[];
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
  const successors = successorsOf(byKey);
  const current = (key: string) => successors.get(key) ?? key;
  const below = new Map<string | undefined, ListValue[]>();
  for (const value of given) {
    if (successors.has(value.key)) continue;
    const above = value.parent === undefined ? undefined : current(value.parent);
    const parent = above !== undefined && byKey.has(above) && above !== value.key ? above : undefined;
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
  /** A value with those above it, itself first. */
  const upFrom = (from: ListValue | undefined): ListValue[] => {
    const path: ListValue[] = [];
    for (let value = from; value && path.length < byKey.size; value = byKey.get(current(value.parent ?? '')))
      path.push(value);
    return path;
  };
  const pathFrom = (from: ListValue | undefined, language: string | undefined): string[] =>
    upFrom(from)
      .map((value) => nameOf(value, language))
      .reverse();
  const names = (key: string, language?: string): string[] => {
    const path = pathFrom(byKey.get(current(key)), language);
    return path.length === 0 ? [key] : path;
  };
  /** Each value with its paths in one language, also by way of what one above it was before it was made one with another. */
  function* spoken(): Generator<Spoken> {
    for (const value of [...values, ...given.filter(({ key }) => successors.has(key))])
      for (const language of [undefined, ...Object.keys(value.names)])
        yield { value, means: current(value.key), path: pathFrom(value, language) };
    for (const [key, into] of successors) {
      const beneath = under(into);
      for (const value of values.filter((one) => one.key !== into && beneath.has(one.key)))
        for (const language of [undefined, ...Object.keys(value.names)]) {
          const below = names(value.key, language).slice(names(into, language).length);
          yield { value, means: value.key, path: [...pathFrom(byKey.get(key), language), ...below] };
        }
    }
  }
  const under = (named: string) => {
    const key = current(named);
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
  };
  let meanings: Map<string, string> | undefined;
  return {
    values,
    has: (key) => byKey.has(key),
    current,
    merged: successors,
    read: (text) => {
      meanings ??= readings([...spoken()]);
      return meanings.get(foldPath(text)) ?? meanings.get(foldText(text));
    },
    names,
    say: (key, language) => names(key, language).join(' / '),
    requires: (key) => [...new Set(upFrom(byKey.get(current(key))).flatMap(({ requires = [] }) => requires))],
    under,
    position: (key) => positions.get(current(key)) ?? -1,
  };
}

/** Of each value that was made one with another, the one that is left in the end. */
function successorsOf(byKey: ReadonlyMap<string, ListValue>): Map<string, string> {
  const successors = new Map<string, string>();
  for (const { key, mergedInto } of byKey.values()) {
    let last = key;
    const passed = new Set([key]);
    for (
      let next = mergedInto;
      next !== undefined && byKey.has(next) && !passed.has(next);
      next = byKey.get(next)?.mergedInto
    ) {
      passed.add(next);
      last = next;
    }
    if (last !== key) successors.set(key, last);
  }
  return successors;
}

/** A name in the same language of another region. */
function sibling(names: ListValue['names'], language: string): string | undefined {
  const [base] = language.split('-');
  return Object.entries(names).find(([named]) => named.split('-')[0] === base)?.[1];
}

/** A value, the key it means, and its names from the root down as somebody may write them. */
interface Spoken {
  value: ListValue;
  means: string;
  path: string[];
}

/** Folded text → key. What is surer stands before what is not; a name that several values have means none of them. */
function readings(spoken: readonly Spoken[]): Map<string, string> {
  const meanings = new Map<string, string>();
  const put = (text: string, key: string) => {
    if (!meanings.has(text)) meanings.set(text, key);
  };
  for (const { path, means } of spoken) put(foldPath(path.join('/')), means);
  const alone = new Map<string, Set<string>>();
  for (const { value, means } of spoken)
    for (const text of [...Object.values(value.names), ...(value.spellings ?? [])].map(foldText))
      alone.set(text, (alone.get(text) ?? new Set()).add(means));
  for (const [text, keys] of alone) if (keys.size === 1) put(text, [...keys][0] ?? '');
  for (const { value, means } of spoken) put(foldPath(value.key), means);
  return meanings;
}

/** A value of an attribute with a list, its keys told otherwise; of several each once. */
export function mapListed(value: Value, tell: (key: string) => string): Value {
  if (typeof value === 'string') return tell(value);
  if (!Array.isArray(value) || !value.every((one) => typeof one === 'string')) return value;
  return [...new Set(value.map(tell))];
}

/** What a value stands for since values of its attribute's list were made one. */
export function currentValue(value: Value, attribute: Pick<Attribute, 'choices'>): Value {
  const list = closedList(attribute);
  return list && list.merged.size > 0 ? mapListed(value, (key) => list.current(key)) : value;
}
