/** What a column may be, each with how likely: its name and its cells are heard alike, and so is what its neighbours say. */
import { type Attribute, type ReadingStyle, foldText } from '../values/index.js';
import {
  type Sense,
  goodsWords,
  makerWords,
  meanings,
  outerWords,
  pastWords,
  supplierWords,
  taxWords,
  withTax,
  withoutTax,
} from '../catalog/index.js';
import type { Column } from './column.js';

/** Weights are natural logarithms of odds. */
const strength = { exact: 4.2, compound: 3, tail: 1.3, part: 1.5, label: 4.4 };
/** Before anything is known of it, a column is rather nothing. */
export const prior = -1.6;

/** How a sense was come by: by the whole name, a part of it, its end, the name of an attribute of ours; or as `why` says. */
export type By = 'name' | 'part' | 'end' | 'label' | 'cells';

export interface Heard {
  sense: Sense;
  /** Key of an attribute of the company’s own, where its name says so. */
  attribute?: string;
  weight: number;
  by: By;
  /** What the cells, or the words beside it, say. */
  why?: string;
  language?: string | undefined;
}

/** Where a column’s amounts stand among those of the other columns of prices. */
export type PriceRank = 'lowest' | 'highest';

/** Of whom a column’s texts are: each row its own, all rows of a family the same, or several families the same. */
export type Shared = 'row' | 'family' | 'families';

export interface Surroundings {
  dictionary: ReadonlyMap<string, Attribute>;
  style: ReadingStyle;
  isOwn: boolean;
  /** Languages that headers of the file are in, by how often. */
  tongues: ReadonlyMap<string, number>;
  /** Columns of prices, once names have been heard. */
  ranks?: ReadonlyMap<Column, PriceRank>;
  /** Where the file has families, and enough of them to tell. */
  shared?: ReadonlyMap<Column, Shared>;
}

/** Languages that name a thing first and what is special of it after. */
const headFirst = new Set(['fr', 'es', 'it', 'pt', 'pl', 'cs']);

/** How a header’s words stand to those of the trade. */
export interface Header {
  words: readonly string[];
  /** All words of it, those in brackets and units too. */
  all: readonly string[];
}

/** German writes umlauts as two letters where it has to; numbers are abbreviated everywhere. */
const spellings = (phrase: string): string[] => {
  const plain = phrase.replace(/ae/g, 'a').replace(/oe/g, 'o').replace(/ue/g, 'u');
  const whole = plain.replace(/nr\b/g, 'nummer');
  return [...new Set([phrase, plain, whole])];
};
const lookUp = (phrase: string) => spellings(phrase).flatMap((each) => meanings.get(each) ?? []);

/** The language most headers are in. */
export function tonguesOf(headers: readonly Header[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>();
  for (const { words } of headers)
    for (const language of new Set(lookUp(words.join(' ')).map((meaning) => meaning.language)))
      counts.set(language, (counts.get(language) ?? 0) + 1);
  return counts;
}

/** A part of a path by itself. */
export const headerOf = (words: readonly string[]): Header => ({ words, all: words });

/** What a header’s name may mean, the likeliest weight of each sense. */
export function hear({ words, all }: Header, around: Surroundings): Heard[] {
  const heard = new Map<string, Heard>();
  const put = (one: Heard) => {
    const mark = `${one.sense} ${one.attribute ?? ''}`;
    if ((heard.get(mark)?.weight ?? -Infinity) < one.weight) heard.set(mark, one);
  };
  const best = Math.max(1, ...around.tongues.values());
  /** A word of the language that the other headers are in counts in full. */
  const ofTongue = (language: string) => ((around.tongues.get(language) ?? 0) >= 0.5 * best ? 0 : -0.9);
  const said = (phrase: string, weight: number | ((language: string) => number), by: By) => {
    for (const { sense, language } of lookUp(phrase)) {
      const own = typeof weight === 'number' ? weight : weight(language);
      put({ sense, weight: own + ofTongue(language), by, language });
    }
  };
  const phrase = words.join(' ');
  if (phrase !== '') {
    said(phrase, strength.exact, 'name');
    said(phrase.replaceAll(' ', ''), strength.exact - 0.2, 'name');
    for (const word of words) tails(word, said);
    // Parts of a name, the longest first; what stands at its head counts most.
    for (let length = words.length - 1; length > 0; length--)
      for (let from = 0; from + length <= words.length; from++) {
        const rest = [...words.slice(0, from), ...words.slice(from + length)];
        const isBare = rest.every((word) => goodsWords.has(word) || word.length === 1 || /^\d+$/.test(word));
        said(
          words.slice(from, from + length).join(' '),
          (language) =>
            isBare
              ? strength.compound
              : strength.part +
                0.3 * (length - 1) +
                ((headFirst.has(language) ? from === 0 : from + length === words.length) ? 0.3 : -0.9),
          isBare ? 'name' : 'part',
        );
      }
    ownNames(phrase, around, put);
    // “Rek. pris inkl. moms” is a Rek. pris.
    const untaxed = words.filter((word) => !taxWords.has(word) && !withTax.has(word) && !withoutTax.has(word));
    if (taxOf(all) !== undefined && untaxed.length > 0 && untaxed.length < words.length)
      for (const one of hear(headerOf(untaxed), around)) put(one);
  }
  return qualified([...heard.values()], all, around);
}

/** “Produktbezeichnung” is a Bezeichnung, “Wandstärke” is no Stärke one would know by its end alone. */
function tails(word: string, said: (phrase: string, weight: number, by: By) => void): void {
  for (let cut = 3; cut <= word.length - 4; cut++) {
    const tail = word.slice(cut);
    if (!meanings.has(tail)) continue;
    const head = word.slice(0, cut).replace(/(?:s|es|en|n)$/, '');
    const isGoods = goodsWords.has(head) || goodsWords.has(word.slice(0, cut));
    said(tail, isGoods ? strength.compound : strength.tail, isGoods ? 'name' : 'end');
    return;
  }
}

/** Attributes of the company’s own, by their names and aliases. */
function ownNames(phrase: string, { dictionary }: Surroundings, put: (one: Heard) => void): void {
  const bare = phrase.replaceAll(' ', '');
  for (const { key, label, aliases = [], role } of dictionary.values()) {
    const names = [label, key, ...aliases].map((name) => foldText(name).replace(/[^\p{L}\p{N}]+/gu, ''));
    if (!names.includes(bare) && !spellings(bare).some((each) => names.includes(each))) continue;
    // Our SKU follows from the article number of our own sheet.
    if (role === 'sku') put({ sense: 'key', weight: strength.exact, by: 'name' });
    else put({ sense: role ?? 'nothing', attribute: key, weight: strength.label, by: 'label' });
  }
}

/** What words beside it make of each. */
function qualified(heard: readonly Heard[], all: readonly string[], { isOwn }: Surroundings): Heard[] {
  const has = (words: ReadonlySet<string>) => all.some((word) => words.has(word));
  const isOuter = has(outerWords);
  const isMakers = has(makerWords);
  const isSuppliers = has(supplierWords);
  const isPast = has(pastWords);
  const isLeast = all.some((word) => leastWords.test(word));
  const out = heard.map((one): Heard => {
    const { sense } = one;
    let { weight } = one;
    if (isOuter && ofArticle.has(sense)) weight -= 5;
    if (isLeast && (sense === 'stock' || isPrice(sense) || sense === 'packSize')) weight -= 4;
    if (isPast && (isPrice(sense) || sense === 'key')) weight -= 4;
    if (isMakers && (sense === 'key' || sense === 'title')) weight -= 4;
    if (isSuppliers && isOwn && sense === 'key') weight -= 4;
    return { ...one, weight };
  });
  const keyed = heard.find(({ sense }) => sense === 'key');
  if (isMakers && keyed && keyed.weight > 0) out.push({ sense: 'mpn', weight: strength.exact - 0.6, by: 'name' });
  if (isSuppliers && keyed && keyed.weight > 0)
    out.push(
      isOwn
        ? { sense: 'theirNumber', weight: strength.exact - 0.6, by: 'name' }
        : { ...keyed, weight: keyed.weight + 0.3 },
    );
  if (isOuter && heard.some(({ sense, weight }) => ofArticle.has(sense) && weight > 0))
    out.push({
      sense: 'nothing',
      weight: strength.compound,
      by: 'part',
      why: 'it is of the outer pack, not of the article',
    });
  return out;
}

const ofArticle: ReadonlySet<Sense> = new Set<Sense>([
  ...(['gtin', 'key', 'mpn', 'stock', 'price', 'packSize', 'weight', 'volume'] as const),
  ...(['size', 'sizes', 'width', 'height', 'depth', 'length'] as const),
]);
/** The least there is to be, or to be ordered. */
const leastWords =
  /^(?:min|mini|minimum|minima|minimo|minimal|minste|melde|kritisch|reorder|safety)$|^(?:mindest|melde|minst|minimi|sicherheits)/;
const isPrice = (sense: Sense) =>
  sense === 'price' || sense === 'purchasePrice' || sense === 'recommendedPrice' || sense === 'salePrice';

/** Whether words of a header say with or without tax. */
export function taxOf(all: readonly string[]): 'with' | 'without' | undefined {
  const names = all.some((word) => taxWords.has(word));
  const strong = (word: string) => /^(?:ht|ttc|brutto|netto|net|gross|bruto|lordo|veroton|verollinen)$/.test(word);
  for (const word of all) {
    if (!names && !strong(word)) continue;
    if (withoutTax.has(word)) return 'without';
    if (withTax.has(word)) return 'with';
  }
  return undefined;
}

/** As a probability. */
export const likely = (weight: number): number => 1 / (1 + Math.exp(-(prior + weight)));
