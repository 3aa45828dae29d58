/** Windowsill: Mosswick's own web shop, joined with an id and its secret, whose catalogue can be read page by page. */
import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type Router from '@koa/router';
import type pg from 'pg';
import { joining } from '../joining.js';
import { publishing } from '../publishing.js';

const file = fileURLToPath(new URL('../../catalogues/windowsill.json', import.meta.url));
const pageSize = 10;

/** How it behaves, for trying out what happens when a shop misbehaves. */
interface Mood {
  /** Milliseconds a page takes. */
  slow: number;
  /** The page after this many goods fails once this is set; null = never. */
  failAfter: number | null;
  /** How often it answers 429 before it answers well. */
  busy: number;
}

export async function windowsill(router: Router, pool: pg.Pool): Promise<void> {
  publishing(router, 'windowsill');
  const goods = JSON.parse(await readFile(file, 'utf8')) as unknown[];
  const mood: Mood = { slow: 0, failAfter: null, busy: 0 };

  router.post('/windowsill/mood', (ctx) => {
    const { slow, failAfter, busy } = ctx.query as Record<string, string | undefined>;
    if (slow !== undefined) mood.slow = Number(slow);
    if (failAfter !== undefined) mood.failAfter = failAfter === '' ? null : Number(failAfter);
    if (busy !== undefined) mood.busy = Number(busy);
    ctx.body = mood;
  });
  /** Price lists as suppliers leave them at an address: whatever was put there comes back. */
  const lists = new Map<string, Buffer>();
  router.put('/windowsill/lists/:name', async (ctx) => {
    const chunks: Buffer[] = [];
    for await (const chunk of ctx.req) chunks.push(chunk as Buffer);
    lists.set(String(ctx.params.name), Buffer.concat(chunks));
    ctx.status = 204;
  });
  router.get('/windowsill/lists/:name', (ctx) => {
    const name = String(ctx.params.name);
    const list = lists.get(name);
    if (!list) ctx.throw(404, 'There is no such list');
    ctx.set('Content-Disposition', `attachment; filename*=UTF-8''${encodeURIComponent(name)}`);
    ctx.body = list;
  });
  router.get('/windowsill/api/goods', async (ctx) => {
    if (mood.busy > 0) {
      mood.busy--;
      ctx.status = 429;
      ctx.set('Retry-After', '1');
      ctx.body = { problem: 'Too many requests' };
      return;
    }
    const from = Number(ctx.query.after ?? 0);
    if (!Number.isInteger(from) || from < 0 || from > goods.length) ctx.throw(400, 'There is no such page');
    if (mood.failAfter !== null && from >= mood.failAfter) ctx.throw(503, 'Closed for stocktaking');
    if (mood.slow > 0) await new Promise((resolve) => setTimeout(resolve, mood.slow));
    const to = Math.min(goods.length, from + pageSize);
    ctx.body = { goods: goods.slice(from, to), next: to < goods.length ? String(to) : null, of: goods.length };
  });
  await joining(router, pool, {
    key: 'windowsill',
    name: 'Windowsill',
    by: 'secret',
    lets: [],
    secrets: { 'mosswick-shop': 'pots-on-the-sill' },
    mood: { missing: [], late: 0, cancelled: 0, notices: [], terms: [], tokenSeconds: 3600, renews: false },
  });
}
