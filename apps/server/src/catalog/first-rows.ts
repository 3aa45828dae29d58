/**
 * The first rows of a view by a short way: the first goods in its order are looked at one by one by core's own condition,
 * where that finds enough of them; counting out who meets a condition among all goods takes ten times as long.
 */
import { type View, windowRows } from '@velvet-shelf/contract';
import { type Condition, compileCondition, conditionAttributes } from '@velvet-shelf/core/conditions';
import { type Attribute, type Value, keyOf } from '@velvet-shelf/core/values';
import { type SQL, sql } from 'drizzle-orm';
import { type Executor, queryRows } from '../db/client.js';
import type { Dictionary } from '../dictionary/dictionary.js';

/** Goods looked at before it is left to the long way. */
const mostLookedAt = 800;

interface Candidate {
  id: number;
  unit: number;
  sku: string | null;
  category: string | null;
  facts: Record<string, Value | null>;
}

/** Whether what goods hold beside their texts answers a condition. */
export const isAnsweredByFacts = (condition: Condition, { attributes }: Dictionary): boolean =>
  conditionAttributes(condition).every((key) => {
    const attribute = attributes.get(key);
    return attribute !== undefined && !attribute.perLanguage && attribute.type !== 'richText';
  });

/** Whether there is anything in it that a short way would save. */
export const isWorthIt = (condition: Condition): boolean => conditionAttributes(condition).length > 0;

/**
 * The first goods that meet the condition, with the family each is of: as many as a window has, or undefined where so many
 * were not found among those looked at. `from` gives rows of `product` as p, `order` how they stand.
 */
export async function firstFitting(
  db: Executor,
  { condition }: Pick<View, 'condition'>,
  dictionary: Dictionary,
  { from, order }: { from: SQL; order: SQL },
): Promise<{ id: number; unit: number }[] | undefined> {
  const asked = [...new Set(conditionAttributes(condition))];
  const facts = sql.join(
    asked.map((key) => sql`${key}::text, p.facts -> ${key}::text`),
    sql`, `,
  );
  const rows = await queryRows<Candidate>(
    db,
    sql`SELECT p.id, p.unit_id AS unit, p.sku, p.category, json_build_object(${facts}) AS facts ${from} ORDER BY ${order} LIMIT ${mostLookedAt}`,
  );
  const holds = compileCondition(condition, dictionary.attributes, lookup(dictionary.attributes));
  const found = rows.filter(holds).slice(0, windowRows);
  // All there is was looked at, or enough was found: either way these are the first.
  return found.length === windowRows || rows.length < mostLookedAt ? found : undefined;
}

/** What goods hold, by attribute: their number and their category stand beside their facts. */
function lookup(attributes: ReadonlyMap<string, Attribute>): (row: Candidate, key: string) => Value | undefined {
  const [sku, category] = [keyOf(attributes, 'sku'), keyOf(attributes, 'category')];
  return (row, key) => {
    if (key === sku) return row.sku ?? undefined;
    if (key === category) return row.category ?? undefined;
    return row.facts[key] ?? undefined;
  };
}
