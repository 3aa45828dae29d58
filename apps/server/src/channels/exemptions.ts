/** Exemptions: goods that a channel was asked to let go without an attribute it requires, and what it said. */
import type { Effect, ExemptionAnswer } from '@velvet-shelf/contract';
import type { Condition } from '@velvet-shelf/core/conditions';
import type { Rulebook, exemptWays } from '@velvet-shelf/core/rulebooks';
import { keyOf } from '@velvet-shelf/core/values';
import { and, asc, eq, sql } from 'drizzle-orm';
import { conditionSql } from '../catalog/filter.js';
import { type Executor, first, iso, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { type Acting, act } from '../history/act.js';
import { Problem, badRequest, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { placesOfAccount } from './places.js';

const { account, exemption, listing, product } = tables;

type State = ExemptionAnswer['state'];

async function bookOf(on: Executor, accountId: number): Promise<{ name: string; channelId: number; book: Rulebook }> {
  const row = await first(
    on
      .select({ name: tables.channel.name, channelId: tables.channel.id, book: tables.rulebook.body })
      .from(account)
      .innerJoin(tables.channel, eq(tables.channel.id, account.channelId))
      .innerJoin(tables.rulebook, eq(tables.rulebook.id, tables.channel.rulebookId))
      .where(eq(account.id, accountId)),
  );
  if (!row) throw notFound(`account ${accountId}`);
  return row;
}

export async function listExemptions({ db }: Pick<Services, 'db'>, accountId: number) {
  const { book } = await bookOf(db, accountId);
  const dictionary = await loadDictionary(db);
  const places = await placesOfAccount(db, accountId);
  const rows = await db
    .select()
    .from(exemption)
    .where(eq(exemption.accountId, accountId))
    .orderBy(asc(exemption.attribute), asc(exemption.whom));
  const items: ExemptionAnswer[] = [];
  for (const { id, attribute, whom, reason, state, at, condition } of rows) {
    const counted = await first(
      db
        .select({ n: sql<number>`count(*)::int` })
        .from(listing)
        .innerJoin(sql`${product} AS p`, sql`p.id = ${listing.variantId}`)
        .where(and(isIn(listing.placeId, places), conditionSql(condition, dictionary))),
    );
    const label = book.attributes.find(({ key }) => key === attribute)?.label ?? attribute;
    items.push({ ...{ id, attribute, label, whom, reason, state }, at: iso(at), goods: counted?.n ?? 0 });
  }
  const attributes = book.attributes.flatMap(({ key, label, exempt }) => (exempt ? [{ key, label, by: exempt }] : []));
  return { items, attributes };
}

interface Asking {
  attribute: string;
  by: (typeof exemptWays)[number];
  whom: string;
  condition?: Condition | undefined;
  reason: string;
}

/** Whom an exemption is for, as a condition on goods of ours. */
function conditionFor({ by, whom, condition }: Asking, dictionary: Dictionary): Condition {
  const { attributes } = dictionary;
  if (by === 'condition') {
    if (!condition) throw badRequest('Say which goods: name at least one thing they have');
    // Refused here where it compares what is no attribute.
    conditionSql(condition, dictionary);
    return condition;
  }
  const role = by === 'maker' ? 'brand' : 'sku';
  const attribute = keyOf(attributes, role);
  if (attribute === undefined) throw badRequest(`No attribute of yours has the role ${role}`);
  return { attribute, op: 'is', value: whom };
}

export async function askExemption(services: Services, user: User, accountId: number, given: Asking): Promise<number> {
  const { attribute, by, whom, reason } = given;
  const { answer } = await act(services, user, { kind: 'exemption', tells: ['channels'] }, async (on) => {
    const { name, channelId, book } = await bookOf(on.tx, accountId);
    const asked = book.attributes.find(({ key }) => key === attribute);
    if (!asked?.exempt?.includes(by))
      throw badRequest(`${name} lets nobody go without “${asked?.label ?? attribute}” so`);
    const condition = conditionFor(given, await loadDictionary(on.tx));
    const [row] = await on.tx
      .insert(exemption)
      .values({ accountId, attribute, condition, whom, reason, state: 'asked' })
      .onConflictDoNothing()
      .returning();
    if (!row) throw new Problem(409, 'It was asked for already', `${asked.label} for ${whom} was asked for already`);
    on.say(`Asked ${name} to let ${whom} go without ${asked.label}`);
    on.change({ kind: 'channel', id: channelId, delta: { exemption: [{ attribute, whom, state: 'asked' }] } });
    return row.id;
  });
  return answer;
}

async function held(on: Pick<Acting, 'tx'>, id: number) {
  const row = await first(on.tx.select().from(exemption).where(eq(exemption.id, id)).for('update'));
  if (!row) throw notFound(`exemption ${id}`);
  return row;
}

/** Goods follow where it comes to be granted, or is not any more. */
async function follow(on: Acting, accountId: number, before: State, after: State | undefined): Promise<void> {
  if ((before === 'granted') === (after === 'granted')) return;
  for (const id of await placesOfAccount(on.tx, accountId)) await on.dirtyPlace(id, { offered: true });
}

export async function setExemption(
  services: Services,
  user: User,
  id: number,
  { state, was }: { state: State; was: State },
): Promise<Effect> {
  const { effect } = await act(services, user, { kind: 'exemption', tells: ['channels'] }, async (on) => {
    const row = await held(on, id);
    if (row.state !== was) throw stale(`It is ${row.state} meanwhile`, { current: row.state, yours: state });
    const { name, channelId } = await bookOf(on.tx, row.accountId);
    await on.tx
      .update(exemption)
      .set({ state, at: sql`now()` })
      .where(eq(exemption.id, id));
    await follow(on, row.accountId, row.state, state);
    on.say(
      `${name} has ${state === 'asked' ? 'not said yet whether it lets' : state === 'granted' ? 'let' : 'not let'} ${row.whom} go without ${row.attribute}`,
    );
    on.change({ kind: 'channel', id: channelId, delta: { exemption: [row.state, state] } });
  });
  return effect;
}

export async function removeExemption(services: Services, user: User, id: number): Promise<Effect> {
  const { effect } = await act(services, user, { kind: 'exemption', tells: ['channels'] }, async (on) => {
    const row = await held(on, id);
    const { name, channelId } = await bookOf(on.tx, row.accountId);
    await on.tx.delete(exemption).where(eq(exemption.id, id));
    await follow(on, row.accountId, row.state, undefined);
    on.say(`Took back that ${row.whom} goes to ${name} without ${row.attribute}`);
    on.change({ kind: 'channel', id: channelId, delta: { exemption: [row.state, null] } });
  });
  return effect;
}
