/**
 * What a view shows and what it leaves out, answered from the goods held in memory. First all is gathered that has to be waited
 * for, of the database among others; then it is answered at one go, whatever others ask or change meanwhile.
 */
import { type View, windowRows } from '@velvet-shelf/contract';
import { type Comparison, comparisonsIn, soughtText } from '@velvet-shelf/core/conditions';
import type { Attribute } from '@velvet-shelf/core/values';
import { Bits, type Column, comparedRows, matchingRows } from '@velvet-shelf/core/views';
import { type SQL, sql } from 'drizzle-orm';
import { type Database, queryRows } from '../../db/client.js';
import { type Dictionary, loadDictionary } from '../../dictionary/dictionary.js';
import { type LookedAt, attributeIn, foundAlike, isLong, putAside, saying, toComplete, wordsOf } from '../filter.js';
import type { HeldGoods, Own } from './goods.js';
import { type Sorting, sortingOf } from './sorting.js';

export type Question = { ask: 'first' | 'all' | 'counts'; view: LookedAt };

export interface Counts {
  variants: number;
  families: number;
  leftOut: { reason: string; variants: number; withStock: number }[];
}

type Products = readonly number[];

/** What a comparison is answered by: keys of values, or products that the database finds in long texts. */
type ComparedBy = { attribute: Attribute; column: Column; name: string } | { attribute: Attribute; products: Products };

interface Gathered {
  view: LookedAt;
  dictionary: Dictionary;
  compared: Map<Comparison, ComparedBy>;
  /** Words that goods must have, and products that have words like the others. */
  exact: string[];
  like: Products[];
  texts: readonly Own[];
  complete: Products | undefined;
  aside: Products | undefined;
  states: readonly Own[];
}

export async function answerTo(db: Database, held: HeldGoods, { ask, view }: Question): Promise<number[] | Counts> {
  const gathered = await gather(db, held, view);
  if (ask === 'counts') {
    const stock = await held.ownColumn('stock');
    return count(held, lookingAt(held, gathered), stock);
  }
  const sorting = await sortingOf(held, view, gathered.dictionary);
  return walk(held, lookingAt(held, gathered), sorting, view, ask === 'first' ? windowRows : Infinity);
}

async function gather(db: Database, held: HeldGoods, view: LookedAt): Promise<Gathered> {
  const dictionary = await loadDictionary(db);
  const products = async (which: SQL): Promise<Products> =>
    (await queryRows<{ id: number }>(db, sql`SELECT t.id FROM (${which}) t(id)`)).map(({ id }) => id);
  const compared = new Map<Comparison, ComparedBy>();
  for (const comparison of comparisonsIn(view.condition)) {
    const { attribute, language } = attributeIn(comparison, dictionary);
    const sought = soughtText(comparison, attribute);
    compared.set(
      comparison,
      sought === undefined
        ? {
            attribute,
            column: await held.column(attribute, language, dictionary),
            name: JSON.stringify([comparison, language]),
          }
        : { attribute, products: await products(saying(attribute, language, sought)) },
    );
  }
  const words = wordsOf(view.search);
  const isMeant = (word: string) => view.isLike === true && isLong(word);
  const like: Products[] = [];
  for (const word of words.filter(isMeant)) like.push(await products(foundAlike(word)));
  return {
    ...{ view, dictionary, compared, like },
    exact: words.filter((word) => !isMeant(word)),
    texts: words.length > 0 ? await held.ownColumn('found') : [],
    complete: view.toComplete ? await products(toComplete) : undefined,
    aside: view.everything ? undefined : await products(putAside),
    states: view.everything ? [] : await held.ownColumn('state'),
  };
}

type Test = (row: number) => boolean;

/** The tests a view puts to goods, in the order in which what it leaves out is told. */
interface Looking {
  tests: { passes: Test; reason: (row: number) => string }[];
  shows: Test;
}

function lookingAt(held: HeldGoods, { view, ...gathered }: Gathered): Looking {
  const { exact, texts, states } = gathered;
  const matching = matchingRows(view.condition, held.size, (comparison) => rowsOf(comparison, held, gathered));
  const like = gathered.like.map((products) => held.rowsOf(products));
  const complete = gathered.complete && held.rowsOf(gathered.complete);
  const aside = gathered.aside && held.rowsOf(gathered.aside);
  const holds: Test = (row) => matching.has(row);
  const isFound: Test = (row) =>
    like.every((rows) => rows.has(row)) && exact.every((word) => String(texts[row]).includes(word));
  const isShownDaily: Test = view.everything ? () => true : (row) => held.isEveryday[row] === true;
  const isInSight: Test = (row) => !aside?.has(row);
  const isToComplete: Test = (row) => complete?.has(row) ?? true;
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

function rowsOf(
  comparison: Comparison,
  held: HeldGoods,
  { compared, dictionary }: Pick<Gathered, 'compared' | 'dictionary'>,
): Bits {
  const by = compared.get(comparison);
  if (!by) return Bits.none(held.size);
  if ('products' in by) return held.rowsOf(by.products);
  return held.rowsPassing(by.name, dictionary, () => comparedRows(comparison, by.attribute, by.column, held.size));
}

/** Products of a view in its order, `most` of them. */
function walk(
  held: HeldGoods,
  { shows }: Looking,
  { name, compare, isByFamily }: Sorting,
  { show }: View,
  most: number,
) {
  const { rows } = held.order(name, compare);
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
    if (isByFamily && show !== 'variants') found.add(held.units[row] ?? 0);
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
