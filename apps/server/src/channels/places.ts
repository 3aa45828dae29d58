/** Places with their account and channel. */
import { type Rulebook, withTerms } from '@velvet-shelf/core/rulebooks';
import { eq, sql } from 'drizzle-orm';
import type { Config } from '../config.js';
import { type Executor, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { notFound } from '../http/problem.js';
import type { Outside } from './adapters/index.js';

const placeRows = (on: Executor) =>
  on
    .select({
      id: tables.place.id,
      channelId: tables.channel.id,
      channel: tables.channel.key,
      channelName: tables.channel.name,
      /** Kind of its adapter. */
      adapter: tables.channel.adapter,
      accountId: tables.account.id,
      accountState: tables.account.state,
      accountAddress: tables.account.address,
      market: tables.place.market,
      name: tables.place.name,
      country: tables.place.country,
      language: tables.place.language,
      currency: tables.place.currency,
      assortment: tables.place.assortment,
      setupVersion: tables.place.setupVersion,
      rulebookId: sql<number>`${tables.channel.rulebookId}`,
    })
    .from(tables.place)
    .innerJoin(tables.account, eq(tables.account.id, tables.place.accountId))
    .innerJoin(tables.channel, eq(tables.channel.id, tables.account.channelId));

/** A place with its account and channel. */
export type PlaceRow = Awaited<ReturnType<typeof placeRows>>[number];

/** The channel of a place, for its adapter. */
export const outsideOf = (config: Config, { channelName, accountAddress }: PlaceRow): Outside => ({
  config,
  name: channelName,
  address: accountAddress,
});

export async function listPlaces(on: Executor): Promise<PlaceRow[]> {
  return placeRows(on).orderBy(tables.place.id);
}

/** Places of a channel, at any of its accounts. */
export async function placesOf(on: Executor, channelId: number): Promise<PlaceRow[]> {
  return placeRows(on).where(eq(tables.channel.id, channelId)).orderBy(tables.place.id);
}

export async function getPlace(on: Executor, id: number): Promise<PlaceRow> {
  const place = await first(placeRows(on).where(eq(tables.place.id, id)));
  if (!place) throw notFound(`place ${id}`);
  return place;
}

export async function rulebookOf(on: Executor, place: PlaceRow): Promise<Rulebook> {
  const rulebook = await first(
    on.select({ body: tables.rulebook.body }).from(tables.rulebook).where(eq(tables.rulebook.id, place.rulebookId)),
  );
  if (!rulebook) throw notFound(`rulebook for ${place.name}`);
  return forAccount(on, place, rulebook.body);
}

/** Places of a channel speak the language and ask the currency that the rulebook in use says of their markets. */
export async function followMarkets(on: Executor, channelId: number): Promise<void> {
  for (const place of await placesOf(on, channelId)) {
    const { markets } = await rulebookOf(on, place);
    const market = markets.find(({ key }) => key === place.market);
    if (!market) continue;
    const { country, language, currency } = market;
    await on.update(tables.place).set({ country, language, currency }).where(eq(tables.place.id, place.id));
  }
}

export const placesOfAccount = async (on: Executor, accountId: number): Promise<number[]> =>
  (await on.select({ id: tables.place.id }).from(tables.place).where(eq(tables.place.accountId, accountId))).map(
    ({ id }) => id,
  );

/** The rulebook with the terms that the account of the place has. */
export async function forAccount(on: Executor, { accountId }: PlaceRow, rulebook: Rulebook): Promise<Rulebook> {
  if (!rulebook.terms) return rulebook;
  const { kind, key, goneAt } = tables.accountTerm;
  const terms = await on
    .select({ kind, key, isGone: sql<boolean>`${goneAt} IS NOT NULL` })
    .from(tables.accountTerm)
    .where(eq(tables.accountTerm.accountId, accountId))
    .orderBy(kind, key);
  return withTerms(rulebook, terms);
}
