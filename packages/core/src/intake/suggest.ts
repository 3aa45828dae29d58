/** Suggests what each column is, from its name, its values and earlier batches, each with a reason and a score. */
import {
  type Attribute,
  foldCode,
  foldText,
  isCurrency,
  parseValue,
  plainStyle,
  readGtin,
  unitCode,
  units,
} from '../values/index.js';
import { contentLanguages } from '../catalog/index.js';
import { partOf } from './cells.js';
import { withMakersNumber } from './makers.js';
import { type ColumnMap, type ColumnTarget, markOf } from './mapping.js';
import { type WordTarget, guessLanguage, vocabulary } from './vocabulary.js';

export interface Suggestion {
  column: string;
  target: ColumnTarget;
  /** 0–100: how sure. */
  score: number;
  why: string;
}

export interface SuggestSetup {
  /** Names as the header has them. */
  columns: readonly string[];
  /** The first rows, each as long as `columns`. */
  sample: readonly (readonly string[])[];
  dictionary: ReadonlyMap<string, Attribute>;
  /** The mapping last confirmed for this supplier, if any. */
  remembered?: ColumnMap | undefined;
  /** Translations of values confirmed for this supplier in any earlier batch, by attribute. */
  learnt?: ReadonlyMap<string, Record<string, string>> | undefined;
  /** Language of texts whose column says none. */
  language: string;
  /** Column names are paths of keys joined by dots. */
  isNested?: boolean | undefined;
  /** Nested documents: path of the list of variants in an item. */
  variantPath?: string | null | undefined;
  /** Currency of amounts whose column names none. */
  currency?: string | undefined;
  /** The company's own sheet: its prices are what buyers pay; a supplier's are what goods cost us. */
  isOwn?: boolean | undefined;
  /** Name of the supplier, by which goods of its own making are known. */
  supplier?: string | undefined;
}

interface Column {
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
const languageEnd = new RegExp(`[\\s_([-](${contentLanguages.map((one) => one.slice(0, 2)).join('|')})[\\])]?$`, 'i');
/** "Height in cm", "Höhe cm": a unit at the end of a name, with or without a word before it. */
const unitEnd = /[\s_](?:in\s+)?(?!in$)(\p{L}+)$/u;
/** What buyers pay, whoever names it: of a supplier that is advice. */
const sellingPrice = /^(?:selling price|verkaufspreis|vk|vk brutto|utpris|forsaljningspris)$/;

export function suggestColumns(setup: SuggestSetup): Suggestion[] {
  const { remembered, learnt, dictionary } = setup;
  const earlier = new Map<string, ColumnTarget[]>();
  for (const { column, target } of remembered ?? [])
    earlier.set(foldText(column), [...(earlier.get(foldText(column)) ?? []), target]);
  const columns = setup.columns.map((name, i) => describe(name, i, setup));
  const taken = new Map<string, number>();
  const helpers = setup.isNested ? helperColumns(columns) : flatHelpers(columns);
  const suggestions = columns.flatMap((column, i): Suggestion[] => {
    const known = earlier.get(foldText(column.name));
    if (known)
      return known.map((target) => ({
        column: column.name,
        target: withLearnt(target, learnt),
        score: 100,
        why: 'as confirmed for this supplier before',
      }));
    const helped = helpers.get(column.name);
    if (helped)
      return [
        {
          column: column.name,
          target: { to: 'ignore' },
          score: 85,
          why: helped.of ? `it is the ${helped.kind} of “${helped.of}”` : `it is the ${helped.kind} of the amounts`,
        },
      ];
    const found = byName(column, columns, setup) ?? byValues(column, dictionary);
    return found.map((one) => {
      if (one.target.to === 'ignore') return one;
      const mark = markOf(one.target);
      const first = taken.get(mark);
      if (first !== undefined && first !== i && !joins(one.target) && bothFilled(setup.sample, first, i))
        return {
          column: column.name,
          target: { to: 'ignore' as const },
          score: 30,
          why: `“${columns[first]?.name ?? ''}” already fills what its name suggests`,
        };
      if (first === undefined) taken.set(mark, i);
      return { ...one, target: withLearnt(one.target, learnt) };
    });
  });
  return withMakersNumber(suggestions, columns, setup);
}

const joins = (target: ColumnTarget) =>
  target.to === 'attribute' && (target.join !== undefined || target.part !== undefined);

/** Two columns may feed one thing where no row has both: sheets of one workbook. */
function bothFilled(sample: readonly (readonly string[])[], a: number, b: number): boolean {
  return sample.some((row) => (row[a] ?? '').trim() !== '' && (row[b] ?? '').trim() !== '');
}

function withLearnt(target: ColumnTarget, learnt: SuggestSetup['learnt']): ColumnTarget {
  if (target.to !== 'attribute') return target;
  const values = learnt?.get(target.attribute);
  return values ? { ...target, values: { ...values, ...target.values } } : target;
}

function describe(name: string, i: number, { sample, variantPath, isNested }: SuggestSetup): Column {
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
    language: languages.exec(name)?.[1] ?? contentLanguages.find((one) => one.slice(0, 2) === end),
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

/** Columns that only say the unit or currency of another: "height.unit", "offers.priceCurrency". */
interface Helper {
  /** The column it helps; undefined = all that need it. */
  of: string | undefined;
  kind: 'unit' | 'currency';
}

function helperColumns(columns: readonly Column[]): Map<string, Helper> {
  const helpers = new Map<string, Helper>();
  for (const column of columns) {
    const cut = column.name.lastIndexOf('.');
    if (cut < 0) continue;
    const head = column.name.slice(0, cut);
    const kind = /^@?(?:unit|unitCode|unitText)$/.test(column.name.slice(cut + 1))
      ? 'unit'
      : /^@?(?:currency|priceCurrency)$/.test(column.name.slice(cut + 1))
        ? 'currency'
        : undefined;
    const names =
      kind === 'unit' ? [head, `${head}.value`] : [head, `${head}.value`, `${head}.price`, `${head}.amount`];
    const of = kind && columns.find((one) => names.includes(one.name) && one !== column);
    if (kind && of) helpers.set(column.name, { of: of.name, kind });
  }
  return helpers;
}

/** Headers of a column that says what currency or unit a figure beside it is in, folded. */
const currencyWords =
  /^(?:currency|currency code|price currency|iso currency|wahrung|wahrungscode|valuta|valutakod|valutakode)$/;
const unitWords = /^(?:unit|units|uom|unit of measure|einheit|masseinheit|mengeneinheit|enhet|mattenhet)$/;

/** The same of a table: a column of currencies is that of all its amounts, one of units that of the figures left of it. */
function flatHelpers(columns: readonly Column[]): Map<string, Helper> {
  const helpers = new Map<string, Helper>();
  columns.forEach((column, i) => {
    if (isCurrencyColumn(column)) helpers.set(column.name, { of: undefined, kind: 'currency' });
    const of = unitOwner(column, columns[i - 1], columns);
    if (of) helpers.set(column.name, { of: of.name, kind: 'unit' });
  });
  return helpers;
}

const mostAre = (values: readonly string[], test: (value: string) => boolean) =>
  values.length > 0 && values.filter(test).length > 0.8 * values.length;

const isCurrencyColumn = ({ word, values }: Column) =>
  currencyWords.test(word) && mostAre(values, (value) => /^[a-z]{3}$/i.test(value) && isCurrency(value));

/** The column whose figures this one gives the unit of: "Weight unit" that of "Weight", "Unit" that left of it. */
function unitOwner(column: Column, left: Column | undefined, columns: readonly Column[]): Column | undefined {
  if (!mostAre(column.values, (value) => unitCode(value) !== undefined)) return undefined;
  const head = /^(.*\S) (?:unit|uom|einheit|enhet)$/.exec(column.word)?.[1];
  if (head !== undefined) return columns.find((one) => one !== column && one.word === head);
  return unitWords.test(column.word) && left && mostAre(left.values, (value) => /^[\d.,]+$/.test(value))
    ? left
    : undefined;
}

function byName(column: Column, columns: readonly Column[], setup: SuggestSetup): Suggestion[] | undefined {
  const { dictionary } = setup;
  const one = (target: ColumnTarget, score: number, why: string): Suggestion[] => [
    { column: column.name, target, score, why },
  ];
  const price =
    /^(?:(sale) )?(?:price|preis|pris)$/.exec(column.word) ??
    (/^(?:sale|angebot|angebotspreis|reapris)$/.test(column.word) ? ['', 'sale'] : null);
  if (price) return pricesByName(column, columns, setup, price[1] === 'sale' ? 'sale' : 'regular');
  if (sellingPrice.test(column.word) && setup.isOwn !== false) return pricesByName(column, columns, setup, 'regular');
  if (column.word === 'id' || column.word === 'number')
    return setup.variantPath && !column.isVariant
      ? one({ to: 'family' }, 88, 'it names the item that the variants share')
      : one({ to: 'key' }, 88, 'it names each item');
  if (['from', 'to', 'unit'].includes(column.word) && column.parent) return spanByName(column, setup);
  if (column.parent === 'brand' && column.word === 'name')
    return one({ to: 'attribute', attribute: 'brand' }, 90, 'the name of the brand');
  const word = vocabulary.get(column.word);
  if (word) {
    if (word.target.to !== 'attribute') return one(word.target, 94, `its name is a word for ${sayTarget(word.target)}`);
    const definition = dictionary.get(word.target.attribute);
    if (definition) {
      const score = column.parent === undefined || column.isVariant ? 94 : 82;
      return [
        dress(
          column,
          columns,
          word.target,
          definition,
          word.language,
          setup,
          score,
          `its name is a word for ${definition.label}`,
        ),
      ];
    }
  }
  for (const definition of dictionary.values())
    if (foldCode(definition.label) === foldCode(column.word) || foldCode(definition.key) === foldCode(column.word))
      return [
        dress(
          column,
          columns,
          { to: 'attribute', attribute: definition.key },
          definition,
          undefined,
          setup,
          92,
          `the attribute ${definition.label} has this name`,
        ),
      ];
  return undefined;
}

function pricesByName(
  column: Column,
  columns: readonly Column[],
  setup: SuggestSetup,
  kind: 'regular' | 'sale',
): Suggestion[] {
  const beside = currencyBeside(column, columns);
  const named = column.currency ?? mostFrequent(beside?.values ?? [])?.toUpperCase();
  const currency = named ?? setup.currency;
  const taken = currency ? `${currency} is taken` : 'say which the file is in';
  if (setup.isOwn === false && kind === 'regular' && setup.dictionary.has('purchasePrice'))
    return [
      {
        column: column.name,
        target: {
          to: 'attribute',
          attribute: 'purchasePrice',
          ...(currency ? { currency } : {}),
          ...(beside ? { currencyFrom: beside.name } : {}),
        },
        score: named ? 85 : 68,
        why: `a supplier’s price is what goods cost us${named ? '' : `; no currency is named, ${taken}`}`,
      },
    ];
  return [
    {
      column: column.name,
      target: {
        to: 'price',
        kind,
        ...(currency ? { currency } : {}),
        ...(beside ? { currencyFrom: beside.name } : {}),
      },
      score: named ? 96 : 70,
      why: column.currency
        ? `“${kind === 'sale' ? 'sale' : 'price'}” with ${currency} in its name`
        : beside
          ? `a price, its currency in “${beside.name}”`
          : `a price without a currency; ${taken}`,
    },
  ];
}

/** "germination.from", ".to" and ".unit" are put together: "6–12 days". */
function spanByName(column: Column, { dictionary }: SuggestSetup): Suggestion[] | undefined {
  const target = vocabulary.get(column.parent ?? '')?.target;
  const definition = target?.to === 'attribute' ? dictionary.get(target.attribute) : undefined;
  if (!definition || definition.type !== 'text') return undefined;
  const join = column.word === 'to' ? '–' : column.word === 'unit' ? ' ' : undefined;
  return [
    {
      column: column.name,
      target: { to: 'attribute', attribute: definition.key, ...(join === undefined ? {} : { join }) },
      score: 80,
      why: `a part of ${definition.label}; its parts are put together`,
    },
  ];
}

/** The column that holds the currency of this one's amounts, row by row. */
function currencyBeside(column: Column, columns: readonly Column[]): Column | undefined {
  if (column.currency) return undefined;
  return (
    besideOf(column, columns, ['currency', 'priceCurrency', '@currency', '@priceCurrency']) ??
    columns.find((one) => one !== column && !one.name.includes('.') && isCurrencyColumn(one))
  );
}

function unitBeside(column: Column, columns: readonly Column[]): Column | undefined {
  if (column.unit) return undefined;
  return (
    besideOf(column, columns, ['unit', '@unit', 'unitCode', '@unitCode', 'unitText']) ??
    columns.find((one, i) => unitOwner(one, columns[i - 1], columns) === column)
  );
}

function besideOf(column: Column, columns: readonly Column[], names: string[]): Column | undefined {
  const head = column.name.slice(0, Math.max(0, column.name.lastIndexOf('.')));
  const heads = [column.name, head].filter((one) => one !== '');
  return columns.find(
    (one) => one !== column && heads.some((each) => names.some((name) => one.name === `${each}.${name}`)),
  );
}

function dress(
  column: Column,
  columns: readonly Column[],
  target: Extract<WordTarget, { to: 'attribute' }>,
  definition: Attribute,
  wordLanguage: string | undefined,
  { language, currency }: SuggestSetup,
  score: number,
  why: string,
): Suggestion {
  const text = definition.perLanguage
    ? (column.language ?? guessLanguage(column.values) ?? wordLanguage ?? language)
    : undefined;
  const figures = figuresOf(column, columns, definition, currency);
  return {
    column: column.name,
    target: { ...target, ...(text ? { language: text } : {}), ...figures },
    score,
    why: figures.unitFrom ? `${why}, its unit in “${figures.unitFrom}”` : why,
  };
}

/** What bare figures of a column are in: as its header, the column beside it or the company says. */
function figuresOf(
  column: Column,
  columns: readonly Column[],
  { type }: Attribute,
  currency: string | undefined,
): { unit?: string; unitFrom?: string; currency?: string; currencyFrom?: string } {
  if (type === 'measure') {
    const beside = unitBeside(column, columns);
    return { ...(column.unit ? { unit: column.unit } : {}), ...(beside ? { unitFrom: beside.name } : {}) };
  }
  if (type !== 'money') return {};
  const beside = currencyBeside(column, columns);
  const named = column.currency ?? (beside ? undefined : currency);
  return { ...(named ? { currency: named } : {}), ...(beside ? { currencyFrom: beside.name } : {}) };
}

/**
 * What a person chose of columns, with what their header or a neighbour says of units and currencies where the choice says
 * nothing: choosing a column oneself loses nothing of it.
 */
export function completeMap(map: ColumnMap, setup: SuggestSetup): ColumnMap {
  const columns = setup.columns.map((name, i) => describe(name, i, setup));
  return map.map((entry) => {
    const { target } = entry;
    const column = columns.find(({ name }) => name === entry.column);
    if (!column) return entry;
    if (target.to === 'price' && target.currency === undefined && target.currencyFrom === undefined) {
      const beside = currencyBeside(column, columns);
      return {
        ...entry,
        target: {
          ...target,
          ...(column.currency ? { currency: column.currency } : {}),
          ...(beside ? { currencyFrom: beside.name } : {}),
        },
      };
    }
    const definition = target.to === 'attribute' ? setup.dictionary.get(target.attribute) : undefined;
    if (target.to !== 'attribute' || !definition) return entry;
    if ([target.unit, target.unitFrom, target.currency, target.currencyFrom].some((one) => one !== undefined))
      return entry;
    return { ...entry, target: { ...target, ...figuresOf(column, columns, definition, undefined) } };
  });
}

/** Amounts whose column and neighbours name no currency are in the one a person says the file is in. */
export function withFileCurrency(map: ColumnMap, setup: SuggestSetup, currency: string | undefined): ColumnMap {
  const columns = setup.columns.map((name, i) => describe(name, i, setup));
  return map.map((entry) => {
    const { target } = entry;
    const isMoney =
      target.to === 'price' || (target.to === 'attribute' && setup.dictionary.get(target.attribute)?.type === 'money');
    const column = columns.find(({ name }) => name === entry.column);
    if (!isMoney || column?.currency || target.currencyFrom !== undefined) return entry;
    return { ...entry, target: { ...target, currency } };
  });
}

/** Different values that are looked at to tell what a column is. */
const mostTold = 40;

/** A column whose name says nothing: its values may. */
function byValues(column: Column, dictionary: ReadonlyMap<string, Attribute>): Suggestion[] {
  const { name, unit } = column;
  // A few dozen different ones say as much as hundreds.
  const values = column.values.length > mostTold ? [...new Set(column.values)].slice(0, mostTold) : column.values;
  const share = (test: (value: string) => boolean) => values.filter(test).length / Math.max(1, values.length);
  const one = (target: ColumnTarget, score: number, why: string): Suggestion[] => [
    { column: name, target, score, why },
  ];
  if (values.length >= 3 && share((value) => readGtin(value).ok) > 0.8)
    return one({ to: 'attribute', attribute: 'gtin' }, 80, 'most of its values are true GTINs');
  if (values.length >= 3 && share((value) => /^\s*[\d.,]+\s*\p{L}*\s*[x×*]\s*[\d.,]+/iu.test(value)) > 0.8) {
    const sizes = ['diameter', 'height'].filter((key) => dictionary.has(key));
    if (sizes.length === 2 && share((value) => partOf(value, 2) !== undefined) > 0.8)
      return sizes.map((attribute, i) => ({
        column: name,
        target: { to: 'attribute' as const, attribute, part: i + 1, ...(unit ? { unit } : {}) },
        score: 62,
        why: `part ${i + 1} of sizes such as “${values[0]}”`,
      }));
  }
  const style = { ...plainStyle, decimal: ',' as const, ...(unit ? { unit } : {}) };
  const measures = [...dictionary.values()].filter((each) => each.type === 'measure');
  const fitting = measures.filter(
    (each) => values.length >= 3 && share((value) => parseValue(value, style, each).ok) > 0.8,
  );
  const dimension = unit ? units[unit]?.dimension : fitting[0]?.dimension;
  const same = measures.filter((each) => each.dimension === dimension);
  if (fitting[0] && same.length === 1)
    return one(
      { to: 'attribute', attribute: fitting[0].key, ...(unit ? { unit } : {}) },
      60,
      `its unit fits only ${fitting[0].label}`,
    );
  const closed = [...dictionary.values()].find(
    (each) =>
      each.choices &&
      each.choices.length > 3 &&
      values.length >= 3 &&
      share((value) => parseValue(value, plainStyle, each).ok) > 0.8,
  );
  if (closed)
    return one({ to: 'attribute', attribute: closed.key }, 58, `most of its values are on the list of ${closed.label}`);
  return one({ to: 'ignore' }, 0, 'nothing in its name or values says what it is');
}

function mostFrequent(values: readonly string[]): string | undefined {
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

/** A target in words, for reasons and lists. */
export function sayTarget(target: { to: ColumnTarget['to'] }): string {
  const words: Record<ColumnTarget['to'], string> = {
    ignore: 'nothing',
    key: 'the article number',
    family: 'the family',
    options: 'the options',
    attribute: 'an attribute',
    price: 'a price',
    saleFrom: 'the first day of a sale',
    saleTo: 'the last day of a sale',
    stock: 'the stock',
    boughtFrom: 'the supplier goods are bought from',
    theirNumber: 'the supplier’s article number',
  };
  return words[target.to];
}
