/** What a person waits for who saves: one product's edit, and thousands of cells, with their listings checked again. */
import { openDatabase, queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { ask, percentile, post, signIn } from './asking.js';
import type { BenchLine } from './timing.js';

const edits = 60;
const reachEdit = 50;
const [families, ofEach] = [1000, 5];
const reachCells = 3000;

interface Target {
  id: number;
  text: string | null;
}

/** Text of one attribute of variants that stand in two places, five of each family. */
async function targets(): Promise<Target[]> {
  const db = openDatabase(process.env.DATABASE_URL ?? '', { connections: 2 });
  try {
    // As some minutes after it was filled: until then the database tidies up beside whatever is measured.
    await db.execute(sql`VACUUM ANALYZE`);
    return await queryRows<Target>(
      db,
      sql`SELECT id, text FROM (
            SELECT p.id, p.facts ->> 'material' AS text, p.family_id, row_number() OVER (PARTITION BY p.family_id ORDER BY p.id) AS n,
              dense_rank() OVER (ORDER BY p.family_id) AS f
            FROM product p WHERE p.kind = 'variant' AND p.stands AND p.state = 'selling'
              AND p.family_id IN (SELECT family_id FROM product WHERE kind = 'variant' AND stands GROUP BY 1 HAVING count(*) >= ${ofEach})) t
          WHERE n <= ${ofEach} AND f <= ${families} ORDER BY f, n`,
    );
  } finally {
    await db.$client.end();
  }
}

const edit = ({ text }: Target, to: string) => ({ attribute: 'material', language: null, text: to, madeAgainst: text });

export async function benchEdits(count: number): Promise<BenchLine[]> {
  await signIn();
  const all = await targets();
  const step = Math.max(1, Math.floor(all.length / edits));
  const taken: number[] = [];
  for (let i = 0; i < edits; i++) {
    const target = all[i * step];
    if (!target) break;
    const body = JSON.stringify({ edits: [edit(target, `stoneware ${i}`)] });
    const headers = { 'content-type': 'application/json' };
    taken.push(await ask(`/api/products/${target.id}`, { method: 'PATCH', body, headers }));
    target.text = `stoneware ${i}`;
  }
  const one = { p50: Math.round(percentile(taken, 0.5)), p95: Math.round(percentile(taken, 0.95)) };
  const products = all.map((target, i) => ({ productId: target.id, edits: [edit(target, `earthenware ${i % 7}`)] }));
  // The sheet shows what a change would do before anybody saves it.
  const reviewed = await ask('/api/sheet/try', {
    method: 'POST',
    body: JSON.stringify({ products }),
    headers: { 'content-type': 'application/json' },
  });
  const start = performance.now();
  const answer = await post('/api/sheet', { products });
  if (answer.status !== 200) throw new Error(`Saving cells answered ${answer.status}: ${await answer.text()}`);
  await answer.arrayBuffer();
  const cells = Math.round(performance.now() - start);
  return [
    {
      name: `one edit ${count}`,
      ratio: Number((one.p50 / reachEdit).toFixed(2)),
      reach: `<= ${reachEdit} ms`,
      holds: one.p50 <= reachEdit,
      figures: one,
    },
    {
      name: `cells ${count}`,
      ratio: Number((cells / reachCells).toFixed(2)),
      reach: `<= ${reachCells} ms`,
      holds: cells <= reachCells,
      figures: { milliseconds: cells, reviewed_ms: Math.round(reviewed), cells: products.length },
    },
  ];
}
