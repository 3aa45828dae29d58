/** A column of a file as it describes itself: by its name, unit, currency and language, and by its values. */
import { contentLanguages } from '../catalog/index.js';
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
const languages = /\b([a-z]{2}-[A-Z]{2})\b/;
/** "Title (sv)", "name_de": a content language by its first half, at the end of a name. */
const languageEnd = new RegExp(
  `[\\s_([-](${contentLanguages.map((language) => language.slice(0, 2)).join('|')})[\\])]?$`,
  'i',
);
/** "Height in cm", "Höhe cm": a unit at the end of a name, with or without a word before it. */
const unitEnd = /[\s_](?:in\s+)?(?!in$)(\p{L}+)$/u;
/** How columns of a file are named. */
export interface Naming {
  /** The first rows, each as long as the header. */
  sample: readonly (readonly string[])[];
  /** Column names are paths of keys joined by dots. */
  isNested?: boolean | undefined;
  /** Nested documents: path of the list of variants in an item. */
  variantPath?: string | null | undefined;
}

/** The column of this name, the `i`-th of its file. */
export function describe(name: string, i: number, { sample, variantPath, isNested }: Naming): Column {
  const inVariant = Boolean(variantPath) && name.startsWith(`${variantPath}.`);
  const rest = inVariant ? name.slice((variantPath ?? '').length + 1) : name;
  const path = isNested ? rest.split('.').filter(Boolean) : [rest];
  const saying = path.at(-1) === 'value' && path.length > 1 ? path.slice(0, -1) : path;
  const last = saying.at(-1) ?? name;
  const bracket = /[[(]([^\])]+)[\])]/.exec(name)?.[1] ?? '';
  const end = languageEnd.exec(name)?.[1]?.toLowerCase();
  return {
    name,
    word: wordOf(last),
    parent: saying.length > 1 ? wordOf(saying[saying.length - 2] ?? '') : undefined,
    isVariant: inVariant,
    unit: unitCode(bracket) ?? unitCode(unitEnd.exec(name)?.[1] ?? ''),
    currency: currencyOf(name),
    language:
      languages.exec(name)?.[1] ?? contentLanguages.find((contentLanguage) => contentLanguage.slice(0, 2) === end),
    values: sample.map((row) => (row[i] ?? '').trim()).filter((value) => value !== ''),
  };
}

function wordOf(name: string): string {
  return foldText(
    name
      .replace(/[[(][^\])]*[\])]/g, '')
      .trim()
      .replace(new RegExp(`\\b${currencyOf(name) ?? '\\u0000'}\\b`, 'i'), '')
      .replace(languages, '')
      .replace(languageEnd, '')
      .replace(unitEnd, (whole, unit: string) => (unitCode(unit) === undefined ? whole : ''))
      .replaceAll('ß', 'ss')
      .replace(/([a-z])([A-Z])/g, '$1 $2'),
  )
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}
