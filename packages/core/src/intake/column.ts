/** A column of a file as it describes itself: by its name, unit, currency and language, and by its values. */
import { currenciesBySign, isCurrency, unitCode } from '../values/index.js';
import { foldHeader } from '../catalog/index.js';

export interface Column {
  name: string;
  /** All words of it, folded, those in brackets too. */
  all: readonly string[];
  /** Words of its name, without unit, currency, language and number; of a path those of the last part that says something. */
  words: readonly string[];
  /** The same of the part of a path before that. */
  parent: readonly string[] | undefined;
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
const unitEnd = /[\s_](?:in\s+)?(?![iI][nN]$)(\p{L}+)$/u;
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
  return {
    name,
    all: foldHeader(name).split(' '),
    words: wordsOf(last, languages),
    parent: saying.length > 1 ? wordsOf(saying[saying.length - 2] ?? '', languages) : undefined,
    signs: signsOf(name),
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

/** Signs and short words of currencies in a header: “Cena (Kč)”, “Pris kr”, “£ RRP”. */
function signsOf(name: string): readonly string[] {
  const signs =
    name.match(/(?<!\p{L})\p{L}{1,2}\$|\p{Sc}|(?<!\p{L})(?:kr|kč|kc|zł|zl|ft|lei|euro|chf|sfr)(?!\p{L})/giu) ?? [];
  return signs.flatMap((sign) => currenciesBySign(sign));
}

/** Names whose figures belong to them. */
const numbered = /^(?:ean|gtin|upc)\d+$/;

/** “Bild 2 (px)” → bild. */
function wordsOf(name: string, languages: readonly string[]): string[] {
  const bare = name
    .replace(/[[(][^\])]*[\])]/g, ' ')
    .replace(wholeLanguage, ' ')
    .replace(languageEnd, (whole, base: string) => (ofBase(languages, base) === undefined ? whole : ' '))
    .replace(unitEnd, (whole, unit: string) => (unitCode(unit) === undefined ? whole : ' '));
  const currency = currencyOf(name)?.toLowerCase();
  const words = foldHeader(bare)
    .split(' ')
    .filter((word) => word !== '' && word !== currency && currenciesBySign(word).length === 0);
  const end = words.at(-1) ?? '';
  if (words.length > 1 && /^\d{1,2}$/.test(end)) return words.slice(0, -1);
  return /^\p{L}{3,}\d{1,2}$/u.test(end) && !numbered.test(end)
    ? [...words.slice(0, -1), end.replace(/\d+$/, '')]
    : words;
}
