/** Families proposed from titles: goods of one maker and category whose titles differ only in what tells variants apart. */
import { foldCode, foldText, groupBy } from '../values/index.js';

export interface Titled {
  id: number;
  title: string;
  brand?: string | undefined;
  category?: string | undefined;
  /** Its SKU and other numbers: words that are one of them say nothing of a family. */
  codes: readonly string[];
  /** What its title says of attributes that variants have of their own, with where it stands there. */
  found: readonly (Pick<Held, 'axis' | 'value' | 'key'> & { start: number; end: number })[];
  /** What it has of such attributes and options anyway, the surest first: its title may say it in these words, or not at all. */
  held?: readonly Held[];
}

interface Held {
  axis: string;
  value: string;
  /** What two values that are written otherwise have in common: 540 g and 0.54 kg. Absent, they are compared as written. */
  key?: string | undefined;
  /** Of a list, as those who buy choose (absent); free words; a figure, which differs where anything does; what it weighs. */
  rank?: 'listed' | 'written' | 'measured' | 'weighed' | undefined;
  /** Its source or a person says that it tells variants apart. */
  isOption?: boolean | undefined;
}

export interface GatheredFamily {
  /** An empty name: the titles differ in words that are no attribute's, and somebody has to say what they are. */
  axes: string[];
  /** Values by axis; null where a title says nothing. */
  members: { id: number; values: (string | null)[] }[];
}

interface Word {
  key: string;
  start: number;
  end: number;
}
interface Read {
  good: Titled;
  /** Words that say neither a number of it nor a value. */
  words: Word[];
  home: string;
  /** By folded axis. */
  values: Map<string, Held>;
  /** Axes, folded, whose value the title says. */
  said: ReadonlySet<string>;
}

/** Words of a title that may together be one value that no attribute has: “Rose Garden”. */
const mostOwnWords = 3;
/** Of the letters of a title, those that the titles of a family share; below, they are other goods. */
const leastShared = 0.5;
/** Titles that share a single word are alike by chance, and so are two where no attribute says in what they differ. */
const leastWords = 2;
const leastUnnamed = 3;

/** The largest first; each of the goods is in one of them at most. A combination of values is given once. */
export function gatherFamilies(goods: readonly Titled[]): GatheredFamily[] {
  const read = goods.map(readTitle).filter(({ words }) => words.length > 0);
  // Whoever lists them may put the same words in another order.
  const alike = groupsBy(read, ({ home, words }) => [home, ...new Set(words.map(({ key }) => key).sort())].join(' '))
    .filter(([, group]) => group.every(({ words }) => isTelling(words)))
    .map(([, group]) => familyOf(group, undefined))
    .filter(isFamily);
  const taken = new Set(alike.flatMap(({ members }) => members.map(({ id }) => id)));
  return [...alike, ...byOwnWords(read.filter(({ good }) => !taken.has(good.id)))].sort(
    (a, b) => b.members.length - a.members.length,
  );
}

/** These goods as one family, whatever they are called: by what tells them apart, else by the words they do not all share. */
export function gatherAsOne(goods: readonly Titled[]): GatheredFamily {
  const read = goods.map(readTitle);
  const plain = familyOf(read, undefined);
  if (plain.members.length === goods.length && plain.axes.length > 0) return plain;
  const shared = read
    .map(({ words }) => new Set(words.map(({ key }) => key)))
    .reduce((a, b) => new Set([...a].filter((key) => b.has(key))));
  const own = new Map(read.map((one) => [one, one.words.filter(({ key }) => !shared.has(key))]));
  const family = familyOf(read, (one) => own.get(one) ?? []);
  const there = new Set(family.members.map(({ id }) => id));
  const twice = goods.filter(({ id }) => !there.has(id)).map(({ id }) => ({ id, values: family.axes.map(() => null) }));
  return { axes: family.axes, members: [...family.members, ...twice] };
}

const isFamily = ({ axes, members }: GatheredFamily): boolean => axes.length > 0 && members.length > 1;

const isTelling = (words: readonly Word[]): boolean =>
  words.filter(({ key }) => /\p{L}{2}/u.test(key)).length >= leastWords;

function readTitle(good: Titled): Read {
  const codes = new Set(good.codes.map(foldCode));
  const { held = [] } = good;
  const all = wordsOf(good.title);
  const parts = held.map(({ axis, value }) => ({ axis, words: sequences(all, wordsOf(value)) }));
  const covered = new Set(parts.flatMap(({ words }) => words));
  const words = all.filter(
    (word) =>
      !codes.has(foldCode(word.key)) &&
      !covered.has(word) &&
      !good.found.some((value) => value.start < word.end && word.start < value.end),
  );
  const values: Read['values'] = new Map();
  const known: readonly Held[] = [...held, ...good.found];
  for (const one of known) if (!values.has(foldText(one.axis))) values.set(foldText(one.axis), one);
  const said = new Set(
    [...good.found, ...parts.filter(({ words: there }) => there.length > 0)].map(({ axis }) => foldText(axis)),
  );
  return { good, words, values, said, home: [good.brand, good.category].map((text) => foldText(text ?? '')).join('|') };
}

const wordsOf = (text: string): Word[] =>
  [...text.matchAll(/[\p{L}\p{N}]+(?:[.,'’/-][\p{L}\p{N}]+)*/gu)].map(({ 0: word, index }) => ({
    key: foldText(word),
    start: index,
    end: index + word.length,
  }));

/** Words of a title that are these, one after the other. */
function sequences(title: readonly Word[], sought: readonly Word[]): Word[] {
  if (sought.length === 0) return [];
  return title.flatMap((_, i) => {
    const part = title.slice(i, i + sought.length);
    return part.length === sought.length && part.every(({ key }, j) => key === sought[j]?.key) ? part : [];
  });
}

/** A family of these, told apart by what their titles say of attributes and, where given, by words of each's own. */
function familyOf(group: readonly Read[], ownWords: ((one: Read) => readonly Word[]) | undefined): GatheredFamily {
  const names = new Map(group.flatMap(({ values }) => [...values].map(([key, { axis }]) => [key, axis] as const)));
  const valueOf = ({ values }: Read, key: string) => values.get(key)?.value ?? null;
  const telling = [...names.keys()].filter((key) => new Set(group.map((one) => sameOf(one, key))).size > 1);
  const axes = leastAxes(group, telling).map((key) => names.get(key) ?? key);
  const keys = axes.map(foldText);
  const seen = new Set<string>();
  const members = group.flatMap((one) => {
    const values = keys.map((key) => valueOf(one, key));
    if (ownWords) values.push(textOf(one.good.title, ownWords(one)));
    const key = JSON.stringify([...keys.map((each) => sameOf(one, each)), foldText(values[keys.length] ?? '')]);
    if (seen.has(key)) return [];
    seen.add(key);
    return [{ id: one.good.id, values }];
  });
  return { axes: ownWords ? [...axes, ''] : axes, members };
}

/** By what two goods have the same of it; empty where it has none. */
const sameOf = ({ values }: Read, key: string): string => {
  const held = values.get(key);
  return held ? (held.key ?? foldText(held.value)) : '';
};

/**
 * All of the goods' own options; then what titles say and what is on lists, as far as it does not follow what is there one by
 * one (a width that goes with the size tells nothing more); then, of words and at last of figures, as few as tell all of them
 * apart, those first that tell the most.
 */
function leastAxes(group: readonly Read[], keys: readonly string[]): string[] {
  const isOption = (key: string) => group.some(({ values }) => values.get(key)?.isOption);
  const rankOf = (key: string) => group.map(({ values }) => values.get(key)).find(Boolean)?.rank ?? 'listed';
  const lacking = (key: string) => group.filter(({ values }) => !values.has(key)).length;
  const isSaid = (key: string) => 2 * group.filter(({ said }) => said.has(key)).length >= group.length;
  const kinds = (...chosen: string[]) =>
    new Set(group.map((one) => JSON.stringify(chosen.map((key) => sameOf(one, key))))).size;
  const follows = (key: string, other: string) =>
    kinds(key) > 2 && kinds(key) === kinds(other) && kinds(key, other) === kinds(key);
  const kept = new Set(keys.filter(isOption));
  const byLack = (list: string[]) => list.sort((a, b) => lacking(a) - lacking(b));
  for (const key of [...byLack(keys.filter(isSaid)), ...byLack(keys.filter((each) => rankOf(each) === 'listed'))])
    if (![...kept].some((other) => follows(key, other))) kept.add(key);
  for (const rank of ['written', 'measured', 'weighed']) {
    const open = new Set(keys.filter((key) => !kept.has(key) && rankOf(key) === rank));
    for (;;) {
      const now = kinds(...kept);
      if (now === group.length) break;
      const gains = [...open].map((key) => ({ key, kinds: kinds(...kept, key), own: kinds(key), lacks: lacking(key) }));
      // Of those that tell as much, the one with the fewest values, which most of them have.
      const [best] = gains.sort((a, b) => b.kinds - a.kinds || a.lacks - b.lacks || a.own - b.own);
      if (!best || best.kinds === now) break;
      kept.add(best.key);
      open.delete(best.key);
    }
  }
  return keys.filter((key) => kept.has(key));
}

/** From the first of the words to the last, as the title writes them. */
function textOf(title: string, words: readonly Word[]): string | null {
  const [first, last] = [words[0], words.at(-1)];
  return first && last ? title.slice(first.start, last.end) : null;
}

/** Families of goods whose titles are alike but for some words next to each other that no attribute knows. */
function byOwnWords(read: readonly Read[]): GatheredFamily[] {
  interface Slot {
    one: Read;
    from: number;
    to: number;
  }
  const slots = read.flatMap((one) => {
    const letters = one.words.reduce((sum, { key }) => sum + key.length, 0);
    const found: Slot[] = [];
    for (let from = 0; from < one.words.length; from++)
      for (let to = from + 1; to <= Math.min(one.words.length, from + mostOwnWords); to++) {
        const rest = [...one.words.slice(0, from), ...one.words.slice(to)];
        const shared = rest.reduce((sum, { key }) => sum + key.length, 0);
        if (isTelling(rest) && shared >= leastShared * letters) found.push({ one, from, to });
      }
    return found;
  });
  const keyOf = ({ one: { home, words }, from, to }: Slot) =>
    [home, ...words.slice(0, from).map(({ key }) => key), '\u0000', ...words.slice(to).map(({ key }) => key)].join(' ');
  const size = ({ from, to }: Slot) => to - from;
  const groups = groupsBy(slots, keyOf)
    .filter(([, group]) => group.length >= leastUnnamed)
    .sort(([, a], [, b]) => b.length - a.length || sum(a.map(size)) - sum(b.map(size)));
  const taken = new Set<Read>();
  const families: GatheredFamily[] = [];
  for (const [, group] of groups) {
    const open = group.filter(({ one }) => !taken.has(one));
    if (open.length < leastUnnamed) continue;
    const slotOf = new Map(open.map((slot) => [slot.one, slot]));
    const family = familyOf([...slotOf.keys()], (one) => {
      const slot = slotOf.get(one);
      return slot ? one.words.slice(slot.from, slot.to) : [];
    });
    if (family.members.length < leastUnnamed) continue;
    const members = new Set(family.members.map(({ id }) => id));
    for (const one of slotOf.keys()) if (members.has(one.good.id)) taken.add(one);
    families.push(family);
  }
  return families;
}

const sum = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0);

const groupsBy = <T>(list: readonly T[], keyOf: (one: T) => string): [string, T[]][] =>
  [...groupBy(list, keyOf)].filter(([, group]) => group.length > 1);
