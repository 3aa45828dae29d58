/** Pairs of products that may be the same goods: found by shared words, sizes and identifiers, ranked by their evidence. */
import { plainLetters } from '../lexicon/index.js';
import { groupBy } from '../values/index.js';
import { brandWords, isSameBrand } from './brands.js';
import type { Evidence } from './evidence.js';
import type { KnownWords, LearntWords } from './learnt.js';
import { type Reading, compileReader } from './reading.js';
import type { Traits } from './traits.js';
import { type Prepared, type Weighing, figureId, holdBelowSure, scoreOf, sure, weigh } from './weigh.js';

/** A product as matching sees it. */
export interface MatchItem {
  id: number;
  /** Suppliers that speak for it; two products of one supplier are never proposed. */
  sources: readonly number[];
  /** In any language. */
  titles: readonly string[];
  brand: string | undefined;
  mpn: string | undefined;
  /** Identifiers it carries that joined nothing, as text for people: "GTIN 2104000004131". */
  identifiers: readonly string[];
  /** Numbers in base units by attribute: comparable whatever the unit. */
  sizes: Readonly<Record<string, number>>;
  /** Of these sizes, those that people measure differently: a difference says little. */
  slack?: readonly string[];
  /** Words by attribute: glaze, finish, plug. */
  words: Readonly<Record<string, string>>;
  /** What it says of itself that the same goods cannot say differently. */
  traits?: Traits;
  /** Amounts by kind and currency: "recommended EUR". */
  prices: Readonly<Record<string, number>>;
}

export interface Candidate {
  /** Ids, the smaller first. */
  a: number;
  b: number;
  /** 0–100. */
  score: number;
  evidence: Evidence[];
}

export interface MatchOptions {
  knownWords?: KnownWords;
  /** What words of titles mean, as `learnWords` has it. */
  learntWords?: LearntWords;
  /** Pairs a person has decided on, as `pairKey` writes them. */
  decided?: ReadonlySet<string>;
  /** Least score that is proposed. */
  least?: number;
  /** Most proposals for one product. */
  most?: number;
}

export const pairKey = (a: number, b: number) => (a < b ? `${a}:${b}` : `${b}:${a}`);

/** A word that stands on more items than this tells too little to be looked up by itself. */
const rareWord = 40;
/** A block of more items than this is left to better keys. */
const largestBlock = 120;

/** Looks through all items; the answer is ordered by score, best first, and does not depend on their order. */
export function findCandidates(items: readonly MatchItem[], options: MatchOptions = {}): Candidate[] {
  const { least = 45, most = 3, decided } = options;
  const prepared = prepareAll(items);
  const frequency = countIds(prepared);
  const weight = (id: string) => Math.log(1 + prepared.length / (frequency.get(id) ?? 1));
  const weighing: Weighing = { weight, known: options.knownWords, learnt: options.learntWords };
  const found: Pair[] = [];
  const seen = new Set<number>();
  for (const block of blocksOf(prepared, frequency).values()) {
    if (block.length < 2 || block.length > largestBlock) continue;
    for (let x = 0; x < block.length; x++)
      for (let y = x + 1; y < block.length; y++) {
        const [i, j] = [block[x] as number, block[y] as number];
        const [p, q] = [prepared[i] as Prepared, prepared[j] as Prepared];
        if (p.item.sources.some((source) => q.item.sources.includes(source))) continue;
        const mark = i * prepared.length + j;
        if (seen.has(mark)) continue;
        seen.add(mark);
        if (decided?.has(pairKey(p.item.id, q.item.id))) continue;
        const evidence = weigh(p, q, weighing);
        const score = scoreOf(evidence);
        if (score >= Math.min(least, rival)) found.push({ i, j, a: p.item.id, b: q.item.id, score, evidence });
      }
  }
  return settleRivals(found, prepared, least, most);
}

interface Pair extends Candidate {
  i: number;
  j: number;
}

/** From here on, another that fits as well is worth a thought. */
const rival = 22;
/** Points by which the best must be ahead of the next of the same source. */
const clearly = 7;
/** Points by which all others must be behind for a pair to be alone, and what that is worth. */
const lonely = 12;
const aloneWorth = 20;
/** Points behind the best of the same source at which a pair is not worth a look. */
const farBehind = 16;

/**
 * Of the goods of one source at most one is the same: what is far behind the best falls away, and where two fit nearly as well
 * neither is sure.
 */
function settleRivals(found: readonly Pair[], prepared: readonly Prepared[], least: number, most: number): Candidate[] {
  const sourcesOf = (i: number) => prepared[i]?.item.sources ?? [];
  const keysOf = ({ i, j }: Pair) => [
    ...sourcesOf(j).map((source) => `${i}:${source}`),
    ...sourcesOf(i).map((source) => `${j}:${source}`),
  ];
  const keyed = found.flatMap((pair) => keysOf(pair).map((key) => ({ key, pair })));
  const per = new Map(
    [...groupBy(keyed, ({ key }) => key)].map(([key, list]) => [key, list.map(({ pair }) => pair).sort(byScore)]),
  );
  return found
    .flatMap((pair): Candidate[] => {
      const lists = keysOf(pair).map((key) => per.get(key) ?? []);
      const behind = Math.max(...lists.map(([best]) => (best?.score ?? 0) - pair.score));
      if (behind > farBehind || lists.some((list) => list.indexOf(pair) >= most)) return [];
      const others = Math.max(
        ...lists.map((list) => list.filter(({ score }) => score > pair.score - clearly).length - 1),
      );
      const { a, b, evidence } = pair;
      if (others > 0) {
        const fit = others === 1 ? 'product of the same supplier fits' : 'products of the same supplier fit';
        holdBelowSure(evidence, `${others} other ${fit} nearly as well`, Math.min(sure - 1, pair.score - 5));
      } else if (evidence.every(({ points }) => points >= -1)) {
        const next = Math.max(0, ...lists.map((list) => list.find((other) => other !== pair)?.score ?? 0));
        if (pair.score < sure - aloneWorth && pair.score - next >= lonely)
          evidence.push({ kind: 'axes', points: aloneWorth, words: 'nothing else of either supplier comes near' });
      }
      const score = scoreOf(evidence);
      return score < least ? [] : [{ a, b, score, evidence }];
    })
    .sort(byScore);
}

const byScore = (x: Candidate, y: Candidate) => y.score - x.score || x.a - y.a || x.b - y.b;

/** Reads titles and brands of all; words of any title are words that compounds are made of. */
function prepareAll(items: readonly MatchItem[]): Prepared[] {
  const sorted = [...items].sort((x, y) => x.id - y.id);
  const vocabulary = new Set<string>();
  const brands = new Map<string, readonly string[]>();
  for (const { titles, brand } of sorted) {
    for (const title of titles)
      for (const word of plainLetters(title).split(/[^\p{L}]+/u)) if (word.length >= 4) vocabulary.add(word);
    if (brand) {
      const words = brandWords(brand);
      if (words.length > 0) brands.set(words.join(' '), words);
    }
  }
  const read = compileReader((word) => vocabulary.has(word));
  const byFirst = groupBy(brands.values(), ([first = '']) => first);
  return sorted.map((item): Prepared => {
    const brand = item.brand ? brandWords(item.brand) : namedBrand(item.titles, byFirst);
    return {
      item,
      brand,
      readings: item.titles.map((title): Reading => read(title, brandIn(title, brand))),
      sizes: Object.entries(item.sizes),
    };
  });
}

/** The known brand that a title begins or ends with, word for word; titles name other things in between. */
function namedBrand(
  titles: readonly string[],
  byFirst: ReadonlyMap<string, readonly (readonly string[])[]>,
): readonly string[] {
  for (const title of titles) {
    const words = plainLetters(title)
      .split(/[^\p{L}\p{N}]+/u)
      .filter(Boolean);
    for (const at of [0, words.length - 1])
      for (const brand of byFirst.get(words[at] ?? '') ?? [])
        if (brand.every((word, i) => words[at + i] === word)) return brand;
  }
  return [];
}

/** Words of the title that are its brand's, as it is written there. */
function brandIn(title: string, brand: readonly string[]): string[] {
  if (brand.length === 0) return [];
  const words = plainLetters(title).split(/[^\p{L}\p{N}]+/u);
  return words.filter((word) => brand.includes(word) || (word.length >= 4 && isSameBrand([word], brand)));
}

/** How many have each word and each figure. */
function countIds(prepared: readonly Prepared[]): Map<string, number> {
  const frequency = new Map<string, number>();
  for (const { readings } of prepared)
    for (const id of idsOf(readings)) frequency.set(id, (frequency.get(id) ?? 0) + 1);
  return frequency;
}

const idsOf = (readings: readonly Reading[]): Set<string> =>
  new Set(readings.flatMap(({ atoms, figures }) => [...atoms.flatMap(({ ids }) => ids), ...figures.map(figureId)]));

/** Letters of a brand that stay whatever form of it is written. */
const brandMark = 4;

/** Indexes of items that share something worth comparing them for. */
function blocksOf(prepared: readonly Prepared[], frequency: ReadonlyMap<string, number>): Map<string, number[]> {
  const blocks = new Map<string, number[]>();
  const put = (key: string, i: number) => {
    const block = blocks.get(key);
    if (!block) blocks.set(key, [i]);
    else if (block.at(-1) !== i) block.push(i);
  };
  prepared.forEach(({ item, brand, readings, sizes }, i) => {
    for (const identifier of item.identifiers) put(`i:${identifier}`, i);
    const figures = [...new Set(readings.flatMap((reading) => reading.figures.map(figureId)))].sort();
    const bare = [...new Set(readings.flatMap((reading) => reading.figures.map(({ written }) => written)))].sort(
      (a, b) => a - b,
    );
    const mark = brand.join('').slice(0, brandMark);
    for (const id of idsOf(readings)) {
      const n = frequency.get(id) ?? 0;
      if (n < 2) continue;
      if (n <= rareWord) put(id, i);
      else if (!id.startsWith('#')) {
        for (const figure of bare) put(`${id}|${figure}`, i);
        for (const [attribute, size] of sizes) put(`${id}|${attribute}=${size}`, i);
        if (mark !== '') put(`${id}|${mark}`, i);
      }
    }
    if (mark === '') return;
    for (const figure of bare) put(`${mark}#${figure}`, i);
    for (const figure of figures) put(`${mark}${figure}`, i);
    bare.forEach((one, n) => bare.slice(n + 1, n + 4).forEach((other) => put(`${mark}#${one}#${other}`, i)));
  });
  return blocks;
}
