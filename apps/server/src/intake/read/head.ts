/** The first rows of a batch's file, kept with it, so that nobody who looks at it reads the file. */
import type { FileRow } from '@velvet-shelf/core/tabular';
import { sql } from 'drizzle-orm';
import { type Executor, queryOne, verbatim } from '../../db/client.js';

/** Rows that suggestions go by. */
export const sampleRows = 200;

export async function keepHead(on: Executor, id: number, first: readonly FileRow[]): Promise<void> {
  await on.execute(sql`
    INSERT INTO batch_head (batch_id, rows, preview) VALUES (${id}, ${verbatim(first)}, ${verbatim(first.slice(0, previewed))})
    ON CONFLICT (batch_id) DO UPDATE SET rows = excluded.rows, preview = excluded.preview`);
}

/** Rows shown as they will become. */
export const previewed = 20;

export async function headOf(on: Executor, id: number, part: 'rows' | 'preview' = 'rows'): Promise<FileRow[]> {
  const held = await queryOne<{ rows: FileRow[] }>(
    on,
    sql`SELECT ${sql.identifier(part)} AS rows FROM batch_head WHERE batch_id = ${id}`,
  );
  return held?.rows ?? [];
}

/** The same rows for a batch of the same file. */
export async function copyHead(on: Executor, from: number, to: number): Promise<void> {
  await on.execute(
    sql`INSERT INTO batch_head (batch_id, rows, preview) SELECT ${to}, rows, preview FROM batch_head WHERE batch_id = ${from}`,
  );
}
