/** What a view shows and what it leaves out, answered from the goods held in memory. */
import { type View, windowRows } from '@velvet-shelf/contract';
import { type Comparison, soughtText } from '@velvet-shelf/core/conditions';
import { type ClosedList, closedList, listOf } from '@velvet-shelf/core/values';
import {
  Bits,
  type Key,
  type Order,
  type Rank,
  comparedRows,
  comparing,
  comparisonsIn,
  matchingRows,
} from '@velvet-shelf/core/views';
import { type SQL, sql } from 'drizzle-orm';
import { type Database, queryRows } from '../../db/client.js';
import { type Dictionary, loadDictionary } from '../../dictionary/dictionary.js';
import { badRequest } from '../../http/problem.js';
import { type LookedAt, attributeIn, foundAlike, isLong, putAside, saying, toComplete, wordsOf } from '../filter.js';
import { type HeldGoods, type Own, isOwnColumn } from './goods.js';

export type Question = { ask: 'first' | 'all' | 'counts'; view: LookedAt };

export interface Counts {
  variants: number;
  families: number;
  leftOut: { reason: string; variants: number; withStock: number }[];
}

export async function answerTo(db: Database, held: HeldGoods, { ask, view }: Question): Promise<number[] | Counts> {
  const dictionary = await loadDictionary(db);
  const looking = await lookAt(db, held, view, dictionary);
  if (ask === 'counts') return count(held, looking, await held.ownColumn('stock'));
  return walk(held, looking, await orderOf(held, view, dictionary), view, ask === 'first' ? windowRows : Infinity);
}

type Test = (row: number) => boolean;

/** The tests a view puts to goods, in the order in which what it leaves out is told. */
interface Looking {
  tests: { passes: Test; reason: (row: number) => string }[];
  shows: Test;
}

async function lookAt(db: Database, held: HeldGoods, view: LookedAt, dictionary: Dictionary): Promise<Looking> {
  const rowsBy = async (products: SQL) =>
    held.rowsOf((await queryRows<{ id: number }>(db, sql`SELECT t.id FROM (${products}) t(id)`)).map(({ id }) => id));
  const holds = await holding(view, held, dictionary, rowsBy);
  const isFound = await finding(view, held, rowsBy);
  const isComplete = view.toComplete ? await rowsBy(toComplete) : undefined;
  const out = view.everything ? undefined : await rowsBy(putAside);
  const states = view.everything ? [] : await held.ownColumn('state');
  const isShownDaily: Test = view.everything ? () => true : (row) => held.isEveryday[row] === true;
  const isInSight: Test = (row) => !out?.has(row);
  const isToComplete: Test = (row) => isComplete?.has(row) ?? true;
  return {
    tests: [
      { passes: isToComplete, reason: () => 'with nothing to complete' },
      { passes: holds, reason: () => 'outside the conditions' },
      { passes: isFound, reason: () => 'not found by the search' },
      { passes: isShownDaily, reason: (row) => String(states[row]) },
      { passes: isInSight, reason: () => 'set aside' },
    ],
    // The search reads texts: it comes last.
    shows: (row) =>
      held.isGood[row] === true &&
      isShownDaily(row) &&
      isToComplete(row) &&
      holds(row) &&
      isInSight(row) &&
      isFound(row),
  };
}

type RowsBy = (products: SQL) => Promise<Bits>;

/** Whether the condition of a view holds. */
async function holding({ condition }: View, held: HeldGoods, dictionary: Dictionary, rowsBy: RowsBy): Promise<Test> {
  const compared = new Map<Comparison, Bits>();
  for (const comparison of comparisonsIn(condition))
    if (!compared.has(comparison)) compared.set(comparison, await rowsOf(comparison, held, dictionary, rowsBy));
  const none = Bits.none(held.size);
  const rows = matchingRows(condition, held.size, (comparison) => compared.get(comparison) ?? none);
  return (row) => rows.has(row);
}

/** Whether goods have all words of the search, or words like them where that is looked for. */
async function finding({ search, isLike = false }: LookedAt, held: HeldGoods, rowsBy: RowsBy): Promise<Test> {
  const words = wordsOf(search);
  if (words.length === 0) return () => true;
  const texts = await held.ownColumn('found');
  const isMeant = (word: string) => isLike && isLong(word);
  const like: Bits[] = [];
  for (const word of words.filter(isMeant)) like.push(await rowsBy(foundAlike(word)));
  const exact = words.filter((word) => !isMeant(word));
  return (row) => like.every((rows) => rows.has(row)) && exact.every((word) => String(texts[row]).includes(word));
}

async function rowsOf(comparison: Comparison, held: HeldGoods, dictionary: Dictionary, rowsBy: RowsBy): Promise<Bits> {
  const { attribute } = attributeIn(comparison, dictionary);
  const language = attribute.perLanguage ? (comparison.language ?? dictionary.home) : '';
  const sought = soughtText(comparison, attribute);
  if (sought !== undefined) return rowsBy(saying(attribute, language, sought));
  const column = await held.column(attribute, language, dictionary);
  return held.rowsPassing(JSON.stringify([comparison, language]), dictionary, () =>
    comparedRows(comparison, attribute, column, held.size),
  );
}

async function orderOf(held: HeldGoods, view: View, dictionary: Dictionary): Promise<Order> {
  const isDown = view.sort.startsWith('-');
  const key = view.sort.replace(/^-/, '');
  if (key === 'family') return held.order(view.sort, () => byFamily(held, isDown));
  const { name, rank } = ranking(key, view, held, dictionary);
  return held.order(`${isDown ? '-' : ''}${name}`, async () => comparing(await rank(), isDown, (row) => held.id(row)));
}

type Compare = ConstructorParameters<typeof Order>[1];

/** A family’s own row, then its variants as they came. */
async function byFamily(held: HeldGoods, isDown: boolean): Promise<Compare> {
  const titles = await held.ownColumn('title');
  const title = (row: number) => titles[held.unitRow(row) ?? -1]?.toString();
  const byTitle = comparing({ figure: () => undefined, text: title }, isDown, (row) => held.units[row] ?? 0);
  const isMember = (row: number) => Number(held.id(row) !== held.units[row]);
  return (x, y) => byTitle(x, y) || isMember(x) - isMember(y) || held.id(x) - held.id(y);
}

/** What a view is put in order by, under a name that differs where the order could. */
function ranking(
  key: string,
  { show }: View,
  held: HeldGoods,
  dictionary: Dictionary,
): { name: string; rank: () => Promise<Rank> } {
  if (key === 'category') {
    const places = placesIn(listOf(dictionary.attributes, key));
    const rank = async () => {
      const categories = await held.ownColumn(key);
      return rankOf((row) => places.get(String(categories[row])));
    };
    return { name: [key, ...places.keys()].join(' '), rank };
  }
  if (isOwnColumn(key)) return { name: key, rank: async () => rankOf(valueIn(await held.ownColumn(key))) };
  const attribute = dictionary.attributes.get(key);
  if (show === 'families') throw badRequest(`Families cannot be sorted by “${key}”`);
  if (!attribute) throw badRequest(`There is no column “${key}” to sort by`);
  const language = attribute.perLanguage ? dictionary.home : '';
  const list = closedList(attribute);
  const places = list && placesIn(list);
  const rank = async () => {
    const column = await held.column(attribute, language, dictionary);
    return rankOf((row) => least(column.keys(row).map((one) => (places ? places.get(String(one)) : one))));
  };
  return { name: [`${attribute.key}@${language}`, ...(places?.keys() ?? [])].join(' '), rank };
}

/** Where each value stands in its list. */
const placesIn = (list: ClosedList) => new Map(list.values.map((value, place) => [value.key, place]));

const valueIn = (column: readonly Own[]) => (row: number) => column[row] ?? undefined;

const rankOf = (value: (row: number) => Key | undefined): Rank => ({
  figure: (row) => {
    const found = value(row);
    return typeof found === 'number' ? found : undefined;
  },
  text: (row) => {
    const found = value(row);
    return typeof found === 'string' ? found : undefined;
  },
});

const least = (keys: (Key | undefined)[]): Key | undefined =>
  keys.reduce((low, key) => (key !== undefined && (low === undefined || key < low) ? key : low), undefined);

/** Products of a view in its order, `most` of them. */
function walk(held: HeldGoods, { shows }: Looking, { rows }: Order, { show, sort }: View, most: number): number[] {
  const isByFamily = /^-?family$/.test(sort);
  const found = new Set<number>();
  if (show === 'families' && !isByFamily) {
    const units = new Set<number>();
    for (const row of rows) if (shows(row)) units.add(held.units[row] ?? 0);
    for (const row of rows) {
      if (found.size >= most) break;
      if (units.has(held.id(row))) found.add(held.id(row));
    }
    return [...found];
  }
  for (const row of rows) {
    if (found.size >= most) break;
    if (!shows(row)) continue;
    const unit = held.units[row] ?? 0;
    if (isByFamily && show !== 'variants') found.add(unit);
    if (show !== 'families' && found.size < most) found.add(held.id(row));
  }
  return [...found];
}

/** Variants a view shows, and those it leaves out, each under the first reason there is. */
function count(held: HeldGoods, { tests }: Looking, stock: readonly Own[]): Counts {
  const units = new Set<number>();
  const leftOut = new Map<string, { variants: number; withStock: number }>();
  let variants = 0;
  for (let row = 0; row < held.size; row++) {
    if (!held.isGood[row]) continue;
    const failed = tests.find(({ passes }) => !passes(row));
    if (!failed) {
      variants++;
      units.add(held.units[row] ?? 0);
      continue;
    }
    const reason = failed.reason(row);
    const sum = leftOut.get(reason) ?? { variants: 0, withStock: 0 };
    sum.variants++;
    if (Number(stock[row]) > 0) sum.withStock++;
    leftOut.set(reason, sum);
  }
  return { variants, families: units.size, leftOut: [...leftOut].map(([reason, sum]) => ({ reason, ...sum })) };
}
