/** A text as it is searched: its words, folded, each with its place in the text as it was given. */
import type { Place } from './model.js';
import { type Phrases, phrasesOf } from './phrases.js';
import { words } from './words/index.js';

export interface Token {
  fold: string;
  /** Letters of it have signs: “bläck” is not “black”. */
  accented: boolean;
  start: number;
  end: number;
  kind: 'word' | 'figure' | 'sign';
  /** Nothing stands between it and the one before. */
  glued: boolean;
}

export interface Side {
  place: Place;
  text: string;
  tokens: readonly Token[];
  /** For each token, the first one of its clause. */
  clauses: readonly number[];
  /** Tokens that are names, numbers of models or phrases of another sense. */
  masked: ReadonlySet<number>;
  isTitle: boolean;
  /** Goods whose names are full of colours and materials they are not of. */
  misleads: boolean;
  /** Something that gives light. */
  shines: boolean;
  /** Nouns have capitals, as in German. */
  nounsAreCapital: boolean;
}

const pattern = /(?<word>\p{L}[\p{L}\p{M}]*)|(?<figure>\d+(?:[.,]\d+)*)|(?<sign>[^\s\p{L}\d])/gu;

/** Without accents, in small letters. */
export const foldWord = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replaceAll('ß', 'ss')
    .replaceAll('æ', 'ae')
    .replaceAll('ø', 'o')
    .replaceAll('ł', 'l')
    .replaceAll('ı', 'i');

/** “ß” is spelling, and no sign. */
const isAccented = (text: string): boolean => /\p{M}/u.test(text.normalize('NFD')) || /[øłæœ]/iu.test(text);

export function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  let before = -1;
  for (const found of text.matchAll(pattern)) {
    const [all] = found;
    const kind = found.groups?.word ? 'word' : found.groups?.figure ? 'figure' : 'sign';
    const end = found.index + all.length;
    tokens.push({
      fold: foldWord(all),
      accented: isAccented(all),
      start: found.index,
      end,
      kind,
      glued: found.index === before,
    });
    before = end;
  }
  return tokens;
}

const closing = new Set([',', ';', '!', '?', '|', '(', ')', '[', ']', '•', '·', '~', '–', '—', '…']);

/** The first token that ends behind a place in the text; their number where none does. */
export function tokenAt({ tokens }: Pick<Side, 'tokens'>, place: number): number {
  let [low, high] = [0, tokens.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((tokens[middle]?.end ?? 0) > place) high = middle;
    else low = middle + 1;
  }
  return low;
}

const shortened = new Set(
  'ca|max|min|gr|nr|no|approx|art|inkl|incl|exkl|excl|ref|stl|str|st|dia|temp|vol|bzw|evtl|mind|zzgl|c|ungef|resp'.split(
    '|',
  ),
);

/** A sign that ends a clause; a stop does where a sentence begins behind it. */
function ends(tokens: readonly Token[], i: number, text: string): boolean {
  const token = tokens[i];
  if (token?.kind !== 'sign') return false;
  if (closing.has(token.fold)) return true;
  const next = tokens[i + 1];
  if (token.fold === '.')
    return (
      !next ||
      (!next.glued && /[\p{Lu}\p{N}]/u.test(text.charAt(next.start)) && !shortened.has(tokens[i - 1]?.fold ?? ''))
    );
  return token.fold === '-' && !token.glued && next !== undefined && !next.glued;
}

export interface Known {
  brands: Phrases;
  /** Words of lists, which are no numbers of models whatever they look like: “E27”. */
  listed: Phrases;
  language: string | undefined;
}

const german = /(?<!\p{L})(?:mit|und|für|aus|der|die|das|ohne|von|zum|im|ist)(?!\p{L})|ß/u;

export function readSide(text: string, place: Place, { brands, listed, language }: Known): Side {
  const tokens = tokensOf(text);
  const clauses: number[] = [];
  let from = 0;
  for (const i of tokens.keys()) {
    clauses.push(from);
    if (ends(tokens, i, text)) from = i + 1;
  }
  const side = {
    place,
    text,
    tokens,
    clauses,
    isTitle: place === 'title',
    masked: new Set<number>(),
    misleads: false,
    shines: false,
    nounsAreCapital: language === undefined ? german.test(text) : language.startsWith('de'),
  };
  return { ...side, masked: maskOf(side, brands, listed), misleads: misleads(side), shines: shines(side) };
}

/** Of the first clause only: “soap dish” is a dish. */
function misleads(side: Side): boolean {
  for (let i = 0; i < side.tokens.length && side.clauses[i] === 0; i++) {
    const token = side.tokens[i];
    if (token?.kind !== 'word') continue;
    const length = misleading.startsAt(side, i) || Number(misleadingSet.has(token.fold.replace(/s$/u, '')));
    const isCompound = token.fold.length > 6 && misleadingEnds.some((word) => token.fold.endsWith(word));
    if (length === 0 && !isCompound) continue;
    const next = side.tokens[i + Math.max(1, length)];
    if (next?.kind !== 'word' || !(holders.has(next.fold) || holders.has(next.fold.replace(/e?s$/u, '')))) return true;
  }
  return false;
}

const shines = (side: Side): boolean =>
  side.tokens.some(
    ({ fold, kind }) =>
      kind === 'word' &&
      /^(?:led|bulbs?|lamps?|lights?|lumen|glodlampa|leuchte\w*|\w*lampe?n?|\w*lampa|\w*strahler|spot\w*|lm|kelvin)$/u.test(
        fold,
      ),
  );

const misleading = phrasesOf(words.misleading);
const misleadingSet = new Set(words.misleading);
const misleadingEnds = words.misleading.filter((word) => word.length >= 4 && !word.includes(' '));
const phrases = phrasesOf(words.phrases);
const codes = phrasesOf(words.codes);

/** What such goods are put in, hung on and made with is no such goods. */
const holders = new Set(
  'dish|holder|stand|jar|tray|box|pot|pots|cup|mug|mill|grinder|tin|caddy|dispenser|table|towel|rack|can|shaker|cooler|mould|lamp|lantern|glass|glasses|bag|bags|bowl|spoon|machine|maker|press|filter|set|dipper|bottle|basket|stool|cabinet|shelf|knife|cloth|brush|opener|decanter|jug|pump|burner|warmer|light|lights|feeder|labels|case|hook|cutter|roll|stamp|bench|print|cooker|steamer|tumbler|stopper|carafe'.split(
    '|',
  ),
);

const open: Record<string, string> = {
  "'": "'",
  '‘': '’',
  '"': '"',
  '“': '”',
  '„': '“',
  '‚': '‘',
  '«': '»',
  '»': '«',
  '”': '”',
  '’': '’',
};
/** Names in quotes are short. */
const mostQuoted = 6;

function maskOf(side: Side, brands: Phrases, listed: Phrases): Set<number> {
  const { tokens, clauses } = side;
  const masked = new Set<number>();
  const mask = (from: number, to: number) => {
    for (let i = from; i < to; i++) masked.add(i);
  };
  for (const [i, token] of tokens.entries()) {
    mask(i, i + Math.max(brands.startsAt(side, i), phrases.startsAt(side, i)));
    const close = token.kind === 'sign' && !token.glued ? open[token.fold] : undefined;
    if (close) {
      const end = tokens.findIndex((other, at) => at > i && other.fold === close);
      const after = tokens[end + 1];
      if (end > i + 1 && end - i <= mostQuoted + 1 && !(after?.glued && after.kind === 'word')) mask(i, end + 1);
    }
    // Letters that figures are glued to: “X200”, “KT-2200W”.
    const next = tokens[i + 1];
    const last = tokens[i + 2];
    const isHyphened = next?.glued && /^[-./]$/u.test(next.fold) && last?.glued && last.kind === 'figure';
    if (
      listed.startsAt(side, i) === 0 &&
      token.kind === 'word' &&
      /\p{Lu}/u.test(side.text.charAt(token.start)) &&
      ((next?.glued && next.kind === 'figure') || isHyphened)
    ) {
      let end = i + 1;
      while (tokens[end]?.glued && !/^[,;:!?)]$/u.test(tokens[end]?.fold ?? '')) end++;
      mask(i, end);
    }
    // “Model 3050 W”, “Art. 12-400”, “Modell WK 2200”: what follows the word is a number of it.
    const length = codes.startsAt(side, i);
    if (length > 0) {
      let at = i + length;
      while (tokens[at] && /^[.:#]$/u.test(tokens[at]?.fold ?? '')) at++;
      let figures = 0;
      for (let n = 0; n < 4 && tokens[at] && clauses[at] === clauses[i]; n++, at++) {
        const one = tokens[at];
        if (one?.kind === 'figure') figures++;
        else if (one?.kind === 'word' && !/^\p{Lu}+$/u.test(side.text.slice(one.start, one.end))) break;
      }
      if (figures > 0) mask(i, at);
    }
  }
  return masked;
}
