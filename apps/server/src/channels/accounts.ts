/** Accounts on channels: joined by consent, by a secret or by a token; asked how they stand; let go. */
import { createHash, randomBytes } from 'node:crypto';
import type { AccountAnswer } from '@velvet-shelf/contract';
import { marketsIn } from '@velvet-shelf/core/rulebooks';
import { and, asc, count, eq, isNotNull, lt, sql } from 'drizzle-orm';
import { first, iso, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Acting, act } from '../history/act.js';
import { Problem, badRequest, conflict } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { seal, unseal } from '../outgoing/seal.js';
import { readsOf, writesOf } from './lets.js';
import { placesOfAccount } from './places.js';
import { type AccountRow as Row, accountRow, outside, speak } from './speaking.js';
import { type AccountReport, type Credentials, NotLetIn, adapterOf } from './adapters/index.js';

const { account, accountJoin, accountTerm, listing, place } = tables;

/** Minutes in which one has to come back from the page of consent. */
const consentMinutes = 20;
/** Hours after which a joined account is asked again by itself. */
const hoursBetween = 24;
/** At once, so that other work behind the requests has its turn. */
const mostAsked = 20;

export async function showAccount({ db }: Pick<Services, 'db'>, id: number): Promise<AccountAnswer> {
  const row = await accountRow(db, id);
  const terms = await db
    .select()
    .from(accountTerm)
    .where(eq(accountTerm.accountId, id))
    .orderBy(asc(accountTerm.kind), asc(accountTerm.key));
  const sells = await db.select({ id: place.id, market: place.market }).from(place).where(eq(place.accountId, id));
  const known = await first(
    db
      .select({
        linked: count(listing.externalId),
        live: sql<number>`(count(*) FILTER (WHERE ${listing.channelState} = 'live'))::int`,
      })
      .from(listing)
      .where(
        isIn(
          listing.placeId,
          sells.map((each) => each.id),
        ),
      ),
  );
  const { name, region, channelId, state, address, standing, askedAt, fault } = row.account;
  const adapter = adapterOf(row.adapter);
  const { missing = [], late = null, cancelled = null, notices = [] } = standing ?? {};
  return {
    ...{ id, name, region, channelId, state, missing, late, cancelled, notices, fault },
    channel: row.channelName,
    regions: row.regions,
    markets: marketsIn(row, region).map((market) => ({
      ...{ key: market.key, name: market.name, language: market.language, currency: market.currency },
      place: sells.find((each) => each.market === market.key)?.id ?? null,
    })),
    reads: readsOf(adapter, row.terms),
    writes: writesOf(adapter),
    joins: adapter.join?.by ?? null,
    hasService: address !== '',
    askedAt: askedAt === null ? null : iso(askedAt),
    terms: terms.map(({ kind, key, label, goneAt }) => ({
      ...{ kind, key, label },
      kindLabel: row.terms.find((each) => each.kind === kind)?.label ?? kind,
      goneAt: goneAt === null ? null : iso(goneAt),
    })),
    live: known?.live ?? 0,
    linked: known?.linked ?? 0,
  };
}

const hash = (text: string) => createHash('sha256').update(text).digest('base64url');

/** Whom to ask, and for which part of the world, is known. */
function expectReady({ account: { address, region }, channelName, regions }: Row): void {
  if (address === '')
    throw conflict(`Say the address of ${channelName}’s own service first: there is nobody to ask yet`);
  if (regions.length > 0 && region === '')
    throw conflict(`Choose the region first: ${regions.map(({ name }) => name).join(' or ')}`);
}

/** Where the channel sends a person back to. */
const backTo = (address: string) => `${address}/channels/joined`;

/** Remembers that a consent is asked for, and answers where. */
export async function askConsent(services: Services, user: User, id: number): Promise<string> {
  const { db, config } = services;
  const row = await accountRow(db, id);
  const { join } = adapterOf(row.adapter);
  if (join?.by !== 'consent') throw conflict(`${row.channelName} is not joined on a page of consent`);
  expectReady(row);
  const [state, verifier] = [randomBytes(24).toString('base64url'), randomBytes(32).toString('base64url')];
  await db.delete(accountJoin).where(lt(accountJoin.expires, sql`now()`));
  await db.insert(accountJoin).values({
    stateHash: hash(state),
    accountId: id,
    userId: user.id,
    verifier: await seal(config, verifier),
    expires: sql`now() + ${consentMinutes} * interval '1 minute'`,
  });
  const asked = { state, challenge: hash(verifier), back: backTo(config.address), region: row.account.region };
  return join.page(outside(services, row), asked);
}

/** Joins the account whose consent this state belongs to; a state is good once, and for whoever asked. */
export async function joinConsented(
  services: Services,
  user: User,
  { state, code }: { state: string; code: string },
): Promise<number> {
  const { db, config } = services;
  const [asked] = await db
    .delete(accountJoin)
    .where(and(eq(accountJoin.stateHash, hash(state)), eq(accountJoin.userId, user.id)))
    .returning();
  if (!asked || new Date(asked.expires) < new Date())
    throw badRequest('This consent was not asked for here, or too long ago: begin again at the account');
  const row = await accountRow(db, asked.accountId);
  const { join } = adapterOf(row.adapter);
  const verifier = await unseal(config, asked.verifier);
  if (join?.by !== 'consent' || typeof verifier !== 'string') throw badRequest('Begin again at the account');
  await keepJoined(services, user, row, () =>
    join.exchange(outside(services, row), { code, verifier, back: backTo(config.address) }),
  );
  return asked.accountId;
}

export async function joinBySecret(
  services: Services,
  user: User,
  id: number,
  given: { id: string; secret: string },
): Promise<void> {
  const row = await accountRow(services.db, id);
  const { join } = adapterOf(row.adapter);
  if (join?.by !== 'secret') throw conflict(`${row.channelName} is not joined with an id and a secret`);
  expectReady(row);
  await keepJoined(services, user, row, () => join.exchange(outside(services, row), given));
}

export async function joinByToken(services: Services, user: User, id: number, token: string): Promise<void> {
  const row = await accountRow(services.db, id);
  if (adapterOf(row.adapter).join?.by !== 'address') throw conflict(`${row.channelName} gives no token to paste`);
  expectReady(row);
  await keepJoined(services, user, row, () => Promise.resolve({ token }));
}

/** Gets what the account is spoken to with, tries it, and keeps both; where the channel does not know it, nothing is changed. */
async function keepJoined(services: Services, user: User, row: Row, get: () => Promise<Credentials>): Promise<void> {
  const credentials = await get().catch(said(row, 'what was given'));
  const report = await askReport(services, row, credentials.token).catch(said(row, 'what was given'));
  expectSameRegion(row, report);
  const sealed = await seal(services.config, credentials);
  await act(services, user, { kind: 'account', tells: ['channels'] }, async (on) => {
    await on.tx.update(account).set({ credentials: sealed }).where(eq(account.id, row.account.id));
    await keepReport(on, row, report);
    on.say(`Connected the account ${row.account.name} on ${row.channelName}`);
    on.change({ kind: 'channel', id: row.account.channelId, delta: { state: [row.account.state, stateOf(report)] } });
  });
}

const said =
  ({ channelName }: Row, what: string) =>
  (error: unknown): never => {
    if (error instanceof NotLetIn)
      throw new Problem(
        422,
        'Not let in',
        `${channelName} does not know ${what}: check it and try again. Nothing was changed.`,
      );
    throw error;
  };

/** Who agreed with an account of another region meant another one. */
function expectSameRegion({ account: { name, region }, regions, channelName }: Row, report: AccountReport): void {
  if (regions.length === 0 || report.region == null || report.region === region) return;
  const say = (key: string) => regions.find((each) => each.key === key)?.name ?? key;
  throw new Problem(
    422,
    'Another region',
    `${channelName} says this account is in ${say(report.region)}; ${name} is for ${say(region)}. Nothing was changed.`,
  );
}

async function askReport(services: Services, row: Row, token: string): Promise<AccountReport> {
  const ask = adapterOf(row.adapter).account;
  if (!ask) throw conflict(`${row.channelName} says nothing of its accounts`);
  return ask(outside(services, row), token);
}

const stateOf = ({ missing }: AccountReport): AccountAnswer['state'] => (missing.length > 0 ? 'pending' : 'connected');

/** What the channel says of the account: its standing, and the terms it has now. Listings that name a term follow. */
async function keepReport(
  on: Pick<Acting, 'tx' | 'dirtyPlace'>,
  { account: { id } }: Row,
  report: AccountReport,
): Promise<void> {
  const { tx } = on;
  const { missing, late, cancelled, notices, terms } = report;
  await tx
    .update(account)
    .set({ state: stateOf(report), standing: { missing, late, cancelled, notices }, askedAt: sql`now()`, fault: null })
    .where(eq(account.id, id));
  const held = await tx.select().from(accountTerm).where(eq(accountTerm.accountId, id));
  const markOf = (term: { kind: string; key: string }) => JSON.stringify([term.kind, term.key]);
  const now = new Set(terms.map(markOf));
  const there = new Set(held.flatMap((term) => (term.goneAt === null ? markOf(term) : [])));
  for (const term of held)
    if (term.goneAt === null && !now.has(markOf(term)))
      await tx
        .update(accountTerm)
        .set({ goneAt: sql`now()` })
        .where(and(eq(accountTerm.accountId, id), eq(accountTerm.kind, term.kind), eq(accountTerm.key, term.key)));
  if (terms.length > 0)
    await tx
      .insert(accountTerm)
      .values(terms.map((term) => ({ accountId: id, ...term })))
      .onConflictDoUpdate({
        target: [accountTerm.accountId, accountTerm.kind, accountTerm.key],
        set: { label: sql`excluded.label`, goneAt: null },
      });
  const isSame = now.size === there.size && [...now].every((mark) => there.has(mark));
  if (!isSame) for (const each of await placesOfAccount(tx, id)) await on.dirtyPlace(each, { offered: true });
}

/** Asks the channel how the account stands; a token that has run out is renewed, and where that fails the account says so. */
export async function refreshAccount(services: Services, user: User, id: number): Promise<void> {
  const row = await accountRow(services.db, id);
  const asked = await speak(services, row, (token) => askReport(services, row, token));
  const renewed = asked.credentials && (await seal(services.config, asked.credentials));
  await act(services, user, { kind: 'account', tells: ['channels'] }, async (on) => {
    if (renewed !== undefined) await on.tx.update(account).set({ credentials: renewed }).where(eq(account.id, id));
    if ('answer' in asked) await keepReport(on, row, asked.answer);
    else
      await on.tx
        .update(account)
        .set({ ...asked.state, askedAt: sql`now()` })
        .where(eq(account.id, id));
    const state = 'answer' in asked ? stateOf(asked.answer) : (asked.state.state ?? row.account.state);
    if (state === row.account.state) return;
    on.say(`The account ${row.account.name} on ${row.channelName} is ${sayState(state)} now`);
    on.change({ kind: 'channel', id: row.account.channelId, delta: { state: [row.account.state, state] } });
  });
}

const sayState = (state: AccountAnswer['state']): string =>
  ({
    connected: 'connected',
    pending: 'waiting for the channel',
    off: 'not connected',
    expired: 'not let in any more',
  })[state];

/** Forgets what the account is spoken to with; its places, listings and their links stay as they are. */
export async function letGo(services: Services, user: User, id: number): Promise<void> {
  await act(services, user, { kind: 'account', tells: ['channels'] }, async (on) => {
    const row = await accountRow(on.tx, id);
    if (row.account.credentials === null) throw conflict(`${row.account.name} is not connected`);
    await on.tx.update(account).set({ state: 'off', credentials: null, fault: null }).where(eq(account.id, id));
    on.say(`Disconnected the account ${row.account.name} from ${row.channelName}`);
    on.change({ kind: 'channel', id: row.account.channelId, delta: { state: [row.account.state, 'off'] } });
  });
}

/** Asks the channels of joined accounts that were not asked for a day; who joined nothing is nobody’s, so the owner is said to have asked. */
export async function refreshDueAccounts(services: Services): Promise<void> {
  const { db } = services;
  const due = await db
    .select({ id: account.id })
    .from(account)
    .where(and(isNotNull(account.credentials), lt(account.askedAt, sql`now() - ${hoursBetween} * interval '1 hour'`)))
    .orderBy(asc(account.id))
    .limit(mostAsked);
  if (due.length === 0) return;
  const owner = await first(
    db
      .select()
      .from(tables.userAccount)
      .where(eq(tables.userAccount.role, 'owner'))
      .orderBy(asc(tables.userAccount.id)),
  );
  if (!owner) return;
  for (const { id } of due) {
    // It says at the account itself what went wrong; the next day it is asked again.
    await refreshAccount(services, owner, id).catch(async (error: unknown) => {
      const fault = error instanceof Error ? error.message : String(error);
      await db
        .update(account)
        .set({ askedAt: sql`now()`, fault })
        .where(eq(account.id, id));
    });
  }
}
