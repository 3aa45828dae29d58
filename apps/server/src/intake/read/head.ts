/** The first rows of a batch's file, kept with it, so that nobody who looks at it reads the file. */
import type { FileRow } from '@velvet-shelf/core/tabular';
import { eq, sql } from 'drizzle-orm';
import { type Executor, first } from '../../db/client.js';
import * as tables from '../../db/schema/index.js';

/** Rows that suggestions go by. */
export const sampleRows = 200;

export async function keepHead(on: Executor, id: number, head: readonly FileRow[]): Promise<void> {
  await on
    .insert(tables.batchHead)
    .values({ batchId: id, rows: [...head], preview: head.slice(0, previewed) })
    .onConflictDoUpdate({
      target: tables.batchHead.batchId,
      set: { rows: sql`excluded.rows`, preview: sql`excluded.preview` },
    });
}

/** Rows shown as they will become. */
export const previewed = 20;

export async function headOf(on: Executor, id: number, part: 'rows' | 'preview' = 'rows'): Promise<FileRow[]> {
  const held = await first(
    on.select({ rows: tables.batchHead[part] }).from(tables.batchHead).where(eq(tables.batchHead.batchId, id)),
  );
  return held?.rows ?? [];
}

/** The same rows for a batch of the same file. */
export async function copyHead(on: Executor, from: number, to: number): Promise<void> {
  await on.execute(
    sql`INSERT INTO batch_head (batch_id, rows, preview) SELECT ${to}, rows, preview FROM batch_head WHERE batch_id = ${from}`,
  );
}
