/** Whose goods a batch holds. */
import { sql } from 'drizzle-orm';
import { type Executor, one } from '../db/client.js';
import { badRequest, conflict } from '../http/problem.js';

/** Refuses the number of a supplier there is none of. */
export async function expectSupplier(db: Executor, id: number): Promise<void> {
  if (Number.isSafeInteger(id) && (await one(db, sql`SELECT 1 FROM supplier WHERE id = ${id}`))) return;
  throw badRequest(`There is no supplier ${id}`);
}

/** Of our own sheet, whose article numbers are our SKUs. */
export async function ownSupplier(db: Executor): Promise<number> {
  const found = await one<{ id: number }>(db, sql`SELECT id FROM supplier WHERE kind = 'own' ORDER BY rank LIMIT 1`);
  if (!found) throw conflict('There is no own sheet among the suppliers');
  return found.id;
}
