/** Variants that are laid out to be made by hand: as rows, as they are sent, and with what the server said of them. */
import type { api } from '@velvet-shelf/contract';
import type { z } from 'zod';
import { ApiProblem } from '../api/call';
import { count } from '../design/words';
import type { Laid } from './VariantTable';

type Sent = z.input<typeof api.byHand.make.body>['variants'][number];

/** A row for each combination, with its number. */
export const rowsOf = (
  combinations: readonly string[][],
  numbers: readonly string[],
  usual: (values: readonly string[]) => Partial<Pick<Laid, 'price' | 'stock' | 'isOut'>>,
): Laid[] =>
  combinations.map((values, i) => ({
    ...{ id: JSON.stringify(values), values, sku: numbers[i] ?? '', gtin: '', price: '', stock: '', isOut: false },
    ...usual(values),
  }));

export const asSent = ({ sku, values, gtin, price, stock }: Laid): Sent => ({
  sku,
  options: values,
  gtin,
  price,
  stock,
});

/** What is said of an option that has come to so many values; nothing where it is not many. */
export const sayMany = (values: number, many: number): string[] =>
  values > many ? [`more than ${count(many)}: shoppers lose their way among them`] : [];

/** What is said of the values of an option as they were typed; nothing where there are none. */
export const sayValues = (fresh: string, there: readonly string[], thereIs: string): string =>
  [fresh, ...(there.length > 0 ? [`${thereIs}: ${[...new Set(there)].join(', ')}`] : [])].join(' · ');

export const sayTooMany = (combinations: number, most: number): string =>
  `These options have ${count(combinations)} combinations; ${count(most)} can be made at once. Take values out, or make them in parts.`;

/** What the server said of each variant's fields, by the variant; a single one is ''. The rest stands below the form. */
export function faultsOfVariants(
  error: unknown,
  sent: readonly Laid[],
): { variants: Map<string, Record<string, string>>; other: string[] } {
  const variants = new Map<string, Record<string, string>>();
  if (error === null || error === undefined) return { variants, other: [] };
  const errors = error instanceof ApiProblem ? error.extra.errors : undefined;
  if (!Array.isArray(errors)) return { variants, other: [error instanceof Error ? error.message : String(error)] };
  const other: string[] = [];
  for (const { pointer, detail } of errors as { pointer: string; detail: string }[]) {
    const [, at, field = 'sku'] = /^\/body\/variants\/(\d+)(?:\/(\w+))?/.exec(pointer) ?? [];
    const id = at === undefined ? undefined : sent.length === 0 ? '' : sent[Number(at)]?.id;
    if (id === undefined) other.push(detail);
    // What a variant's options are refused for stands at its number too.
    else variants.set(id, { ...variants.get(id), [field === 'options' ? 'sku' : field]: detail });
  }
  return { variants, other };
}
