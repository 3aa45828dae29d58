/** Columns of amounts: whose price each is, in which currency, with or without VAT. */
import { keyOf, parseDecimal } from '../values/index.js';
import { currencyBeside } from './beside.js';
import { type Heard, type PriceRank, type Surroundings, hear, taxOf } from './candidates.js';
import type { Column } from './column.js';
import { type ColumnTarget, markOf } from './mapping.js';
import type { Choice, SuggestSetup } from './suggest.js';
import type { Sense } from '../catalog/index.js';

/** The currency a header names: its code, or of what its sign may stand for the one that is ours, or of the tongue. */
function currencyOf({ currency, signs }: Column, setup: SuggestSetup, around: Surroundings): string | undefined {
  if (currency !== undefined) return currency;
  if (signs.length === 0) return undefined;
  const lands = [...around.tongues]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 1)
    .map(([language]) => new Intl.Locale(language).maximize().region ?? '');
  return (
    signs.find((code) => code === setup.currency) ??
    // The first two letters of a currency are its country's (ISO 4217 takes them from ISO 3166-1).
    signs.find((code) => lands.includes(code.slice(0, 2))) ??
    signs[0]
  );
}

export function priceChoice(
  heard: Heard,
  column: Column,
  columns: readonly Column[],
  setup: SuggestSetup,
  around: Surroundings,
  p: number,
  score: number,
): Choice[] {
  const beside = currencyBeside(column, columns);
  const inHeader = currencyOf(column, setup, around);
  const inCells = mostFrequent(beside?.values ?? [])?.toUpperCase();
  const named = inHeader ?? inCells;
  const currency = named ?? setup.currency;
  const amounts = { ...(currency ? { currency } : {}), ...(beside && !inHeader ? { currencyFrom: beside.name } : {}) };
  const tax = taxOf(column.all);
  const rank = around.ranks?.get(column);
  // A name that says what goods cost is not outvoted by where its amounts stand.
  const isPlain = !hear(column, around).some(({ sense, weight }) => sense === 'purchasePrice' && weight > 1.6);
  const meant = meantBy(heard.sense, tax, setup, around, isPlain ? rank : undefined);
  const said = named
    ? inHeader
      ? `, in ${currency} as its name says`
      : `, its currency in “${beside?.name}”`
    : currency
      ? `; no currency is named, ${currency} is taken`
      : '; no currency is named: say which the file is in';
  const isSure = named !== undefined || heard.sense !== 'price';
  // What goods cost is not more than what they are sold for, whatever a header says.
  const isOdd =
    (rank === 'highest' && meant === 'purchasePrice') || (rank === 'lowest' && meant === 'recommendedPrice');
  const sure = isOdd ? Math.min(p, 0.45) : isSure ? p : Math.min(p, 0.86);
  const make = (target: ColumnTarget, why: string): Choice[] => [
    {
      targets: [{ column: column.name, target, score: Math.min(score, Math.round(100 * sure)), why: `${why}${said}` }],
      marks: [markOf(target)],
      p: sure,
    },
  ];
  if (meant === 'price' || meant === 'salePrice') {
    const kind = meant === 'salePrice' ? 'sale' : 'regular';
    const keeps = setup.pricesWithVat ?? true;
    const vat = tax !== undefined && (tax === 'with') !== keeps ? { vat: { is: tax, rate: '' } } : {};
    const note =
      'vat' in vat ? `, ${tax} VAT, which ours are ${keeps ? 'with' : 'without'}: it waits for the rate` : '';
    return make(
      { to: 'price', kind, ...amounts, ...vat },
      `${meant === 'salePrice' ? 'a sale price' : 'a price'}${note}`,
    );
  }
  const attribute = keyOf(setup.dictionary, meant);
  if (attribute === undefined) return [];
  return make(
    { to: 'attribute', attribute, ...amounts },
    meant === 'purchasePrice'
      ? heard.sense === 'purchasePrice'
        ? 'what goods cost us'
        : 'a supplier’s price is what goods cost us'
      : 'what buyers are advised to be asked',
  );
}

/** Rows in which amounts must stand side by side before their order says anything, and the share of them it must hold in. */
const fewRows = 4;
const mostRows = 0.9;
/** Two columns whose amounts lie further apart than this are no two prices of one thing. */
const widest = 12;

/** Where the amounts of each column of prices stand among those of the others, row by row; told once of a file. */
export function priceRanks(
  columns: readonly Column[],
  sample: readonly (readonly string[])[],
  around: Surroundings,
): ReadonlyMap<Column, PriceRank> {
  const amounts = new Map(
    columns.flatMap((column, i) =>
      isPriced(column, around) ? [[column, sample.map((row) => amountIn(row[i] ?? '', around))] as const] : [],
    ),
  );
  const ranks = new Map<Column, PriceRank>();
  for (const [column, own] of amounts) {
    const orders = [...amounts].flatMap(([other, theirs]) => (other === column ? [] : (orderOf(own, theirs) ?? [])));
    const [first] = orders;
    if (first && first !== 'amid' && orders.every((order) => order === first)) ranks.set(column, first);
  }
  return ranks;
}

/** Whether amounts lie below or above others; undefined where they cannot be held against each other. */
function orderOf(
  own: readonly (number | undefined)[],
  theirs: readonly (number | undefined)[],
): PriceRank | 'amid' | undefined {
  const ratios = own.flatMap((amount, row) => {
    const beside = theirs[row];
    return amount && beside ? [amount / beside] : [];
  });
  const middle = [...ratios].sort((a, b) => a - b)[Math.floor(ratios.length / 2)] ?? 1;
  if (ratios.length < fewRows || middle > widest || middle < 1 / widest) return undefined;
  const share = (test: (ratio: number) => boolean) => ratios.filter(test).length / ratios.length;
  if (share((ratio) => ratio < 1) >= mostRows) return 'lowest';
  return share((ratio) => ratio > 1) >= mostRows ? 'highest' : 'amid';
}

const priced: ReadonlySet<Sense> = new Set<Sense>(['price', 'purchasePrice', 'recommendedPrice']);
const isPriced = (column: Column, around: Surroundings): boolean =>
  hear(column, around).some(({ sense, weight }) => priced.has(sense) && weight > 1.6);

function amountIn(cell: string, { style }: Surroundings): number | undefined {
  const read = parseDecimal(cell.replace(/[^\d.,'\s-]/g, '').trim(), style);
  return read.ok && Number(read.value) > 0 ? Number(read.value) : undefined;
}

/** A supplier’s plain price is what goods cost us; with tax in it, or the highest of several, what buyers are to pay. */
function meantBy(
  sense: Sense,
  tax: 'with' | 'without' | undefined,
  { isOwn }: SuggestSetup,
  { dictionary }: Surroundings,
  rank: PriceRank | undefined,
): 'price' | 'salePrice' | 'purchasePrice' | 'recommendedPrice' {
  if (sense === 'salePrice') return 'salePrice';
  if (sense === 'purchasePrice') return isOwn !== false && tax === 'with' ? 'price' : 'purchasePrice';
  if (sense === 'recommendedPrice') return 'recommendedPrice';
  if (isOwn !== false) return 'price';
  if (tax === 'with' || (tax === undefined && rank === 'highest')) return 'recommendedPrice';
  return keyOf(dictionary, 'purchasePrice') === undefined ? 'price' : 'purchasePrice';
}

function mostFrequent(values: readonly string[]): string | undefined {
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}
