/** What people wait for: every GET of the contract, and health while hostile files are read. */
import { type Endpoint, api } from '@velvet-shelf/contract';
import { openDatabase, queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { ask, openView, percentile, signIn } from './asking.js';
import type { BenchLine } from './timing.js';

const calls = 20;
const reachMilliseconds = 100;
const reachHealth = 50;

/** An address of an endpoint, of the last batch, product, listing and so on there are. */
function addressOf({ path }: Endpoint, name: string, known: Record<string, number | string>): string | undefined {
  const capability = name.split('.')[0] ?? '';
  const filled = path.replace(/:(\w+)/g, (_, parameter: string) =>
    encodeURIComponent(known[`${capability}.${parameter}`] ?? known[parameter] ?? ''),
  );
  const query: Record<string, string> = {
    'catalog.window': '?from=0&count=60',
    'matching.compare': `?a=${known['catalog.id']}`,
    'causes.cause': `?key=${encodeURIComponent(String(known.cause))}`,
    'today.search': '?q=pot',
    'intake.rows': '?search=pot',
    'listings.list': '?search=pot',
  };
  return filled.includes('//') || filled.endsWith('/') ? undefined : filled + (query[name] ?? '');
}

export async function benchAnswers(count: number): Promise<BenchLine[]> {
  const db = openDatabase(process.env.DATABASE_URL ?? '', { connections: 2 });
  try {
    await signIn();
    const [known] = await queryRows<Record<string, number | string>>(
      db,
      sql`SELECT (SELECT max(id) FROM batch) AS "intake.id", (SELECT min(id) FROM product WHERE kind = 'variant') AS "catalog.id",
            (SELECT min(id) FROM product WHERE kind = 'variant') AS "stock.id", (SELECT min(id) FROM listing) AS "listings.id",
            (SELECT min(id) FROM place) AS "channels.id", 'title' AS attribute, (SELECT key FROM cause ORDER BY id LIMIT 1) AS cause`,
    );
    const token = await openView({});
    const at = { ...known, token };
    const times: Record<string, number> = {};
    for (const [capability, list] of Object.entries(api))
      for (const [short, endpoint] of Object.entries(list) as [string, Endpoint][]) {
        const name = `${capability}.${short}`;
        const path = endpoint.method === 'GET' && endpoint.kind === 'json' ? addressOf(endpoint, name, at) : undefined;
        if (path === undefined) continue;
        await ask(path);
        const taken = [];
        for (let i = 0; i < calls; i++) taken.push(await ask(path));
        times[name] = Math.round(percentile(taken, 0.95));
      }
    const slow = Object.entries(times).sort((a, b) => b[1] - a[1]);
    const worst = slow[0]?.[1] ?? 0;
    return [
      {
        name: `answers ${count}`,
        ratio: Number((worst / reachMilliseconds).toFixed(2)),
        reach: `<= ${reachMilliseconds} ms`,
        holds: worst <= reachMilliseconds,
        figures: Object.fromEntries(slow.slice(0, 12)),
      },
      await hostileFiles(count),
    ];
  } finally {
    await db.$client.end();
  }
}

/** Health while files that take long are read: nothing of it is in the request loop. */
async function hostileFiles(count: number): Promise<BenchLine> {
  const files = [
    [
      'wide.csv',
      `${Array.from({ length: 1900 }, (_, i) => `column ${i}`).join(';')}\n${`${'12,5 cm;'.repeat(1900)}\n`.repeat(200)}`,
    ],
    ['long.csv', `Art;Name\n1;${'x'.repeat(4_000_000)}\n2;Pot\n`],
    ['deep.json', '['.repeat(900_000)],
    ['quotes.csv', `Art;Name\n${'1;"Pot\n'.repeat(200_000)}`],
  ] as const;
  let reading = true;
  const health: number[] = [];
  const watching = (async () => {
    while (reading) health.push(await ask('/api/health'));
  })();
  let longest = 0;
  for (const [name, text] of files) {
    const form = new FormData();
    form.append('file', new Blob([text]), name);
    longest = Math.max(longest, await ask('/api/batches', { method: 'POST', body: form }));
  }
  reading = false;
  await watching;
  const worst = Math.round(percentile(health, 0.99));
  return {
    name: `hostile files ${count}`,
    ratio: Number((worst / reachHealth).toFixed(2)),
    reach: `<= ${reachHealth} ms`,
    holds: worst <= reachHealth && longest <= 5000,
    figures: { health_p99: worst, longest_file_ms: Math.round(longest) },
  };
}
