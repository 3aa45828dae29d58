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

/** What a change of set-up reads, so that nothing else is evaluated again. */
export interface Touches {
  /** These families and singles. */
  units?: readonly number[];
  /** Goods of these own categories. */
  categories?: readonly string[];
  /** Goods that are offered there: what is not for the channel, or in no assortment, reads no fill. */
  offered?: true;
  /** Goods that have one of these values of a closed list. */
  holding?: { attribute: string; keys: readonly string[] } | undefined;
}

/** The set-up of a place changed: what it touches is evaluated again, everything where nothing narrows it. */
export async function markPlace(on: Executor, placeId: number, touches: Touches = {}): Promise<void> {
  await on.execute(sql`UPDATE place SET setup_version = nextval('setup_version_seq') WHERE id = ${placeId}`);
  const { units, categories, offered, holding } = touches;
  const anyOf = (list: readonly string[]) => sql`(SELECT jsonb_array_elements_text(${JSON.stringify(list)}::jsonb))`;
  const narrowed = [
    ...(units ? [sql`AND p.unit_id = ANY(${ids(units)})`] : []),
    ...(categories ? [sql`AND p.category IN ${anyOf(categories)}`] : []),
    ...(offered
      ? [
          sql`AND EXISTS (SELECT 1 FROM listing l WHERE l.place_id = ${placeId} AND l.variant_id = p.id AND l.readiness <> 'not for this channel')`,
        ]
      : []),
    ...(holding ? [sql`AND p.facts ->> ${holding.attribute} IN ${anyOf(holding.keys)}`] : []),
  ];
  await on.execute(sql`
    INSERT INTO dirty (place_id, unit_id) SELECT DISTINCT ${placeId}::bigint, p.unit_id FROM product p
    WHERE p.kind IN ('variant', 'single') AND p.stands ${sql.join(narrowed, sql` `)} ON CONFLICT DO NOTHING`);
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

export const isAnyDirty = async (on: Executor): Promise<boolean> =>
  (await on.select({ unit: tables.dirty.unitId }).from(tables.dirty).limit(1)).length > 0;
