/** Who may come in: accounts, invitations, passwords. */
import { verify } from '@node-rs/argon2';
import type { Role } from '@velvet-shelf/contract';
import { and, asc, count, eq, gt, ne, sql } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { type Database, type Executor, first, iso } from '../db/client.js';
import { act } from '../history/act.js';
import type { Services, User } from '../http/route.js';
import { badRequest, conflict, notFound } from '../http/problem.js';
import * as tables from '../db/schema/index.js';
import { digestOf, newToken } from './codes.js';
import { hashPassword, personColumns } from './service.js';

export interface Person {
  email: string;
  name: string;
  password: string;
}

const inviteDays = 7;

export async function makeAccount(on: Executor, { email, name, password }: Person, role: Role): Promise<number> {
  const made = await first(
    on
      .insert(tables.userAccount)
      .values({ email, name, role, passwordHash: await hashPassword(password) })
      .onConflictDoNothing({ target: tables.userAccount.email })
      .returning({ id: tables.userAccount.id }),
  );
  if (!made) throw conflict(`There is an account of ${email} already`);
  return made.id;
}

export async function showPeople(on: Executor) {
  const people = await on
    .select(personColumns)
    .from(tables.userAccount)
    .where(eq(tables.userAccount.gone, false))
    .orderBy(asc(tables.userAccount.id));
  const invites = await on
    .select({
      id: tables.invite.id,
      email: tables.invite.email,
      role: tables.invite.role,
      expires: tables.invite.expires,
    })
    .from(tables.invite)
    .where(gt(tables.invite.expires, sql`now()`))
    .orderBy(asc(tables.invite.email));
  return {
    items: people.map((person) => ({ ...person, lastVisit: person.lastVisit && iso(person.lastVisit) })),
    invites: invites.map((invite) => ({ ...invite, expires: iso(invite.expires) })),
  };
}

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

export const personOf = (on: Executor, id: number) =>
  first(on.select(personColumns).from(tables.userAccount).where(eq(tables.userAccount.id, id)));

/** Gives somebody another role, or lets her come in no more: the last owner stays one. */
export async function changePerson(
  services: Services,
  user: User,
  id: number,
  { role, gone }: { role?: Role | undefined; gone?: true | undefined },
): Promise<void> {
  await act(services, user, { kind: 'person' }, async (on) => {
    // Two owners who take each other's role at once: one of them comes second and finds the other gone.
    const owners = await on.tx
      .select({ id: tables.userAccount.id })
      .from(tables.userAccount)
      .where(and(eq(tables.userAccount.role, 'owner'), eq(tables.userAccount.gone, false)))
      .orderBy(tables.userAccount.id)
      .for('update');
    const held = await personOf(on.tx, id);
    if (!held) throw notFound(`person ${id}`);
    const leaves = gone === true || (role !== undefined && role !== 'owner');
    if (leaves && owners.length === 1 && owners[0]?.id === id)
      throw conflict(`${held.name} is the last owner: make somebody else an owner first`);
    await on.tx
      .update(tables.userAccount)
      .set({ ...(role === undefined ? {} : { role }), ...(gone ? { gone } : {}) })
      .where(eq(tables.userAccount.id, id));
    if (gone) await on.tx.delete(tables.session).where(eq(tables.session.userId, id));
    on.say(gone ? `${held.name} comes in no more` : `${held.name} is ${role ?? held.role} now`);
  });
}

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
