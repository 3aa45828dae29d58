/** Places that people make, rename and remove. */
import type { Effect } from '@velvet-shelf/contract';
import type { Condition } from '@velvet-shelf/core/conditions';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { and, asc, eq, inArray, ne, or, sql } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import { act } from '../history/act.js';
import { deltaOfFields } from '../history/fields.js';
import { badRequest, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { heldChannel } from './own-accounts.js';
import { getPlace } from './places.js';
import * as tables from '../db/schema/index.js';

const { account, place } = tables;

type Market = Rulebook['markets'][number];

/** The account to sell with in a market: the one that is named, else the first that sells there and has no place in it yet. */
function sellerIn(
  sellers: readonly Seller[],
  named: number | undefined,
  { key, name, region = '' }: Market,
  markets: readonly Market[],
): Seller {
  const regionOf = (sold: string) => markets.find((each) => each.key === sold)?.region ?? '';
  // One that is of no region yet may sell already: it did before the channel had any.
  const inRegion = (each: Seller) =>
    each.region === '' ? each.markets.every((sold) => regionOf(sold) === region) : each.region === region;
  const wanted = sellers.filter(({ id }) => named === undefined || id === named);
  if (wanted.length === 0) throw notFound(`account ${named}`);
  const open = wanted.filter(inRegion);
  const [chosen] = open.filter((each) => !each.markets.includes(key));
  if (chosen) return chosen;
  throw open.length > 0
    ? conflict(`There is a place in ${name} already`)
    : conflict(
        `${wanted.map((each) => each.name).join(', ')} sells in another region than ${name}: make a further account`,
      );
}

/** An account, and where it sells already. */
interface Seller {
  id: number;
  name: string;
  region: string;
  markets: string[];
}

/** Accounts of a channel with the markets they sell in. */
async function sellersOn(tx: Executor, channelId: number): Promise<Seller[]> {
  const { id, name, region } = account;
  const accounts = await tx
    .select({ id, name, region })
    .from(account)
    .where(eq(account.channelId, channelId))
    .orderBy(asc(id));
  const places = await tx
    .select({ account: place.accountId, market: place.market })
    .from(place)
    .where(
      inArray(
        place.accountId,
        accounts.map((each) => each.id),
      ),
    );
  return accounts.map((each) => ({
    ...each,
    markets: places.filter((row) => row.account === each.id).map(({ market }) => market),
  }));
}

/** Makes a place on a channel; goods that meet the condition are listed there at once. The first place of an account says its region. */
export async function addPlace(
  services: Services,
  user: User,
  channelId: number,
  given: { market: string; name: string; condition: Condition; account?: number | undefined },
): Promise<{ id: number; effect: Effect }> {
  const { answer: id, effect } = await act(services, user, { kind: 'place', tells: ['channels'] }, async (on) => {
    // Held until the transaction ends: nobody makes another place on it meanwhile.
    const held = await heldChannel(on.tx, channelId);
    const market = held.body.markets.find((each) => each.key === given.market);
    if (!market)
      throw badRequest(`${held.name} has no market “${given.market}”`, [
        { pointer: '/body/market', detail: `Choose one of ${held.body.markets.map((each) => each.name).join(', ')}` },
      ]);
    const sellers = await sellersOn(on.tx, channelId);
    const seller = sellerIn(sellers, given.account, market, held.body.markets);
    const of = seller.id === sellers[0]?.id ? held.name : `${held.name} ${seller.name}`;
    const name = given.name || `${of}, ${market.name}`;
    const { key, country, language, currency, region = '' } = market;
    const made = await first(
      on.tx
        .insert(place)
        .values({
          ...{ accountId: seller.id, market: key, name, country, language, currency },
          assortment: given.condition,
        })
        .returning({ id: place.id }),
    );
    if (!made) throw new Error('A row that was written came not back');
    if (seller.region !== region) await on.tx.update(account).set({ region }).where(eq(account.id, seller.id));
    on.say(`New place ${name}`);
    on.change({ kind: 'place', id: made.id, delta: { created: [name] } });
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
    await dropPlace(on.tx, id);
    on.say(`Removed the place ${held.name}`);
  });
}
