/** What people say of options, as it is kept: of families by their plan, of variants by axis. */
import { type OptionPlan, noPlan } from '@velvet-shelf/core/catalog';
import { eq, sql } from 'drizzle-orm';
import { type Executor, isIn, json } from '../db/client.js';
import * as tables from '../db/schema/index.js';

export interface SaidOptions {
  plans: Map<number, OptionPlan>;
  /** By variant, the oldest first; null: it has none on this axis. */
  options: Map<number, [axis: string, value: string | null][]>;
}

export async function loadOptions(on: Executor, products: readonly number[]): Promise<SaidOptions> {
  const { familyPlan, optionEdit } = tables;
  const plans = await on
    .select({ family: familyPlan.familyId, plan: familyPlan.plan })
    .from(familyPlan)
    .where(isIn(familyPlan.familyId, products));
  const edits = await on
    .select({ product: optionEdit.productId, axis: optionEdit.axis, value: optionEdit.value })
    .from(optionEdit)
    .where(isIn(optionEdit.productId, products))
    .orderBy(optionEdit.at, optionEdit.axis);
  const options: SaidOptions['options'] = new Map();
  for (const { product, axis, value } of edits) {
    const list = options.get(product) ?? [];
    options.set(product, list);
    list.push([axis, value]);
  }
  return { plans: new Map(plans.map(({ family, plan }) => [family, plan])), options };
}

/** What is said of a family's options; nothing where nobody said anything. */
export const planOf = async (on: Executor, family: number): Promise<OptionPlan> =>
  (await loadOptions(on, [family])).plans.get(family) ?? noPlan;

export async function writePlan(tx: Executor, familyId: number, plan: OptionPlan): Promise<void> {
  if (plan.axes.length === 0) await tx.delete(tables.familyPlan).where(eq(tables.familyPlan.familyId, familyId));
  else
    await tx
      .insert(tables.familyPlan)
      .values({ familyId, plan })
      .onConflictDoUpdate({ target: tables.familyPlan.familyId, set: { plan: sql`excluded.plan` } });
}

/** What somebody says of a variant's value on an axis; null where nobody says anything. */
export type Said = { value: string | null } | null;

/** What is said of these variants, one axis at a time. */
export async function saidOptions(
  on: Executor,
  variants: readonly number[],
): Promise<(variant: number, axis: string) => Said> {
  const { options } = await loadOptions(on, variants);
  return (variant, axis) => {
    const said = options.get(variant)?.find(([name]) => name === axis);
    return said ? { value: said[1] } : null;
  };
}

/** Says of each variant what it has on an axis, or that nobody says anything of it. */
export async function sayOptions(
  tx: Executor,
  list: readonly { variant: number; axis: string; said: Said }[],
  actor: number,
): Promise<void> {
  const rows = list.map(({ variant, axis, said }) => ({
    variant,
    axis,
    value: said?.value ?? null,
    isSaid: said !== null,
  }));
  if (rows.length === 0) return;
  const table = sql`jsonb_to_recordset(${json(rows)}) AS t(variant bigint, axis text, value text, "isSaid" boolean)`;
  await tx.execute(sql`
    DELETE FROM option_edit e USING ${table} WHERE NOT t."isSaid" AND e.product_id = t.variant AND e.axis = t.axis`);
  await tx.execute(sql`
    INSERT INTO option_edit (product_id, axis, value, actor) SELECT t.variant, t.axis, t.value, ${actor} FROM ${table} WHERE t."isSaid"
    ON CONFLICT (product_id, axis) DO UPDATE SET value = excluded.value, actor = excluded.actor, at = now()`);
}
