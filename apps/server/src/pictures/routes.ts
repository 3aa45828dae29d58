import { createReadStream, existsSync } from 'node:fs';
import { api } from '@velvet-shelf/contract';
import { eq } from 'drizzle-orm';
import type { Context } from 'koa';
import { first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { notFound } from '../http/problem.js';
import { receiveFile } from '../http/receive.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { givePictures, placePictures } from './give.js';
import { renditionOf } from './rendition.js';
import {
  describePicture,
  fetchPicture,
  keepPicture,
  listMissingPictures,
  listPictures,
  removePicture,
  showPicture,
} from './service.js';
import { pathOf, pictureFormats } from './take.js';

export function pictureRoutes(router: AppRouter, services: Services): void {
  const { db, config } = services;
  const { pictures } = api;
  route(router, services, pictures.list, ({ query }) => listPictures(db, query));
  route(router, services, pictures.missing, async () => ({ items: await listMissingPictures(db) }));
  route(router, services, pictures.one, ({ params }) => showPicture(db, params.id));
  route(router, services, pictures.upload, async ({ ctx }) =>
    keepPicture(services, await receiveFile(ctx, config, 'arriving')),
  );
  route(router, services, pictures.fetch, ({ body }) => fetchPicture(services, body.address));
  route(router, services, pictures.alt, ({ params, body }) => describePicture(services, params.id, body.alt));
  route(router, services, pictures.remove, async ({ params }) => {
    await removePicture(services, params.id);
    return {};
  });
  route(router, services, pictures.place, async ({ body }) => ({ items: await placePictures(db, body.names) }));
  route(router, services, pictures.give, ({ body, user }) => givePictures(services, user, body.given));
  // Channels fetch them, without a session: by the names that feeds carry.
  router.get('/media/:name', (ctx) => sendPicture(ctx, services));
}

async function sendPicture(ctx: Context, { db, config }: Services): Promise<void> {
  const name = String(ctx.params.name);
  const held = await first(db.select().from(tables.media).where(eq(tables.media.name, name)));
  const path = held && pathOf(config, held);
  if (!held || !path || !existsSync(path)) throw notFound(`picture “${name.slice(0, 200)}”`);
  const rendition = await renditionOf(config, held, ctx.query);
  ctx.set('Cache-Control', 'public, max-age=86400');
  ctx.set('X-Content-Type-Options', 'nosniff');
  ctx.set('ETag', `"${rendition.tag}"`);
  ctx.type = pictureFormats[rendition.format]?.type ?? 'application/octet-stream';
  if (ctx.fresh) {
    ctx.status = 304;
    return;
  }
  ctx.body = createReadStream(rendition.path);
}
