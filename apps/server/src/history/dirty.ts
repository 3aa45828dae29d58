/** What has to be evaluated again: marked in the transaction of the change. */
import { sql } from 'drizzle-orm';
import { type Executor, ids, queryOne } from '../db/client.js';

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
  const found = await queryOne<{ n: number }>(
    on,
    sql`SELECT count(*) AS n FROM dirty d JOIN product p ON p.unit_id = d.unit_id AND p.kind IN ('variant', 'single')
        ${placeId === undefined ? sql`` : sql`WHERE d.place_id = ${placeId}`}`,
  );
  return found?.n ?? 0;
}
