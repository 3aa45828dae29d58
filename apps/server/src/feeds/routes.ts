import { formats } from '@velvet-shelf/core/feeds';
import { open } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { api } from '@velvet-shelf/contract';
import { eq } from 'drizzle-orm';
import { first } from '../db/client.js';
import { notFound, Problem } from '../http/problem.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { offerFeed, reportItems } from './report.js';
import {
  createFeed,
  getFeed,
  leftOutOf,
  listFeeds,
  releaseRun,
  removeFeed,
  showFeed,
  showRun,
  startRun,
} from './service.js';
import * as tables from '../db/schema/index.js';

export function feedRoutes(router: AppRouter, services: Services): void {
  const { db } = services;
  const { feeds } = api;
  route(router, services, feeds.list, async () => ({ items: await listFeeds(services) }));
  route(router, services, feeds.create, ({ body, user }) => createFeed(services, user, body.placeId, body.format));
  route(router, services, feeds.feed, async ({ params }) => showFeed(services, await getFeed(db, params.id)));
  route(router, services, feeds.build, async ({ params, user }) =>
    showRun(services, await startRun(services, user, params.id)),
  );
  route(router, services, feeds.remove, async ({ params, user }) => {
    await removeFeed(services, user, params.id);
    return {};
  });
  route(router, services, feeds.leftOut, ({ params }) => leftOutOf(services, params.id));
  route(router, services, feeds.release, async ({ params, user }) => {
    await releaseRun(services, user, params.id);
    return showRun(services, params.id);
  });
  route(router, services, feeds.offer, async ({ params, user }) =>
    showRun(services, await offerFeed(services, user, params.id)),
  );
  route(router, services, feeds.report, async ({ params, query }) => ({
    items: await reportItems(db, params.id, query.outcome),
  }));

  route(router, services, feeds.file, async ({ ctx, params }) => {
    const run = await first(
      db
        .select({ path: tables.run.path, format: tables.feed.format })
        .from(tables.run)
        .innerJoin(tables.feed, eq(tables.feed.id, tables.run.feedId))
        .where(eq(tables.run.id, params.id)),
    );
    if (!run?.path) throw notFound('file of this run');
    const file = await openFile(run.path);
    ctx.attachment(`velvet-shelf-run-${params.id}.${formats[run.format].extension}`);
    ctx.type = formats[run.format].contentType;
    ctx.body = file;
    return undefined;
  });

  /** The stable, secret address: open to whoever knows it, with ETag and gzip, each fetch noted. */
  router.get('/f/:name', async (ctx) => {
    const secret = String(ctx.params.name).replace(/\.\w+$/, '');
    const feed = await first(
      db
        .select({
          id: tables.feed.id,
          run: tables.run.id,
          path: tables.run.path,
          etag: tables.run.etag,
          format: tables.feed.format,
          ended: tables.run.endedAt,
        })
        .from(tables.feed)
        .leftJoin(tables.run, eq(tables.run.id, tables.feed.upRunId))
        .where(eq(tables.feed.secret, secret)),
    );
    if (!feed) throw notFound('feed at this address');
    const note = (status: number) =>
      db.insert(tables.feedFetch).values({
        feedId: feed.id,
        runId: feed.run,
        agent: (ctx.get('user-agent') || 'unknown').slice(0, 200),
        status,
      });
    if (!feed.path || !feed.etag) {
      await note(404);
      throw new Problem(404, 'Not yet', 'This feed has no file yet; an empty one is never offered');
    }
    ctx.vary('Accept-Encoding');
    const packed = ctx.acceptsEncodings('gzip', 'identity') === 'gzip';
    ctx.set('ETag', `"${feed.etag}${packed ? '-gz' : ''}"`);
    ctx.set('Cache-Control', 'no-cache');
    if (feed.ended) ctx.lastModified = new Date(feed.ended);
    ctx.status = 200;
    if (ctx.fresh) {
      ctx.status = 304;
      await note(304);
      return;
    }
    const file = await openFile(packed ? `${feed.path}.gz` : feed.path).catch(async (error: unknown) => {
      await note(404);
      throw error;
    });
    ctx.type = formats[feed.format].contentType;
    if (packed) ctx.set('Content-Encoding', 'gzip');
    ctx.body = file;
    await note(200);
    services.notify('feeds', { feed: feed.id });
  });
}

/** The file as it is at this moment; one that is gone from the disk is said to be, and the feed can be built again. */
async function openFile(path: string): Promise<Readable> {
  const handle = await open(path).catch(() => undefined);
  if (!handle) throw new Problem(404, 'Not here', 'The file is no longer on this server; build the feed again');
  return handle.createReadStream();
}
