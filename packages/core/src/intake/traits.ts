/** What the cells of a column say it is: shares of them that are of a kind. */
import {
  type Dimension,
  type ReadingStyle,
  foldText,
  isCurrency,
  parseDecimal,
  parseMeasure,
  readGtin,
  units,
} from '../values/index.js';

/** Different cells that are looked at: a few hundred say as much as thousands. */
const mostTold = 300;

export interface Traits {
  /** Cells that hold something. */
  filled: number;
  /** Different cells to all: 1 where every row has its own. */
  variety: number;
  share(test: (cell: string) => boolean): number;
  gtin: number;
  number: number;
  whole: number;
  /** Figures with a sign or code of a currency. */
  money: number;
  url: number;
  picture: number;
  markup: number;
  /** Letters of a middling cell, and its words: one that broke off does not count for all. */
  length: number;
  words: number;
  letters: number;
  letterSize: number;
  date: number;
  path: number;
  pack: number;
  /** “12 x 20 cm”: how many parts most cells have, 0 where they have none. */
  parts: number;
  /** Share of measures with a unit of this dimension, or of bare figures. */
  measures(dimension: Dimension, unit: string | undefined): number;
  /** Different cells, as far as they are looked at. */
  samples: readonly string[];
}

/** Letter sizes of clothes, with figures before the X and spans (“2XL”, “S/M”). */
const letterSize =
  /^(?:\d?x{0,4}[sml]|\d?xl|one ?size|onesize|os|uni|\d{2,3}\/\d{2,3}|[sml]\/[sml]|xs\/s|l\/xl|\d{2}(?:[.,]5)?)$/i;
const dated = /^(?:\d{4}[-./]\d{1,2}[-./]\d{1,2}|\d{1,2}[-./]\d{1,2}[-./]\d{2,4})(?:[ T]\d.*)?$/;
export const isUrl = (cell: string) => /^(?:https?:\/\/|www\.)\S+$/i.test(cell);
export const isPicture = (cell: string) => /\.(?:jpe?g|png|webp|gif|avif|tiff?|bmp)(?:[?#]\S*)?$/i.test(cell);
/** Files that people read or keep beside goods; not web pages. */
export const isFile = (cell: string) =>
  /\.(?:pdf|docx?|odt|rtf|xlsx?|ods|pptx?|zip|step|stp|dwg|dxf|ies|ldt)$/i.test(cell);
const sized =
  /^\s*(?:[øØ⌀]\s*)?\d+(?:[.,]\d+)?\s*\p{L}{0,3}\s*[x×*]\s*\d+(?:[.,]\d+)?(?:\s*\p{L}{0,3}\s*[x×*]\s*\d+(?:[.,]\d+)?)?\s*\p{L}{0,3}\.?\s*$/iu;
export const hasMarkup = (cell: string) => /<[a-z][^>]*>/i.test(cell);
/** Parts of a cell that lists several. */
export const listed = (cell: string) => cell.split(/\s*[,;|]\s*/);
/** “12 x 85 g”: so many of so much, not a size. */
const packed = /^\s*\d+\s*[x×*]\s*\d+(?:[.,]\d+)?\s*(?:g|kg|mg|ml|cl|dl|l|lt|oz|lb|st|stk|stck|pcs|szt|ks|kpl|m)\b/i;

export function traitsOf(values: readonly string[], style: ReadingStyle): Traits {
  const different = [...new Set(values)];
  const told = different.length > mostTold ? different.slice(0, mostTold) : different;
  const share = (test: (cell: string) => boolean) => (told.length === 0 ? 0 : told.filter(test).length / told.length);
  // Either mark may part the decimals: which one the file has is told elsewhere.
  const figureOf = (cell: string) => {
    const read = parseDecimal(cell, style);
    if (read.ok) return Number(read.value);
    const other = parseDecimal(cell, { ...style, decimal: style.decimal === ',' ? '.' : ',' });
    return other.ok ? Number(other.value) : NaN;
  };
  const isFigure = (cell: string) => !Number.isNaN(figureOf(cell));
  const bare = (cell: string) => cell.replace(/\p{Sc}|\b(?:[A-Z]{3}|kr|zł|kč|ft|lei)\b\.?|:-|,-/giu, '').trim();
  const isMoney = (cell: string) =>
    bare(cell) !== cell.trim() &&
    isFigure(bare(cell)) &&
    (/\p{Sc}|kr|zł|kč|:-|,-/iu.test(cell) || (/\b[A-Z]{3}\b/.exec(cell)?.some((code) => isCurrency(code)) ?? false));
  const isSized = share((cell) => sized.test(cell)) >= 0.7;
  return {
    filled: values.length,
    variety: values.length === 0 ? 0 : different.length / values.length,
    samples: told,
    share,
    gtin: share((cell) => readGtin(cell).ok && cell.replace(/\D/g, '').length >= 8),
    number: share(isFigure),
    whole: share((cell) => /^[-+]?\d{1,9}$/.test(cell)),
    money: share(isMoney),
    url: share((cell) => listed(cell).every(isUrl)),
    picture: share((cell) => listed(cell).every(isPicture)),
    markup: share((cell) => hasMarkup(cell)),
    length: middleOf(told.map((cell) => cell.length)),
    words: middleOf(told.map((cell) => cell.slice(0, 2000).split(/\s+/).length)),
    letters: share((cell) => /\p{L}{2}/u.test(cell)),
    letterSize: share((cell) => letterSize.test(cell.trim())),
    date: share((cell) => dated.test(cell.trim())),
    path: share((cell) => /\p{L}\s*[>»›|]\s*\p{L}|\p{L}\s+\/\s+\p{L}/u.test(cell)),
    pack: share((cell) => packed.test(cell)),
    parts: isSized ? middleOf(told.map((cell) => cell.split(/[x×*]/i).length)) : 0,
    measures: (dimension, unit) =>
      share((cell) => {
        if (packed.test(cell)) return false;
        return parseMeasure(cell, { ...style, ...(unit ? { unit } : {}) }, dimension).ok || isFigure(cell);
      }),
  };
}

/** The one in the middle; 0 of none. */
function middleOf(figures: number[]): number {
  const sorted = figures.sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}

/** Share of cells that name a unit of a dimension other than this one. */
export function otherUnits({ samples }: Traits, dimension: Dimension, style: ReadingStyle): number {
  const others = samples.filter((cell) => {
    const read = parseMeasure(cell, style, undefined);
    return read.ok && units[read.value.unit]?.dimension !== dimension;
  });
  return samples.length === 0 ? 0 : others.length / samples.length;
}

/** Countries by name in the languages of this list, and by code. */
export function countryWords(languages: readonly string[]): ReadonlySet<string> {
  const names = new Set<string>();
  for (const language of languages) {
    const say = new Intl.DisplayNames([language], { type: 'region', fallback: 'none' });
    for (const a of 'ABCDEFGHIJKLMNOPQRSTUVWXYZ')
      for (const b of 'ABCDEFGHIJKLMNOPQRSTUVWXYZ') {
        const name = say.of(a + b);
        if (name !== undefined) names.add(foldText(name));
      }
  }
  return names;
}
