/** Evaluation: what is dirty is evaluated by the pipeline, and only rows whose outcome changed are written. */
import type { Effect } from '@velvet-shelf/contract';
import { type CompiledPlace, type Evaluated, type Readiness, itemKeyOf, printOf } from '@velvet-shelf/core/listings';
import { and, eq, or, sql } from 'drizzle-orm';
import { type Executor, isIn, json, queryRows } from '../db/client.js';
import { todayText } from '../db/clock.js';
import { refreshStatistics } from '../db/statistics.js';
import { noEffect } from '../history/effect.js';
import * as tables from '../db/schema/index.js';
import { loadFamilies } from './families.js';
import { type Grouped, groupsOf, judgeGroups, writeKeys } from './groups.js';
import { isQuotaOther, settleQuota } from './quota.js';
import { type Verdict, withVerdicts, writeReadiness } from './readiness.js';

/**
 * Evaluates families at one place inside the caller's transaction. One at a time writes there, for groups are judged by all that
 * is written; evaluating waits for nobody. Whoever changes what was evaluated marks it dirty, and that waits for this to end.
 */
export async function evaluateUnits(
  tx: Executor,
  place: CompiledPlace,
  placeId: number,
  units: readonly number[],
  mayWrite: Promise<void>,
): Promise<Effect> {
  const families = await loadFamilies(tx, placeId, units);
  const fresh = new Map<number, { unit: number; result: Evaluated }>();
  for (const family of families) {
    for (const result of place.evaluate(family, todayText()))
      if (result.standing !== 'left') fresh.set(result.variant, { unit: family.id, result });
  }
  await mayWrite;
  await tx.execute(sql`SELECT pg_advisory_xact_lock(4181, ${placeId})`);
  const existing = await tx
    .select({
      id: tables.listing.id,
      variant: tables.listing.variantId,
      print: tables.listing.print,
      readiness: tables.listing.readiness,
      collective: tables.listing.collective,
      channelState: tables.listing.channelState,
      externalId: tables.listing.externalId,
    })
    .from(tables.listing)
    .where(
      and(
        eq(tables.listing.placeId, placeId),
        or(isIn(tables.listing.unitId, units), isIn(tables.listing.variantId, [...fresh.keys()])),
      ),
    );
  const known = new Map(existing.map((listing) => [listing.variant, listing]));
  const left = existing.filter((listing) => !fresh.has(listing.variant));
  const changed = [...fresh.values()].flatMap(({ unit, result }) => {
    const print = printOf(result);
    return known.get(result.variant)?.print === print ? [] : [{ unit, result, print }];
  });
  const oldGroups = await groupsOf(tx, [
    ...changed.flatMap(({ result }) => known.get(result.variant)?.id ?? []),
    ...left.map((row) => row.id),
  ]);
  const stayed = await takeOut(tx, left);
  if (changed.length === 0 && left.length === 0 && !(await isQuotaOther(tx, place, placeId))) return noEffect();

  const judged = await withVerdicts(
    tx,
    changed.map(({ unit, result, print }) => ({
      ...{ unit, result, print, isOut: result.notFor !== undefined },
      found: [...result.findings, ...(known.get(result.variant)?.collective ?? [])],
    })),
  );
  const idOf = await writeListings(tx, place, placeId, judged);
  const grouped = changed.flatMap(({ result: { variant, notFor, keys } }): Grouped[] => {
    const id = idOf.get(variant);
    const collective = known.get(variant)?.collective ?? [];
    return id === undefined ? [] : [{ id, collective, counts: notFor === undefined, keys }];
  });
  // What left shares nothing any more, though the channel may still have it.
  grouped.push(...stayed.map(({ id }) => ({ id, collective: [], counts: false, keys: [] })));
  await writeKeys(tx, placeId, grouped);
  await refreshStatistics(tx, idOf.size, ['listing', 'listing_key']);
  const stood = (variant: number) => known.get(variant)?.readiness ?? 'not for this channel';
  const isMoved =
    left.length > 0 ||
    changed.some(({ result }) => (stood(result.variant) === 'not for this channel') === (result.notFor === undefined));
  const { beyond, crossing } = await settleQuota(tx, place, placeId, isMoved);
  const besides = await judgeGroups(tx, { place, beyond }, placeId, {
    ...{ left: oldGroups, written: grouped, also: crossing },
  });
  const after = new Map(
    judged.flatMap(({ result: { variant, readiness: alone }, readiness }) => {
      const id = idOf.get(variant);
      return id === undefined ? [] : [[id, { readiness, before: known.get(variant)?.readiness ?? alone }]];
    }),
  );
  // What was written stands as it says, but where its groups judge otherwise now.
  for (const { id, readiness, before } of await writeReadiness(tx, besides))
    after.set(id, { readiness, before: after.get(id)?.before ?? before });
  const turned = (to: Readiness) =>
    [...after.values()].filter(({ readiness, before }) => readiness === to && before !== to).length;
  return {
    listingsChanged: idOf.size + left.length,
    becameReady: turned('ready'),
    becameBlocked: turned('blocked'),
  };
}

type Left = Pick<typeof tables.listing.$inferSelect, 'id' | 'print' | 'channelState' | 'externalId'>;

/** Takes what left the assortment out; answers those that stay in their table, for the channel has them. */
async function takeOut<Listing extends Left>(tx: Executor, left: readonly Listing[]): Promise<Listing[]> {
  const stayed = left.filter((row) => row.externalId !== null || row.channelState !== 'none');
  const dropped = left.filter((row) => !stayed.includes(row));
  const idsOf = (rows: readonly Listing[]) => rows.map(({ id }) => id);
  if (dropped.length > 0) await tx.delete(tables.listing).where(isIn(tables.listing.id, idsOf(dropped)));
  const out = stayed.filter(({ print }) => print !== 'left');
  if (out.length > 0)
    await tx
      .update(tables.listing)
      .set({
        readiness: 'not for this channel',
        notFor: 'It left the assortment',
        findings: [],
        collective: [],
        causeSetId: null,
        print: 'left',
      })
      .where(isIn(tables.listing.id, idsOf(out)));
  return stayed;
}

/** Writes listings as they were judged; answers their numbers by variant. Of a product that is gone nothing is written. */
async function writeListings(
  tx: Executor,
  { setup }: CompiledPlace,
  placeId: number,
  judged: readonly (Verdict & { unit: number; result: Evaluated; print: string })[],
): Promise<Map<number, number>> {
  const rows = judged.map(({ unit, result, print, readiness, causeSetId }) => ({
    variant: result.variant,
    unit,
    print,
    readiness,
    cause_set: causeSetId,
    category: result.category ?? null,
    findings: result.findings,
    not_for: result.notFor ?? null,
    muted: result.isMuted,
    item_key: itemKeyOf(result, setup.rulebook) ?? null,
    next_change: result.nextChangeAt ?? null,
  }));
  const written = await queryRows<{ id: number; variant: number }>(
    tx,
    sql`INSERT INTO listing (place_id, variant_id, unit_id, readiness, cause_set_id, category, findings, not_for, muted, print, item_key, next_change_at)
        SELECT ${placeId}, variant, unit, readiness, cause_set, category, findings, not_for, muted, print, item_key, next_change
        FROM jsonb_to_recordset(${json(rows)}) AS t(variant bigint, unit bigint, readiness text, cause_set bigint, category text, findings jsonb, not_for text, muted boolean, print text, item_key text, next_change date)
        WHERE EXISTS (SELECT 1 FROM product p WHERE p.id = t.variant)
        ON CONFLICT (place_id, variant_id) DO UPDATE SET unit_id = excluded.unit_id, readiness = excluded.readiness, cause_set_id = excluded.cause_set_id, category = excluded.category, findings = excluded.findings,
          not_for = excluded.not_for, muted = excluded.muted, print = excluded.print, item_key = excluded.item_key, next_change_at = excluded.next_change_at,
          evaluated_at = now(), reported = CASE WHEN listing.channel_state = 'refused' THEN '[]'::jsonb ELSE listing.reported END
        RETURNING id, variant_id AS variant`,
  );
  return new Map(written.map(({ id, variant }) => [variant, id]));
}
