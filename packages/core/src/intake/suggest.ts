/** Suggests what each column is, from its name, its values and earlier batches, each with a reason and a score. */
import { type Attribute, foldCode, foldText, keyOf, parseValue, plainStyle, readGtin, units } from '../values/index.js';
import { currencyBeside, figuresOf, flatHelpers, helperColumns } from './beside.js';
import { partOf } from './cells.js';
import { type Column, type Naming, describe, ofBase } from './column.js';
import { withMakersNumber } from './makers.js';
import { type ColumnMap, type ColumnTarget, markOf } from './mapping.js';
import { type WordTarget, attributeOf, guessLanguage, vocabulary } from './vocabulary.js';

export interface Suggestion {
  column: string;
  target: ColumnTarget;
  /** 0–100: how sure. */
  score: number;
  why: string;
}

/** What buyers pay, whoever names it: of a supplier that is advice. */
const sellingPrice = /^(?:selling price|verkaufspreis|vk|vk brutto|utpris|forsaljningspris)$/;

export interface SuggestSetup extends Naming {
  /** Names as the header has them. */
  columns: readonly string[];
  dictionary: ReadonlyMap<string, Attribute>;
  /** The mapping last confirmed for this supplier, if any. */
  remembered?: ColumnMap | undefined;
  /** Translations of values confirmed for this supplier in any earlier batch, by attribute. */
  learnt?: ReadonlyMap<string, Record<string, string>> | undefined;
  /** Language of texts whose column says none. */
  language: string;
  /** Currency of amounts whose column names none. */
  currency?: string | undefined;
  /** The company's own sheet: its prices are what buyers pay; a supplier's are what goods cost us. */
  isOwn?: boolean | undefined;
  /** Name of the supplier, by which goods of its own making are known. */
  supplier?: string | undefined;
}

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
    return found.map((suggestion) => {
      if (suggestion.target.to === 'ignore') return suggestion;
      const mark = markOf(suggestion.target);
      const first = taken.get(mark);
      if (first !== undefined && first !== i && !joins(suggestion.target) && bothFilled(setup.sample, first, i))
        return {
          column: column.name,
          target: { to: 'ignore' as const },
          score: 30,
          why: `“${columns[first]?.name ?? ''}” already fills what its name suggests`,
        };
      if (first === undefined) taken.set(mark, i);
      return { ...suggestion, target: withLearnt(suggestion.target, learnt) };
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

function byName(column: Column, columns: readonly Column[], setup: SuggestSetup): Suggestion[] | undefined {
  const { dictionary } = setup;
  const row = (target: ColumnTarget, score: number, why: string): Suggestion[] => [
    { column: column.name, target, score, why },
  ];
  const price =
    /^(?:(sale) )?(?:price|preis|pris)$/.exec(column.word) ??
    (/^(?:sale|angebot|angebotspreis|reapris)$/.test(column.word) ? ['', 'sale'] : null);
  if (price) return pricesByName(column, columns, setup, price[1] === 'sale' ? 'sale' : 'regular');
  if (sellingPrice.test(column.word) && setup.isOwn !== false) return pricesByName(column, columns, setup, 'regular');
  if (column.word === 'id' || column.word === 'number')
    return setup.variantPath && !column.isVariant
      ? row({ to: 'family' }, 88, 'it names the item that the variants share')
      : row({ to: 'key' }, 88, 'it names each item');
  if (['from', 'to', 'unit'].includes(column.word) && column.parent) return spanByName(column, setup);
  if (column.parent === 'brand' && column.word === 'name' && keyOf(dictionary, 'brand') !== undefined)
    return row({ to: 'attribute', attribute: keyOf(dictionary, 'brand') ?? '' }, 90, 'the name of the brand');
  const word = vocabulary.get(column.word);
  if (word) {
    if (word.target.to !== 'attribute') return row(word.target, 94, `its name is a word for ${sayTarget(word.target)}`);
    const definition = attributeOf(word.target.attribute, dictionary);
    if (definition) {
      const score = column.parent === undefined || column.isVariant ? 94 : 82;
      return [
        dress(
          column,
          columns,
          { ...word.target, attribute: definition.key },
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
    if (
      [definition.label, definition.key, ...(definition.aliases ?? [])].some(
        (name) => foldCode(name) === foldCode(column.word),
      )
    )
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
  const amounts = { ...(currency ? { currency } : {}), ...(beside ? { currencyFrom: beside.name } : {}) };
  const cost = keyOf(setup.dictionary, 'purchasePrice');
  if (setup.isOwn === false && kind === 'regular' && cost !== undefined)
    return [
      {
        column: column.name,
        target: { to: 'attribute', attribute: cost, ...amounts },
        score: named ? 85 : 68,
        why: `a supplier’s price is what goods cost us${named ? '' : `; no currency is named, ${taken}`}`,
      },
    ];
  return [
    {
      column: column.name,
      target: { to: 'price', kind, ...amounts },
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
  const definition = target?.to === 'attribute' ? attributeOf(target.attribute, dictionary) : undefined;
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

function dress(
  column: Column,
  columns: readonly Column[],
  target: Extract<WordTarget, { to: 'attribute' }>,
  definition: Attribute,
  wordLanguage: string | undefined,
  { language, currency, languages = [] }: SuggestSetup,
  score: number,
  why: string,
): Suggestion {
  const text = definition.perLanguage
    ? (column.language ??
      ofBase(languages, guessLanguage(column.values) ?? '') ??
      ofBase(languages, wordLanguage ?? '') ??
      language)
    : undefined;
  const figures = figuresOf(column, columns, definition, currency);
  return {
    column: column.name,
    target: { ...target, ...(text ? { language: text } : {}), ...figures },
    score,
    why: figures.unitFrom ? `${why}, its unit in “${figures.unitFrom}”` : why,
  };
}

/** Different values that are looked at to tell what a column is. */
const mostTold = 40;

/** A column whose name says nothing: its values may. */
function byValues(column: Column, dictionary: ReadonlyMap<string, Attribute>): Suggestion[] {
  const { name, unit } = column;
  // A few dozen different ones say as much as hundreds.
  const values = column.values.length > mostTold ? [...new Set(column.values)].slice(0, mostTold) : column.values;
  const share = (test: (value: string) => boolean) => values.filter(test).length / Math.max(1, values.length);
  const row = (target: ColumnTarget, score: number, why: string): Suggestion[] => [
    { column: name, target, score, why },
  ];
  const gtin = keyOf(dictionary, 'gtin');
  if (gtin !== undefined && values.length >= 3 && share((value) => readGtin(value).ok) > 0.8)
    return row({ to: 'attribute', attribute: gtin }, 80, 'most of its values are true GTINs');
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
    return row(
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
    return row({ to: 'attribute', attribute: closed.key }, 58, `most of its values are on the list of ${closed.label}`);
  return row({ to: 'ignore' }, 0, 'nothing in its name or values says what it is');
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
