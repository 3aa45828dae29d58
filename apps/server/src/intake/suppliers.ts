/** Suppliers, in the order in which they are trusted: whose goods a batch holds. */
import type { SupplierAnswer } from '@velvet-shelf/contract';
import { foldCode } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { type Executor, queryOne, queryRows } from '../db/client.js';
import { badRequest, conflict } from '../http/problem.js';

/** Refuses the number of a supplier there is none of. */
export async function expectSupplier(db: Executor, id: number): Promise<void> {
  if (Number.isSafeInteger(id) && (await queryOne(db, sql`SELECT 1 FROM supplier WHERE id = ${id}`))) return;
  throw badRequest(`There is no supplier ${id}`);
}

/** Of our own sheet, whose article numbers are our SKUs. */
export async function ownSupplier(db: Executor): Promise<number> {
  const supplier = await queryOne<{ id: number }>(
    db,
    sql`SELECT id FROM supplier WHERE kind = 'own' ORDER BY rank LIMIT 1`,
  );
  if (!supplier) throw conflict('There is no own sheet among the suppliers');
  return supplier.id;
}

export async function listSuppliers(db: Executor): Promise<SupplierAnswer[]> {
  return queryRows<SupplierAnswer>(
    db,
    sql`SELECT s.id, s.key, s.name, s.rank, s.kind, s.uses_our_numbers AS "usesOurNumbers", coalesce(n.records, 0)::int AS records, coalesce(n.dropped, 0)::int AS dropped
        FROM supplier s LEFT JOIN (
          SELECT supplier_id, count(*) AS records, count(*) FILTER (WHERE dropped) AS dropped FROM record WHERE content_id IS NOT NULL GROUP BY 1) n
        ON n.supplier_id = s.id ORDER BY s.rank, s.id`,
  );
}

/** A new one is trusted last. */
export async function addSupplier(
  db: Executor,
  { name, language }: { name: string; language?: string | undefined },
): Promise<number> {
  const made = await queryOne<{ id: number }>(
    db,
    sql`INSERT INTO supplier (key, name, rank, kind, language) SELECT ${foldCode(name) || 'supplier'}, ${name}, coalesce(max(rank), 0) + 1, 'supplier', ${language ?? (await loadCompany(db)).home} FROM supplier
        ON CONFLICT (key) DO NOTHING RETURNING id`,
  );
  if (!made) throw conflict(`There is a supplier named ${name} already`);
  return made.id;
}
