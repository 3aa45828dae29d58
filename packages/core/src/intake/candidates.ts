/** What a column may be, each with how likely: its name and its cells are heard alike, and so is what its neighbours say. */
import { type Attribute, type ReadingStyle, foldText, parseValue, units, withRole } from '../values/index.js';
import type { Column } from './column.js';
import { countryWords, otherUnits, type Traits } from './traits.js';
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

/** Weights are natural logarithms of odds. */
const strength = { exact: 4.2, compound: 3, tail: 2.2, part: 1.5, label: 4.4, labelPart: 1.8 };
/** Before anything is known of it, a column is rather nothing. */
const prior = -1.6;

export interface Heard {
  sense: Sense;
  /** Key of an attribute of the company’s own, where its name says so. */
  attribute?: string;
  weight: number;
  why: string;
  language?: string | undefined;
}

export interface Surroundings {
  dictionary: ReadonlyMap<string, Attribute>;
  style: ReadingStyle;
  isOwn: boolean;
  /** Languages that headers of the file are in, by how often. */
  tongues: ReadonlyMap<string, number>;
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
  const said = (phrase: string, weight: number | ((language: string) => number), how: string) => {
    for (const { sense, language } of lookUp(phrase)) {
      const own = typeof weight === 'number' ? weight : weight(language);
      put({ sense, weight: own + ofTongue(language), why: how, language });
    }
  };
  const phrase = words.join(' ');
  if (phrase !== '') {
    said(phrase, strength.exact, 'its name is a word for');
    said(phrase.replaceAll(' ', ''), strength.exact - 0.2, 'its name is a word for');
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
          isBare ? 'its name is a word for' : 'its name holds a word for',
        );
      }
    ownNames(phrase, around, put);
    // “Rek. pris inkl. moms” is a Rek. pris.
    const untaxed = words.filter((word) => !taxWords.has(word) && !withTax.has(word) && !withoutTax.has(word));
    if (taxOf(all) !== undefined && untaxed.length > 0 && untaxed.length < words.length)
      for (const one of hear({ words: untaxed, all: untaxed }, around)) put(one);
  }
  return qualified([...heard.values()], all, around);
}

/** “Produktbezeichnung” is a Bezeichnung, “Wandstärke” is no Stärke one would know by its end alone. */
function tails(word: string, said: (phrase: string, weight: number, how: string) => void): void {
  for (let cut = 3; cut <= word.length - 4; cut++) {
    const tail = word.slice(cut);
    if (!meanings.has(tail)) continue;
    const head = word.slice(0, cut).replace(/(?:s|es|en|n)$/, '');
    const isGoods = goodsWords.has(head) || goodsWords.has(word.slice(0, cut));
    said(
      tail,
      isGoods ? strength.compound : strength.tail - 0.9,
      isGoods ? 'its name is a word for' : 'its name ends in a word for',
    );
    return;
  }
}

/** Attributes of the company’s own, by their names and aliases. */
function ownNames(phrase: string, { dictionary }: Surroundings, put: (one: Heard) => void): void {
  const bare = phrase.replaceAll(' ', '');
  for (const { key, label, aliases = [], role } of dictionary.values()) {
    const names = [label, key, ...aliases].map((name) => foldText(name).replace(/[^\p{L}\p{N}]+/gu, ''));
    const sense = role ?? 'nothing';
    const why = `the attribute ${label} has this name`;
    if (!names.includes(bare) && !spellings(bare).some((each) => names.includes(each))) continue;
    // Our SKU follows from the article number of our own sheet.
    if (role === 'sku') put({ sense: 'key', weight: strength.exact, why: 'its name is a word for' });
    else put({ sense, attribute: key, weight: strength.label, why });
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
  if (isMakers && keyed && keyed.weight > 0)
    out.push({ sense: 'mpn', weight: strength.exact - 0.6, why: 'its name is a word for' });
  if (isSuppliers && keyed && keyed.weight > 0)
    out.push(
      isOwn
        ? { sense: 'theirNumber', weight: strength.exact - 0.6, why: 'its name is a word for' }
        : { ...keyed, weight: keyed.weight + 0.3 },
    );
  if (isOuter && heard.some(({ sense, weight }) => ofArticle.has(sense) && weight > 0))
    out.push({ sense: 'nothing', weight: strength.compound, why: 'it is of the outer pack, not of the article' });
  return out;
}

const ofArticle: ReadonlySet<Sense> = new Set<Sense>([
  ...([
    'gtin',
    'key',
    'weight',
    'width',
    'height',
    'depth',
    'length',
    'sizes',
    'size',
    'volume',
    'packSize',
    'stock',
    'mpn',
    'price',
  ] as const),
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

let countries: ReadonlySet<string> | undefined;
const isCountryWord = (cell: string): boolean => {
  countries ??= countryWords(['en', 'de', 'sv', 'da', 'nb', 'nl', 'fr', 'es', 'it', 'pl', 'pt', 'fi', 'cs']);
  const folded = foldText(cell);
  return countries.has(folded) || /^[A-Z]{2}$/.test(cell.trim());
};

/** Words of colours, folded: enough of them in the languages of the trade to know a column of them. */
const colours = new Set(
  'black white red blue green yellow grey gray brown beige pink purple orange navy cream ivory silver gold turquoise natural anthracite schwarz weiss rot blau grun gelb grau braun rosa lila creme silber gold turkis natur anthrazit svart vit rod bla gron gul gra brun sort hvid rod gron hvit gronn brun zwart wit rood blauw groen geel grijs bruin roze paars oranje noir blanc rouge bleu vert jaune gris marron rose violet argent or turquoise negro blanco rojo azul verde amarillo gris marron rosa morado naranja plata oro nero bianco rosso blu verde giallo grigio marrone viola arancione argento czarny bialy czerwony niebieski zielony zolty szary brazowy rozowy fioletowy pomaranczowy srebrny zloty preto branco vermelho amarelo cinza castanho roxo laranja prata musta valkoinen punainen sininen vihrea keltainen harmaa ruskea pinkki violetti oranssi hopea kulta cerna bila cervena modra zelena zluta seda hneda ruzova fialova oranzova stribrna zlata'.split(
    ' ',
  ),
);
const isColour = (cell: string) =>
  foldText(cell)
    .replaceAll('ß', 'ss')
    .replaceAll('ø', 'o')
    .replaceAll('ł', 'l')
    .split(/[^\p{L}]+/u)
    .some((word) => colours.has(word));

/** What the cells say to a sense: for it (above 0) or against it. */
export function weigh(sense: Sense, column: Column, traits: Traits, around: Surroundings): number {
  const { filled, variety, length, words, number } = traits;
  if (filled === 0) return 0;
  const isFew = filled < 4;
  const { style, dictionary } = around;
  const measured = (dimension: Parameters<Traits['measures']>[0]) => {
    if (traits.parts > 0 || traits.pack > 0.3) return -3;
    if (column.unit !== undefined && units[column.unit]?.dimension !== dimension) return -5;
    const fits = traits.measures(dimension, column.unit);
    if (otherUnits(traits, dimension, style) > 0.3) return -5;
    return fits > 0.8 ? (column.unit !== undefined || number < 0.5 ? 1 : 0.2) : fits > 0.4 ? -0.6 : -3;
  };
  switch (sense) {
    case 'key':
      if (length > 40 || words > 4) return -4;
      return variety > 0.98 ? (isFew ? 0.3 : 1) : variety > 0.9 ? -0.8 : -3.5;
    case 'gtin':
      return traits.gtin > 0.9
        ? 3.5
        : traits.gtin > 0.6
          ? 1
          : traits.share((cell) => /^[\d\s-]{7,18}$/.test(cell)) > 0.6
            ? -0.6
            : -4;
    case 'mpn':
    case 'theirNumber':
      return traits.gtin > 0.9 ? -2 : length > 40 ? -4 : variety < 0.3 && !isFew ? -2 : 0.3;
    case 'title':
      if (number > 0.8 || traits.url > 0.5) return -5;
      if (traits.markup > 0.3 || length > 220) return -3;
      if (isFew) return 0;
      return variety < 0.35 ? -2.6 : words >= 2 ? 0.8 : variety > 0.8 ? -0.2 : -1.2;
    case 'description':
      if (number > 0.8 || traits.url > 0.5) return -5;
      return traits.markup > 0.3 || length > 90 ? 1.6 : length > 45 ? 0.4 : length < 18 ? -2.2 : -0.6;
    case 'brand':
      return number > 0.8 || length > 45 ? -4 : isFew ? 0.2 : variety < 0.5 ? 0.7 : -1.4;
    case 'family':
      if (traits.url > 0.5 || length > 80) return -4;
      return isFew ? 0 : variety < 0.7 ? 0.6 : variety < 0.95 ? -0.6 : -2.6;
    case 'category':
      if (traits.url > 0.5 || traits.gtin > 0.5) return -5;
      if (traits.share((cell) => cell.length <= 2) > 0.8) return -3;
      return traits.path > 0.5 ? 1.6 : isFew ? 0.1 : variety < 0.5 ? 0.5 : -2;
    case 'page':
      return traits.picture > 0.5 ? -4 : traits.url > 0.8 ? 1.5 : traits.url > 0.3 ? 0 : -3.5;
    case 'pictures':
    case 'morePictures':
      return traits.picture > 0.7 ? 2.5 : traits.url > 0.8 ? 0.8 : number > 0.8 ? -4 : -2;
    case 'colour':
      return number > 0.8 ? -2.2 : traits.share(isColour) > 0.5 ? 2 : length > 40 ? -2.5 : 0.1;
    case 'size':
      if (traits.parts > 0) return 0.2;
      return traits.letterSize > 0.7 ? 1.8 : length > 24 ? -2.5 : 0;
    case 'sizes':
      return traits.pack > 0.3 ? -4 : traits.parts > 1 ? 1.6 : -2.5;
    case 'material':
    case 'pattern':
      return number > 0.5 ? -3 : length > 160 ? -1.5 : 0.3;
    case 'audience':
      return number > 0.8 ? -2.5 : variety < 0.4 || isFew ? 0.4 : -1.5;
    case 'width':
    case 'height':
    case 'depth':
    case 'length':
    case 'diameter':
      return measured('length');
    case 'weight':
      // Grams of a square metre are no weight of the goods.
      return /(?:\/|per|pro|par)\s*m(?:²|2|q|etre)?(?!\p{L})/iu.test(column.name) ? -6 : measured('mass');
    case 'volume':
      return measured('volume');
    case 'power':
      return measured('power');
    case 'voltage':
      return measured('voltage');
    case 'warranty':
      return traits.share((cell) => /\d/.test(cell)) > 0.8 && length < 30 ? 0.5 : -1.5;
    case 'packSize':
      if (traits.pack > 0.3) return -4;
      return traits.whole > 0.8 ? 0.4 : traits.share((cell) => /^\d+\s*\p{L}{0,8}\.?$/u.test(cell)) > 0.7 ? 0.2 : -2.5;
    case 'energyClass':
      return traits.share((cell) => /^[A-G](?:\+{1,3})?$/i.test(cell.trim())) > 0.8 ? 1 : -3;
    case 'origin':
      return traits.share(isCountryWord) > 0.8 ? 2 : number > 0.5 || length > 40 ? -4 : -0.6;
    case 'customsCode':
      return traits.share((cell) => /^[\d\s.]{6,14}$/.test(cell.trim())) > 0.8
        ? traits.gtin > 0.9
          ? -0.5
          : 1.2
        : -3.5;
    case 'care':
      return number > 0.8 ? -4 : 0.2;
    case 'condition':
      return variety < 0.5 && length < 25 ? 0.4 : -1;
    case 'state': {
      const [attribute] = withRole(dictionary, 'state');
      const known = attribute ? traits.share((cell) => parseValue(cell, style, attribute).ok) : 0;
      return number > 0.8 && traits.share((cell) => /^[01]$/.test(cell)) < 0.8
        ? -3
        : known > 0.5 || variety < 0.3 || isFew
          ? 0.4
          : -1.5;
    }
    case 'purchasePrice':
    case 'recommendedPrice':
    case 'price':
    case 'salePrice':
      if (traits.date > 0.5 || traits.share((cell) => /%\s*$/.test(cell)) > 0.5) return -5;
      return traits.money > 0.5 ? 1.4 : number > 0.8 ? 0.5 : -3.5;
    case 'stock':
      return traits.whole > 0.9
        ? 0.6
        : traits.share((cell) =>
              /^[<>+]?\s*\d+\s*\+?$|^(?:ja|nej|nein|yes|no|oui|non|si|nie|tak|kylla|ei|ano|ne)$/i.test(cell.trim()),
            ) > 0.8
          ? 0
          : number > 0.9
            ? -1
            : -3.5;
    case 'saleFrom':
    case 'saleTo':
      return traits.date > 0.6 ? 1 : -3;
    case 'boughtFrom':
      return number > 0.8 ? -4 : variety < 0.5 || isFew ? 0.3 : -1.5;
    case 'options':
      return traits.share((cell) => /:.+/.test(cell)) > 0.5 ? 1 : -3;
    case 'sku':
      return variety > 0.9 ? 0.3 : -2;
    case 'nothing':
      return 0;
  }
}

/** Senses that cells alone may tell, whatever the name is; each with the weight that a good showing of them has. `at`: place of the column. */
export function seen(traits: Traits, at: number): Heard[] {
  const { filled, variety, length, words, number } = traits;
  if (filled < 3) return [];
  const found: Heard[] = [];
  const add = (sense: Sense, weight: number, why: string) => found.push({ sense, weight, why });
  if (traits.gtin > 0.9 && variety > 0.5) add('gtin', 1.4, 'its cells are true GTINs');
  if (traits.picture > 0.8) add('pictures', 1.2, 'its cells name pictures');
  else if (traits.url > 0.9 && traits.share((cell) => /\.(?:pdf|zip|docx?|xlsx?|mp4|step|dwg)$/i.test(cell)) < 0.1)
    add('page', 1.5, 'its cells are addresses');
  if (traits.markup > 0.4) add('description', 1.4, 'its cells are texts with markup');
  else if (length > 140 && words > 18) add('description', 0.7, 'its cells are long texts');
  if (traits.letterSize > 0.9 && traits.letters < 0.9 && traits.share((cell) => /[sml]/i.test(cell)) > 0.7)
    add('size', 1.6, 'its cells are letter sizes');
  if (traits.path > 0.7 && variety < 0.6) add('category', 0.8, 'its cells are paths of a tree');
  if (traits.share(isColour) > 0.75 && words < 3 && number < 0.1) add('colour', 0.4, 'its cells name colours');
  if (filled > 3 && traits.share((cell) => cell.length > 3 && isCountryWord(cell)) > 0.9)
    add('origin', 0.4, 'its cells name countries');
  if (
    at < 3 &&
    traits.share((cell) => /^\d*[.,]\d+$/.test(cell)) < 0.1 &&
    variety > 0.98 &&
    filled > 5 &&
    words < 1.5 &&
    length < 25 &&
    traits.share((cell) => /\d/.test(cell)) > 0.9 &&
    traits.gtin < 0.5 &&
    traits.url < 0.1
  )
    add('key', -0.1, 'every row has its own');
  if (
    variety > 0.85 &&
    filled > 5 &&
    words >= 2.5 &&
    length > 12 &&
    length < 90 &&
    traits.letters > 0.95 &&
    number < 0.1 &&
    traits.markup < 0.1 &&
    traits.url < 0.1
  )
    add('title', 0.5, 'every row has a few words of its own');
  return found;
}

/** As a probability. */
export const likely = (weight: number): number => 1 / (1 + Math.exp(-(prior + weight)));
