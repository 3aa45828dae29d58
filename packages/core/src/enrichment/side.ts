/** A text as it is searched: its words, folded, each with its place in the text as it was given. */
import { foldLetters } from '../values/index.js';
import { isHere, startsHere } from './around.js';
import type { Place } from './model.js';
import type { Phrases } from './phrases.js';
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
      fold: foldLetters(all),
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

/** The words and figures of a text, folded. */
export const wordsOf = (text: string): string[] =>
  tokensOf(text)
    .filter(({ kind }) => kind !== 'sign')
    .map(({ fold }) => fold);

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

/** A sign that ends a clause; a stop does where a sentence begins behind it. */
function ends(tokens: readonly Token[], i: number, text: string): boolean {
  const token = tokens[i];
  if (token?.kind !== 'sign') return false;
  if (closing.has(token.fold)) return true;
  const next = tokens[i + 1];
  if (token.fold === '.')
    return (
      !next ||
      (!next.glued && /[\p{Lu}\p{N}]/u.test(text.charAt(next.start)) && !isHere('shortened', { tokens }, i - 1))
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
    const length = startsHere('misleading', side, i);
    const isCompound = token.fold.length > 6 && misleadingEnds.some((word) => token.fold.endsWith(word));
    if ((length > 0 || isCompound) && !isHere('holders', side, i + Math.max(1, length))) return true;
  }
  return false;
}

const shines = (side: Side): boolean =>
  side.tokens.some(({ fold }, i) => isHere('lamps', side, i) || words.lampEnds.some((word) => fold.endsWith(word)));

/** Compounds end in what they are: “Lavendelseife”. */
const misleadingEnds = words.misleading.filter((word) => word.length >= 4 && !word.includes(' '));

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
    mask(i, i + Math.max(brands.startsAt(side, i), startsHere('phrases', side, i)));
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
    const length = startsHere('codes', side, i);
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
