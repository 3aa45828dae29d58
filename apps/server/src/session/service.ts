/** Sessions: argon2 for passwords, a random token whose hash alone is kept, an HttpOnly SameSite cookie. */
import { hash, verify } from '@node-rs/argon2';
import { sql, eq } from 'drizzle-orm';
import type { Context } from 'koa';
import type { Logger } from 'pino';
import type { Config } from '../config.js';
import { type Database, type Executor, queryOne, first } from '../db/client.js';
import { Problem } from '../http/problem.js';
import type { User } from '../http/route.js';
import { digestOf, newToken } from './codes.js';
import type { Tries } from './tries.js';
import * as tables from '../db/schema/index.js';

const cookie = 'velvet_session';
const days = 14;

export const hashPassword = (password: string) => hash(password);

/** Compared against where the address is unknown, so that both answers take as long. */
const nobody = hash('nobody');

/** What sessions need: connections of their own, so that nobody is locked out by what others ask of the database. */
export interface Sessions {
  db: Database;
  config: Config;
  tries: Tries;
  log: Pick<Logger, 'info' | 'warn'>;
}

/** What is known of a person wherever somebody acts. */
export const personColumns = {
  id: tables.userAccount.id,
  email: tables.userAccount.email,
  name: tables.userAccount.name,
  role: tables.userAccount.role,
  lastVisit: tables.userAccount.lastVisit,
};

export async function signIn(
  { db, config, tries, log }: Sessions,
  ctx: Context,
  email: string,
  password: string,
): Promise<User> {
  const account = email.trim().toLowerCase();
  await expectTries({ tries, log }, ctx, account);
  const user = await first(
    db
      .select({ ...personColumns, passwordHash: tables.userAccount.passwordHash, gone: tables.userAccount.gone })
      .from(tables.userAccount)
      .where(eq(tables.userAccount.email, account)),
  );
  const right = await verify(user?.passwordHash ?? (await nobody), password);
  if (!user || !right || user.gone) {
    log.warn({ account, from: ctx.ip }, 'sign-in failed');
    throw new Problem(401, 'Not signed in', 'This e-mail address and password do not belong together');
  }
  await tries.forget(account, ctx.ip);
  log.info({ account, from: ctx.ip }, 'signed in');
  await startSession({ db, config }, ctx, user);
  return user;
}

/** Counts a try to come in, and refuses whoever tries too often. */
export async function expectTries(
  { tries, log }: Pick<Sessions, 'tries' | 'log'>,
  ctx: Context,
  account: string,
): Promise<void> {
  const wait = await tries.take(account, ctx.ip);
  if (wait === 0) return;
  log.warn({ account, from: ctx.ip }, 'sign-in refused: too many tries');
  ctx.set('Retry-After', String(wait));
  throw new Problem(
    429,
    'Too many tries',
    `Try again in ${Math.ceil(wait / 60)} minutes, or ask an owner for a new password`,
  );
}

/** Lets somebody in who has shown who she is: a cookie, of which the hash alone is kept. */
export async function startSession(
  { db, config }: Pick<Sessions, 'db' | 'config'>,
  ctx: Context,
  user: Pick<User, 'id'>,
): Promise<void> {
  const token = newToken();
  await db
    .insert(tables.session)
    .values({ tokenHash: digestOf(token), userId: user.id, expires: sql`now() + make_interval(days => ${days})` });
  await db.delete(tables.session).where(isOver(config));
  ctx.cookies.set(cookie, token, {
    httpOnly: true,
    sameSite: 'lax',
    secure: isSecure(ctx, config),
    maxAge: days * 86_400_000,
  });
}

/** Whether whoever asks reaches us by HTTPS, through a proxy or not. */
export const isSecure = (ctx: Context, config: Config) => ctx.secure || config.address.startsWith('https:');

const isOver = ({ idleHours }: Config) => sql`(expires < now() OR used_at < now() - ${`${idleHours} hours`}::interval)`;

export async function signOut(ctx: Context, db: Database): Promise<void> {
  const token = ctx.cookies.get(cookie);
  if (!token) return;
  await db.delete(tables.session).where(eq(tables.session.tokenHash, digestOf(token)));
  await db
    .update(tables.userAccount)
    .set({ lastVisit: sql`now()` })
    .where(eq(tables.userAccount.id, (ctx.state as { user?: User }).user?.id ?? 0));
  ctx.cookies.set(cookie, null);
}

/** Print of the session a request comes with; undefined where it has none. */
export const sessionOf = (ctx: Context): string | undefined => {
  const token = ctx.cookies.get(cookie);
  return token === undefined ? undefined : digestOf(token);
};

/** Whose session this is, if it still is one. */
export async function userOf(db: Executor, config: Config, session: string): Promise<User | undefined> {
  return queryOne<User>(
    db,
    sql`WITH used AS (UPDATE session SET used_at = now() WHERE token_hash = ${session} AND NOT ${isOver(config)} AND used_at < now() - interval '1 minute')
        SELECT u.id, u.email, u.name, u.role, u.last_visit AS "lastVisit" FROM session s JOIN user_account u ON u.id = s.user_id
        WHERE s.token_hash = ${session} AND NOT u.gone AND NOT ${isOver(config)}`,
  );
}
