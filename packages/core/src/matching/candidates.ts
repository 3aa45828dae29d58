/** Pairs of products that may be the same goods: found by shared words, sizes and identifiers, ranked by their evidence. */
import { foldCode, foldText } from '../values/index.js';
import type { Evidence } from './evidence.js';
import { contradictions } from './contradict.js';
import type { Traits } from './traits.js';
import { titleWords } from './words.js';

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

/** Words known to mean the same, learnt from joined goods: attribute → folded word → folded words of other sources. */
export type KnownWords = ReadonlyMap<string, ReadonlyMap<string, ReadonlySet<string>>>;

export interface MatchOptions {
  knownWords?: KnownWords;
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

interface Prepared {
  item: MatchItem;
  words: Set<string>;
  sizes: [string, number][];
}

/** Looks through all items; the answer is ordered by score, best first, and does not depend on their order. */
export function findCandidates(items: readonly MatchItem[], options: MatchOptions = {}): Candidate[] {
  const { least = 45, most = 3, decided } = options;
  const prepared = [...items].sort((x, y) => x.id - y.id).map(prepare);
  const frequency = new Map<string, number>();
  for (const { words } of prepared) for (const word of words) frequency.set(word, (frequency.get(word) ?? 0) + 1);
  const weight = (word: string) => Math.log(1 + prepared.length / (frequency.get(word) ?? 1));

  const blocks = new Map<string, number[]>();
  const put = (key: string, i: number) => {
    const block = blocks.get(key);
    if (block) block.push(i);
    else blocks.set(key, [i]);
  };
  prepared.forEach(({ item, words, sizes }, i) => {
    for (const identifier of item.identifiers) put(`i:${identifier}`, i);
    for (const word of words) {
      const n = frequency.get(word) ?? 0;
      if (n < 2) continue;
      if (n <= rareWord) put(word, i);
      else for (const [attribute, size] of sizes) put(`${word}|${attribute}=${size}`, i);
    }
  });

  const scored = new Map<number, Candidate[]>();
  const seen = new Set<number>();
  const span = prepared.length;
  for (const block of blocks.values()) {
    if (block.length < 2 || block.length > largestBlock) continue;
    for (let x = 0; x < block.length; x++)
      for (let y = x + 1; y < block.length; y++) {
        const [i, j] = [block[x] as number, block[y] as number];
        const [p, q] = [prepared[i] as Prepared, prepared[j] as Prepared];
        if (p.item.sources.some((source) => q.item.sources.includes(source))) continue;
        const mark = i * span + j;
        if (seen.has(mark)) continue;
        seen.add(mark);
        if (decided?.has(pairKey(p.item.id, q.item.id))) continue;
        const evidence = weigh(p, q, weight, options.knownWords);
        const score = Math.max(
          0,
          Math.min(100, Math.round(evidence.reduce((sum, evidence) => sum + evidence.points, 0))),
        );
        if (score < least) continue;
        const candidate: Candidate = { a: p.item.id, b: q.item.id, score, evidence };
        keepBest(scored, i, candidate, most);
        keepBest(scored, j, candidate, most);
      }
  }
  /** Kept only where both sides count it among their best. */
  const votes = new Map<Candidate, number>();
  for (const list of scored.values())
    for (const candidate of list) votes.set(candidate, (votes.get(candidate) ?? 0) + 1);
  return [...votes]
    .flatMap(([candidate, n]) => (n === 2 ? [candidate] : []))
    .sort((x, y) => y.score - x.score || x.a - y.a || x.b - y.b);
}

function keepBest(scored: Map<number, Candidate[]>, i: number, candidate: Candidate, most: number): void {
  const list = scored.get(i) ?? [];
  if (list.length === 0) scored.set(i, list);
  list.push(candidate);
  list.sort((x, y) => y.score - x.score || x.a - y.a || x.b - y.b);
  if (list.length > most) list.length = most;
}

function prepare(item: MatchItem): Prepared {
  return { item, words: new Set(item.titles.flatMap(titleWords)), sizes: Object.entries(item.sizes) };
}

function weigh(p: Prepared, q: Prepared, weight: (word: string) => number, known: KnownWords | undefined): Evidence[] {
  const evidence: Evidence[] = [];
  const add = (kind: Evidence['kind'], points: number, words: string) => evidence.push({ kind, points, words });
  const shared = p.item.identifiers.filter((identifier) => q.item.identifiers.includes(identifier));
  for (const identifier of shared)
    add(identifier.startsWith('brand') ? 'brand-mpn' : 'identifier', 40, `the same ${identifier}`);
  const [x, y] = [p.item, q.item];
  if (x.mpn && y.mpn && shared.length === 0 && readsAlike(x.mpn, y.mpn))
    add('brand-mpn', 25, `MPN ${x.mpn} and ${y.mpn} read alike`);
  if (x.brand && y.brand)
    if (foldCode(x.brand) === foldCode(y.brand)) add('brand', 10, `brand ${x.brand} on both`);
    else add('against', -20, `brand ${x.brand} and ${y.brand}`);
  const both = [...p.words].filter((word) => q.words.has(word));
  const sum = (words: Iterable<string>) => [...words].reduce((total, word) => total + weight(word), 0);
  const smaller = Math.min(sum(p.words), sum(q.words));
  if (both.length > 0 && smaller > 0) {
    const likeness = sum(both) / smaller;
    const told = [...both].sort((a, b) => weight(b) - weight(a)).slice(0, 4);
    add('title', 35 * likeness, `titles share ${told.join(', ')}: ${Math.round(likeness * 100)} % alike`);
  }
  weighTraits(x, y, add);
  weighSizes(x, y, add);
  weighWords(x, y, known, add);
  weighPrices(x, y, add);
  return evidence;
}

type Add = (kind: Evidence['kind'], points: number, words: string) => void;

/** What one says and the other denies; brands and measures are weighed by themselves. */
function weighTraits(x: MatchItem, y: MatchItem, add: Add): void {
  if (!x.traits || !y.traits) return;
  const rest = (traits: Traits): Traits => ({ ...traits, brand: '', measures: new Map() });
  for (const words of contradictions(rest(x.traits), rest(y.traits)))
    add('against', words.includes('GTIN') ? -40 : -30, words);
}

function weighSizes(x: MatchItem, y: MatchItem, add: Add): void {
  const equal: string[] = [];
  for (const [attribute, size] of Object.entries(x.sizes)) {
    const other = y.sizes[attribute];
    if (other === undefined) continue;
    const off = Math.abs(size - other) / Math.max(Math.abs(size), Math.abs(other), 1e-9);
    if (off < 0.005) equal.push(attribute);
    else if (off > 0.12)
      add('against', attribute === 'weight' ? -8 : -30, `${attribute} differs by ${Math.round(off * 100)} %`);
  }
  if (equal.length > 0) add('axes', Math.min(28, 14 + 5 * (equal.length - 1)), `equal ${equal.join(', ')}`);
}

function weighWords(x: MatchItem, y: MatchItem, known: KnownWords | undefined, add: Add): void {
  for (const [attribute, word] of Object.entries(x.words)) {
    const other = y.words[attribute];
    if (other === undefined) continue;
    const [mine, theirs] = [foldText(word), foldText(other)];
    const table = known?.get(attribute);
    const means = table?.get(theirs) ?? table?.get(mine);
    if (mine === theirs) add('axes', 12, `${attribute} ${word} on both`);
    else if (table?.get(theirs)?.has(mine) || table?.get(mine)?.has(theirs))
      add('axes', 12, `${attribute} ${word} is ${other}, as on goods joined before`);
    else if (means) add('against', -30, `${attribute} ${word} is not ${other}, as on goods joined before`);
  }
}

function weighPrices(x: MatchItem, y: MatchItem, add: Add): void {
  for (const [kind, amount] of Object.entries(x.prices)) {
    const other = y.prices[kind];
    if (other === undefined || amount === 0 || other === 0) continue;
    const off = Math.abs(amount - other) / Math.max(amount, other);
    if (off <= 0.1) add('price', 6, `${kind} price within ${Math.max(1, Math.round(off * 100))} %`);
    else if (off > 0.5) add('against', -8, `${kind} price differs by ${Math.round(off * 100)} %`);
    return;
  }
}

/** Equal once letters that are taken for figures, and leading zeros, no longer count. Another sign is another variant. */
function readsAlike(a: string, b: string): boolean {
  const plain = (mpn: string) => foldCode(mpn).replaceAll('o', '0').replace(/[il]/g, '1').replace(/^0+/, '');
  return plain(a) !== '' && plain(a) === plain(b);
}
