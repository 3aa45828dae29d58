/** What follows from stock: attributes whose value is how many pieces there are, and what is worked out from those. */
import { sql } from 'drizzle-orm';
import { resolveUnits } from '../catalog/resolve.js';
import { unitsOf } from '../catalog/units.js';
import { type Executor, first } from '../db/client.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import type { Change } from '../history/record.js';
import * as tables from '../db/schema/index.js';

/** Works values out anew for goods whose pieces were counted otherwise, their families with them; answers what changed. */
export async function followStock(on: Executor, products: readonly number[]): Promise<Change[]> {
  const counted = await first(
    on
      .select({ id: tables.attribute.id })
      .from(tables.attribute)
      .where(sql`${tables.attribute.computed} ->> 'kind' = 'stock'`)
      .limit(1),
  );
  return counted ? resolveUnits(on, await unitsOf(on, products), await loadDictionary(on)) : [];
}
