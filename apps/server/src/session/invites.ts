/** Links by which somebody makes an account, once. */
import type { Role } from '@velvet-shelf/contract';
import { and, eq, gt, sql } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { type Database, type Executor, first, iso } from '../db/client.js';
import { act } from '../history/act.js';
import type { Services, User } from '../http/route.js';
import { badRequest, notFound } from '../http/problem.js';
import * as tables from '../db/schema/index.js';
import { digestOf, newToken } from './codes.js';
import { type Person, makeAccount } from './people.js';
import { hashPassword } from './service.js';

const inviteDays = 7;

/** Makes a link for an address; the one before for it ends. Answers the token, which nobody sees again. */
export async function invite(
  services: Services,
  user: User,
  { email, role }: { email: string; role: Role },
): Promise<{ token: string; expires: string }> {
  const token = newToken();
  const { answer } = await act(services, user, { kind: 'invite' }, async (on) => {
    const known = await first(
      on.tx
        .select({ gone: tables.userAccount.gone })
        .from(tables.userAccount)
        .where(eq(tables.userAccount.email, email)),
    );
    if (known && !known.gone)
      throw badRequest(`${email} can come in already`, [{ pointer: '/body/email', detail: 'Can come in already' }]);
    const row = {
      role,
      tokenHash: digestOf(token),
      expires: sql<string>`now() + make_interval(days => ${inviteDays})`,
      madeBy: user.id,
    };
    const made = await first(
      on.tx
        .insert(tables.invite)
        .values({ ...row, email })
        .onConflictDoUpdate({ target: tables.invite.email, set: row })
        .returning({ expires: tables.invite.expires }),
    );
    on.say(`Invited ${email} as ${role}`);
    return made?.expires ?? '';
  });
  return { token, expires: iso(answer) };
}

export async function withdrawInvite(services: Services, user: User, id: number): Promise<void> {
  await act(services, user, { kind: 'invite' }, async (on) => {
    const gone = await first(
      on.tx.delete(tables.invite).where(eq(tables.invite.id, id)).returning({ email: tables.invite.email }),
    );
    if (!gone) throw notFound('invitation any more');
    on.say(`Withdrew the invitation of ${gone.email}`);
  });
}

const inviteOf = async (on: Executor, token: string) => {
  const held = await first(
    on
      .select({ id: tables.invite.id, email: tables.invite.email, role: tables.invite.role })
      .from(tables.invite)
      .where(and(eq(tables.invite.tokenHash, digestOf(token)), gt(tables.invite.expires, sql`now()`)))
      .for('update'),
  );
  if (!held) throw notFound('such invitation: it was used, has ended, or was withdrawn. Ask for another');
  return held;
};

export async function showInvited(db: Database, token: string) {
  return db.transaction(async (tx) => {
    const { email, role } = await inviteOf(tx, token);
    return { email, role, company: (await loadCompany(tx)).name };
  });
}

/** Makes the account a link stands for, once; one that was let go comes back as the same person. */
export async function join(db: Database, token: string, person: Omit<Person, 'email'>): Promise<number> {
  return db.transaction(async (tx) => {
    const { id, email, role } = await inviteOf(tx, token);
    await tx.delete(tables.invite).where(eq(tables.invite.id, id));
    const back = await first(
      tx
        .update(tables.userAccount)
        .set({ name: person.name, role, gone: false, passwordHash: await hashPassword(person.password) })
        .where(and(eq(tables.userAccount.email, email), eq(tables.userAccount.gone, true)))
        .returning({ id: tables.userAccount.id }),
    );
    return back?.id ?? makeAccount(tx, { ...person, email }, role);
  });
}
