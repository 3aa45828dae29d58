/** Orrivane: fetches a feed by its address, checks it, answers with a report, and shows what it took. */
import { readFile } from 'node:fs/promises';
import type { IncomingMessage } from 'node:http';
import { fileURLToPath } from 'node:url';
import { readPublished, rulebooksOf } from '@velvet-shelf/rulebooks';
import type Router from '@koa/router';
import type pg from 'pg';
import { type Answer, checkItems } from './check.js';
import { publishing } from '../publishing.js';
import { type OfferedItem, readGoods } from './feed.js';
import { type Shown, itemPage, page } from './page.js';

/** Goods that the channel describes itself; sellers may offer on them. */
const catalogue = fileURLToPath(new URL('../../catalogues/orrivane-goods.json', import.meta.url));

interface Published {
  version: string;
  validFrom: string;
  markets: { key: string; currency: string }[];
  attributes: { key: string; limits: { minLength?: number; maxLength?: number; values?: string[] } }[];
}

/** How it behaves, for trying out what happens when a channel misbehaves. */
interface Mood {
  /** Milliseconds it thinks before it reads. */
  slow: number;
  fail: 'no' | 'refuse' | 'busy';
}

export async function orrivane(router: Router, pool: pg.Pool): Promise<void> {
  await pool.query(`
    CREATE SCHEMA IF NOT EXISTS orrivane;
    CREATE TABLE IF NOT EXISTS orrivane.report (id text PRIMARY KEY, market text NOT NULL, at timestamptz NOT NULL DEFAULT now(), body jsonb NOT NULL);
    CREATE TABLE IF NOT EXISTS orrivane.item (key text, market text, body jsonb NOT NULL, PRIMARY KEY (market, key));`);
  const mood: Mood = { slow: 0, fail: 'no' };

  router.get('/orrivane/goods.xsd', (ctx) => {
    ctx.type = 'application/xml';
    ctx.body = readPublished('orrivane-goods.xsd');
  });
  publishing(router, 'orrivane');
  router.get('/orrivane/api/goods/:identifier', async (ctx) => {
    const wanted = String(ctx.params.identifier).replace(/^0+/, '');
    const known = JSON.parse(await readFile(catalogue, 'utf8')) as { GTIN: string }[];
    const goods = known.find((row) => row.GTIN.replace(/^0+/, '') === wanted);
    if (!goods) {
      ctx.status = 404;
      ctx.body = { problem: `Nothing in the catalogue has the identifier ${ctx.params.identifier}` };
      return;
    }
    ctx.body = { goods };
  });
  router.post('/orrivane/mood', async (ctx) => {
    Object.assign(mood, await readJson(ctx.req));
    ctx.body = mood;
  });

  router.post('/orrivane/api/fetch', async (ctx) => {
    if (mood.fail === 'busy') {
      ctx.status = 429;
      ctx.set('Retry-After', '5');
      ctx.body = { problem: 'Too many requests' };
      return;
    }
    if (mood.fail === 'refuse') ctx.throw(503, 'Closed for maintenance');
    const { market, address } = (await readJson(ctx.req)) as { market: string; address: string };
    const { rows } = await pool.query<{ n: string }>('SELECT count(*) + 1 AS n FROM orrivane.report');
    const id = `R-${String(rows[0]?.n).padStart(4, '0')}-${Date.now().toString(36)}`;
    await save(id, market, { report: id, state: 'working', checked: 0, total: 0, items: [] });
    void work(id, market, address).catch((error: unknown) =>
      save(id, market, {
        report: id,
        state: 'failed',
        checked: 0,
        total: 0,
        items: [],
        problem: error instanceof Error ? error.message : String(error),
      }),
    );
    ctx.status = 202;
    ctx.body = { report: id, state: 'working', checked: 0, total: 0, items: [] };
  });
  router.get('/orrivane/api/reports/:id', async (ctx) => {
    const { rows } = await pool.query<{ body: unknown }>('SELECT body FROM orrivane.report WHERE id = $1', [
      ctx.params.id,
    ]);
    const [found] = rows;
    if (!found) ctx.throw(404);
    else ctx.body = found.body;
  });
  router.get('/orrivane/items/:number', async (ctx) => {
    const { rows } = await pool.query<{ body: Shown }>(`SELECT body FROM orrivane.item WHERE body ->> 'number' = $1`, [
      ctx.params.number,
    ]);
    ctx.type = 'html';
    if (!rows[0]) ctx.status = 404;
    ctx.body = itemPage(String(ctx.params.number), rows[0]?.body);
  });
  router.get('/orrivane', async (ctx) => {
    const query = String(ctx.query.q ?? '');
    const items = await pool.query<{ body: Shown; total: string }>(
      `SELECT body, count(*) OVER () AS total FROM orrivane.item WHERE body ->> 'title' ILIKE $1 OR body ->> 'number' = $2 ORDER BY body ->> 'title' LIMIT 200`,
      [`%${query}%`, query],
    );
    const reports = await pool.query<{ id: string; at: Date; market: string; counts: string }>(`
      SELECT id, at, market, CASE body ->> 'state' WHEN 'done' THEN (SELECT string_agg(n || ' ' || outcome, ', ') FROM (SELECT i ->> 'outcome' AS outcome, count(*) AS n FROM jsonb_array_elements(body -> 'items') i GROUP BY 1 ORDER BY 1) c)
        ELSE (body ->> 'state') || coalesce(': ' || (body ->> 'problem'), '') END AS counts FROM orrivane.report ORDER BY at DESC LIMIT 5`);
    ctx.type = 'html';
    ctx.body = page(
      items.rows.map((row) => row.body),
      Number(items.rows[0]?.total ?? 0),
      reports.rows.map((row) => ({
        ...row,
        at: row.at.toISOString().slice(0, 16).replace('T', ' '),
        counts: row.counts ?? 'nothing in it',
      })),
      query,
    );
  });

  async function save(id: string, market: string, body: object): Promise<void> {
    await pool.query(
      'INSERT INTO orrivane.report (id, market, body) VALUES ($1, $2, $3) ON CONFLICT (id) DO UPDATE SET body = excluded.body',
      [id, market, JSON.stringify(body)],
    );
  }

  /** Fetches, checks and takes over a feed. */
  async function work(id: string, market: string, address: string): Promise<void> {
    if (mood.slow > 0) await new Promise((resolve) => setTimeout(resolve, mood.slow));
    const answer = await fetch(address, { headers: { 'user-agent': 'Orrivane-Fetch/1', 'accept-encoding': 'gzip' } });
    if (!answer.ok) throw new Error(`${address.replace(/\/f\/.*/, '/f/…')} answered ${answer.status}`);
    const items = readGoods(await answer.text(), answer.headers.get('content-type') ?? '');
    const rulebook = inForce();
    const limit = (key: string) => rulebook.attributes.find((attribute) => attribute.key === key)?.limits;
    let saving = Promise.resolve();
    const answers = await checkItems(
      items,
      {
        shortest: limit('short')?.minLength ?? 1,
        longest: limit('short')?.maxLength ?? 110,
        longestLong: limit('long')?.maxLength ?? 3200,
        shades: limit('differsShade')?.values ?? [],
        currency: rulebook.markets.find((row) => row.key === market)?.currency ?? '',
      },
      pictureLoads,
      (checked) => {
        const body = { report: id, state: 'working', checked, total: items.length, items: [] };
        saving = saving.then(() => save(id, market, body));
      },
    );
    await saving;
    await takeOver(market, items, answers);
    await save(id, market, { report: id, state: 'done', checked: items.length, total: items.length, items: answers });
  }

  async function takeOver(market: string, items: OfferedItem[], answers: Answer[]): Promise<void> {
    const taken = new Map(
      answers.filter((answer) => answer.outcome !== 'refused').map((answer) => [answer.key, answer]),
    );
    const shown = items.flatMap((item): Shown[] => {
      const key = item.codes.own ?? '';
      const answer = taken.get(key);
      return answer
        ? [
            {
              key,
              market,
              number: answer.number ?? '',
              title: item.short,
              maker: item.maker,
              asks: `${item.asks} ${item.currency}`,
              before: item.askedBefore ?? null,
              view: item.views[0] ?? '',
              page: item.page,
              leaves: sayLeaving(item.leavesIn),
            },
          ]
        : [];
    });
    await pool.query('DELETE FROM orrivane.item WHERE market = $1', [market]);
    await pool.query(
      `INSERT INTO orrivane.item (key, market, body) SELECT x ->> 'key', $1, x FROM jsonb_array_elements($2::jsonb) x ON CONFLICT (market, key) DO UPDATE SET body = excluded.body`,
      [market, JSON.stringify(shown)],
    );
  }
}

const sayLeaving = (days: string | undefined): string =>
  days === undefined ? 'not to be had' : days === '0' ? 'leaves today' : `leaves in ${days} days`;

const published = () => rulebooksOf('orrivane') as Published[];

function inForce(): Published {
  const today = new Date().toISOString().slice(0, 10);
  const versions = published();
  const found = versions.filter((version) => version.validFrom <= today).at(-1) ?? versions[0];
  if (!found) throw new Error('No rulebook is published');
  return found;
}

async function pictureLoads(address: string): Promise<boolean> {
  try {
    const answer = await fetch(address, { method: 'HEAD', signal: AbortSignal.timeout(5_000) });
    return answer.ok && (answer.headers.get('content-type') ?? '').startsWith('image/');
  } catch {
    return false;
  }
}

async function readJson(request: IncomingMessage): Promise<unknown> {
  let text = '';
  for await (const chunk of request) text += String(chunk);
  return JSON.parse(text || '{}');
}
