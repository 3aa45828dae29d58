/** Sessions: argon2 for passwords, a random token whose hash alone is kept, an HttpOnly SameSite cookie. */
import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { sql } from 'drizzle-orm';
import type { Context } from 'koa';
import { type Database, type Executor, one } from '../db/client.js';
import { Problem } from '../http/problem.js';
import type { User } from '../http/route.js';

const cookie = 'velvet_session';
const days = 14;
const digest = (token: string) => createHash('sha256').update(token).digest('base64url');

export const hashPassword = (password: string) => hash(password);

/** Compared against where the address is unknown, so that both answers take as long. */
const nobody = hash('nobody');

export async function signIn(ctx: Context, db: Database, email: string, password: string): Promise<User> {
  const user = await one<User & { password_hash: string }>(
    db,
    sql`SELECT id, email, name, role, last_visit AS "lastVisit", password_hash FROM user_account WHERE email = ${email.trim().toLowerCase()}`,
  );
  const right = await verify(user?.password_hash ?? (await nobody), password);
  if (!user || !right)
    throw new Problem(401, 'Not signed in', 'This e-mail address and password do not belong together');
  const token = randomBytes(32).toString('base64url');
  await db.execute(
    sql`INSERT INTO session (token_hash, user_id, expires) VALUES (${digest(token)}, ${user.id}, now() + ${`${days} days`}::interval)`,
  );
  await db.execute(sql`DELETE FROM session WHERE expires < now()`);
  ctx.cookies.set(cookie, token, { httpOnly: true, sameSite: 'lax', secure: ctx.secure, maxAge: days * 86_400_000 });
  return user;
}

export async function signOut(ctx: Context, db: Database): Promise<void> {
  const token = ctx.cookies.get(cookie);
  if (!token) return;
  await db.execute(sql`DELETE FROM session WHERE token_hash = ${digest(token)}`);
  await db.execute(
    sql`UPDATE user_account SET last_visit = now() WHERE id = ${(ctx.state as { user?: User }).user?.id ?? 0}`,
  );
  ctx.cookies.set(cookie, null);
}

export async function currentUser(ctx: Context, db: Executor): Promise<User | undefined> {
  const token = ctx.cookies.get(cookie);
  if (!token) return undefined;
  return one<User>(
    db,
    sql`SELECT u.id, u.email, u.name, u.role, u.last_visit AS "lastVisit" FROM session s JOIN user_account u ON u.id = s.user_id
        WHERE s.token_hash = ${digest(token)} AND s.expires > now()`,
  );
}
