/** Channels of one's own: from a rulebook, from one that ships, or from a description that fits on a page. */
import type { ChannelAnswer } from '@velvet-shelf/contract';
import { type Rulebook, type SmallChannel, smallRulebook } from '@velvet-shelf/core/rulebooks';
import { publishedChannels } from '@velvet-shelf/rulebooks';
import { asc, eq } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { todayText } from '../db/clock.js';
import { type Executor, first } from '../db/client.js';
import { act } from '../history/act.js';
import { Problem, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { adapterOf } from './adapters/index.js';
import { readRulebook } from './rulebooks.js';
import { shippedRulebooks } from './shipped.js';
import * as tables from '../db/schema/index.js';

const { channel, account, place, rulebook } = tables;

export async function listChannels(on: Executor): Promise<ChannelAnswer[]> {
  const channels = await on
    .select({ id: channel.id, key: channel.key, name: channel.name, adapter: channel.adapter, body: rulebook.body })
    .from(channel)
    .innerJoin(rulebook, eq(rulebook.id, channel.rulebookId))
    .orderBy(asc(channel.id));
  const accounts = await on.select().from(account).orderBy(asc(account.id));
  const places = await on.select().from(place).orderBy(asc(place.id));
  return channels.map(({ body, adapter, ...row }) => ({
    ...row,
    version: body.version,
    regions: body.regions ?? [],
    markets: body.markets,
    categories: body.categories.length,
    attributes: body.attributes.length,
    accounts: accounts
      .filter(({ channelId }) => channelId === row.id)
      .map(({ id, name, region, address, state }) => ({
        ...{ id, name, region, address, state },
        joins: adapterOf(adapter).join?.by ?? null,
        places: places
          .filter(({ accountId }) => accountId === id)
          .map((each) => ({ id: each.id, name: each.name, market: each.market })),
      })),
  }));
}

export type NewChannel = { rulebook: unknown } | { shipped: string } | { small: Omit<SmallChannel, 'today'> };

/** Rulebooks a new channel comes with, oldest first. */
function rulebooksFor(given: NewChannel): Rulebook[] {
  if ('shipped' in given) {
    if (!publishedChannels().includes(given.shipped)) throw notFound(`channel “${given.shipped}” that ships`);
    return shippedRulebooks(given.shipped);
  }
  return [
    'small' in given
      ? readRulebook(smallRulebook({ ...given.small, today: todayText() }), '/body/small')
      : readRulebook(given.rulebook, '/body/rulebook'),
  ];
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
        .values({ key: holding.channel, name: holding.name, ...(holding.joins ? { adapter: holding.joins } : {}) })
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
    await on.tx
      .insert(account)
      .values({ channelId: made.id, name: company.name, address: '', state: holding.joins ? 'off' : 'connected' });
    on.say(`New channel ${holding.name}`);
    on.change({ kind: 'channel', id: made.id, delta: { created: [holding.channel] } });
    return made.id;
  });
  return answer;
}

/** Removes a channel that has no place any more. */
export async function removeChannel(services: Services, user: User, id: number): Promise<void> {
  await act(services, user, { kind: 'remove-channel', tells: ['channels'] }, async (on) => {
    const held = await first(on.tx.select().from(channel).where(eq(channel.id, id)).for('update'));
    if (!held) throw notFound(`channel ${id}`);
    const places = await on.tx
      .select({ name: place.name })
      .from(place)
      .innerJoin(account, eq(account.id, place.accountId))
      .where(eq(account.channelId, id))
      .orderBy(asc(place.id));
    if (places.length > 0)
      throw conflict(`${held.name} has places: remove ${places.map(({ name }) => name).join(', ')} first`);
    for (const of of [tables.categoryMap, tables.fill, rulebook, account])
      await on.tx.delete(of).where(eq(of.channelId, id));
    await on.tx.delete(channel).where(eq(channel.id, id));
    on.say(`Removed the channel ${held.name}`);
  });
}
