/** Channels of one's own: from a rulebook, from one that ships, or from a description that fits on a page; their accounts and places. */
import type { ChannelAnswer, Effect } from '@velvet-shelf/contract';
import { loadRulebook } from '@velvet-shelf/core/checks';
import type { Condition } from '@velvet-shelf/core/conditions';
import { type Rulebook, type SmallChannel, smallRulebook } from '@velvet-shelf/core/rulebooks';
import { publishedChannels, rulebooksOf } from '@velvet-shelf/rulebooks';
import { and, asc, eq, inArray, ne, or, sql } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { todayText } from '../db/clock.js';
import { type Executor, first } from '../db/client.js';
import { act } from '../history/act.js';
import { deltaOfFields } from '../history/fields.js';
import { Problem, badRequest, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { getPlace, rulebookOf } from './places.js';
import * as tables from '../db/schema/index.js';

const { channel, account, place, rulebook } = tables;

export async function listChannels(on: Executor): Promise<ChannelAnswer[]> {
  const channels = await on
    .select({ id: channel.id, key: channel.key, name: channel.name, body: rulebook.body })
    .from(channel)
    .innerJoin(rulebook, eq(rulebook.id, channel.rulebookId))
    .orderBy(asc(channel.id));
  const accounts = await on.select().from(account).orderBy(asc(account.id));
  const places = await on.select().from(place).orderBy(asc(place.id));
  return channels.map(({ body, ...row }) => ({
    ...row,
    version: body.version,
    markets: body.markets,
    categories: body.categories.length,
    attributes: body.attributes.length,
    accounts: accounts
      .filter(({ channelId }) => channelId === row.id)
      .map(({ id, name, address }) => ({
        id,
        name,
        address,
        places: places
          .filter(({ accountId }) => accountId === id)
          .map((each) => ({ id: each.id, name: each.name, market: each.market })),
      })),
  }));
}

export function listShipped() {
  return publishedChannels().map((key) => {
    const versions = rulebooksOf(key).map(readShipped);
    return {
      key,
      name: versions[0]?.name ?? key,
      versions: versions.map(({ version }) => version),
      summary: versions[0]?.summary ?? null,
    };
  });
}

const readShipped = (json: unknown): Rulebook => {
  const read = loadRulebook(json);
  if (!read.ok) throw new Error(`A rulebook that ships cannot be read: ${read.faults.join('; ')}`);
  return read.rulebook;
};

export type NewChannel = { rulebook: unknown } | { shipped: string } | { small: Omit<SmallChannel, 'today'> };

/** Rulebooks a new channel comes with, oldest first. */
function rulebooksFor(given: NewChannel): Rulebook[] {
  if ('shipped' in given) {
    if (!publishedChannels().includes(given.shipped)) throw notFound(`channel “${given.shipped}” that ships`);
    return rulebooksOf(given.shipped).map(readShipped);
  }
  const read = loadRulebook('small' in given ? smallRulebook({ ...given.small, today: todayText() }) : given.rulebook);
  if (read.ok) return [read.rulebook];
  throw badRequest(
    `This is no rulebook we can use: ${read.faults.slice(0, 5).join('; ')}`,
    read.faults.map((detail) => ({ pointer: 'small' in given ? '/body/small' : '/body/rulebook', detail })),
  );
}

/** Makes a channel with an account of the company's on it. */
export async function addChannel(services: Services, user: User, given: NewChannel): Promise<number> {
  const versions = rulebooksFor(given);
  const today = todayText();
  const holding = versions.filter(({ validFrom }) => validFrom <= today).at(-1) ?? versions[0];
  if (!holding) throw notFound('rulebook of this channel');
  const { answer } = await act(services, user, { kind: 'channel', tells: ['channels'] }, async (on) => {
    const company = await loadCompany(on.tx);
    const made = await first(
      on.tx
        .insert(channel)
        .values({ key: holding.channel, name: holding.name })
        .onConflictDoNothing({ target: channel.key })
        .returning({ id: channel.id }),
    );
    if (!made)
      throw new Problem(
        409,
        'The channel is there already',
        `There is a channel “${holding.channel}” already: load another version of its rulebook at its place`,
        [{ pointer: '/body/name', detail: 'A channel of this name is there already' }],
      );
    const rows = await on.tx
      .insert(rulebook)
      .values(versions.map((body) => ({ channelId: made.id, version: body.version, validFrom: body.validFrom, body })))
      .returning({ id: rulebook.id, version: rulebook.version });
    const used = rows.find(({ version }) => version === holding.version);
    await on.tx
      .update(channel)
      .set({ rulebookId: used?.id ?? null })
      .where(eq(channel.id, made.id));
    await on.tx.insert(account).values({ channelId: made.id, name: company.name, address: '', state: 'connected' });
    on.say(`New channel ${holding.name}`);
    on.change({ kind: 'channel', id: made.id, delta: { created: [holding.channel] } });
    return made.id;
  });
  return answer;
}

/** Makes a place on a channel; goods that meet the condition are listed there at once. */
export async function addPlace(
  services: Services,
  user: User,
  channelId: number,
  { market: key, name, condition }: { market: string; name: string; condition: Condition },
): Promise<{ id: number; effect: Effect }> {
  const { answer: id, effect } = await act(services, user, { kind: 'place', tells: ['channels'] }, async (on) => {
    const held = await first(
      on.tx
        .select({ name: channel.name, body: rulebook.body, accountId: account.id })
        .from(channel)
        .innerJoin(rulebook, eq(rulebook.id, channel.rulebookId))
        .innerJoin(account, eq(account.channelId, channel.id))
        .where(eq(channel.id, channelId))
        .orderBy(asc(account.id))
        .limit(1),
    );
    if (!held) throw notFound(`channel ${channelId}`);
    const market = held.body.markets.find((each) => each.key === key);
    if (!market)
      throw badRequest(`${held.name} has no market “${key}”`, [
        { pointer: '/body/market', detail: `Choose one of ${held.body.markets.map((each) => each.name).join(', ')}` },
      ]);
    const made = await first(
      on.tx
        .insert(place)
        .values({
          accountId: held.accountId,
          market: market.key,
          name: name || `${held.name}, ${market.name}`,
          country: market.country,
          language: market.language,
          currency: market.currency,
          assortment: condition,
        })
        .onConflictDoNothing({ target: [place.accountId, place.market] })
        .returning({ id: place.id, name: place.name }),
    );
    if (!made) throw conflict(`There is a place in ${market.name} already`);
    on.say(`New place ${made.name}`);
    on.change({ kind: 'place', id: made.id, delta: { created: [made.name] } });
    await on.dirtyPlace(made.id);
    return made.id;
  });
  return { id, effect };
}

export async function renamePlace(
  services: Services,
  user: User,
  id: number,
  { to, was }: { to: { name: string }; was: { name: string } },
): Promise<void> {
  await act(services, user, { kind: 'place', tells: ['channels'] }, async (on) => {
    const held = await getPlace(on.tx, id);
    const delta = deltaOfFields({ name: held.name }, to, was);
    if (Object.keys(delta).length === 0) return;
    await on.tx.update(place).set(to).where(eq(place.id, id));
    on.say(`Renamed the place ${held.name} ${to.name}`);
    on.change({ kind: 'place', id, delta });
  });
}

export async function changeAccount(
  services: Services,
  user: User,
  id: number,
  { to, was }: { to: { name?: string; address?: string }; was: { name?: string; address?: string } },
): Promise<void> {
  await act(services, user, { kind: 'account', tells: ['channels'] }, async (on) => {
    const held = await first(on.tx.select().from(account).where(eq(account.id, id)).for('update'));
    if (!held) throw notFound(`account ${id}`);
    const delta = deltaOfFields(held, to, was);
    if (Object.keys(delta).length === 0) return;
    await on.tx
      .update(account)
      .set({ ...to, ...(to.address === undefined ? {} : { address: to.address.replace(/\/$/, '') }) })
      .where(eq(account.id, id));
    on.say(`Changed the account ${held.name}`);
    on.change({ kind: 'channel', id: held.channelId, delta });
  });
}

/** Whether the channel may know of goods from here: then the place stays. */
const wasSent = async (on: Executor, placeId: number): Promise<boolean> => {
  const known = await first(
    on
      .select({ id: tables.listing.id })
      .from(tables.listing)
      .where(
        and(
          eq(tables.listing.placeId, placeId),
          or(ne(tables.listing.channelState, 'none'), sql`${tables.listing.externalId} IS NOT NULL`),
        ),
      )
      .limit(1),
  );
  const up = await first(
    on
      .select({ id: tables.feed.id })
      .from(tables.feed)
      .where(and(eq(tables.feed.placeId, placeId), sql`${tables.feed.upRunId} IS NOT NULL`))
      .limit(1),
  );
  return known !== undefined || up !== undefined;
};

/** Removes a place that nothing was sent from, as part of an action; throws where something was. */
export async function dropPlace(tx: Executor, id: number): Promise<void> {
  if (await wasSent(tx, id))
    throw conflict('Goods were sent from here: the channel may know them. Narrow its assortment to nothing instead');
  const feeds = await tx.select({ id: tables.feed.id }).from(tables.feed).where(eq(tables.feed.placeId, id));
  const feedIds = feeds.map((each) => each.id);
  if (feedIds.length > 0) {
    await tx.delete(tables.run).where(inArray(tables.run.feedId, feedIds));
    await tx.delete(tables.feed).where(inArray(tables.feed.id, feedIds));
  }
  await tx.delete(tables.listingKey).where(eq(tables.listingKey.placeId, id));
  await tx.delete(tables.listing).where(eq(tables.listing.placeId, id));
  for (const of of [tables.placeTotal, tables.dirty, tables.serves]) await tx.delete(of).where(eq(of.placeId, id));
  await tx.delete(place).where(eq(place.id, id));
}

export async function removePlace(services: Services, user: User, id: number): Promise<void> {
  await act(services, user, { kind: 'remove-place', tells: ['channels', 'listings'] }, async (on) => {
    const held = await getPlace(on.tx, id);
    await rulebookOf(on.tx, held);
    await dropPlace(on.tx, id);
    on.say(`Removed the place ${held.name}`);
  });
}
