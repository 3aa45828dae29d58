/** Passwords that are changed by whom they belong to, and given anew from the terminal. */
import { verify } from '@node-rs/argon2';
import { and, count, eq, ne } from 'drizzle-orm';
import { type Database, first } from '../db/client.js';
import type { User } from '../http/route.js';
import { badRequest, notFound } from '../http/problem.js';
import * as tables from '../db/schema/index.js';
import { hashPassword } from './service.js';

/** One's own password; every other session of the account ends. */
export async function changePassword(
  db: Database,
  user: User,
  session: string,
  { current, password }: { current: string; password: string },
): Promise<void> {
  const held = await first(
    db
      .select({ passwordHash: tables.userAccount.passwordHash })
      .from(tables.userAccount)
      .where(eq(tables.userAccount.id, user.id)),
  );
  if (!held || !(await verify(held.passwordHash, current)))
    throw badRequest('This is not your password', [{ pointer: '/body/current', detail: 'This is not your password' }]);
  await writePassword(db, user.id, password, session);
}

/** Sessions other than `kept` end. */
async function writePassword(db: Database, id: number, password: string, kept = ''): Promise<void> {
  const passwordHash = await hashPassword(password);
  await db.transaction(async (tx) => {
    await tx.update(tables.userAccount).set({ passwordHash }).where(eq(tables.userAccount.id, id));
    await tx.delete(tables.session).where(and(eq(tables.session.userId, id), ne(tables.session.tokenHash, kept)));
  });
}

/** From the terminal: gives an account another password; answers whose it is. */
export async function resetPassword(db: Database, email: string, password: string): Promise<string> {
  const held = await first(
    db
      .select({ id: tables.userAccount.id, name: tables.userAccount.name })
      .from(tables.userAccount)
      .where(eq(tables.userAccount.email, email.trim().toLowerCase())),
  );
  if (!held) {
    const [all] = await db.select({ n: count() }).from(tables.userAccount);
    throw notFound(`account of ${email} among the ${all?.n ?? 0} of this shelf`);
  }
  await writePassword(db, held.id, password);
  await db.update(tables.userAccount).set({ gone: false }).where(eq(tables.userAccount.id, held.id));
  return held.name;
}
