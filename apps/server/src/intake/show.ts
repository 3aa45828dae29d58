/** Batches as answers show them. */
import type { BatchAnswer, BatchSummary } from '@velvet-shelf/contract';
import { mappingFaults } from '@velvet-shelf/core/intake';
import { sql, eq, and, lt, desc, count } from 'drizzle-orm';
import { type Database, iso, first } from '../db/client.js';
import { notFound } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { isNobodys, isOpen, nobodysFault, triedOf } from './batches.js';
import { previewRows, translationsOf } from './columns/columns.js';
import { dictionaryOf, homelessOf } from './columns/makes.js';
import { headOf, previewed } from './read/head.js';
import * as tables from '../db/schema/index.js';

const summaries = (db: Database) =>
  db
    .select({
      id: tables.batch.id,
      supplierId: tables.batch.supplierId,
      supplier: sql<
        string | null
      >`CASE WHEN ${tables.batch.kind} = 'file' AND ${tables.batch.detected} -> 'why' ->> 'supplier' = ''
        THEN NULL ELSE ${tables.supplier.name} END`,
      fileName: tables.batch.fileName,
      bytes: tables.batch.bytes,
      kind: tables.batch.kind,
      state: tables.batch.state,
      counts: tables.batch.counts,
      error: tables.batch.error,
      createdAt: tables.batch.createdAt,
      appliedAt: tables.batch.appliedAt,
      applyMs: tables.batch.applyMs,
    })
    .from(tables.batch)
    .innerJoin(tables.supplier, eq(tables.supplier.id, tables.batch.supplierId));

const toSummary = (row: Awaited<ReturnType<typeof summaries>>[number]): BatchSummary => ({
  ...row,
  counts: row.counts && {
    ...row.counts,
    joins: row.counts.joins ?? 0,
    asked: row.counts.asked ?? 0,
    inHouse: row.counts.inHouse ?? 0,
  },
  createdAt: iso(row.createdAt),
  appliedAt: iso(row.appliedAt),
});

export async function listBatches({ db }: Services, cursor: string | undefined, limit: number) {
  const found = await summaries(db)
    .where(cursor ? lt(tables.batch.id, Number(cursor)) : undefined)
    .orderBy(desc(tables.batch.id))
    .limit(limit + 1);
  const items = found.slice(0, limit).map(toSummary);
  return { items, next: found.length > limit ? String(items.at(-1)?.id) : null };
}

export async function showBatch({ db }: { db: Database }, id: number, locale?: string): Promise<BatchAnswer> {
  const summary = await first(summaries(db).where(eq(tables.batch.id, id)));
  if (!summary) throw notFound(`batch ${id}`);
  const found = await triedOf(db, id);
  const dictionary = await dictionaryOf(db, found, locale);
  const isChangeable = isOpen(found.state);
  const head = await headOf(db, id, isChangeable ? 'rows' : 'preview');
  const isExchange = found.kind === 'round-trip';
  const left = await first(
    db
      .select({ n: count() })
      .from(tables.batchRow)
      .where(and(eq(tables.batchRow.batchId, id), tables.batchRow.leftOut)),
  );
  return {
    ...toSummary(summary),
    scope: found.scope,
    makesNew: found.makesNew,
    detected: found.detected,
    reading: found.reading,
    columns: found.columns,
    suggestions: found.suggestions,
    map: found.map,
    makes: found.makes,
    homeless: isExchange || !isChangeable ? [] : homelessOf(found, head, dictionary),
    mapFaults: isExchange ? [] : [...(isNobodys(found) ? [nobodysFault] : []), ...mappingFaults(found.map)],
    // Words are only worked out while they can still be changed.
    translations:
      isExchange || !isChangeable
        ? []
        : await translationsOf(db, { ...found, isOwn: found.supplier.kind === 'own' }, head, dictionary),
    sample: previewRows(found, head.slice(0, previewed), dictionary),
    effect: found.effect,
    leftOut: left?.n ?? 0,
    leftBehind: found.leftBehind ?? [],
  };
}
