/** The shelf edge and Today: live counts, each computed where the work is. */
import type { Shelf, TodayAnswer } from '@velvet-shelf/contract';
import { sql, eq, and, or, gt, lt, desc, isNull, inArray, notInArray, count, max } from 'drizzle-orm';
import { iso, queryOne, queryRows, texts, first } from '../db/client.js';
import type { Services, User } from '../http/route.js';
import { canUndo } from '../history/undo.js';
import { dirtyCount } from '../history/dirty.js';
import { toComplete } from '../catalog/filter.js';
import { unsentStates } from '../listings/service.js';
import { showPlaces } from '../channels/service.js';
import { rankedCauses } from '../causes/service.js';
import { actionColumns } from '../history/record.js';
import * as tables from '../db/schema/index.js';

interface Counts {
  toMatch: number;
  toComplete: number;
  toFit: number;
  toSend: number;
  held: number;
}

export async function showShelf({ db }: Services): Promise<Shelf> {
  const counts = await queryOne<Counts>(
    db,
    sql`SELECT
      (SELECT count(*) FROM match_pair) AS "toMatch",
      (SELECT count(DISTINCT variant_id) FROM (${toComplete}) t) AS "toComplete",
      (SELECT coalesce(sum(listings), 0) FROM place_total WHERE readiness = 'blocked') AS "toFit",
      (SELECT coalesce(sum(listings), 0) FROM place_total WHERE readiness = 'ready' AND channel_state = ANY(${texts(unsentStates)})) AS "toSend",
      (SELECT count(*) FROM run WHERE state = 'held' AND id > coalesce((SELECT up_run_id FROM feed WHERE id = run.feed_id), 0)) AS held`,
  );
  const jobs = await db
    .select({
      id: tables.job.id,
      kind: tables.job.kind,
      label: tables.job.label,
      state: tables.job.state,
      done: tables.job.done,
      total: tables.job.total,
      error: tables.job.error,
    })
    .from(tables.job)
    .where(
      or(
        inArray(tables.job.state, ['waiting', 'running']),
        and(eq(tables.job.state, 'failed'), gt(tables.job.endedAt, sql`now() - interval '10 minutes'`)),
      ),
    )
    .orderBy(desc(tables.job.id))
    .limit(5);
  const last = await first(
    db
      .select({ id: tables.action.id, words: tables.action.words, kind: tables.action.kind })
      .from(tables.action)
      .where(and(notInArray(tables.action.kind, ['undo', 'undo-batch']), isNull(tables.action.undoneBy)))
      .orderBy(desc(tables.action.id))
      .limit(1),
  );
  return {
    ...(counts ?? { toMatch: 0, toComplete: 0, toFit: 0, toSend: 0, held: 0 }),
    rechecking: await dirtyCount(db),
    jobs,
    lastAction: last ? { id: last.id, words: last.words, canUndo: canUndo(last.kind) } : null,
  };
}

export async function showToday(services: Services, user: User): Promise<TodayAnswer> {
  const { db } = services;
  const shelf = await showShelf(services);
  const { plan, items: causes } = await rankedCauses(services, undefined);
  const since = user.lastVisit;
  const from = since ? sql`${since}::timestamptz` : sql`now() - interval '1 day'`;
  const moved = await queryOne<{ live: number; batches: number; held: number }>(
    db,
    sql`SELECT (SELECT count(*) FROM report_item i JOIN report r ON r.id = i.report_id WHERE r.received_at > ${from} AND i.outcome IN ('accepted', 'warned')) AS live,
          (SELECT count(*) FROM batch WHERE applied_at > ${from}) AS batches,
          (SELECT count(*) FROM run WHERE state = 'held' AND started_at > ${from}) AS held`,
  );
  const held = await db
    .select({ feed: tables.feed.id, name: tables.feed.name, why: tables.run.heldWhy })
    .from(tables.run)
    .innerJoin(tables.feed, eq(tables.feed.id, tables.run.feedId))
    .where(and(eq(tables.run.state, 'held'), gt(tables.run.id, sql`coalesce(${tables.feed.upRunId}, 0)`)))
    .orderBy(desc(tables.run.id))
    .limit(3);
  const open = await first(
    db
      .select({ n: count(), name: max(tables.batch.fileName) })
      .from(tables.batch)
      .where(inArray(tables.batch.state, ['read', 'tried'])),
  );
  const refused = await first(
    db
      .select({ n: sql<number>`coalesce(sum(${tables.placeTotal.listings}), 0)` })
      .from(tables.placeTotal)
      .where(eq(tables.placeTotal.channelState, 'refused')),
  );
  const coming = await queryRows<{ name: string; version: string; from: string; place: number }>(
    db,
    sql`SELECT c.name, r.version, r.valid_from AS "from", (SELECT p.id FROM place p JOIN account a ON a.id = p.account_id WHERE a.channel_id = c.id ORDER BY p.id LIMIT 1) AS place
        FROM rulebook r JOIN channel c ON c.id = r.channel_id JOIN rulebook now ON now.id = c.rulebook_id WHERE r.valid_from > now.valid_from ORDER BY r.valid_from LIMIT 2`,
  );
  const places = await showPlaces(services);
  const waiting: TodayAnswer['waiting'] = [];
  const plural = (n: number, text: string, many: string) => (n === 1 ? text : many);
  for (const { feed, name, why } of held)
    waiting.push({ count: 1, words: `${name} was held`, detail: why, to: `/feeds/${feed}`, verb: 'Look' });
  if (shelf.toFit > 0) {
    const freed = plan.at(-1)?.freed ?? 0;
    waiting.push({
      count: shelf.toFit,
      words: `${plural(shelf.toFit, 'listing', 'listings')} blocked by ${causes.length} ${plural(causes.length, 'cause', 'causes')}`,
      detail: plan.length > 0 ? `The first ${plan.length} free ${freed} of them.` : null,
      to: '/causes',
      verb: 'Clear',
    });
  }
  if ((refused?.n ?? 0) > 0)
    waiting.push({
      count: refused?.n ?? 0,
      words: `${plural(refused?.n ?? 0, 'listing was', 'listings were')} refused by the channel`,
      detail: 'Its words stand on each of them.',
      to: '/listings?channelState=refused',
      verb: 'Read',
    });
  if (shelf.toMatch > 0)
    waiting.push({
      count: shelf.toMatch,
      words: `${plural(shelf.toMatch, 'pair looks', 'pairs look')} like the same goods`,
      detail: 'Each with its evidence; one key decides.',
      to: '/matching',
      verb: 'Match',
    });
  if (shelf.toSend > 0)
    waiting.push({
      count: shelf.toSend,
      words: `${plural(shelf.toSend, 'listing is', 'listings are')} ready and not sent`,
      detail: places
        .map((place) => ({
          name: place.name,
          n: place.totals
            .filter((total) => total.readiness === 'ready' && unsentStates.includes(total.channelState))
            .reduce((sum, row) => sum + row.listings, 0),
        }))
        .filter(({ n }) => n > 0)
        .map(({ name, n }) => `${name} ${n}`)
        .join(' · '),
      to: '/listings?toSend=yes',
      verb: 'Send',
    });
  if ((open?.n ?? 0) > 0)
    waiting.push({
      count: open?.n ?? 0,
      words: `${plural(open?.n ?? 0, 'file was', 'files were')} read and not applied`,
      detail: open?.name ?? null,
      to: '/intake',
      verb: 'Open',
    });
  for (const { name, version, from: day, place } of coming)
    waiting.push({
      count: 1,
      words: `${name}’s rulebook changes`,
      detail: `Version ${version} holds from ${day}. Try it on the assortment first.`,
      to: `/places/${place}/rulebook`,
      verb: 'Prepare',
    });
  const changes = await queryRows<{
    at: string;
    words: string;
    actor: string | null;
    kind: string;
    subject: number | null;
  }>(
    db,
    sql`SELECT a.at, a.words, u.name AS actor, a.kind, (SELECT min(subject_id) FROM change c WHERE c.action_id = a.id AND c.subject_kind IN ('batch', 'product')) AS subject
        FROM action a LEFT JOIN user_account u ON u.id = a.actor ORDER BY a.id DESC LIMIT 12`,
  );
  return {
    since: since ? iso(since) : null,
    headline: sayHeadline(moved, shelf),
    waiting,
    places: places.map(({ id, name, totals }) => ({
      id,
      name,
      totals,
      listings: totals.reduce((sum, row) => sum + row.listings, 0),
    })),
    changes: changes.map(({ at, words, actor, kind, subject }) => ({
      at: iso(at),
      words,
      actor,
      to:
        subject === null
          ? null
          : kind === 'edit'
            ? `/catalog?open=${subject}`
            : kind.includes('batch')
              ? `/intake/${subject}`
              : null,
    })),
  };
}

function sayHeadline(moved: { live: number; batches: number; held: number } | undefined, shelf: Shelf): string {
  const parts: string[] = [];
  if (moved?.live) parts.push(`the channel took ${moved.live} listings`);
  if (moved?.batches) parts.push(`${moved.batches} ${moved.batches === 1 ? 'batch was' : 'batches were'} applied`);
  if (moved?.held) parts.push(`${moved.held} ${moved.held === 1 ? 'feed was' : 'feeds were'} held`);
  if (parts.length > 0)
    return `Since you were here, ${parts.length > 1 ? `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}` : parts[0]}.`;
  return shelf.toFit > 0
    ? `Nothing has changed since you were here; ${shelf.toFit} listings wait for a fix.`
    : 'Nothing has changed since you were here, and nothing is blocked.';
}

export async function listActions({ db }: Services, cursor: string | undefined) {
  const actions = await db
    .select(actionColumns)
    .from(tables.action)
    .leftJoin(tables.userAccount, eq(tables.userAccount.id, tables.action.actor))
    .where(cursor ? lt(tables.action.id, Number(cursor)) : undefined)
    .orderBy(desc(tables.action.id))
    .limit(51);
  const items = actions
    .slice(0, 50)
    .map((row) => ({ ...row, at: iso(row.at), canUndo: !row.undone && canUndo(row.kind) }));
  return { items, next: actions.length > 50 ? String(items.at(-1)?.id) : null };
}
