/** Asking a channel to fetch a feed, and what it answers: outcomes land on the listings they are about. */
import type { api } from '@velvet-shelf/contract';
import { type Finding, causeKey } from '@velvet-shelf/core/listings';
import { sql, eq, and, count } from 'drizzle-orm';
import { z } from 'zod';
import { type PlaceRow, getPlace, outsideOf } from '../channels/places.js';
import { type Database, type Executor, json, first } from '../db/client.js';
import { Problem, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { recordAction } from '../history/record.js';
import { runAside } from '../jobs/aside.js';
import type { JobContext } from '../jobs/define.js';
import { createJob, isUnderWay } from '../jobs/run.js';
import * as jobs from './jobs.js';
import { type ChannelReport, adapterOf } from '../channels/adapters/index.js';
import { getFeed, showFeed, lockFeed } from './service.js';
import * as tables from '../db/schema/index.js';

/** Offers the address of the file that is up, once at a time; answers its run. The channel's report lands when it comes. */
export async function offerFeed(services: Services, user: User, feedId: number): Promise<number> {
  const { db } = services;
  const { run, job } = await db.transaction(async (tx) => {
    await lockFeed(tx, feedId);
    const feed = await getFeed(tx, feedId);
    if (feed.upRunId === null) throw conflict('There is no file to offer yet: build the feed first');
    const place = await getPlace(tx, feed.placeId);
    if (await isUnderWay(tx, jobs.offerFeed, { feed: feedId }))
      throw conflict(`${place.channelName} is reading it already; its report comes by itself`);
    const job = await createJob(tx, jobs.offerFeed, {
      label: `${place.channelName} reads ${feed.name}`,
      input: { feed: feedId, run: feed.upRunId, user: user.id },
      actor: user.id,
    });
    return { run: feed.upRunId, job };
  });
  // What goes wrong stands in the job's row, and with the run.
  const ended = () => services.notify('feeds', { feed: feedId });
  runAside(job).then(ended, ended);
  return run;
}

/** A channel that has been asked is not asked again, whoever goes on waiting. */
const checkpointSchema = z.object({ report: z.string() });

/** Once its answer is a matter of seconds no more, the wait needs no thread: the job looks again now and then. */
const longestWait = 1000;
const parkedMilliseconds = 3000;

/** Job: asks, waits, and lands the report. */
export async function awaitReport({
  db,
  services,
  input,
  checkpoint,
  progress,
  saveCheckpoint,
  park,
  cancelled,
  finish,
}: JobContext<jobs.OfferInput>): Promise<void> {
  const feed = await getFeed(db, input.feed);
  const place = await getPlace(db, feed.placeId);
  const adapter = adapterOf(place.adapter);
  const outside = outsideOf(services.config, place);
  if (!adapter.offer || !adapter.report) throw conflict(`${place.channelName} fetches no feeds`);
  const asked = checkpointSchema.safeParse(checkpoint).data;
  let answer: ChannelReport;
  if (asked) answer = await adapter.report(outside, asked.report);
  else {
    const { address } = await showFeed(services, feed);
    answer = await adapter.offer(outside, { market: place.market, address });
    await saveCheckpoint(db, { report: answer.report } satisfies z.infer<typeof checkpointSchema>);
  }
  const { report } = answer;
  for (let wait = 100; answer.state === 'working'; wait *= 1.4) {
    if (await cancelled()) return;
    if (wait > longestWait) return park({ report }, parkedMilliseconds);
    await new Promise((resolve) => setTimeout(resolve, wait));
    answer = await adapter.report(outside, report);
    await progress(answer.checked, answer.total);
    services.notify('feeds', { feed: feed.id });
  }
  if (answer.state === 'failed')
    throw new Problem(
      502,
      'The channel could not read the feed',
      `${place.channelName} says: ${answer.problem ?? 'no reason given'}`,
    );
  await landReport(db, place, input.run, answer, input.user, finish);
  services.notify('feeds', { feed: feed.id });
  services.notify('listings');
}

/** Every item sent gets an outcome: accepted, warned, refused, or unanswered. */
async function landReport(
  db: Database,
  place: PlaceRow,
  runId: number,
  report: ChannelReport,
  actor: number,
  finish: JobContext['finish'],
): Promise<void> {
  await db.transaction(async (tx) => {
    const counts = { accepted: 0, warned: 0, refused: 0, unanswered: 0 };
    const made = await first(
      tx.insert(tables.report).values({ runId, externalId: report.report, counts }).returning({ id: tables.report.id }),
    );
    const id = made?.id ?? 0;
    await tx.execute(sql`
      INSERT INTO report_item (report_id, item_key, listing_id, outcome, code, message)
      SELECT ${id}, i.item_key, i.listing_id, coalesce(t.outcome, 'unanswered'), t.code, t.message
      FROM run_item i LEFT JOIN jsonb_to_recordset(${json(report.items)}) AS t(key text, outcome text, code text, message text) ON t.key = i.item_key
      WHERE i.run_id = ${runId} ON CONFLICT DO NOTHING`);
    for (const { outcome, n } of await tx
      .select({ outcome: tables.reportItem.outcome, n: count() })
      .from(tables.reportItem)
      .where(eq(tables.reportItem.reportId, id))
      .groupBy(tables.reportItem.outcome))
      counts[outcome] = n;
    await tx.update(tables.report).set({ counts }).where(eq(tables.report.id, id));
    const answered = report.items.filter((item) => item.outcome !== 'accepted');
    const findings = answered.map((item) => ({ key: item.key, findings: [toFinding(place, item)] }));
    await tx.execute(sql`
      UPDATE listing l SET
        channel_state = CASE i.outcome WHEN 'refused' THEN 'refused' WHEN 'unanswered' THEN CASE l.channel_state WHEN 'live' THEN 'live' ELSE 'sent' END ELSE 'live' END,
        external_id = coalesce(x.number, l.external_id), reported = coalesce(f.findings, '[]')
      FROM report_item i LEFT JOIN jsonb_to_recordset(${json(findings)}) AS f(key text, findings jsonb) ON f.key = i.item_key
      LEFT JOIN jsonb_to_recordset(${json(report.items)}) AS x(key text, number text) ON x.key = i.item_key
      WHERE i.report_id = ${id} AND l.id = i.listing_id`);
    /** What was live and is not in the file any more has been withdrawn. */
    await tx.execute(sql`
      UPDATE listing l SET channel_state = 'withdrawn' WHERE l.place_id = ${place.id} AND l.channel_state = 'live'
        AND NOT EXISTS (SELECT 1 FROM run_item i WHERE i.run_id = ${runId} AND i.listing_id = l.id)`);
    const words = `${place.channelName} accepted ${counts.accepted}, warned ${counts.warned}, refused ${counts.refused} of ${counts.accepted + counts.warned + counts.refused + counts.unanswered} sent${counts.unanswered ? `; ${counts.unanswered} unanswered` : ''}`;
    await recordAction(tx, { actor, kind: 'report', words }, [
      { kind: 'run', id: runId, delta: { report: [null, counts] } },
    ]);
    await finish(tx);
  });
}

function toFinding(place: PlaceRow, item: ChannelReport['items'][number]): Finding {
  const code = item.code ?? 'no-code';
  return {
    check: 'channel-answer',
    severity: item.outcome === 'refused' ? 'blocker' : 'advice',
    attribute: '',
    cause: causeKey({ kind: 'report', channel: place.channel, market: place.market, code }),
    params: { message: `${item.outcome === 'refused' ? 'Refused' : 'Warned'}: ${item.message ?? code}` },
  };
}

type ReportItem = z.input<typeof api.feeds.report.answer>['items'][number];

/** The channel's newest answer to a run, item by item, what is refused first. */
export async function reportItems(db: Executor, runId: number, outcome: string | undefined): Promise<ReportItem[]> {
  if (!(await first(db.select({ id: tables.run.id }).from(tables.run).where(eq(tables.run.id, runId)))))
    throw notFound(`run ${runId}`);
  return db
    .select({
      itemKey: tables.reportItem.itemKey,
      listingId: tables.reportItem.listingId,
      title: tables.product.title,
      outcome: tables.reportItem.outcome,
      code: tables.reportItem.code,
      message: tables.reportItem.message,
    })
    .from(tables.reportItem)
    .leftJoin(tables.listing, eq(tables.listing.id, tables.reportItem.listingId))
    .leftJoin(tables.product, eq(tables.product.id, tables.listing.variantId))
    .where(
      and(
        eq(tables.reportItem.reportId, sql`(SELECT max(t.id) FROM ${tables.report} t WHERE t.run_id = ${runId})`),
        outcome ? sql`${tables.reportItem.outcome} = ${outcome}` : undefined,
      ),
    )
    .orderBy(
      sql`array_position(ARRAY['refused', 'unanswered', 'warned', 'accepted'], ${tables.reportItem.outcome})`,
      tables.reportItem.itemKey,
    )
    .limit(2000);
}
