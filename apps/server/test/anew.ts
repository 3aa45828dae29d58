/** What walks end with: what is kept agrees with what follows anew, and every step is taken back. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { markPlace } from '@velvet-shelf/server/history/dirty';
import { drainIn } from '@velvet-shelf/server/listings/drain';
import { sql } from 'drizzle-orm';
import { expect } from 'vitest';
import { type Answer, type Client, base, db } from './client.js';

export const listings = () =>
  queryRows(
    db,
    sql`SELECT l.place_id, l.variant_id, l.unit_id, l.readiness, l.category, l.findings, l.collective, l.not_for, s.causes, l.item_key
        FROM listing l LEFT JOIN cause_set s ON s.id = l.cause_set_id ORDER BY 1, 2`,
  );

/** Listings are those that checking everything anew would give, and so are their totals. */
export async function expectListingsAnew(): Promise<void> {
  const before = await listings();
  // As one: what nobody else sees, nobody else takes and has not written yet.
  await db.transaction(async (tx) => {
    for (const { id } of await queryRows<{ id: number }>(tx, sql`SELECT id FROM place`)) await markPlace(tx, id);
    await drainIn(tx, base, Number.POSITIVE_INFINITY);
  });
  expect(await listings()).toEqual(before);
  await expectTotals();
}

/** The totals that screens show, which are kept by deltas, are those of the listings there are. */
export async function expectTotals(): Promise<void> {
  const wrong = await queryRows(
    db,
    sql`SELECT * FROM (SELECT place_id, readiness, channel_state, count(*)::int AS n FROM listing GROUP BY 1, 2, 3) l
        FULL JOIN place_total t USING (place_id, readiness, channel_state) WHERE coalesce(l.n, 0) <> coalesce(t.listings, 0)`,
  );
  expect(wrong).toEqual([]);
}

/** The newest action there is, to tell what came after. */
export const newestAction = async (): Promise<number> =>
  (await queryRows<{ id: number }>(db, sql`SELECT coalesce(max(id), 0) AS id FROM action`))[0]?.id ?? 0;

/** Actions after `begun` that can be undone, the newest first. */
export async function undoables(client: Client, begun: number): Promise<number[]> {
  const { body } = await client.get('/api/actions');
  return body.items
    .filter((body: Answer['body']) => body.canUndo && body.id > begun)
    .map((body: Answer['body']) => body.id);
}

/** Takes back, from the last to the first, all that was done after `begun`. */
export async function undoAll(client: Client, begun: number): Promise<void> {
  for (let rest = await undoables(client, begun); rest.length > 0; rest = await undoables(client, begun)) {
    const answer = await client.send('POST', `/api/actions/${rest[0]}/undo`);
    expect(answer.status, JSON.stringify(answer.body)).toBe(200);
  }
  await client.idle();
}
