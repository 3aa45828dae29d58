/** The first visit: whoever has the code that the command printed makes the owner's account. */
import { hash, verify } from '@node-rs/argon2';
import { eq, sql } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import { Problem, badRequest, conflict } from '../http/problem.js';
import * as tables from '../db/schema/index.js';
import { bareCode, newCode } from './codes.js';
import { type Person, makeAccount } from './people.js';
import type { Sessions } from './service.js';

/** What tries of the first visit are counted as. */
export const visit = 'first visit';

/** Wrong codes after which another is made. */
const mostWrong = 10;

export const isOwned = async (on: Executor): Promise<boolean> =>
  (await on.select({ id: tables.userAccount.id }).from(tables.userAccount).limit(1)).length > 0;

/** Makes a code in place of the one before; undefined where the shelf has an owner. */
export async function renewCode(on: Executor): Promise<string | undefined> {
  if (await isOwned(on)) return undefined;
  const code = newCode();
  const row = { hash: await hash(bareCode(code)), wrong: 0, madeAt: sql`now()` };
  await on
    .insert(tables.ownerCode)
    .values({ ...row, id: 1 })
    .onConflictDoUpdate({ target: tables.ownerCode.id, set: row });
  return code;
}

const owned = () => conflict('This shelf has an owner already. Sign in, or ask for an invitation.');

/** Makes the owner's account; a wrong code is counted, and after ten of them another is printed. */
export async function makeOwner(
  { db, log, tries }: Sessions,
  from: string,
  { code, ...person }: Person & { code: string },
): Promise<number> {
  const made = await db.transaction(async (tx) => {
    const held = await first(tx.select().from(tables.ownerCode).where(eq(tables.ownerCode.id, 1)).for('update'));
    if (await isOwned(tx)) throw owned();
    if (!held) throw conflict('There is no code yet: run ./velvet code, which prints one');
    if (await verify(held.hash, bareCode(code))) {
      await tx.delete(tables.ownerCode);
      return makeAccount(tx, person, 'owner');
    }
    const wrong = held.wrong + 1;
    await tx.update(tables.ownerCode).set({ wrong });
    return { wrong };
  });
  if (typeof made === 'number') return made;
  log.warn({ wrong: made.wrong }, 'first visit: a wrong code');
  if (made.wrong >= mostWrong) {
    const fresh = await renewCode(db);
    await tries.forget(visit, from);
    if (fresh !== undefined) process.stdout.write(`first visit code ${fresh}\n`);
    throw new Problem(
      429,
      'Too many wrong codes',
      'The code has ended. Another was printed where the application runs; ./velvet code prints one too.',
    );
  }
  throw badRequest('This is not the code', [
    {
      pointer: '/body/code',
      detail: 'This is not the code that the command printed last; ./velvet code prints a new one',
    },
  ]);
}
