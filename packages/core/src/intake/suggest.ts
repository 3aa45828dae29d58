/** Suggests what each column is, from its name, its cells, its neighbours and earlier batches, each with a reason and a score. */
import { type Attribute, type ReadingStyle, foldText, plainStyle, withRole } from '../values/index.js';
import { figuresOf, flatHelpers, helperColumns } from './beside.js';
import { type By, type Heard, type Surroundings, headerOf, hear, likely, tonguesOf } from './candidates.js';
import { type Column, type Naming, describe, ofBase } from './column.js';
import { withMakersNumber } from './makers.js';
import { type ColumnMap, type ColumnTarget, markOf } from './mapping.js';
import { priceChoice, priceRanks } from './price-columns.js';
import { sharedTexts } from './shared.js';
import { sizeTargets } from './sizes.js';
import { type Traits, traitsOf } from './traits.js';
import { guessLanguage, stateWords } from './vocabulary.js';
import { seen, weigh } from './weigh.js';
import type { Sense } from '../catalog/index.js';

export interface Suggestion {
  column: string;
  target: ColumnTarget;
  /** How likely it is, in percent. */
  score: number;
  why: string;
}

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
  /** How the file writes figures. */
  style?: ReadingStyle | undefined;
  /** The company keeps its prices with VAT in them. */
  pricesWithVat?: boolean | undefined;
}

/** What a column may be, each way with its likelihood; the best first. */
export interface Choice {
  targets: Suggestion[];
  /** Things it feeds: two columns cannot both. */
  marks: string[];
  p: number;
}

/** Nothing is suggested that is not likelier than not. */
const even = 0.5;

export function suggestColumns(setup: SuggestSetup): Suggestion[] {
  const { remembered, learnt, dictionary } = setup;
  const earlier = new Map<string, ColumnTarget[]>();
  for (const { column, target: kept } of remembered ?? []) {
    const target = currentTarget(kept, dictionary);
    if (target) earlier.set(foldText(column), [...(earlier.get(foldText(column)) ?? []), target]);
  }
  const columns = setup.columns.map((name, i) => describe(name, i, setup));
  const helpers = setup.isNested ? helperColumns(columns) : flatHelpers(columns);
  const named: Surroundings = {
    dictionary,
    style: setup.style ?? plainStyle,
    isOwn: setup.isOwn !== false,
    tongues: tonguesOf(columns),
  };
  const around = {
    ...named,
    ranks: priceRanks(columns, setup.sample, named),
    shared: sharedTexts(columns, setup.sample, named),
  };
  const settled = columns.map((column): Suggestion[] | undefined => {
    const known = earlier.get(foldText(column.name));
    if (known)
      return known.map((target) => ({
        column: column.name,
        target: withLearnt(target, learnt),
        score: 100,
        why: 'as confirmed for this supplier before',
      }));
    const helped = helpers.get(column.name);
    if (!helped) return undefined;
    const why = helped.of ? `it is the ${helped.kind} of “${helped.of}”` : `it is the ${helped.kind} of the amounts`;
    return [{ column: column.name, target: { to: 'ignore' }, score: 95, why }];
  });
  const choices = columns.map((column, i) => (settled[i] ? [] : choicesFor(column, columns, setup, around)));
  const taken = new Map<string, number[]>();
  settled.forEach((known, i) => {
    for (const { target } of known ?? []) if (target.to !== 'ignore') take(taken, markOf(target), i);
  });
  const chosen = assign(choices, taken, setup);
  const suggestions = columns.flatMap((column, i): Suggestion[] => {
    const known = settled[i];
    if (known) return known;
    const choice = chosen.get(i);
    if (choice) return choice.targets.map((each) => ({ ...each, target: withLearnt(each.target, learnt) }));
    return [nothingOf(column, choices[i] ?? [], taken, columns)];
  });
  return withMakersNumber(suggestions, columns, setup);
}

/** A target by the attribute that is left where it was made one with another; undefined where there is none of its key. */
function currentTarget(target: ColumnTarget, dictionary: ReadonlyMap<string, Attribute>): ColumnTarget | undefined {
  if (target.to !== 'attribute') return target;
  const attribute = dictionary.get(target.attribute);
  return attribute && { ...target, attribute: attribute.key };
}

const take = (taken: Map<string, number[]>, mark: string, i: number) =>
  taken.set(mark, [...(taken.get(mark) ?? []), i]);

/** All columns together: the likeliest first, and whoever comes later takes its next best where a place is filled. */
function assign(choices: readonly Choice[][], taken: Map<string, number[]>, setup: SuggestSetup): Map<number, Choice> {
  const all = choices
    .flatMap((list, i) => list.map((choice) => ({ i, choice })))
    .filter(({ choice }) => choice.p >= even)
    .sort((a, b) => b.choice.p - a.choice.p || a.i - b.i);
  const chosen = new Map<number, Choice>();
  for (const { i, choice } of all) {
    if (chosen.has(i)) continue;
    const isFree = choice.marks.every((mark) =>
      (taken.get(mark) ?? []).every((other) => other === i || !bothFilled(setup.sample, other, i)),
    );
    if (!isFree) continue;
    chosen.set(i, choice);
    for (const mark of choice.marks) take(taken, mark, i);
  }
  return chosen;
}

/** Why nothing is suggested. */
function nothingOf(
  column: Column,
  choices: readonly Choice[],
  taken: ReadonlyMap<string, number[]>,
  columns: readonly Column[],
): Suggestion {
  const [best] = choices;
  const other = best && best.p >= even ? best.marks.flatMap((mark) => taken.get(mark) ?? [])[0] : undefined;
  const why =
    other === undefined
      ? 'nothing in its name or values says what it is'
      : `“${columns[other]?.name ?? ''}” already fills what its name suggests`;
  return { column: column.name, target: { to: 'ignore' }, score: other === undefined ? 0 : 30, why };
}

/** Two columns may feed one thing where no row has both: sheets of one workbook. */
function bothFilled(sample: readonly (readonly string[])[], a: number, b: number): boolean {
  return sample.some((row) => (row[a] ?? '').trim() !== '' && (row[b] ?? '').trim() !== '');
}

function withLearnt(target: ColumnTarget, learnt: SuggestSetup['learnt']): ColumnTarget {
  if (target.to !== 'attribute') return target;
  const values = learnt?.get(target.attribute);
  return values ? { ...target, values: { ...values, ...target.values } } : target;
}

function choicesFor(column: Column, columns: readonly Column[], setup: SuggestSetup, around: Surroundings): Choice[] {
  const span = spanByName(column, setup, around);
  if (span) return [span];
  const traits = traitsOf(column.values, around.style);
  const given = setup.isNested ? heardInPath(column, setup, around) : undefined;
  const heard = given ?? [...hear(column, around)];
  const byName = new Map(heard.map((one) => [`${one.sense} ${one.attribute ?? ''}`, one]));
  // What the cells show counts beside what the name says.
  for (const one of seen(traits, columns.indexOf(column))) {
    const named = byName.get(`${one.sense} `);
    byName.set(`${one.sense} `, named ? { ...named, weight: named.weight + 0.3 } : one);
  }
  return [...byName.values()]
    .flatMap((one) => choiceOf(one, column, columns, traits, setup, around))
    .sort((a, b) => b.p - a.p);
}

/** A path of keys: what stands above says what a bare “name”, “value” or “id” is of. */
function heardInPath(column: Column, setup: SuggestSetup, around: Surroundings): Heard[] | undefined {
  const { parent } = column;
  const word = column.words.join(' ');
  const one = (sense: Sense, why: string): Heard[] => [{ sense, weight: 4, by: 'part', why }];
  if (word === 'id' || word === 'number' || word === 'code')
    return setup.variantPath && !column.isVariant && word !== 'code'
      ? one('family', 'it names the item that the variants share')
      : one('key', 'it names each item');
  if (parent !== undefined && ['name', 'value', 'text', 'amount', 'price', 'url'].includes(word)) {
    const above = hear(headerOf(parent), around);
    if (above.some(({ weight }) => weight > 2)) return above;
  }
  return undefined;
}

/** "germination.from", ".to" and ".unit" are put together: "6–12 days". */
function spanByName(
  { name, words: [word = ''], parent }: Column,
  { dictionary }: SuggestSetup,
  around: Surroundings,
): Choice | undefined {
  if (parent === undefined || !['from', 'to', 'unit'].includes(word)) return undefined;
  const named = hear(headerOf(parent), around).find(({ weight }) => weight > 3);
  const attribute =
    named?.attribute === undefined ? named && attributeOf(named.sense, dictionary) : dictionary.get(named.attribute);
  if (!attribute || attribute.type !== 'text') return undefined;
  const join = word === 'to' ? '–' : word === 'unit' ? ' ' : undefined;
  const target: ColumnTarget = { to: 'attribute', attribute: attribute.key, ...(join === undefined ? {} : { join }) };
  const why = `a part of ${attribute.label}; its parts are put together`;
  return {
    targets: [{ column: name, target, score: 80, why }],
    marks: join === undefined ? [markOf(target)] : [],
    p: 0.8,
  };
}

function choiceOf(
  heard: Heard,
  column: Column,
  columns: readonly Column[],
  traits: Traits,
  setup: SuggestSetup,
  around: Surroundings,
): Choice[] {
  const fits =
    heard.attribute === undefined
      ? weigh(heard.sense, column, traits, around)
      : ofType(heard.attribute, column, traits, setup, around);
  const p = likely(heard.weight + fits);
  const score = Math.round(100 * p);
  const one = (target: ColumnTarget, what: string, marks = [markOf(target)]): Choice[] => [
    { targets: [{ column: column.name, target, score, why: sayWhy(heard, what) }], marks, p },
  ];
  switch (heard.sense) {
    case 'key':
    case 'family':
    case 'options':
    case 'stock':
    case 'saleFrom':
    case 'saleTo':
    case 'boughtFrom':
    case 'theirNumber':
      if ((heard.sense === 'boughtFrom' || heard.sense === 'theirNumber') && !around.isOwn)
        return nothing(column, p, heard);
      return one({ to: heard.sense }, sayTarget({ to: heard.sense }));
    case 'price':
    case 'salePrice':
    case 'purchasePrice':
    case 'recommendedPrice':
      return priceChoice(heard, column, columns, setup, around, p, score);
    case 'sizes': {
      const targets = sizeTargets(column, traits, setup.dictionary);
      if (targets.length === 0) return [];
      const why = `parts of sizes such as “${column.values[0] ?? ''}”`;
      return [
        {
          targets: targets.map((target) => ({ column: column.name, target, score, why })),
          marks: targets.map(markOf),
          p,
        },
      ];
    }
    case 'nothing':
      if (heard.attribute === undefined) return nothing(column, p, heard);
      break;
    default:
      break;
  }
  const attribute =
    heard.attribute === undefined ? attributeOf(heard.sense, setup.dictionary) : setup.dictionary.get(heard.attribute);
  if (!attribute || attribute.group === 'Sources') return [];
  const target = dress(column, columns, attribute, heard, setup);
  // Several columns of pictures feed one list.
  const isShared = attribute.many && (heard.sense === 'pictures' || heard.sense === 'morePictures');
  return one(target, attribute.label, isShared ? [] : [markOf(target)]);
}

const ways: Record<Exclude<By, 'cells'>, (what: string) => string> = {
  name: (what) => `its name is a word for ${what}`,
  part: (what) => `its name holds a word for ${what}`,
  end: (what) => `its name ends in a word for ${what}`,
  label: (what) => `the attribute ${what} has this name`,
};

/** In words for people; `what` it is taken for. */
const sayWhy = ({ by, why = '' }: Heard, what: string): string => (why !== '' || by === 'cells' ? why : ways[by](what));

/** What is known to feed nothing is as sure as what is known to feed something: it takes no other’s place. */
const nothing = (column: Column, p: number, heard: Heard): Choice[] => [
  {
    targets: [
      {
        column: column.name,
        target: { to: 'ignore' },
        score: Math.round(100 * p),
        why: heard.why ?? 'its name is of nothing that goods keep',
      },
    ],
    marks: [],
    p,
  },
];

/** An attribute named by the header: whether the cells can be its values. */
function ofType(key: string, column: Column, traits: Traits, setup: SuggestSetup, around: Surroundings): number {
  const attribute = setup.dictionary.get(key);
  if (!attribute) return -9;
  if (attribute.role) {
    const fits = weigh(attribute.role, column, traits, around);
    // The company named it itself: odd cells are rather odd values, unless they cannot be any.
    return fits <= -5 ? fits : Math.max(-2, fits);
  }
  const { type, dimension } = attribute;
  if (type === 'measure' && dimension)
    return traits.measures(dimension, column.unit) > 0.5 || traits.filled === 0 ? 0.5 : -2;
  if (type === 'number') return traits.number > 0.5 || traits.filled === 0 ? 0.5 : -1;
  return 0.3;
}

/** The attribute with a role; of further pictures the second, else the first. */
function attributeOf(sense: Sense, dictionary: ReadonlyMap<string, Attribute>): Attribute | undefined {
  if (sense !== 'morePictures') return withRole(dictionary, sense as Attribute['role'] & string)[0];
  const pictures = withRole(dictionary, 'pictures');
  return pictures[1] ?? pictures[0];
}

function dress(
  column: Column,
  columns: readonly Column[],
  definition: Attribute,
  heard: Heard,
  { language, currency, languages = [] }: SuggestSetup,
): Extract<ColumnTarget, { to: 'attribute' }> {
  const text = definition.perLanguage
    ? (column.language ??
      ofBase(languages, guessLanguage(column.values, bases(languages)) ?? '') ??
      ofBase(languages, heard.language ?? '') ??
      language)
    : undefined;
  const figures = figuresOf(column, columns, definition, currency);
  return {
    to: 'attribute',
    attribute: definition.key,
    ...(definition.role === 'state' ? { values: { ...stateWords } } : {}),
    ...(text ? { language: text } : {}),
    ...figures,
  };
}

const bases = (languages: readonly string[]) => languages.map((language) => language.split('-')[0] ?? language);

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
