/** A column of a file as it describes itself: by its name, unit, currency and language, and by its values. */
import { foldText, isCurrency, unitCode } from '../values/index.js';

export interface Column {
  name: string;
  /** Its name without unit, currency and language, folded; of a path the last part that says something. */
  word: string;
  /** The part of a path before the last. */
  parent: string | undefined;
  isVariant: boolean;
  unit: string | undefined;
  currency: string | undefined;
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
  return {
    name,
    word: wordOf(last, languages),
    parent: saying.length > 1 ? wordOf(saying[saying.length - 2] ?? '', languages) : undefined,
    isVariant: inVariant,
    unit: unitCode(bracket) ?? unitCode(unitEnd.exec(name)?.[1] ?? ''),
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
