/** Batches as answers show them. */
import type { BatchAnswer, BatchSummary } from '@velvet-shelf/contract';
import { mappingFaults } from '@velvet-shelf/core/intake';
import { sql } from 'drizzle-orm';
import { loadDictionary } from '../catalog/dictionary.js';
import { type Database, iso, queryOne, queryRows } from '../db/client.js';
import { notFound } from '../http/problem.js';
import type { Services } from '../http/route.js';
import { isNobodys, isOpen, nobodysFault, triedOf } from './batches.js';
import { previewRows, translationsOf } from './columns/columns.js';
import { headOf, previewed } from './read/head.js';

const summaryColumns = sql`b.id, b.supplier_id AS "supplierId", CASE WHEN b.kind = 'file' AND b.detected -> 'why' ->> 'supplier' = '' THEN NULL ELSE s.name END AS supplier, b.file_name AS "fileName", b.bytes, b.kind, b.state, b.counts, b.error,
  b.created_at AS "createdAt", b.applied_at AS "appliedAt", b.apply_ms AS "applyMs" FROM batch b JOIN supplier s ON s.id = b.supplier_id`;

const toSummary = (row: BatchSummary): BatchSummary => ({
  ...row,
  createdAt: iso(row.createdAt),
  appliedAt: iso(row.appliedAt),
});

export async function listBatches({ db }: Services, cursor: string | undefined, limit: number) {
  const found = await queryRows<BatchSummary>(
    db,
    sql`SELECT ${summaryColumns} WHERE ${cursor ? sql`b.id < ${Number(cursor)}` : sql`true`} ORDER BY b.id DESC LIMIT ${limit + 1}`,
  );
  const items = found.slice(0, limit).map(toSummary);
  return { items, next: found.length > limit ? String(items.at(-1)?.id) : null };
}

export async function showBatch({ db }: { db: Database }, id: number): Promise<BatchAnswer> {
  const summary = await queryOne<BatchSummary>(db, sql`SELECT ${summaryColumns} WHERE b.id = ${id}`);
  if (!summary) throw notFound(`batch ${id}`);
  const found = await triedOf(db, id);
  const dictionary = await loadDictionary(db);
  const isChangeable = isOpen(found.state);
  const head = await headOf(db, id, isChangeable ? 'rows' : 'preview');
  const isExchange = found.kind === 'round-trip';
  const left = await queryOne<{ n: number }>(
    db,
    sql`SELECT count(*) AS n FROM batch_row WHERE batch_id = ${id} AND left_out`,
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
