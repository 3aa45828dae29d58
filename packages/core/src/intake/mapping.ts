/** What becomes of each column of a supplier's file. */
import { z } from 'zod';

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
    attribute: z.string(),
    /** BCP 47; for attributes that have a value in each language. */
    language: z.string().optional(),
    /** Unit of bare numbers in this column. */
    unit: z.string().optional(),
    /** Currency of bare amounts in this column. */
    currency: z.string().optional(),
    /** Their value → ours. Values not in it are read as they are. */
    values: z.record(z.string(), z.string()).optional(),
  }),
  z.strictObject({ to: z.literal('price'), kind: z.enum(['regular', 'sale']), currency: z.string() }),
  z.strictObject({ to: z.literal('saleFrom') }),
  z.strictObject({ to: z.literal('saleTo') }),
  z.strictObject({ to: z.literal('stock') }),
  /** Own sheet: which supplier the goods are bought from, and that supplier's article number. */
  z.strictObject({ to: z.literal('boughtFrom') }),
  z.strictObject({ to: z.literal('theirNumber') }),
]);
export type ColumnTarget = z.infer<typeof columnTargetSchema>;

export const columnMapSchema = z.array(z.strictObject({ column: z.string(), target: columnTargetSchema }));
export type ColumnMap = z.infer<typeof columnMapSchema>;

/** Targets that only one column can feed. */
const single = new Set(['key', 'family', 'options', 'saleFrom', 'saleTo', 'stock', 'boughtFrom', 'theirNumber']);

/** What is wrong with a mapping, as sentences; none = it can be used. */
export function mappingFaults(map: ColumnMap): string[] {
  const faults: string[] = [];
  if (!map.some(({ target }) => target.to === 'key'))
    faults.push('No column is the article number: choose the one that names each row for this supplier');
  const seen = new Map<string, string>();
  for (const { column, target } of map) {
    const mark =
      target.to === 'attribute'
        ? `${target.attribute} ${target.language ?? ''}`
        : target.to === 'price'
          ? `${target.kind} ${target.currency}`
          : target.to;
    const earlier = seen.get(mark);
    if (earlier !== undefined && (single.has(target.to) || target.to === 'attribute' || target.to === 'price'))
      faults.push(`“${earlier}” and “${column}” would both fill the same thing (${mark.trim()}); ignore one of them`);
    else if (target.to !== 'ignore') seen.set(mark, column);
  }
  return faults;
}
