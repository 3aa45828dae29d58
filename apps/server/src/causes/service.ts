/** Causes: ranked by what fixing them unlocks, and one of them with its listings. */
import { type CauseAnswer, type CauseDetail, type api } from '@velvet-shelf/contract';
import { planFixes, rankCauses, sayFinding } from '@velvet-shelf/core/causes';
import { parseCause } from '@velvet-shelf/core/listings';
import { type SQL, sql } from 'drizzle-orm';
import { type Database, queryRows } from '../db/client.js';
import type { Services } from '../http/route.js';
import { kept, nameOf } from '../kept/keep.js';
import type { z } from 'zod';
import { exemptable } from './exempt.js';
import { cellSlot, presentText, remedyFor } from './remedy.js';
import { type Scene, countTouched, mustParse, loadTouched, scene, touchedIds, wordsOf } from './scene.js';
import * as tables from '../db/schema/index.js';

type Ranked = z.output<typeof api.causes.ranked.answer>;

/** What frees most first, as it was counted last. */
export const rankedCauses = (services: Services, place: number | undefined): Promise<Ranked> =>
  kept(services, `causes ${place ?? 'everywhere'}`, () => countCauses(services, place));

async function countCauses({ db }: Services, place: number | undefined): Promise<Ranked> {
  const all = await scene(db);
  const at = place === undefined ? sql`true` : sql`l.place_id = ${place}`;
  const sets = await queryRows<{ causes: number[]; listings: number; places: number[] }>(
    db,
    sql`SELECT s.causes, count(*) AS listings, array_agg(DISTINCT l.place_id) AS places FROM listing l JOIN cause_set s ON s.id = l.cause_set_id
        WHERE ${at} AND NOT l.muted AND l.readiness = 'blocked' GROUP BY s.id`,
  );
  const keys = new Map(
    (await db.select({ id: tables.cause.id, key: tables.cause.key }).from(tables.cause)).map((cause) => [
      cause.id,
      cause.key,
    ]),
  );
  const numeric = sets.map(({ causes, listings }) => ({ causes: causes.map(Number), listings }));
  const placesOf = new Map<number, Set<number>>();
  for (const { causes, places } of sets)
    for (const cause of causes)
      for (const id of places) placesOf.set(Number(cause), (placesOf.get(Number(cause)) ?? new Set()).add(Number(id)));
  const name = (id: number) => all.places.find((place) => place.id === id)?.name ?? '';
  const items = rankCauses(numeric).map(({ cause, touched, alone }): CauseAnswer => {
    const key = keys.get(cause) ?? '';
    return {
      key,
      kind: parseCause(key)?.kind ?? 'catalog',
      words: wordsOf(all, key),
      places: [...(placesOf.get(cause) ?? [])].map(name),
      touched,
      unlocks: alone,
    };
  });
  return {
    blocked: numeric.reduce((sum, row) => sum + row.listings, 0),
    items: [...items, ...(await refusals(db, all, at))].sort((x, y) => y.unlocks - x.unlocks || y.touched - x.touched),
    plan: planFixes(numeric, 5).map(({ cause, freed }) => ({ key: keys.get(cause) ?? '', freed })),
    advice: await adviceCauses(db, all, at),
  };
}

/** Advice, counted over the listings. */
const adviceCauses = (db: Database, all: Scene, at: SQL): Promise<CauseAnswer[]> =>
  counted(db, all, sql`${at} AND f ->> 'severity' = 'advice'`, sql`l.findings || l.collective || l.reported`);

/** What the channel refused: it stands among what blocks, until the listing has changed. */
const refusals = (db: Database, all: Scene, at: SQL): Promise<CauseAnswer[]> =>
  counted(db, all, sql`${at} AND l.channel_state = 'refused' AND f ->> 'severity' = 'blocker'`, sql`l.reported`);

async function counted(db: Database, all: Scene, where: SQL, findings: SQL): Promise<CauseAnswer[]> {
  const listings = await queryRows<{ key: string; touched: number; places: number[] }>(
    db,
    sql`SELECT f ->> 'cause' AS key, count(DISTINCT l.id) AS touched, array_agg(DISTINCT l.place_id) AS places
        FROM listing l, jsonb_array_elements(${findings}) f WHERE NOT l.muted AND ${where} GROUP BY 1 ORDER BY 2 DESC, 1`,
  );
  return listings.map(({ key, touched, places }) => ({
    key,
    kind: parseCause(key)?.kind ?? 'catalog',
    words: wordsOf(all, key),
    touched,
    unlocks: 0,
    places: places.map((id) => all.places.find((place) => place.id === Number(id))?.name ?? ''),
  }));
}

/** Listings of a cause that are shown. */
const mostShown = 100;

export async function showCause(services: Services, key: string): Promise<CauseDetail> {
  const { db } = services;
  const all = await scene(db);
  const cause = mustParse(key);
  const { touched, alone, places, listed } = await kept(services, nameOf('cause', key), async () => ({
    ...(await countTouched(db, key)),
    listed: await touchedIds(db, key, mostShown),
  }));
  const shown = await loadTouched(db, listed);
  const name = (id: number) => all.places.find((place) => place.id === id)?.name ?? '';
  const first = shown[0]?.findings.find((finding) => finding.cause === key);
  const cell = await cellSlot(db, all, cause, shown);
  return {
    key,
    kind: cause.kind,
    words: wordsOf(all, key),
    places: places.map(name),
    touched,
    unlocks: first?.severity === 'blocker' ? alone : 0,
    severity: first?.severity ?? 'blocker',
    remedy: await remedyFor(services, all, cause, shown, cell),
    exempt: exemptable(all, key, shown),
    listings: shown.map((row) => {
      const finding = row.findings.find((each) => each.cause === key);
      const rulebook = all.rulebooks.get(row.place_id);
      return {
        id: row.id,
        productId: row.product,
        sku: row.sku,
        title: row.title,
        place: name(row.place_id),
        others: row.others,
        finding: finding && rulebook ? sayFinding(finding, rulebook) : '',
        text: presentText(cell, row, all),
      };
    }),
  };
}
