/** Fills: the rule that says how one channel attribute gets its value. */
import type { ChannelAttributeAnswer } from '@velvet-shelf/contract';
import { checkMeta, valueChecks } from '@velvet-shelf/core/checks';
import type { Fill } from '@velvet-shelf/core/fills';
import { compilePlace, sayChannelValue, sourcesFor } from '@velvet-shelf/core/listings';
import { type ChannelAttribute, type Rulebook } from '@velvet-shelf/core/rulebooks';
import { sql } from 'drizzle-orm';
import { loadDictionary } from '../catalog/dictionary.js';
import { type Executor, json, one, rows } from '../db/client.js';
import { recordAction } from '../history/record.js';
import { notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { markPlace } from '../listings/dirty.js';
import { type Effect, drain, todayText } from '../listings/evaluate.js';
import { loadFamilies } from '../listings/families.js';
import { type SetupChange, getPlace, loadSetup, mediaAddress } from './setup.js';
import { rulebookOf, placesOf } from './service.js';
import { loadStanding, noEffect, weigh } from './what-if.js';

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

/** Samples shown of a fill: of kinds that differ, and until where they may be alike. */
const mostSamples = 12;
const mostAlike = 4;

/** Every attribute the channel asks for, its fill, and what it gives on a sample; `try_` replaces a fill unsaved. */
export async function showFills(
  { db, config }: Services,
  placeId: number,
  only?: string,
  try_?: SetupChange,
): Promise<ChannelAttributeAnswer[]> {
  const place = await getPlace(db, placeId);
  const dictionary = await loadDictionary(db);
  const setup = await loadSetup(db, place, dictionary, mediaAddress(config.address), try_ ?? {});
  const compiled = compilePlace(setup);
  const units = await rows<{ unit: number }>(
    db,
    sql`SELECT DISTINCT unit_id AS unit FROM listing WHERE place_id = ${placeId} AND readiness <> 'not for this channel'`,
  );
  const listingIds = new Map(
    (
      await rows<{ id: number; variant: number }>(
        db,
        sql`SELECT id, variant_id AS variant FROM listing WHERE place_id = ${placeId}`,
      )
    ).map((one_) => [one_.variant, one_.id]),
  );
  const tallies = new Map<
    string,
    {
      filled: number;
      missing: number;
      samples: ChannelAttributeAnswer['samples'];
      kinds: Set<string>;
      families: Set<number>;
    }
  >();
  const effect = try_ && noEffect();
  const standing = try_ ? await loadStanding(db, placeId) : undefined;
  const attributes = setup.rulebook.attributes.filter(
    (one_) => one_.type !== 'category' && (only === undefined || one_.key === only),
  );
  for (const attribute of attributes)
    tallies.set(attribute.key, {
      filled: 0,
      missing: 0,
      samples: [],
      kinds: new Set(),
      families: new Set(),
    });
  for (let from = 0; from < units.length; from += 500)
    for (const family of await loadFamilies(
      db,
      placeId,
      units.slice(from, from + 500).map((one_) => one_.unit),
    ))
      for (const result of compiled.evaluate(family, todayText())) {
        if (result.standing === 'left') continue;
        if (effect) weigh(effect, standing?.get(result.variant), result);
        if (result.standing !== 'in') continue;
        const variant = family.variants.find((one_) => one_.id === result.variant);
        const asked = new Set(compiled.attributes(result.category).map((one_) => one_.key));
        for (const attribute of attributes) {
          const tally = tallies.get(attribute.key);
          if (!tally || !asked.has(attribute.key)) continue;
          const value = result.values[attribute.key];
          if (value === undefined) tally.missing++;
          else tally.filled++;
          const fault = result.findings.find((one_) => one_.attribute === attribute.key);
          // One of each kind: of what becomes of the value, and of which goods; then more of them, from other families.
          const kind = `${fault?.check ?? (value === undefined ? 'empty' : 'filled')} ${variant?.category ?? ''}`;
          const isOther = !tally.kinds.has(kind);
          if (tally.samples.length >= (isOther ? mostSamples : mostAlike)) continue;
          if (!isOther && tally.families.has(family.id)) continue;
          tally.kinds.add(kind);
          tally.families.add(family.id);
          tally.samples.push({
            listingId: listingIds.get(result.variant) ?? 0,
            title: variant?.texts.title?.[place.language] ?? variant?.sku ?? '',
            value: value === undefined ? null : sayChannelValue(value, attribute, place.currency),
            fault: fault ? (checkMeta.get(fault.check)?.say(fault.params, attribute.label) ?? fault.check) : null,
          });
        }
      }
  return attributes.map((attribute) => {
    const tally = tallies.get(attribute.key);
    return {
      key: attribute.key,
      label: attribute.label,
      help: attribute.help ?? null,
      type: attribute.type,
      need: attribute.need,
      limits: sayLimits(attribute, setup.rulebook),
      values: attribute.limits.values ?? null,
      fill: setup.fills.find((one_) => one_.attribute === attribute.key && one_.category === undefined)?.fill ?? null,
      sources: sourcesFor(attribute, dictionary.attributes),
      filled: tally?.filled ?? 0,
      missing: tally?.missing ?? 0,
      samples: tally?.samples ?? [],
      effect: effect ?? null,
    };
  });
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
