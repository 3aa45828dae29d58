/**
 * Long work whose process is ended at chosen moments: whoever comes next brings it to its end, and stock and contents are those
 * of a run that nothing disturbed. And work that cannot go on takes back by itself what it had done.
 */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db, until } from './client.js';

const client = new Client();
type Body = Answer['body'];
let supplier: Body;
let own: Body;

beforeAll(async () => {
  await client.signIn();
  [supplier] = await client.addSuppliers();
  own = (await client.get('/api/suppliers')).body.items.find((body: Body) => body.kind === 'own');
});
afterAll(() => db.$client.end());

const worker = fileURLToPath(new URL('../dist/run-one.js', import.meta.url));

/** Runs a waiting job in a process of its own that a test may end at a moment; answers the signal that ended it. */
function runHere(job: number, env: Record<string, string>): Promise<string | null> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [worker, String(job)], {
      env: { ...process.env, VELVET_CHUNK_ROWS: String(chunk), ...env },
      stdio: 'ignore',
    });
    child.once('error', reject);
    child.once('exit', (_, signal) => resolve(signal));
  });
}

const size = 260;
/** Rows of a chunk where a test runs the job. */
const chunk = 100;
const list = (material: string, stock: number) =>
  [
    'Article;Title;Brand;Material;Price GBP;Stock',
    ...Array.from(
      { length: size },
      (_, i) => `KL-${i};Fell hook ${i};Hobnettle;${material};${3 + (i % 7)}.50;${(stock * i) % 23}`,
    ),
  ].join('\n');

async function tried(of: Body, name: string, text: string): Promise<number> {
  const { body } = await client.uploadText(name, text);
  await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: of.id, scope: 'some' });
  await client.send('POST', `/api/batches/${body.id}/try`);
  await client.until(`/api/batches/${body.id}`, ({ state }) => state === 'tried');
  await client.idle();
  return body.id;
}

const state = (batch: number) => client.get(`/api/batches/${batch}`).then(({ body }) => body);

/** What there is of these goods, in words that know no ids. */
const shelf = () =>
  queryRows(
    db,
    sql`SELECT p.title, p.stock, p.price::text, p.facts ->> 'material' AS material, count(r.id)::int AS records,
          coalesce((SELECT sum(s.on_hand) FROM stock_level s WHERE s.product_id = p.id), 0)::int AS pieces,
          coalesce((SELECT sum(m.delta) FROM movement m WHERE m.product_id = p.id), 0)::int AS moved
        FROM product p LEFT JOIN record r ON r.product_id = p.id AND r.content_id IS NOT NULL
        WHERE p.title LIKE 'Fell hook %' AND p.merged_into IS NULL GROUP BY p.id ORDER BY p.title`,
  );

/** Holds the job that a request makes, so that the server leaves it to us. */
async function heldJob(kind: string, press: () => Promise<Answer>): Promise<number> {
  await db.execute(
    sql`CREATE OR REPLACE FUNCTION test_hold() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.state := 'held'; RETURN NEW; END $$`,
  );
  await db.execute(
    sql.raw(
      `CREATE TRIGGER test_hold BEFORE INSERT ON job FOR EACH ROW WHEN (NEW.kind = '${kind}') EXECUTE FUNCTION test_hold()`,
    ),
  );
  try {
    await press();
  } finally {
    await db.execute(sql`DROP TRIGGER test_hold ON job`);
  }
  const [job] = await queryRows<{ id: number }>(
    db,
    sql`UPDATE job SET state = 'waiting', created_at = now() + interval '1 day' WHERE state = 'held' RETURNING id`,
  );
  return job?.id ?? 0;
}

async function killedAt(
  kind: string,
  moment: string,
  press: () => Promise<Answer>,
  batch: number,
  ends: string,
): Promise<void> {
  const job = await heldJob(kind, press);
  expect(await runHere(job, { VELVET_TEST_KILL: moment })).toBe('SIGKILL');
  await until(
    'the end of the job',
    () => state(batch),
    (body) => body.state === ends,
  );
  await client.idle();
}

const apply = (batch: number) => client.send('POST', `/api/batches/${batch}/apply`);
const undo = (batch: number) => client.send('POST', `/api/batches/${batch}/undo`);

describe('a process that ends in the middle', () => {
  let whole: Body;
  let before: Body;
  it('(what an undisturbed run gives)', async () => {
    for (const of of [supplier, own]) {
      const batch = await tried(of, 'first.csv', list('cork', 3));
      await apply(batch);
      await client.until(`/api/batches/${batch}`, (body) => body.state === 'applied');
    }
    await client.idle();
    before = await shelf();
    expect(before).toHaveLength(2 * size);
    const next = await tried(own, 'next.csv', list('steel', 5));
    await apply(next);
    await client.until(`/api/batches/${next}`, (body) => body.state === 'applied');
    await client.idle();
    whole = await shelf();
    expect(whole).not.toEqual(before);
    await undo(next);
    await client.until(`/api/batches/${next}`, (body) => body.state === 'undone');
    await client.idle();
    expect(await shelf()).toEqual(before);
  });

  it.each(['apply-chunk:1', 'apply-chunk:2', 'apply-end:1'])('of applying, at %s', async (moment) => {
    const batch = await tried(own, 'next.csv', list('steel', 5));
    await killedAt('apply-batch', moment, () => apply(batch), batch, 'applied');
    expect(await shelf()).toEqual(whole);
    await undo(batch);
    await client.until(`/api/batches/${batch}`, (body) => body.state === 'undone');
    await client.idle();
    expect(await shelf()).toEqual(before);
  });

  it('is taken back where somebody cancels while the very last of it is written', async () => {
    const batch = await tried(own, 'next.csv', list('steel', 5));
    const job = await heldJob('apply-batch', () => apply(batch));
    const [running] = await db.transaction(async (tx) => {
      // Its last transaction says of the batch that it is applied, and waits for us there.
      await tx.execute(sql`SELECT 1 FROM batch WHERE id = ${batch} FOR NO KEY UPDATE`);
      const running = runHere(job, {});
      await until(
        'the end of applying',
        () =>
          queryRows(
            db,
            sql`SELECT 1 FROM pg_stat_activity WHERE datname = current_database() AND wait_event_type = 'Lock' AND query ILIKE 'update "batch"%'`,
          ),
        (waiting) => waiting.length > 0,
      );
      expect((await client.send('POST', `/api/batches/${batch}/cancel`)).status).toBe(200);
      return [running];
    });
    await running;
    expect((await state(batch)).state).toBe('cancelled');
    expect((await client.send('POST', `/api/batches/${batch}/cancel`)).status).toBe(409);
    await client.idle();
    expect(await shelf()).toEqual(before);
  });

  it.each(['undo-begin:1', 'undo-end:1'])('of taking back, at %s', async (moment) => {
    const batch = await tried(own, 'next.csv', list('steel', 5));
    await apply(batch);
    await client.until(`/api/batches/${batch}`, (body) => body.state === 'applied');
    await killedAt('undo-batch', moment, () => undo(batch), batch, 'undone');
    expect(await shelf()).toEqual(before);
  });
});

describe('a row that cannot be applied, late in the file', () => {
  it('is named; what was applied is taken back, feeds wait meanwhile, and the rest goes in without it', async () => {
    const before = await shelf();
    const batch = await tried(own, 'late.csv', list('brass', 9));
    const job = await heldJob('apply-batch', () => apply(batch));
    const { body: feed } = await client.send('POST', '/api/feeds', { placeId: 1, format: 'xml' });
    expect((await client.send('POST', `/api/feeds/${feed.id}/runs`)).status).toBe(409);
    await runHere(job, { VELVET_TEST_HURT: '241' });
    const failed = await until(
      'the failure',
      () => state(batch),
      (body) => body.state === 'tried',
    );
    expect(failed.error).toContain('row 241');
    expect(failed.error).toContain('made to fail by a test');
    expect(failed.counts.refused).toBe(1);
    expect(await shelf()).toEqual(before);
    const { body: refused } = await client.get(`/api/batches/${batch}/rows?outcome=refused`);
    expect(refused.items).toMatchObject([{ row: 241 }]);
    expect(refused.items[0].cells[0]).toBe('KL-239');
    await client.idle();
    expect((await client.send('POST', `/api/feeds/${feed.id}/runs`)).status).toBe(200);
    await apply(batch);
    await client.until(`/api/batches/${batch}`, (body) => body.state === 'applied');
    await client.idle();
    const brass = (await shelf()).filter((row) => (row as Body).material === 'brass');
    expect(brass).toHaveLength(size - 1);
  });
});
