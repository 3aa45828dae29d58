/** Accounts that people make, change and remove: several on one channel, each in one of its regions where it has any. */
import { type Rulebook, marketsIn } from '@velvet-shelf/core/rulebooks';
import { asc, count, eq } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import { act } from '../history/act.js';
import { deltaOfFields } from '../history/fields.js';
import { Problem, badRequest, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import * as tables from '../db/schema/index.js';

const { channel, account, place, rulebook } = tables;

interface AccountBody {
  name: string;
  address: string;
  region: string;
}

/** A channel with the rulebook in use, held until the transaction ends. */
export async function heldChannel(tx: Executor, id: number): Promise<{ name: string; body: Rulebook }> {
  const held = await first(
    tx
      .select({ name: channel.name, body: rulebook.body })
      .from(channel)
      .innerJoin(rulebook, eq(rulebook.id, channel.rulebookId))
      .where(eq(channel.id, id))
      .for('update', { of: channel }),
  );
  if (!held) throw notFound(`channel ${id}`);
  return held;
}

function expectRegion({ name, body: { regions = [] } }: { name: string; body: Rulebook }, region: string): void {
  if (region === '' || regions.some(({ key }) => key === region)) return;
  throw badRequest(`${name} has no region “${region}”`, [
    {
      pointer: '/body/region',
      detail:
        regions.length > 0
          ? `Choose one of ${regions.map((each) => each.name).join(', ')}`
          : 'The channel has no regions',
    },
  ]);
}

async function expectFreeName(tx: Executor, channelId: number, name: string, but?: number): Promise<void> {
  const rows = await tx
    .select({ id: account.id, name: account.name })
    .from(account)
    .where(eq(account.channelId, channelId));
  if (rows.some((row) => row.id !== but && row.name === name))
    throw new Problem(409, 'The name is taken', `There is an account “${name}” on this channel already`, [
      { pointer: '/body/name', detail: 'Another account of the channel has this name' },
    ]);
}

const stripped = (address: string) => address.replace(/\/$/, '');

/** Makes a further account; where no address is given, that of the channel’s first one is taken. */
export async function addAccount(
  services: Services,
  user: User,
  channelId: number,
  { name, address, region }: AccountBody,
): Promise<number> {
  const { answer } = await act(services, user, { kind: 'account', tells: ['channels'] }, async (on) => {
    const held = await heldChannel(on.tx, channelId);
    expectRegion(held, region);
    await expectFreeName(on.tx, channelId, name);
    const sibling = await first(
      on.tx
        .select({ address: account.address })
        .from(account)
        .where(eq(account.channelId, channelId))
        .orderBy(asc(account.id))
        .limit(1),
    );
    const made = await first(
      on.tx
        .insert(account)
        .values({
          ...{ channelId, name, region },
          address: stripped(address) || (sibling?.address ?? ''),
          state: held.body.joins ? 'off' : 'connected',
        })
        .returning({ id: account.id }),
    );
    on.say(`New account ${name} on ${held.name}`);
    on.change({ kind: 'channel', id: channelId, delta: { account: [null, name] } });
    return made?.id ?? 0;
  });
  return answer;
}

const marketsSoldIn = async (tx: Executor, accountId: number): Promise<{ name: string; market: string }[]> =>
  tx
    .select({ name: place.name, market: place.market })
    .from(place)
    .where(eq(place.accountId, accountId))
    .orderBy(asc(place.id));

export async function changeAccount(
  services: Services,
  user: User,
  id: number,
  { to, was }: { to: Partial<AccountBody>; was: Partial<AccountBody> },
): Promise<void> {
  await act(services, user, { kind: 'account', tells: ['channels'] }, async (on) => {
    const held = await first(on.tx.select().from(account).where(eq(account.id, id)).for('update'));
    if (!held) throw notFound(`account ${id}`);
    const delta = deltaOfFields(held, to, was);
    if (Object.keys(delta).length === 0) return;
    if (to.name !== undefined) await expectFreeName(on.tx, held.channelId, to.name, id);
    if (to.region !== undefined && to.region !== held.region) await expectMovable(on.tx, held, to.region);
    await on.tx
      .update(account)
      .set({ ...to, ...(to.address === undefined ? {} : { address: stripped(to.address) }) })
      .where(eq(account.id, id));
    on.say(`Changed the account ${held.name}`);
    on.change({ kind: 'channel', id: held.channelId, delta });
  });
}

/** An account can be said to be in another region while it is not connected and sells nowhere outside of that one. */
async function expectMovable(tx: Executor, held: typeof account.$inferSelect, region: string): Promise<void> {
  const on = await heldChannel(tx, held.channelId);
  expectRegion(on, region);
  if (held.credentials !== null)
    throw conflict(`${held.name} is connected: disconnect it before it changes its region`);
  const open = new Set(marketsIn(on.body, region).map(({ key }) => key));
  const outside = (await marketsSoldIn(tx, held.id)).filter(({ market }) => !open.has(market));
  if (outside.length > 0)
    throw conflict(
      `${held.name} sells outside of that region: remove ${outside.map(({ name }) => name).join(', ')} first, or make a further account`,
    );
}

/** Removes an account that is let go and sells nowhere; a channel keeps one. */
export async function removeAccount(services: Services, user: User, id: number): Promise<void> {
  await act(services, user, { kind: 'account', tells: ['channels'] }, async (on) => {
    const held = await first(on.tx.select().from(account).where(eq(account.id, id)).for('update'));
    if (!held) throw notFound(`account ${id}`);
    const { name } = await heldChannel(on.tx, held.channelId);
    if (held.credentials !== null) throw conflict(`${held.name} is connected: disconnect it first`);
    const places = await marketsSoldIn(on.tx, id);
    if (places.length > 0)
      throw conflict(`${held.name} has places: remove ${places.map((each) => each.name).join(', ')} first`);
    const all = await first(on.tx.select({ n: count() }).from(account).where(eq(account.channelId, held.channelId)));
    if ((all?.n ?? 0) < 2) throw conflict(`${name} keeps one account: remove the channel if you do not need it`);
    await on.tx.delete(account).where(eq(account.id, id));
    on.say(`Removed the account ${held.name} on ${name}`);
    on.change({ kind: 'channel', id: held.channelId, delta: { account: [held.name, null] } });
  });
}
