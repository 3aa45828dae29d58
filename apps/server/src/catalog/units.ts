/** Units: a family with its variants, or a single; what is resolved and evaluated as one. */
import { type Executor, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';

/** The units of products, each once. */
export async function unitsOf(on: Executor, products: readonly number[]): Promise<number[]> {
  const units = await on
    .selectDistinct({ unit: tables.product.unitId })
    .from(tables.product)
    .where(isIn(tables.product.id, products));
  return units.map(({ unit }) => unit);
}
