/** Suppliers, in the order in which they are trusted: whose goods a batch holds. */
import type { SupplierAnswer } from '@velvet-shelf/contract';
import { foldCode } from '@velvet-shelf/core/values';
import { sql, eq, and, isNotNull, count } from 'drizzle-orm';
import { loadCompany } from './settings.js';
import { type Executor, first } from '../db/client.js';
import { badRequest, conflict } from '../http/problem.js';
import * as tables from '../db/schema/index.js';

/** Refuses the number of a supplier there is none of. */
export async function expectSupplier(db: Executor, id: number): Promise<void> {
  if (
    Number.isSafeInteger(id) &&
    (await first(db.select({ id: tables.supplier.id }).from(tables.supplier).where(eq(tables.supplier.id, id))))
  )
    return;
  throw badRequest(`There is no supplier ${id}`);
}

/** Of our own sheet, whose article numbers are our SKUs. */
export async function ownSupplier(db: Executor): Promise<number> {
  const supplier = await first(
    db
      .select({ id: tables.supplier.id })
      .from(tables.supplier)
      .where(eq(tables.supplier.kind, 'own'))
      .orderBy(tables.supplier.rank)
      .limit(1),
  );
  if (!supplier) throw conflict('There is no own sheet among the suppliers');
  return supplier.id;
}

export async function listSuppliers(db: Executor): Promise<SupplierAnswer[]> {
  return db
    .select({
      id: tables.supplier.id,
      key: tables.supplier.key,
      name: tables.supplier.name,
      rank: tables.supplier.rank,
      kind: tables.supplier.kind,
      usesOurNumbers: tables.supplier.usesOurNumbers,
      records: count(tables.record.id),
      dropped: sql<number>`count(*) FILTER (WHERE ${tables.record.dropped})`,
    })
    .from(tables.supplier)
    .leftJoin(tables.record, and(eq(tables.record.supplierId, tables.supplier.id), isNotNull(tables.record.contentId)))
    .groupBy(tables.supplier.id)
    .orderBy(tables.supplier.rank, tables.supplier.id);
}

/** A new one is trusted last. */
export async function addSupplier(
  db: Executor,
  { name, language }: { name: string; language?: string | undefined },
): Promise<number> {
  const made = await first(
    db
      .insert(tables.supplier)
      .values({
        key: foldCode(name) || 'supplier',
        name,
        rank: sql`(SELECT coalesce(max(s.rank), 0) + 1 FROM ${tables.supplier} s)`,
        kind: 'supplier',
        language: language ?? (await loadCompany(db)).home,
      })
      .onConflictDoNothing({ target: tables.supplier.key })
      .returning({ id: tables.supplier.id }),
  );
  if (!made) throw conflict(`There is a supplier named ${name} already`);
  return made.id;
}
