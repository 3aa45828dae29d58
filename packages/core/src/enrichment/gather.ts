/** Families proposed from titles: goods of one maker and category whose titles differ only in what tells variants apart. */
import { foldText, groupBy } from '../values/index.js';

export interface Titled {
  id: number;
  title: string;
  brand?: string | undefined;
  category?: string | undefined;
  /** Its SKU and other numbers: words that are one of them say nothing of a family. */
  codes: readonly string[];
  /** What its title says of attributes that variants have of their own, with where it stands there. */
  found: readonly { axis: string; value: string; start: number; end: number }[];
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
  const alike = groupsBy(read, ({ home, words }) => `${home}|${words.map(({ key }) => key).join(' ')}`)
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
  const codes = new Set(good.codes.map(bare));
  const words = [...good.title.matchAll(/[\p{L}\p{N}]+(?:[.,'’/-][\p{L}\p{N}]+)*/gu)]
    .map(({ 0: text, index }) => ({ key: foldText(text), start: index, end: index + text.length }))
    .filter(
      ({ key, start, end }) =>
        !codes.has(bare(key)) && !good.found.some((value) => value.start < end && start < value.end),
    );
  return { good, words, home: [good.brand, good.category].map((text) => foldText(text ?? '')).join('|') };
}

const bare = (text: string): string => foldText(text).replace(/[^\p{L}\p{N}]+/gu, '');

/** A family of these, told apart by what their titles say of attributes and, where given, by words of each's own. */
function familyOf(group: readonly Read[], ownWords: ((one: Read) => readonly Word[]) | undefined): GatheredFamily {
  const names = [...new Set(group.flatMap(({ good }) => good.found.map(({ axis }) => axis)))];
  const valueOf = ({ good }: Read, axis: string) => good.found.find((each) => each.axis === axis)?.value ?? null;
  const axes = names.filter((axis) => new Set(group.map((one) => foldText(valueOf(one, axis) ?? ''))).size > 1);
  const seen = new Set<string>();
  const members = group.flatMap((one) => {
    const values = axes.map((axis) => valueOf(one, axis));
    if (ownWords) values.push(textOf(one.good.title, ownWords(one)));
    const key = JSON.stringify(values.map((value) => foldText(value ?? '')));
    if (seen.has(key)) return [];
    seen.add(key);
    return [{ id: one.good.id, values }];
  });
  return { axes: ownWords ? [...axes, ''] : axes, members };
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
