/** Evaluation: what is dirty is evaluated by the pipeline, and only rows whose outcome changed are written. */
import type { Effect } from '@velvet-shelf/contract';
import { type Members, collectiveChecks } from '@velvet-shelf/core/checks';
import {
  type CollectiveKey,
  type CompiledPlace,
  type Evaluated,
  type Finding,
  itemKeyOf,
  parseCause,
  printOf,
} from '@velvet-shelf/core/listings';
import { sql, eq, and, or } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { compileFor } from '../channels/setup.js';
import { listPlaces } from '../channels/places.js';
import { type Database, type Executor, ids, json, queryOne, queryRows, isAmong, isIn } from '../db/client.js';
import { todayText } from '../db/clock.js';
import { refreshStatistics } from '../db/statistics.js';
import { addEffects, noEffect } from '../history/effect.js';
import { loadFamilies } from './families.js';
import { isQuotaOther, settleQuota } from './quota.js';
import * as tables from '../db/schema/index.js';

/** Evaluates families at one place inside the caller's transaction. */
export async function evaluateUnits(
  tx: Executor,
  place: CompiledPlace,
  placeId: number,
  units: readonly number[],
  today: string,
): Promise<Effect> {
  const families = await loadFamilies(tx, placeId, units);
  const fresh = new Map<number, { unit: number; result: Evaluated }>();
  for (const family of families) {
    for (const result of place.evaluate(family, today))
      if (result.standing !== 'left') fresh.set(result.variant, { unit: family.id, result });
  }
  const existing = await tx
    .select({
      id: tables.listing.id,
      variant: tables.listing.variantId,
      print: tables.listing.print,
      readiness: tables.listing.readiness,
      channel_state: tables.listing.channelState,
      external_id: tables.listing.externalId,
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
  const dropped = left.filter((row) => row.external_id === null && row.channel_state === 'none');
  const keptOut = left.filter((row) => !dropped.includes(row) && row.print !== 'left');
  const changed = [...fresh.values()].flatMap(({ unit, result }) => {
    const print = printOf(result);
    return known.get(result.variant)?.print === print ? [] : [{ unit, result, print }];
  });
  const oldGroups = await groupsOf(tx, [
    ...changed.flatMap(({ result }) => known.get(result.variant)?.id ?? []),
    ...left.map((row) => row.id),
  ]);
  if (dropped.length > 0)
    await tx.delete(tables.listing).where(
      isIn(
        tables.listing.id,
        dropped.map((row) => row.id),
      ),
    );
  if (keptOut.length > 0)
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
      .where(
        isIn(
          tables.listing.id,
          keptOut.map((row) => row.id),
        ),
      );
  if (changed.length === 0 && left.length === 0 && !(await isQuotaOther(tx, place, placeId))) return noEffect();

  const written = await queryRows<{ id: number; variant: number }>(
    tx,
    sql`INSERT INTO listing (place_id, variant_id, unit_id, readiness, category, findings, not_for, muted, print, item_key, next_change_at)
        SELECT ${placeId}, variant, unit, readiness, category, findings, not_for, muted, print, item_key, next_change
        FROM jsonb_to_recordset(${json(
          changed.map(({ unit, result, print }) => ({
            variant: result.variant,
            unit,
            print,
            readiness: result.readiness,
            category: result.category ?? null,
            findings: result.findings,
            not_for: result.notFor ?? null,
            muted: result.isMuted,
            item_key: itemKeyOf(result, place.setup.rulebook) ?? null,
            next_change: result.nextChangeAt ?? null,
          })),
        )}) AS t(variant bigint, unit bigint, readiness text, category text, findings jsonb, not_for text, muted boolean, print text, item_key text, next_change date)
        WHERE EXISTS (SELECT 1 FROM product p WHERE p.id = t.variant)
        ON CONFLICT (place_id, variant_id) DO UPDATE SET unit_id = excluded.unit_id, category = excluded.category, findings = excluded.findings,
          not_for = excluded.not_for, muted = excluded.muted, print = excluded.print, item_key = excluded.item_key, next_change_at = excluded.next_change_at,
          evaluated_at = now(), reported = CASE WHEN listing.channel_state = 'refused' THEN '[]'::jsonb ELSE listing.reported END
        RETURNING id, variant_id AS variant`,
  );
  const idOf = new Map(written.map((listing) => [listing.variant, listing.id]));
  await writeKeys(
    tx,
    placeId,
    written.map((listing) => listing.id),
    changed.flatMap(({ result }) =>
      result.keys.map((collective) => ({ ...collective, listing: idOf.get(result.variant) ?? 0 })),
    ),
  );
  await refreshStatistics(tx, written.length, ['listing', 'listing_key']);
  const newGroups = await groupsOf(
    tx,
    written.map((listing) => listing.id),
  );
  const stood = (variant: number) => known.get(variant)?.readiness ?? 'not for this channel';
  const isMoved =
    left.length > 0 ||
    changed.some(({ result }) => (stood(result.variant) === 'not for this channel') === (result.notFor === undefined));
  const { beyond, crossing } = await settleQuota(tx, place, placeId, isMoved);
  const besides = await judgeGroups(
    tx,
    { place, beyond },
    placeId,
    [...oldGroups, ...newGroups],
    [...written.map((listing) => listing.id), ...crossing],
  );
  const notFor = new Map(
    changed.flatMap(({ result }) =>
      result.notFor === undefined ? [] : [[idOf.get(result.variant) ?? 0, true] as const],
    ),
  );
  const after = await writeReadiness(tx, [...new Set([...written.map((listing) => listing.id), ...besides])], notFor);
  const was = new Map(existing.map((listing) => [listing.id, listing.readiness]));
  const turned = (to: string) =>
    after.filter((row) => row.readiness === to && (was.get(row.id) ?? row.before) !== to).length;
  return {
    listingsChanged: written.length + left.length,
    becameReady: turned('ready'),
    becameBlocked: turned('blocked'),
  };
}

interface Group {
  check: string;
  key: string;
}

async function groupsOf(tx: Executor, listings: readonly number[]): Promise<Group[]> {
  return listings.length === 0
    ? []
    : tx
        .selectDistinct({ check: tables.listingKey.check, key: tables.listingKey.key })
        .from(tables.listingKey)
        .where(isIn(tables.listingKey.listingId, listings));
}

async function writeKeys(
  tx: Executor,
  placeId: number,
  listings: readonly number[],
  keys: (CollectiveKey & { listing: number })[],
): Promise<void> {
  await tx.delete(tables.listingKey).where(isIn(tables.listingKey.listingId, listings));
  await tx.execute(sql`
    INSERT INTO listing_key (place_id, "check", key, cause, listing_id)
    SELECT ${placeId}, "check", key, cause, listing FROM jsonb_to_recordset(${json(keys)}) AS t("check" text, key text, cause text, listing bigint) ON CONFLICT DO NOTHING`);
}

/** Judges the groups again, and writes the collective findings of their members; answers listings touched besides. */
async function judgeGroups(
  tx: Executor,
  { place, beyond = Infinity }: { place: CompiledPlace; beyond: number | undefined },
  placeId: number,
  groups: Group[],
  also: readonly number[],
): Promise<number[]> {
  const members = await queryRows<CollectiveKey & Members & { id: number; collective: Finding[]; counts: boolean }>(
    tx,
    sql`WITH touched AS MATERIALIZED (
          SELECT DISTINCT k.listing_id AS id FROM listing_key k
          JOIN jsonb_to_recordset(${json(groups)}) AS g("check" text, key text) ON g."check" = k."check" AND g.key = k.key
          WHERE k.place_id = ${placeId}
          UNION SELECT unnest(${ids(also)})),
        keyed AS MATERIALIZED (SELECT DISTINCT k."check", k.key FROM touched t JOIN listing_key k ON k.listing_id = t.id),
        grouped AS MATERIALIZED (
          SELECT k."check", k.key, count(*) AS items, count(DISTINCT o.unit_id) AS families
          FROM keyed k JOIN listing_key m ON m.place_id = ${placeId} AND m."check" = k."check" AND m.key = k.key JOIN listing o ON o.id = m.listing_id
          GROUP BY k."check", k.key)
        SELECT l.id, l.collective, l.not_for IS NULL AS counts, k."check", k.key, k.cause, g.items, g.families
        FROM touched t JOIN listing l ON l.id = t.id LEFT JOIN listing_key k ON k.listing_id = l.id LEFT JOIN grouped g ON g."check" = k."check" AND g.key = k.key`,
  );
  const found = new Map<number, { before: Finding[]; after: Finding[] }>();
  const compiled = new Map(
    collectiveChecks.map((collectiveCheck) => [
      collectiveCheck.meta.id,
      { check: collectiveCheck, on: collectiveCheck.compile(place.setup.rulebook) },
    ]),
  );
  for (const { id, check, key, cause, items, families, collective, counts } of members) {
    const tooMany = place.quota && counts && id >= beyond ? [place.quota.finding] : [];
    const entry = found.get(id) ?? { before: collective, after: tooMany };
    found.set(id, entry);
    const row = compiled.get(check);
    if (!row?.on || !row.check.judge({ items, families })) continue;
    entry.after.push({
      check,
      severity: row.check.meta.severity,
      attribute: row.on.attribute,
      cause,
      params: { key, others: items - 1 },
    });
  }
  const writes = [...found].filter(
    ([, { before, after }]) =>
      JSON.stringify(before.map((finding) => finding.params)) !==
      JSON.stringify(after.map((finding) => finding.params)),
  );
  if (writes.length > 0)
    await tx.execute(sql`
      UPDATE listing l SET collective = t.collective
      FROM jsonb_to_recordset(${json(writes.map(([id, { after }]) => ({ id, collective: after })))}) AS t(id bigint, collective jsonb) WHERE l.id = t.id`);
  return writes.map(([id]) => id);
}

/** Readiness and the interned set of blocking causes, from all findings of a listing. */
export async function writeReadiness(
  tx: Executor,
  listings: readonly number[],
  notFor: ReadonlyMap<number, boolean> = new Map(),
): Promise<{ id: number; readiness: string; before: string }[]> {
  const found = await tx
    .select({
      id: tables.listing.id,
      readiness: tables.listing.readiness,
      findings: tables.listing.findings,
      collective: tables.listing.collective,
      not_for: tables.listing.notFor,
    })
    .from(tables.listing)
    .where(isIn(tables.listing.id, listings));
  const sets = found.map(({ id, findings, collective, readiness, not_for }) => {
    const blocking = [
      ...new Set(
        [...findings, ...collective].flatMap((finding) => (finding.severity === 'blocker' ? [finding.cause] : [])),
      ),
    ];
    const out = notFor.get(id) === true || not_for !== null;
    return {
      id,
      before: readiness,
      causes: out ? [] : blocking,
      readiness: out ? 'not for this channel' : blocking.length > 0 ? 'blocked' : 'ready',
    };
  });
  const causeIds = await internCauses(tx, [...new Set(sets.flatMap((set) => set.causes))]);
  const keyed = sets.map((set) => ({
    ...set,
    set: set.causes.map((key) => causeIds.get(key) ?? 0).sort((a, b) => a - b),
  }));
  const setIds = await internSets(
    tx,
    keyed.flatMap(({ set }) => (set.length > 0 ? [set] : [])),
  );
  await tx.execute(sql`
    UPDATE listing l SET readiness = t.readiness, cause_set_id = t.cause_set
    FROM jsonb_to_recordset(${json(keyed.map(({ id, readiness, set }) => ({ id, readiness, cause_set: setIds.get(set.join()) ?? null })))}) AS t(id bigint, readiness text, cause_set bigint)
    WHERE l.id = t.id AND (l.readiness <> t.readiness OR l.cause_set_id IS DISTINCT FROM t.cause_set)`);
  return keyed;
}

async function internCauses(tx: Executor, keys: string[]): Promise<Map<string, number>> {
  const list = keys.map((key) => ({ key, kind: parseCause(key)?.kind ?? 'catalog' }));
  await tx.execute(
    sql`INSERT INTO cause (key, kind) SELECT key, kind FROM jsonb_to_recordset(${json(list)}) AS t(key text, kind text) ORDER BY key ON CONFLICT DO NOTHING`,
  );
  const causes = await tx
    .select({ id: tables.cause.id, key: tables.cause.key })
    .from(tables.cause)
    .where(isAmong(tables.cause.key, keys));
  return new Map(causes.map((cause) => [cause.key, cause.id]));
}

async function internSets(tx: Executor, sets: number[][]): Promise<Map<string, number>> {
  const distinct = [...new Map(sets.map((set) => [set.join(), { causes: `{${set.join()}}` }])).values()];
  await tx.execute(
    sql`INSERT INTO cause_set (causes) SELECT causes::bigint[] FROM jsonb_to_recordset(${json(distinct)}) AS t(causes text) ORDER BY causes ON CONFLICT DO NOTHING`,
  );
  const causeSets = await queryRows<{ id: number; set: string }>(
    tx,
    sql`SELECT id, array_to_string(s.causes, ',') AS set FROM cause_set s
        WHERE s.causes IN (SELECT causes::bigint[] FROM jsonb_to_recordset(${json(distinct)}) AS t(causes text))`,
  );
  return new Map(causeSets.map((causeSet) => [causeSet.set, causeSet.id]));
}

const roundUnits = 200;

/** Evaluates dirty families until `most` variants are done or nothing is dirty; inside `tx` where given one. */
export async function drain(
  on: Database | Executor,
  address: string,
  most: number,
  dictionary?: Dictionary,
): Promise<Effect & { left: boolean }> {
  const known = dictionary ?? (await loadDictionary(on));
  let effect = noEffect();
  let done = 0;
  for (const place of await listPlaces(on)) {
    let compiled: CompiledPlace | undefined;
    for (;;) {
      if (done >= most) return { ...effect, left: true };
      const round = async (tx: Executor) => {
        const taken = await queryRows<{ unit: number }>(
          tx,
          // By where rows stand: this table is mostly empty, and believed so when it is not.
          sql`DELETE FROM dirty WHERE ctid = ANY(ARRAY(
                SELECT ctid FROM dirty WHERE place_id = ${place.id} ORDER BY unit_id LIMIT ${roundUnits} FOR UPDATE SKIP LOCKED))
              RETURNING unit_id AS unit`,
        );
        if (taken.length === 0) return undefined;
        await tx.execute(sql`SELECT pg_advisory_xact_lock(4181, ${place.id})`);
        compiled ??= await compileFor(tx, place, known, address);
        return {
          n: taken.length,
          effect: await evaluateUnits(
            tx,
            compiled,
            place.id,
            taken.map((dirty) => dirty.unit),
            todayText(),
          ),
        };
      };
      const answer = 'transaction' in on ? await on.transaction(round) : await round(on);
      if (!answer) break;
      done += answer.n;
      effect = addEffects(effect, answer.effect);
    }
  }
  return { ...effect, left: false };
}

/** Marks what time alone has changed: sales that began or ended, rulebook dates. */
export async function markDue(on: Executor): Promise<number> {
  const due = await queryOne<{ n: number }>(
    on,
    sql`WITH due AS (
          INSERT INTO dirty (place_id, unit_id) SELECT DISTINCT place_id, unit_id FROM listing WHERE next_change_at <= CURRENT_DATE
          ON CONFLICT DO NOTHING RETURNING 1)
        SELECT count(*) AS n FROM due`,
  );
  return due?.n ?? 0;
}
