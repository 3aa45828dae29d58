/** What a batch comes to, counted over its rows. */
import { sayCount } from '@velvet-shelf/core/values';
import { eq, sql } from 'drizzle-orm';
import { type Executor, json, queryOne, first } from '../../db/client.js';
import { type BatchCounts } from '../../db/schema/index.js';
import * as tables from '../../db/schema/index.js';

export const emptyCounts = (): BatchCounts => ({
  created: 0,
  joins: 0,
  asked: 0,
  changed: 0,
  unchanged: 0,
  refused: 0,
  lostCells: 0,
  inHouse: 0,
  dropped: 0,
});

/** Rows that change something. */
export const newsOf = (counts: BatchCounts | null): number =>
  counts ? counts.created + (counts.joins ?? 0) + counts.changed : 0;

/** A row whose new record is one of goods we have; `batch_row` without an alias. */
export const doesJoin = sql`coalesce(NOT meets ? 'unless', false)`;
/** A row whose goods may be some that we have: a person will be asked. */
export const doesAsk = sql`coalesce(meets ? 'unless', false)`;

/** Counts the outcomes of a batch's rows anew; of one that is applied, of those that were not picked out. */
export async function recount(tx: Executor, id: number): Promise<BatchCounts> {
  const counted = await queryOne<Omit<BatchCounts, 'dropped' | 'inHouse'>>(
    tx,
    sql`SELECT count(*) FILTER (WHERE outcome = 'created' AND NOT ${doesJoin}) AS created, count(*) FILTER (WHERE ${doesJoin}) AS joins,
          count(*) FILTER (WHERE ${doesAsk}) AS asked, count(*) FILTER (WHERE outcome = 'changed') AS changed,
          count(*) FILTER (WHERE outcome = 'unchanged') AS unchanged, count(*) FILTER (WHERE outcome = 'refused') AS refused,
          coalesce(sum((SELECT count(*) FROM jsonb_array_elements(coalesce(notes, '[]')) x WHERE (x ->> 'lost')::boolean)), 0)::int AS "lostCells"
        FROM batch_row WHERE batch_id = ${id} AND NOT (left_out AND (SELECT state IN ('applying', 'applied') FROM batch WHERE id = ${id}))`,
  );
  const [kept] = await tx
    .update(tables.batch)
    .set({ counts: sql`coalesce(counts, '{}') || ${json(counted)}` })
    .where(eq(tables.batch.id, id))
    .returning({ counts: tables.batch.counts });
  return { ...emptyCounts(), ...kept?.counts };
}

/** "Applied spring.csv: 12 created, 30 joined to goods we have, 3 changed". */
export function sayApplied(fileName: string, counts: BatchCounts): string {
  if (newsOf(counts) === 0) return `Confirmed ${fileName}: ${sayCount(counts.unchanged)} unchanged`;
  const joined = counts.joins ? `, ${sayCount(counts.joins)} joined to goods we have` : '';
  return `Applied ${fileName}: ${sayCount(counts.created)} created${joined}, ${sayCount(counts.changed)} changed`;
}

/** A batch that is applied: what its rows did join, whatever was foreseen, its counts by that, and the words of its action. */
export async function countApplied(tx: Executor, id: number): Promise<void> {
  await tx.execute(sql`
    WITH did AS (
      SELECT b.row, r.product_id AS product, EXISTS (
        SELECT 1 FROM record o WHERE o.product_id = r.product_id AND o.id <> r.id AND o.content_id IS NOT NULL) AS joined
      FROM batch_row b JOIN record r ON r.id = b.record_id WHERE b.batch_id = ${id} AND b.outcome = 'created' AND NOT b.left_out)
    UPDATE batch_row SET meets = CASE WHEN did.joined THEN jsonb_build_object('product', did.product, 'by', NULL) END
    FROM did WHERE batch_row.batch_id = ${id} AND batch_row.row = did.row AND did.joined <> ${doesJoin}`);
  const counts = await recount(tx, id);
  const found = await first(
    tx
      .select({ name: tables.batch.fileName, action: tables.batch.actionId })
      .from(tables.batch)
      .where(eq(tables.batch.id, id)),
  );
  if (found?.action)
    await tx
      .update(tables.action)
      .set({ words: sayApplied(found.name, counts) })
      .where(eq(tables.action.id, found.action ?? 0));
}
