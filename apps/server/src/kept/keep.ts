/**
 * Counts that take long are kept with what they were counted from: asked again they are there at once, and where something
 * has changed since they are counted anew beside the request. Triggers write a row into `touch` with every statement that
 * changes goods, listings or set-up, so that nobody has to remember to say so.
 */
import { hash } from 'node:crypto';
import { canonical } from '@velvet-shelf/core/values';
import { sql, eq } from 'drizzle-orm';
import { type Database, queryOne, first } from '../db/client.js';
import type { Services } from '../http/route.js';
import * as tables from '../db/schema/index.js';

/** Listings up to which whoever asks waits for a new count; beyond, the last one stands until the new one is there. */
const small = 20_000;
/** Statements looked back on: one that commits late among them is seen by their number. */
const lookBack = 1000;
const mostKept = 400;

/** Tells two states of the shelf apart. */
async function stateOf(db: Database): Promise<string> {
  const found = await queryOne<{ state: string }>(
    db,
    sql`SELECT concat(m.id, ' ', (SELECT count(*) FROM touch t WHERE t.id > m.id - ${lookBack})) AS state FROM (SELECT max(id) AS id FROM touch) m`,
  );
  return found?.state ?? '';
}

/** A short name of a question, whatever is asked. */
export const nameOf = (kind: string, question: unknown): string =>
  `${kind} ${hash('sha256', canonical(question), 'base64url')}`;

/** Counts under way in this process, by name and state: one that began before a change is none of after it. */
const underWay = new Map<string, Promise<unknown>>();

export async function kept<T>(services: Services, name: string, count: () => Promise<T>): Promise<T> {
  const { db } = services;
  const held = await first(
    db
      .select({
        state: tables.keptCount.state,
        body: sql<T>`${tables.keptCount.body}`,
        listings: sql<number>`(SELECT coalesce(sum(${tables.placeTotal.listings}), 0)::int FROM ${tables.placeTotal})`,
      })
      .from(tables.keptCount)
      .where(eq(tables.keptCount.name, name)),
  );
  const state = await stateOf(db);
  if (held?.state === state) return held.body;
  const counting = countOnce(services, { name, state }, count);
  if (!held || held.listings <= small) return counting;
  // Pages are told when it is done, and ask again.
  counting.then(
    () => services.notify('counts'),
    () => undefined,
  );
  return held.body;
}

function countOnce<T>(
  { db }: Services,
  { name, state }: { name: string; state: string },
  count: () => Promise<T>,
): Promise<T> {
  const key = `${name} ${state}`;
  const known = underWay.get(key);
  if (known) return known as Promise<T>;
  const counting = (async () => {
    const body = await count();
    await db
      .insert(tables.keptCount)
      .values({ name, state, body })
      .onConflictDoUpdate({
        target: tables.keptCount.name,
        set: { state: sql`excluded.state`, body: sql`excluded.body`, at: sql`now()` },
      });
    await forget(db);
    return body;
  })();
  underWay.set(key, counting);
  return counting.finally(() => underWay.delete(key));
}

/** Neither counts nobody asks for any more nor touches long past are kept. */
async function forget(db: Database): Promise<void> {
  await db.execute(sql`
    DELETE FROM kept_count WHERE name IN (SELECT name FROM kept_count ORDER BY at DESC OFFSET ${mostKept})`);
  await db.execute(sql`DELETE FROM touch WHERE id < (SELECT max(id) FROM touch) - ${4 * lookBack}`);
}
