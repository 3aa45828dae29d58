/** Suppliers, in the order in which they are trusted: whose goods a batch holds. */
import type { SupplierAnswer, SupplierFields } from '@velvet-shelf/contract';
import { foldCode, foldText } from '@velvet-shelf/core/values';
import { sql, eq, and, inArray, isNotNull, isNull, count } from 'drizzle-orm';
import { loadCompany } from './settings.js';
import { type Executor, first } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import { resolveAnew } from '../history/follow.js';
import { deltaOfFields, sayKept, takeRowsBack } from '../history/fields.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest, conflict, nameTaken, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import * as tables from '../db/schema/index.js';

/** Refuses the number of a supplier there is none of. */
export async function expectSupplier(db: Executor, id: number): Promise<void> {
  if (
    Number.isSafeInteger(id) &&
    (await first(
      db
        .select({ id: tables.supplier.id })
        .from(tables.supplier)
        .where(and(eq(tables.supplier.id, id), isNull(tables.supplier.mergedInto))),
    ))
  )
    return;
  throw badRequest(`There is no supplier ${id}`);
}

/** A supplier’s own number, or that of the one it was made one with. */
export const currentSupplier = sql<number>`coalesce(${tables.supplier.mergedInto}, ${tables.supplier.id})`.mapWith(
  Number,
);

/** Of our own sheet, whose article numbers are our SKUs. */
export async function ownSupplier(db: Executor): Promise<number> {
  const supplier = await first(
    db
      .select({ id: tables.supplier.id })
      .from(tables.supplier)
      .where(eq(tables.supplier.kind, 'own'))
      .orderBy(tables.supplier.rank)
      .limit(1),
  );
  if (!supplier) throw conflict('There is no own sheet among the suppliers');
  return supplier.id;
}

export async function listSuppliers(db: Executor): Promise<SupplierAnswer[]> {
  return db
    .select({
      id: tables.supplier.id,
      key: tables.supplier.key,
      name: tables.supplier.name,
      rank: tables.supplier.rank,
      kind: tables.supplier.kind,
      language: tables.supplier.language,
      currency: tables.supplier.currency,
      putAway: tables.supplier.putAway,
      usesOurNumbers: tables.supplier.usesOurNumbers,
      records: count(tables.record.id),
      dropped: sql<number>`count(*) FILTER (WHERE ${tables.record.dropped})`,
    })
    .from(tables.supplier)
    .leftJoin(tables.record, and(eq(tables.record.supplierId, tables.supplier.id), isNotNull(tables.record.contentId)))
    .where(isNull(tables.supplier.mergedInto))
    .groupBy(tables.supplier.id)
    .orderBy(tables.supplier.rank, tables.supplier.id);
}

interface NewSupplier {
  name: string;
  language?: string | undefined;
  currency?: string | null | undefined;
}

/** New ones are trusted last, in their order; where one cannot be made, none is. */
export async function addSuppliers(services: Services, user: User, given: readonly NewSupplier[]): Promise<number[]> {
  const { answer } = await act(services, user, { kind: 'supplier', tells: ['suppliers'] }, async (on) => {
    const { home } = await loadCompany(on.tx);
    const ids: number[] = [];
    for (const one of given) ids.push(await makeSupplier(on, one, home));
    on.say(given.length === 1 ? `New supplier ${given[0]?.name}` : `${given.length} new suppliers`);
    return ids;
  });
  return answer;
}

async function makeSupplier(on: Acting, { name, language, currency }: NewSupplier, home: string): Promise<number> {
  await expectFree(on.tx, name);
  const made = await first(
    on.tx
      .insert(tables.supplier)
      .values({
        key: foldCode(name) || 'supplier',
        name,
        rank: sql`(SELECT coalesce(max(s.rank), 0) + 1 FROM ${tables.supplier} s)`,
        kind: 'supplier',
        language: language ?? home,
        currency: currency ?? null,
      })
      .onConflictDoNothing({ target: tables.supplier.key })
      .returning({ id: tables.supplier.id }),
  );
  if (!made) throw taken(name);
  on.change({ kind: 'supplier', id: made.id, delta: { created: [true] } });
  return made.id;
}

const taken = (name: string) => nameTaken(`There is a supplier named ${name} already`);

/** Names are compared as people read them: with a space more it is the same one. */
async function expectFree(tx: Executor, name: string, except = 0): Promise<void> {
  const others = await tx
    .select({ id: tables.supplier.id, name: tables.supplier.name })
    .from(tables.supplier)
    .where(isNull(tables.supplier.mergedInto));
  if (others.some((other) => other.id !== except && foldText(other.name) === foldText(name))) throw taken(name);
}

/** Changes what is still as whoever changes it saw it. */
export async function changeSupplier(
  services: Services,
  user: User,
  id: number,
  { to, was }: { to: Partial<SupplierFields>; was: Partial<SupplierFields> },
): Promise<void> {
  await act(services, user, { kind: 'supplier', tells: ['suppliers'] }, async (on) => {
    const held = await first(on.tx.select().from(tables.supplier).where(eq(tables.supplier.id, id)).for('update'));
    if (!held) throw notFound(`supplier ${id}`);
    if (held.mergedInto !== null) throw conflict(`${held.name} was made one with another supplier meanwhile`);
    if (to.name !== undefined) await expectFree(on.tx, to.name, id);
    if (to.putAway && held.kind === 'own') throw conflict('The own sheet stays: it is where our own goods come from');
    const delta = deltaOfFields(held, to, was);
    if (Object.keys(delta).length === 0) return;
    await on.tx.update(tables.supplier).set(to).where(eq(tables.supplier.id, id));
    on.say(sayKept(`the supplier ${held.name}`, to));
    on.change({ kind: 'supplier', id, delta });
    // Goods say by name whom they come from.
    if (delta.name) await resolveAnew(on.tx, `Telling the goods that ${held.name} is ${to.name} now`, on.id);
  });
}

/** Takes back a supplier that was made, where nothing came from it yet, and fields that are still as they were set. */
export async function undoSupplier(undoing: Undoing): Promise<Undone> {
  const { tx, by } = undoing;
  const { supplier } = tables;
  const { left, fields } = await takeRowsBack(undoing, 'supplier', {
    load: (id) => first(tx.select().from(supplier).where(eq(supplier.id, id)).for('update')),
    say: ({ name }) => name,
    stays: async ({ id, name }) => {
      const read = tx
        .select({ id: tables.batch.id })
        .from(tables.batch)
        .where(eq(tables.batch.supplierId, id))
        .limit(1);
      return (await first(read)) && `${name}: files of it have been read since`;
    },
    remove: (ids) => tx.delete(supplier).where(inArray(supplier.id, ids)),
    set: ({ id }, to) => tx.update(supplier).set(to).where(eq(supplier.id, id)),
  });
  if (fields.has('name')) await resolveAnew(tx, 'Telling the goods whom they come from', by);
  return { left };
}
