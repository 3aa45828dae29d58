/** Requests that are done once, however often they come: `Idempotency-Key` of the IETF draft of that name. */
import { createHash } from 'node:crypto';
import { sql } from 'drizzle-orm';
import type { Context } from 'koa';
import { type Database, json, queryOne } from '../db/client.js';
import { Problem, badRequest, unprocessable } from './problem.js';

const longestKey = 200;
/** How long the second waits for the first. */
const patience = 60_000;
/** A first one that has not answered by then has lost its server. */
const lost = '5 minutes';

interface Held {
  request: string;
  status: number | null;
  answer: unknown;
}

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
  for (const end = Date.now() + patience; ;) {
    const mine = await queryOne(
      db,
      sql`INSERT INTO once_key (user_id, key, request) VALUES (${user}, ${key}, ${request})
          ON CONFLICT (user_id, key) DO UPDATE SET at = now() WHERE once_key.status IS NULL AND once_key.at < now() - ${lost}::interval RETURNING 1`,
    );
    if (mine) break;
    const held = await queryOne<Held>(
      db,
      sql`SELECT request, status, answer FROM once_key WHERE user_id = ${user} AND key = ${key}`,
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
    await db.execute(
      sql`UPDATE once_key SET status = 200, answer = ${json(answer)} WHERE user_id = ${user} AND key = ${key}`,
    );
    return answer;
  } catch (error) {
    await db.execute(sql`DELETE FROM once_key WHERE user_id = ${user} AND key = ${key}`);
    throw error;
  }
}

/** Forgets keys a day old. */
export const forgetKeys = (db: Database) => db.execute(sql`DELETE FROM once_key WHERE at < now() - interval '1 day'`);
