/** Goods that somebody chose in the grid, families standing for their variants. */
import { type Chosen, mostChosen } from '@velvet-shelf/contract';
import { type SQL, sql } from 'drizzle-orm';
import { type Executor, ids, queryOne, queryRows } from '../db/client.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { badRequest } from '../http/problem.js';
import { viewFilter } from './filter.js';
import { openedView, storeIds } from './grid.js';

export interface ChosenGoods {
  /** Variants and singles, each once. */
  variants: number[];
  /** Their units: families, and singles themselves. */
  units: number[];
}

export async function chosenGoods(on: Executor, chosen: Chosen): Promise<ChosenGoods> {
  const found = await queryRows<{ id: number; unit: number }>(
    on,
    sql`SELECT p.id, p.unit_id AS unit FROM product p WHERE ${await areChosen(on, chosen)} ORDER BY p.id LIMIT ${mostChosen + 1}`,
  );
  if (found.length === 0) throw badRequest('None of these goods is there any more');
  if (found.length > mostChosen) throw badRequest(`${mostChosen} can be chosen at once; narrow the view`);
  return { variants: found.map(({ id }) => id), units: [...new Set(found.map(({ unit }) => unit))] };
}

/** How many there are, counted where they stand. */
export async function countChosen(on: Executor, chosen: Chosen): Promise<{ variants: number; families: number }> {
  const counted = await queryOne<{ variants: number; families: number }>(
    on,
    sql`SELECT count(*)::int AS variants, count(DISTINCT p.unit_id)::int AS families FROM product p WHERE ${await areChosen(on, chosen)}`,
  );
  return counted ?? { variants: 0, families: 0 };
}

/**
 * Of rows of the table `product` as p: they are among those chosen. Of a view it is the variants it shows, or counts where it
 * is of families: a family of which some are outside it does not stand for those.
 */
async function areChosen(on: Executor, chosen: Chosen): Promise<SQL> {
  const goods = sql`p.kind IN ('variant', 'single') AND p.stands`;
  if ('rows' in chosen)
    return sql`${goods} AND (p.id = ANY(${ids(chosen.rows)}) OR p.family_id = ANY(${ids(chosen.rows)}))`;
  const { view } = await openedView(on, chosen.view);
  await storeIds(on, chosen.view);
  const except = ids(chosen.except);
  const shown = sql`SELECT x.id FROM opened_view v, unnest(v.ids) AS x(id) WHERE v.token = ${chosen.view}`;
  const there =
    view.show === 'families'
      ? sql`p.unit_id IN (${shown}) AND ${viewFilter(view, await loadDictionary(on))}`
      : sql`p.id IN (${shown})`;
  return sql`${goods} AND ${there} AND p.id <> ALL(${except}) AND (p.family_id IS NULL OR p.family_id <> ALL(${except}))`;
}
