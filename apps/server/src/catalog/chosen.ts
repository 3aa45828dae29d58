/** Goods that somebody chose in the grid, families standing for their variants. */
import type { Chosen } from '@velvet-shelf/contract';
import { and, eq, inArray, or } from 'drizzle-orm';
import { type Executor, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { badRequest } from '../http/problem.js';
import { viewIds } from './grid.js';

export interface ChosenGoods {
  /** Variants and singles, each once. */
  variants: number[];
  /** Their units: families, and singles themselves. */
  units: number[];
}

export async function chosenGoods(on: Executor, chosen: Chosen): Promise<ChosenGoods> {
  const rows = await rowsOf(on, chosen);
  const { product } = tables;
  const found = await on
    .select({ id: product.id, unit: product.unitId })
    .from(product)
    .where(
      and(
        or(isIn(product.id, rows), isIn(product.familyId, rows)),
        inArray(product.kind, ['variant', 'single']),
        eq(product.stands, true),
      ),
    )
    .orderBy(product.id);
  if (found.length === 0) throw badRequest('None of these goods is there any more');
  return { variants: found.map(({ id }) => id), units: [...new Set(found.map(({ unit }) => unit))] };
}

/**
 * Of a view the variants it shows: a family of which some are outside it does not stand for those.
 * Of a view of families alone all their variants.
 */
async function rowsOf(on: Executor, chosen: Chosen): Promise<readonly number[]> {
  if ('rows' in chosen) return chosen.rows;
  const all = await viewIds(on, chosen.view);
  const except = new Set(chosen.except);
  const kept = all.filter((id) => !except.has(id));
  const { product } = tables;
  const kinds = await on
    .select({ id: product.id, family: product.familyId, kind: product.kind })
    .from(product)
    .where(isIn(product.id, kept));
  const single = kinds.filter(({ kind }) => kind !== 'family');
  const shown = single.length > 0 ? single : kinds;
  return shown.flatMap(({ id, family }) => (family !== null && except.has(family) ? [] : id));
}
