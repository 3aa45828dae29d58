/** What a view is put in order by. */
import type { View } from '@velvet-shelf/contract';
import { type ClosedList, closedList, listOf } from '@velvet-shelf/core/values';
import { type Key, comparing } from '@velvet-shelf/core/views';
import type { Dictionary } from '../../dictionary/dictionary.js';
import { badRequest } from '../../http/problem.js';
import { type HeldGoods, type Own, isOwnColumn } from './goods.js';

export interface Sorting {
  /** Differs where the order could. */
  name: string;
  compare: (x: number, y: number) => number;
  /** A family’s own row, then its variants as they came. */
  isByFamily: boolean;
}

type ValueOf = (row: number) => Key | undefined;

/** With what it reads at hand; a 400 where there is nothing to sort by. */
export async function sortingOf(held: HeldGoods, { sort, show }: View, dictionary: Dictionary): Promise<Sorting> {
  const isDown = sort.startsWith('-');
  const key = sort.replace(/^-/, '');
  if (key === 'family')
    return { name: sort, compare: familiesIn(held, await held.ownColumn('title'), isDown), isByFamily: true };
  const along = (name: string, value: ValueOf): Sorting => ({
    name: `${isDown ? '-' : ''}${name}`,
    compare: comparing({ figure: ofType('number', value), text: ofType('string', value) }, isDown, (row) =>
      held.id(row),
    ),
    isByFamily: false,
  });
  if (key === 'category') {
    const places = placesIn(listOf(dictionary.attributes, key));
    const categories = await held.ownColumn(key);
    return along([key, ...places.keys()].join(' '), (row) => places.get(String(categories[row])));
  }
  if (isOwnColumn(key)) {
    const column = await held.ownColumn(key);
    return along(key, (row) => column[row] ?? undefined);
  }
  const attribute = dictionary.attributes.get(key);
  if (show === 'families') throw badRequest(`Families cannot be sorted by “${key}”`);
  if (!attribute) throw badRequest(`There is no column “${key}” to sort by`);
  const language = attribute.perLanguage ? dictionary.home : '';
  const column = await held.column(attribute, language, dictionary);
  const list = closedList(attribute);
  const places = list && placesIn(list);
  return along([`${attribute.key}@${language}`, ...(places?.keys() ?? [])].join(' '), (row) =>
    least(column.keys(row).map((one) => (places ? places.get(String(one)) : one))),
  );
}

function familiesIn(held: HeldGoods, titles: readonly Own[], isDown: boolean): Sorting['compare'] {
  const title = (row: number) => titles[held.unitRow(row) ?? -1]?.toString();
  const byTitle = comparing({ figure: () => undefined, text: title }, isDown, (row) => held.units[row] ?? 0);
  const isMember = (row: number) => Number(held.id(row) !== held.units[row]);
  return (x, y) => byTitle(x, y) || isMember(x) - isMember(y) || held.id(x) - held.id(y);
}

/** Where each value stands in its list. */
const placesIn = (list: ClosedList) => new Map(list.values.map((value, place) => [value.key, place]));

const least = (keys: (Key | undefined)[]): Key | undefined =>
  keys.reduce((low, key) => (key !== undefined && (low === undefined || key < low) ? key : low), undefined);

function ofType(type: 'number', value: ValueOf): (row: number) => number | undefined;
function ofType(type: 'string', value: ValueOf): (row: number) => string | undefined;
function ofType(type: string, value: ValueOf) {
  return (row: number) => {
    const found = value(row);
    return typeof found === type ? found : undefined;
  };
}
