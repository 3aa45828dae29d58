/** What has to be evaluated again: marked in the transaction of the change. */
import { sql, eq, and, inArray, count } from 'drizzle-orm';
import { type Executor, ids, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';

/** Families and singles, at every place. */
export async function markDirty(on: Executor, units: readonly number[]): Promise<void> {
  if (units.length === 0) return;
  await on.execute(sql`
    INSERT INTO dirty (place_id, unit_id) SELECT p.id, u.id FROM place p, unnest(${ids(units)}) AS u(id)
    ON CONFLICT DO NOTHING`);
}

/** The set-up of a place changed: what it touches is evaluated again. `where` narrows it by own categories. */
export async function markPlace(on: Executor, placeId: number, where?: { categories?: string[] }): Promise<void> {
  await on.execute(sql`UPDATE place SET setup_version = nextval('setup_version_seq') WHERE id = ${placeId}`);
  const narrowed = where?.categories
    ? sql`AND p.category IN (SELECT jsonb_array_elements_text(${JSON.stringify(where.categories)}::jsonb))`
    : sql``;
  await on.execute(sql`
    INSERT INTO dirty (place_id, unit_id) SELECT DISTINCT ${placeId}::bigint, p.unit_id FROM product p
    WHERE p.kind IN ('variant', 'single') AND p.merged_into IS NULL ${narrowed} ON CONFLICT DO NOTHING`);
}

export async function dirtyCount(on: Executor, placeId?: number): Promise<number> {
  const found = await first(
    on
      .select({ n: count() })
      .from(tables.dirty)
      .innerJoin(
        tables.product,
        and(eq(tables.product.unitId, tables.dirty.unitId), inArray(tables.product.kind, ['variant', 'single'])),
      )
      .where(placeId === undefined ? undefined : eq(tables.dirty.placeId, placeId)),
  );
  return found?.n ?? 0;
}
