/** Who may come in, and as what. */
import type { Role } from '@velvet-shelf/contract';
import { and, asc, eq, gt, sql } from 'drizzle-orm';
import { type Executor, first, iso } from '../db/client.js';
import { act } from '../history/act.js';
import type { Services, User } from '../http/route.js';
import { conflict, notFound } from '../http/problem.js';
import * as tables from '../db/schema/index.js';
import { hashPassword, personColumns } from './service.js';

export interface Person {
  email: string;
  name: string;
  password: string;
}

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
