/** What becomes of each column of a supplier's file. */
import { z } from 'zod';
import type { Attribute, Role } from '../values/index.js';

export const columnTargetSchema = z.discriminatedUnion('to', [
  z.strictObject({ to: z.literal('ignore') }),
  /** The supplier's article number: the key of the supplier record. */
  z.strictObject({ to: z.literal('key') }),
  /** The group its variants share. */
  z.strictObject({ to: z.literal('family') }),
  /** "diameter: 12 cm | glaze: Moss" */
  z.strictObject({ to: z.literal('options') }),
  z.strictObject({
    to: z.literal('attribute'),
    attribute: z.string().max(200),
    /** BCP 47; for attributes that have a value in each language. */
    language: z.string().optional(),
    /** Unit of bare numbers in this column. */
    unit: z.string().optional(),
    /** Currency of bare amounts in this column. */
    currency: z.string().optional(),
    /** Column that holds the unit or the currency of this one's figures, row by row. */
    unitFrom: z.string().optional(),
    currencyFrom: z.string().optional(),
    /** Their value → ours. Values not in it are read as they are. */
    values: z.record(z.string(), z.string()).optional(),
    /** Which part of a cell of several sizes ("12 x 20 cm"), counted from 1. */
    part: z.int().min(1).max(9).optional(),
    /** Where another column has filled the attribute already: put together with this between; absent = the first counts. */
    join: z.string().optional(),
  }),
  z.strictObject({
    to: z.literal('price'),
    kind: z.enum(['regular', 'sale']),
    /** Absent = what stands beside the amount, or what the file is in. */
    currency: z.string().max(3).optional(),
    currencyFrom: z.string().optional(),
    /** Its amounts are with or without VAT, ours the other way: the rate in percent they are converted by, empty until somebody says it. */
    vat: z
      .strictObject({
        is: z.enum(['with', 'without']),
        rate: z.string().regex(/^(?:\d{1,2}(?:\.\d{1,3})?)?$/, 'A rate in percent, such as 25 or 5.5'),
      })
      .optional(),
  }),
  z.strictObject({ to: z.literal('saleFrom') }),
  z.strictObject({ to: z.literal('saleTo') }),
  z.strictObject({ to: z.literal('stock') }),
  /** Own sheet: which supplier the goods are bought from, and that supplier's article number. */
  z.strictObject({ to: z.literal('boughtFrom') }),
  z.strictObject({ to: z.literal('theirNumber') }),
]);
export type ColumnTarget = z.infer<typeof columnTargetSchema>;

/** A column may stand in it several times: once for each thing it feeds. */
export const columnMapSchema = z.array(z.strictObject({ column: z.string(), target: columnTargetSchema }));
export type ColumnMap = z.infer<typeof columnMapSchema>;

/** What is fed, whatever way the cell is read; two columns with the same mark feed the same thing. */
export function markOf(target: ColumnTarget): string {
  if (target.to === 'attribute') return `${target.attribute}@${target.language ?? ''}`;
  return target.to === 'price' ? `${target.kind} price ${target.currency ?? ''}`.trim() : target.to;
}

/** What is wrong with a mapping, as sentences; none = it can be used. */
export function mappingFaults(map: ColumnMap): string[] {
  const faults: string[] = [];
  if (!map.some(({ target }) => target.to === 'key'))
    faults.push('No column is the article number: choose the one that names each row for this supplier');
  const seen = new Set<string>();
  for (const { column, target } of map) {
    if (target.to === 'ignore') continue;
    if (target.to === 'price' && target.vat?.rate === '')
      faults.push(
        `“${column}” is ${target.vat.is} VAT, our prices are ${target.vat.is === 'with' ? 'without' : 'with'}: say the VAT rate it is converted by`,
      );
    const mark = `${column}\u0001${markOf(target)}\u0001${target.to === 'attribute' ? (target.part ?? '') : ''}`;
    if (seen.has(mark)) faults.push(`“${column}” feeds the same thing twice (${markOf(target)}); take one of them out`);
    seen.add(mark);
  }
  return faults;
}

/** What a file stands for: a supplier's whole list, some goods of it, or news of goods that are known. */
export const scopes = ['whole', 'some', 'update'] as const;
export type Scope = (typeof scopes)[number];

/** How far a batch has come. */
export const batchStates = [
  'read',
  'trying',
  'tried',
  'applying',
  'applied',
  'undoing',
  'undone',
  'failed',
  'cancelled',
] as const;

const updates: ReadonlySet<Role> = new Set<Role>(['purchasePrice', 'recommendedPrice', 'state']);

const isUpdated = (attribute: Attribute | undefined) => attribute?.role !== undefined && updates.has(attribute.role);

/** How much of a file and of what its supplier listed before is the same goods. */
export interface Overlap {
  /** Goods the supplier lists by now. */
  listed: number;
  /** Rows that were looked at, and how many of them name goods it lists. */
  rows: number;
  known: number;
  /** Rows of the whole file, as far as can be told. */
  ofRows: number;
}

/** Shares from which on a file is taken for the list that came before, come again. */
const sameList = 0.5;

/**
 * A file that gives prices and stock alone updates goods; it describes none. Others are the supplier's whole list where most
 * of their rows name goods it listed before, and most of those goods: marking goods as gone takes more than a header.
 */
export function suggestScope(
  map: ColumnMap,
  { listed, rows, known, ofRows }: Overlap,
  dictionary: ReadonlyMap<string, Attribute>,
): Scope {
  const targets = map.map(({ target }) => target).filter(({ to }) => to !== 'ignore' && to !== 'key');
  const fast = targets.every((target) =>
    target.to === 'attribute'
      ? isUpdated(dictionary.get(target.attribute))
      : ['price', 'stock', 'saleFrom', 'saleTo'].includes(target.to),
  );
  if (fast && targets.length > 0) return 'update';
  const share = rows === 0 ? 0 : known / rows;
  return listed > 0 && share >= sameList && share * ofRows >= sameList * listed ? 'whole' : 'some';
}
