/** Both trees as they are compared: words by number, how rare each is, and where it stands. */
import type { CategoryQuestion, OwnCategory, TargetCategory } from './model.js';
import { languageOf } from '../lexicon/languages.js';
import { learn, relate } from './related.js';
import { Reading, type Text, type Word } from './words.js';

/** What parts a name into names that each would do. */
const alternativeMark = /\s*[&/,;+]\s*|\s+(?:and|or|und|oder|och|eller|og|en|of|et|ou|y|o|e|ja|tai)\s+/iu;
/** Of the words that others use for a category, beside its name. */
const ofParts = 0.8;

export interface Target {
  of: TargetCategory;
  /** The same for all that stand below one. */
  parent: string;
  /** Its last name alone, each of several in it, those above it, and all of it. */
  leaf: Text;
  alternatives: readonly Text[];
  above: Text;
  /** What stands in the last name, its other words and its parts: confidence by word. */
  leafBag: ReadonlyMap<number, number>;
  wholeBag: ReadonlyMap<number, number>;
}

export interface Own {
  of: OwnCategory;
  parent: string;
  leaf: Text;
  alternatives: readonly Text[];
  above: Text;
  /** By word of its titles: the share of titles that have it, and how much that says of this category alone. */
  titles: ReadonlyMap<number, { word: Word; share: number; typical: number }>;
}

export interface Compiled {
  targets: readonly Target[];
  own: readonly Own[];
  /** 0 to 1 by word: how rare it is among last names, and among whole paths. */
  idfLeaf: Float64Array;
  idfPath: Float64Array;
  /** By our word: theirs, with how near they are. */
  related: ReadonlyMap<number, ReadonlyMap<number, number>>;
  wordOf: (id: number) => string;
}

/** Names as one: equal where all of them are. */
export const joined = (names: readonly string[]): string => names.join('\u0000');
const parentOf = (names: readonly string[]) => joined(names.slice(0, -1));
const leafOf = (names: readonly string[]) => names.at(-1) ?? '';
const aboveOf = (names: readonly string[]) => names.slice(0, -1).join(' ');

export function compile({ target, own, chosen, language, leafOnly, lexicon }: CategoryQuestion): Compiled {
  const candidates = target.filter(({ isLeaf }) => isLeaf || !leafOnly);
  const reading = new Reading(
    languageOf(language),
    lexicon,
    candidates.flatMap(({ names, words = '' }) => [...names, words]),
    own.flatMap(({ names, titles }) => [...names, ...titles]),
  );
  const alternatives = (name: string) =>
    name
      .split(alternativeMark)
      .map((part) => reading.read(part))
      .filter(({ words }) => words.length > 0);
  const targets = candidates.map((of): Target => {
    const leaf = reading.read(leafOf(of.names));
    const above = reading.read(aboveOf(of.names));
    const leafBag = bagOf([leaf, reading.read(of.words ?? '')]);
    return {
      ...{ of, parent: parentOf(of.names), leaf, above, leafBag },
      alternatives: alternatives(leafOf(of.names)),
      wholeBag: bagOf([leaf, above, reading.read(of.words ?? '')]),
    };
  });
  const read = own.map((of) => ({
    of,
    parent: parentOf(of.names),
    leaf: reading.read(leafOf(of.names)),
    alternatives: alternatives(leafOf(of.names)),
    above: reading.read(aboveOf(of.names)),
    titled: of.titles.map((title) => reading.read(title)),
  }));
  const inTitles = new Map<number, number>();
  for (const { titled } of read)
    for (const id of new Set(titled.flatMap(({ words }) => words.map(({ id }) => id))))
      inTitles.set(id, (inTitles.get(id) ?? 0) + 1);
  const compiledOwn = read.map(({ titled, ...rest }): Own => {
    const titles = new Map<number, { word: Word; share: number; typical: number }>();
    for (const { words } of titled)
      for (const word of new Map(words.map((one) => [one.id, one])).values()) {
        const known = titles.get(word.id);
        if (known) known.share += 1 / titled.length;
        else titles.set(word.id, { word, share: 1 / titled.length, typical: 0 });
      }
    for (const [id, one] of titles)
      one.typical = (one.share * Math.log(1 + own.length / (inTitles.get(id) ?? 1))) / Math.log(1 + own.length);
    return { ...rest, titles };
  });
  const theirs = new Set(targets.flatMap(({ wholeBag }) => [...wholeBag.keys()]));
  const ours = new Set(
    compiledOwn.flatMap(({ leaf, above, titles }) => [...idsOf(leaf), ...idsOf(above), ...titles.keys()]),
  );
  const related = relate(lexicon, reading, ours, theirs);
  const [ownAt, targetAt] = [
    new Map(own.map(({ path }, i) => [path, i])),
    new Map(targets.map(({ of }, i) => [of.path, i])),
  ];
  learn(
    related,
    chosen.flatMap(({ own: from, target: to }) => {
      const [mine, chosenOne] = [compiledOwn[ownAt.get(from) ?? -1], targets[targetAt.get(to) ?? -1]];
      return mine && chosenOne ? [{ own: idsOf(mine.leaf), target: idsOf(chosenOne.leaf) }] : [];
    }),
  );
  return {
    targets,
    own: compiledOwn,
    idfLeaf: rarity(
      targets.map(({ leafBag }) => leafBag),
      reading.count,
    ),
    idfPath: rarity(
      targets.map(({ wholeBag }) => wholeBag),
      reading.count,
    ),
    related,
    wordOf: reading.wordOf,
  };
}

/** What a text says, longer things first. */
export const idsOf = ({ words, phrases }: Text): number[] => [
  ...phrases.map(({ id }) => id),
  ...words.flatMap(({ id, parts = [] }) => [id, ...parts]),
];

function bagOf(texts: readonly Text[]): Map<number, number> {
  const bag = new Map<number, number>();
  const put = (id: number, confidence: number) => bag.set(id, Math.max(bag.get(id) ?? 0, confidence));
  for (const { words, phrases } of texts) {
    for (const { id, confidence, parts = [] } of words) {
      put(id, confidence);
      for (const part of parts) put(part, ofParts * confidence);
    }
    for (const { id } of phrases) put(id, 1);
  }
  return bag;
}

/** 1 for a word that none has, falling with how many have it. */
function rarity(bags: readonly ReadonlyMap<number, number>[], count: number): Float64Array {
  const seen = new Float64Array(count);
  for (const bag of bags) for (const id of bag.keys()) seen[id] = (seen[id] ?? 0) + 1;
  const n = bags.length;
  return seen.map((df) => Math.log(1 + n / (df + 0.5)) / Math.log(1 + 2 * n));
}
