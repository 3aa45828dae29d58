/** The set-up of a place as core wants it, compiled once per version of it. */
import { createHash } from 'node:crypto';
import type { Fill } from '@velvet-shelf/core/fills';
import { type CompiledPlace, type PlaceSetup, compilePlace } from '@velvet-shelf/core/listings';
import type { Rulebook } from '@velvet-shelf/core/rulebooks';
import { sql } from 'drizzle-orm';
import type { Dictionary } from '../catalog/dictionary.js';
import { type Executor, queryOne, queryRows } from '../db/client.js';
import type { Config } from '../config.js';
import { notFound } from '../http/problem.js';
import type { Outside } from './adapters/index.js';

export interface PlaceRow {
  id: number;
  channelId: number;
  channel: string;
  channelName: string;
  /** Kind of its adapter. */
  adapter: string;
  accountState: string;
  accountAddress: string;
  market: string;
  name: string;
  country: string;
  language: string;
  currency: string;
  assortment: PlaceSetup['assortment'];
  setupVersion: number;
  rulebookId: number;
}

const columns = sql`
  p.id, c.id AS "channelId", c.key AS channel, c.name AS "channelName", c.adapter, a.state AS "accountState", a.address AS "accountAddress",
  p.market, p.name, p.country, p.language, p.currency, p.assortment, p.setup_version AS "setupVersion", c.rulebook_id AS "rulebookId"
  FROM place p JOIN account a ON a.id = p.account_id JOIN channel c ON c.id = a.channel_id`;

/** The channel of a place, for its adapter. */
export const outsideOf = (config: Config, { channelName, accountAddress }: PlaceRow): Outside => ({
  config,
  name: channelName,
  address: accountAddress,
});

export async function listPlaces(on: Executor): Promise<PlaceRow[]> {
  return queryRows<PlaceRow>(on, sql`SELECT ${columns} ORDER BY p.id`);
}

export async function getPlace(on: Executor, id: number): Promise<PlaceRow> {
  const place = await queryOne<PlaceRow>(on, sql`SELECT ${columns} WHERE p.id = ${id}`);
  if (!place) throw notFound(`place ${id}`);
  return place;
}

/** What may be changed for a what-if, before it is compiled. */
export interface SetupChange {
  rulebook?: Rulebook;
  categories?: ReadonlyMap<string, string | null>;
  fills?: ReadonlyMap<string, Fill | null>;
}

export async function loadSetup(
  on: Executor,
  place: PlaceRow,
  dictionary: Dictionary,
  mediaAddress: string,
  change: SetupChange = {},
): Promise<PlaceSetup> {
  const rulebook =
    change.rulebook ??
    (await queryOne<{ body: Rulebook }>(on, sql`SELECT body FROM rulebook WHERE id = ${place.rulebookId}`))?.body;
  if (!rulebook) throw notFound(`rulebook for ${place.name}`);
  const maps = await queryRows<{ category: string; target: string }>(
    on,
    sql`SELECT category, target FROM category_map WHERE channel_id = ${place.channelId} AND market IN ('', ${place.market}) ORDER BY market`,
  );
  const fills = await queryRows<{ attribute: string; category: string; market: string; fill: Fill }>(
    on,
    sql`SELECT attribute, category, market, fill FROM fill WHERE channel_id = ${place.channelId} AND market IN ('', ${place.market}) ORDER BY market`,
  );
  const pins = await queryRows<{ variant: number; attribute: string; value: string }>(
    on,
    sql`SELECT l.variant_id AS variant, n.attribute, n.value FROM pin n JOIN listing l ON l.id = n.listing_id WHERE l.place_id = ${place.id}`,
  );
  const categoryMap = new Map(maps.map((map) => [map.category, map.target]));
  for (const [category, target] of change.categories ?? [])
    if (target === null) categoryMap.delete(category);
    else categoryMap.set(category, target);
  /** The market's own fill replaces the channel's for the same slot. */
  const placed = new Map(
    fills.map((fill) => [
      `${fill.attribute}\u0001${fill.category}`,
      { attribute: fill.attribute, category: fill.category || undefined, fill: fill.fill },
    ]),
  );
  for (const [attribute, fill] of change.fills ?? [])
    if (fill === null) placed.delete(`${attribute}\u0001`);
    else placed.set(`${attribute}\u0001`, { attribute, category: undefined, fill });
  const byVariant = new Map<number, Record<string, string>>();
  for (const { variant, attribute, value } of pins)
    byVariant.set(variant, { ...byVariant.get(variant), [attribute]: value });
  return {
    channel: place.channel,
    market: place.market,
    language: place.language,
    currency: place.currency,
    rulebook,
    dictionary: dictionary.attributes,
    assortment: place.assortment,
    categoryMap,
    fills: [...placed.values()],
    pins: byVariant,
    mediaAddress,
  };
}

/** Start of the addresses of pictures. */
export const mediaAddress = (address: string) => `${address}/media`;

/** What was compiled lately, by place and what it was compiled of. */
const compiled = new Map<string, CompiledPlace>();
const mostCompiled = 24;

/** A place ready to evaluate; compiled once for each version of its set-up, its rulebook and the dictionary. */
export async function compileFor(
  on: Executor,
  place: PlaceRow,
  dictionary: Dictionary,
  address: string,
): Promise<CompiledPlace> {
  const { id, setupVersion, rulebookId } = place;
  const print = createHash('md5')
    .update(JSON.stringify([...dictionary.attributes.values()]))
    .digest('base64url');
  const key = [id, setupVersion, rulebookId, address, print].join(' ');
  const held = compiled.get(key);
  const answer = held ?? compilePlace(await loadSetup(on, place, dictionary, mediaAddress(address)));
  compiled.delete(key);
  compiled.set(key, answer);
  for (const old of compiled.keys()) {
    if (compiled.size <= mostCompiled) break;
    compiled.delete(old);
  }
  return answer;
}
