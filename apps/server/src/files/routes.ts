import { createReadStream, existsSync } from 'node:fs';
import { api } from '@velvet-shelf/contract';
import { eq } from 'drizzle-orm';
import type { Context } from 'koa';
import { first } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { notFound } from '../http/problem.js';
import { receiveFile } from '../http/receive.js';
import { type AppRouter, type Services, route } from '../http/route.js';
import { fetchFile, keepFile, listFiles, listMissingFiles, removeFile } from './service.js';
import { fileAt } from './take.js';

export function fileRoutes(router: AppRouter, services: Services): void {
  const { db, config } = services;
  const { files } = api;
  route(router, services, files.list, ({ query }) => listFiles(db, query));
  route(router, services, files.missing, async () => ({ items: await listMissingFiles(db) }));
  route(router, services, files.upload, async ({ ctx }) =>
    keepFile(services, await receiveFile(ctx, config, 'arriving')),
  );
  route(router, services, files.fetch, ({ body }) => fetchFile(services, body.address));
  route(router, services, files.remove, async ({ params }) => {
    await removeFile(services, params.id);
    return {};
  });
  // Channels fetch them, without a session: by the names that feeds carry.
  router.get('/files/:name', (ctx) => sendFile(ctx, services));
}

/** Handed out to be saved, never opened as a page of ours. */
async function sendFile(ctx: Context, { db, config }: Services): Promise<void> {
  const name = String(ctx.params.name);
  const held = await first(db.select().from(tables.storedFile).where(eq(tables.storedFile.name, name)));
  if (!held || !existsSync(fileAt(config, held))) throw notFound(`file “${name.slice(0, 200)}”`);
  ctx.attachment(held.name);
  ctx.set('Cache-Control', 'public, max-age=86400');
  ctx.set('X-Content-Type-Options', 'nosniff');
  ctx.set('Content-Security-Policy', "default-src 'none'; sandbox");
  ctx.set('ETag', `"${held.hash}"`);
  ctx.type = held.type;
  ctx.status = 200;
  if (ctx.fresh) {
    ctx.status = 304;
    return;
  }
  ctx.length = held.bytes;
  ctx.body = createReadStream(fileAt(config, held));
}
