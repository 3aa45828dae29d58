/** A column of a file as it describes itself: by its name, unit, currency and language, and by its values. */
import { currenciesBySign, foldText, isCurrency, unitCode } from '../values/index.js';
import { foldHeader } from '../catalog/index.js';

export interface Column {
  name: string;
  /** Its name without unit, currency and language, folded; of a path the last part that says something. */
  word: string;
  /** The part of a path before the last. */
  parent: string | undefined;
  /** All words of it, folded, those in brackets too. */
  all: string[];
  /** Words of the part that says something, without unit, currency, language and number. */
  words: string[];
  /** “Image 2”: which of several. */
  place: number | undefined;
  isVariant: boolean;
  unit: string | undefined;
  currency: string | undefined;
  /** Currencies that a sign in it may stand for, the likeliest first. */
  signs: readonly string[];
  language: string | undefined;
  values: string[];
}

/** A word of three capitals, or of three letters that end a name, that is a currency. */
const currencyOf = (name: string): string | undefined =>
  [...name.matchAll(/(?<![\p{L}\d])([A-Z]{3}|[a-z]{3}(?=\W*$))(?![\p{L}\d])/gu)]
    .map(([, code = '']) => code.toUpperCase())
    .find((code) => isCurrency(code) && !noCurrency.has(code));
/** Currencies that are words of headers. */
const noCurrency = new Set([
  'ALL',
  'TOP',
  'CUP',
  'BAM',
  'LAK',
  'MOP',
  'PEN',
  'TRY',
  'MAD',
  'GEL',
  'COP',
  'SOS',
  'STD',
  'NET',
  'VAT',
]);
const wholeLanguage = /\b([a-z]{2}-[A-Z]{2})\b/;
/** "Title (sv)", "name_de": what may be a content language by its first half, at the end of a name. */
const languageEnd = /[\s_([-]([a-z]{2})[\])]?$/i;
/** "Height in cm", "Höhe cm": a unit at the end of a name, with or without a word before it. */
const unitEnd = /[\s_](?:in\s+)?(?!in$)(\p{L}+)$/u;
/** How columns of a file are named. */
export interface Naming {
  /** The first rows, each as long as the header. */
  sample: readonly (readonly string[])[];
  /** Column names are paths of keys joined by dots. */
  isNested?: boolean | undefined;
  /** Languages the company writes its texts in (BCP 47), its own first. */
  languages?: readonly string[] | undefined;
  /** Nested documents: path of the list of variants in an item. */
  variantPath?: string | null | undefined;
}

/** The column of this name, the `i`-th of its file. */
export function describe(name: string, i: number, { sample, variantPath, isNested, languages = [] }: Naming): Column {
  const inVariant = Boolean(variantPath) && name.startsWith(`${variantPath}.`);
  const rest = inVariant ? name.slice((variantPath ?? '').length + 1) : name;
  const path = isNested ? rest.split('.').filter(Boolean) : [rest];
  const saying = path.at(-1) === 'value' && path.length > 1 ? path.slice(0, -1) : path;
  const last = saying.at(-1) ?? name;
  const bracket = /[[(]([^\])]+)[\])]/.exec(name)?.[1] ?? '';
  const end = ofBase(languages, languageEnd.exec(name)?.[1] ?? '');
  const unit = unitCode(bracket) ?? unitCode(unitEnd.exec(name)?.[1] ?? '');
  const spoken = wordsOf(last, {
    unit: unitEnd.exec(last)?.[1],
    language: ofBase(languages, languageEnd.exec(last)?.[1] ?? ''),
  });
  return {
    name,
    all: foldHeader(name).split(' '),
    words: spoken.words,
    place: spoken.place,
    signs: signsOf(name),
    word: wordOf(last, languages),
    parent: saying.length > 1 ? wordOf(saying[saying.length - 2] ?? '', languages) : undefined,
    isVariant: inVariant,
    unit,
    currency: currencyOf(name),
    language: wholeLanguage.exec(name)?.[1] ?? end,
    values: sample.map((row) => (row[i] ?? '').trim()).filter((value) => value !== ''),
  };
}

/** The language among these that has this first half: “de” → “de-AT”. */
export const ofBase = (languages: readonly string[], base: string): string | undefined =>
  languages.find((language) => language.split('-')[0] === base.toLowerCase());

function wordOf(name: string, languages: readonly string[]): string {
  return foldText(
    name
      .replace(/[[(][^\])]*[\])]/g, '')
      .trim()
      .replace(new RegExp(`\\b${currencyOf(name) ?? '\\u0000'}\\b`, 'i'), '')
      .replace(wholeLanguage, '')
      .replace(languageEnd, (whole, base: string) => (ofBase(languages, base) === undefined ? whole : ''))
      .replace(unitEnd, (whole, unit: string) => (unitCode(unit) === undefined ? whole : ''))
      .replaceAll('ß', 'ss')
      .replace(/([a-z])([A-Z])/g, '$1 $2'),
  )
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}

/** Signs and short words of currencies in a header: “Cena (Kč)”, “Pris kr”, “£ RRP”. */
function signsOf(name: string): readonly string[] {
  const signs = name.match(/\p{Sc}|(?<!\p{L})(?:kr|kč|kc|zł|zl|ft|lei|euro|chf|sfr)(?!\p{L})/giu) ?? [];
  return signs.flatMap((sign) => currenciesBySign(sign));
}

/** Words that say no more than what is around them does. */
const signWords = new Set('kr kc zl ft lei euro eur gbp usd chf sek nok dkk pln czk'.split(' '));

function wordsOf(
  name: string,
  { unit, language }: { unit: string | undefined; language: string | undefined },
): { words: string[]; place: number | undefined } {
  const bare = name
    .replace(/[[(][^\])]*[\])]/g, ' ')
    .replace(wholeLanguage, ' ')
    .replace(languageEnd, (whole) => (language === undefined ? whole : ' '))
    .replace(unitEnd, (whole, end: string) => (end === unit && unitCode(end) !== undefined ? ' ' : whole));
  const currency = currencyOf(name)?.toLowerCase();
  const words = foldHeader(bare)
    .split(' ')
    .filter((word) => word !== '' && word !== currency && !signWords.has(word));
  const end = words.at(-1) ?? '';
  const place =
    words.length > 1 && /^\d{1,2}$/.test(end) ? Number(end) : Number(/^\p{L}{3,}(\d{1,2})$/u.exec(end)?.[1] ?? NaN);
  if (Number.isNaN(place) || /^ean13$|^gtin\d+$|^upc\d*$/.test(end)) return { words, place: undefined };
  const cut =
    words.length > 1 && /^\d+$/.test(end) ? words.slice(0, -1) : [...words.slice(0, -1), end.replace(/\d+$/, '')];
  return { words: cut, place };
}
