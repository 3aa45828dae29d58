/** Requests that are done once, however often they come: `Idempotency-Key` of the IETF draft of that name. */
import { createHash } from 'node:crypto';
import { sql, and, lt, isNull, eq } from 'drizzle-orm';
import type { Context } from 'koa';
import { type Database, first } from '../db/client.js';
import { Problem, badRequest, unprocessable } from './problem.js';
import * as tables from '../db/schema/index.js';

const longestKey = 200;
/** How long the second waits for the first. */
const patience = 60_000;
/** A first one that has not answered by then has lost its server. */
const lost = '5 minutes';

/** Answers with what `work` gave the first time this key came; what failed may be tried again under the same key. */
export async function onceFor(
  ctx: Context,
  db: Database,
  user: number,
  work: () => Promise<unknown>,
): Promise<unknown> {
  const key = ctx.get('idempotency-key');
  if (key === '') return work();
  if (key.length > longestKey) throw badRequest(`An Idempotency-Key has ${longestKey} characters at most`);
  const body = JSON.stringify((ctx.request as { body?: unknown }).body ?? {});
  const request = createHash('sha256').update(`${ctx.method} ${ctx.path} ${body}`).digest('base64url');
  const isKey = and(eq(tables.onceKey.userId, user), eq(tables.onceKey.key, key));
  for (const end = Date.now() + patience; ;) {
    const mine = await first(
      db
        .insert(tables.onceKey)
        .values({ userId: user, key, request })
        .onConflictDoUpdate({
          target: [tables.onceKey.userId, tables.onceKey.key],
          set: { at: sql`now()` },
          setWhere: and(isNull(tables.onceKey.status), lt(tables.onceKey.at, sql`now() - ${lost}::interval`)),
        })
        .returning({ key: tables.onceKey.key }),
    );
    if (mine) break;
    const held = await first(
      db
        .select({ request: tables.onceKey.request, status: tables.onceKey.status, answer: tables.onceKey.answer })
        .from(tables.onceKey)
        .where(isKey),
    );
    if (held && held.request !== request)
      throw unprocessable('This Idempotency-Key was used for another request; use a new one');
    if (held?.status) return held.answer;
    if (Date.now() > end)
      throw new Problem(409, 'It is being done already', 'The same request is still under way; look again in a moment');
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  try {
    const answer = await work();
    await db.update(tables.onceKey).set({ status: 200, answer }).where(isKey);
    return answer;
  } catch (error) {
    await db.delete(tables.onceKey).where(isKey);
    throw error;
  }
}

/** Forgets keys a day old. */
export const forgetKeys = (db: Database) =>
  db.delete(tables.onceKey).where(lt(tables.onceKey.at, sql`now() - interval '1 day'`));
