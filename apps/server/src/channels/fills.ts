/** Fills: the rule that says how one channel attribute gets its value. */
import type { ChannelAttributeAnswer } from '@velvet-shelf/contract';
import { valueChecks } from '@velvet-shelf/core/checks';
import { type Fill, comparedBy } from '@velvet-shelf/core/fills';
import { comparables, sourcesFor } from '@velvet-shelf/core/listings';
import { type ChannelAttribute, type Rulebook } from '@velvet-shelf/core/rulebooks';
import { sql } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../catalog/dictionary.js';
import { type Executor, json, one } from '../db/client.js';
import { recordAction } from '../history/record.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { markPlace } from '../listings/dirty.js';
import { type Effect, drain } from '../listings/evaluate.js';
import { kept } from '../kept/keep.js';
import { countApart } from './calls.js';
import { type SetupChange, getPlace, loadSetup, mediaAddress } from './setup.js';
import { rulebookOf, placesOf } from './service.js';

export async function saveFill(
  services: Services,
  user: User,
  placeId: number,
  attribute: string,
  fill: Fill | null,
): Promise<Effect> {
  const { db, config } = services;
  const place = await getPlace(db, placeId);
  const rulebook = await rulebookOf(db, place);
  const known = rulebook.attributes.find((one_) => one_.key === attribute);
  if (!known) throw notFound(`attribute “${attribute}” on ${place.channelName}`);
  mustCompare(await loadDictionary(db), fill);
  const effect = await db.transaction(async (tx) => {
    const before = await one<{ fill: Fill }>(
      tx,
      sql`SELECT fill FROM fill WHERE channel_id = ${place.channelId} AND market = '' AND category = '' AND attribute = ${attribute}`,
    );
    await writeFill(tx, place.channelId, attribute, fill);
    const words =
      fill === null
        ? `Took the fill of ${known.label} on ${place.channelName} away`
        : `Changed how ${known.label} is filled on ${place.channelName}`;
    await recordAction(tx, { actor: user.id, kind: 'fill', words }, [
      { kind: 'channel', id: place.channelId, delta: { [`fill:${attribute}`]: [before?.fill ?? null, fill] } },
    ]);
    return drain(tx, config.address, 500);
  });
  services.notify('listings');
  return effect;
}

/** Writes a fill for all markets of a channel and marks its places. */
export async function writeFill(tx: Executor, channelId: number, attribute: string, fill: Fill | null): Promise<void> {
  if (fill === null)
    await tx.execute(
      sql`DELETE FROM fill WHERE channel_id = ${channelId} AND market = '' AND category = '' AND attribute = ${attribute}`,
    );
  else
    await tx.execute(sql`INSERT INTO fill (channel_id, attribute, fill) VALUES (${channelId}, ${attribute}, ${json(fill)})
      ON CONFLICT (channel_id, market, category, attribute) DO UPDATE SET fill = excluded.fill`);
  for (const placeId of await placesOf(tx, channelId)) await markPlace(tx, placeId);
}

export async function currentFill(on: Executor, channelId: number, attribute: string): Promise<Fill | null> {
  return (
    (
      await one<{ fill: Fill }>(
        on,
        sql`SELECT fill FROM fill WHERE channel_id = ${channelId} AND market = '' AND category = '' AND attribute = ${attribute}`,
      )
    )?.fill ?? null
  );
}

/** Refuses a fill one of whose cases compares what is no attribute: it would never hold. */
function mustCompare({ attributes }: Dictionary, fill: Fill | null): void {
  const known = comparables(attributes);
  const unknown = fill && comparedBy(fill.rule).find((name) => !known.has(name));
  if (typeof unknown === 'string')
    throw badRequest(`A case compares “${unknown}”, which is no attribute: choose the attribute it is about`);
}

type Described = Omit<ChannelAttributeAnswer, 'filled' | 'missing' | 'samples' | 'effect'>;

/** Attributes the channel asks for, each with its fill and what could fill it. */
async function describeFills(
  { db, config }: Services,
  placeId: number,
  change: SetupChange = {},
): Promise<Described[]> {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const setup = await loadSetup(db, place, dictionary, mediaAddress(config.address), change);
  return setup.rulebook.attributes
    .filter(({ type }) => type !== 'category')
    .map((attribute) => ({
      key: attribute.key,
      label: attribute.label,
      help: attribute.help ?? null,
      type: attribute.type,
      need: attribute.need,
      limits: sayLimits(attribute, setup.rulebook),
      values: attribute.limits.values ?? null,
      fill: setup.fills.find((one_) => one_.attribute === attribute.key && one_.category === undefined)?.fill ?? null,
      sources: sourcesFor(attribute, dictionary.attributes),
    }));
}

const uncounted = { filled: 0, missing: 0, samples: [] };

/** Every attribute the channel asks for, its fill, and what it gives; large shelves are counted beside the request. */
export async function listFills(services: Services, placeId: number): Promise<ChannelAttributeAnswer[]> {
  const described = await describeFills(services, placeId);
  const { tallies } = await kept(services, `fills ${placeId}`, () => countApart(services, { placeId }));
  return described.map((one_) => ({ ...one_, ...(tallies[one_.key] ?? uncounted), effect: null }));
}

/** What one attribute would get from another fill, not saved. */
export async function tryFill(
  services: Services,
  placeId: number,
  attribute: string,
  fill: Fill | null,
): Promise<ChannelAttributeAnswer> {
  mustCompare(await loadDictionary(services.db), fill);
  const change = { fills: new Map([[attribute, fill]]) };
  const described = (await describeFills(services, placeId, change)).find(({ key }) => key === attribute);
  if (!described) throw notFound(`attribute “${attribute}”`);
  const { tallies, effect } = await countApart(services, { placeId, only: attribute, change });
  return { ...described, ...(tallies[attribute] ?? uncounted), effect };
}

function sayLimits(attribute: ChannelAttribute, rulebook: Rulebook): string[] {
  const { minLength, maxLength, values, units, minWidth, minHeight } = attribute.limits;
  return [
    ...(minLength !== undefined ? [`at least ${minLength} characters`] : []),
    ...(maxLength !== undefined ? [`at most ${maxLength} characters`] : []),
    ...(values ? [`one of ${values.length} values`] : []),
    ...(units ? [`in ${units.join(' or ')}`] : []),
    ...(minWidth !== undefined ? [`at least ${minWidth} × ${minHeight ?? minWidth} pixels`] : []),
    ...valueChecks
      .filter(
        ({ meta, compile }) =>
          ['sales-talk', 'capitals', 'absolute-link', 'gtin-digits'].includes(meta.id) && compile(attribute, rulebook),
      )
      .map(({ meta }) => meta.id.replace('-', ' ')),
  ];
}
