/** What the server said of goods that were to be made by hand. */
import { ApiProblem } from '../api/call';
import type { Laid } from './VariantTable';

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
    const [, at, field] = /^\/body\/variants\/(\d+)(?:\/(\w+))?/.exec(pointer) ?? [];
    const id = at === undefined ? undefined : sent.length === 0 ? '' : sent[Number(at)]?.id;
    // What a whole variant is refused for stands at its number.
    if (id === undefined) other.push(detail);
    else
      variants.set(id, { ...variants.get(id), [field === 'options' || field === undefined ? 'sku' : field]: detail });
  }
  return { variants, other };
}
