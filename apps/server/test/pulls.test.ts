/** Sources that goods are fetched from: a shop's catalogue, any file at an address, by hand and by the clock. */
import { readFileSync } from 'node:fs';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, count, db } from './client.js';

const client = new Client();
const { tried, applied, rowsOf, supplier } = client;
beforeAll(async () => {
  await client.signIn();
  await client.stocked();
});
afterAll(() => db.$client.end());

type Body = Answer['body'];

describe('pulls', () => {
  const standins = process.env.VELVET_STANDINS ?? '';
  const mood = (query: string) => fetch(`${standins}/windowsill/mood?${query}`, { method: 'POST' });

  it('fetch a shop’s catalogue page by page, say where it stopped, and go on from there', async () => {
    const { body: list } = await client.get('/api/pulls');
    const [pull] = list.items;
    await mood('failAfter=20&busy=1');
    await client.send('POST', `/api/pulls/${pull.id}/start`);
    const stopped = await client.until('/api/pulls', (row) => row.items[0].lastError !== null && !row.items[0].running);
    expect(stopped.items[0]).toMatchObject({ fetched: 20 });
    expect(stopped.items[0].lastError).toContain('What was fetched is kept');
    await mood('failAfter=');
    await client.send('POST', `/api/pulls/${pull.id}/start`);
    const done = await client.until('/api/pulls', (row) => row.items[0].lastBatchId !== null);
    const { body: batch } = await client.get(`/api/batches/${done.items[0].lastBatchId}`);
    expect(batch).toMatchObject({ kind: 'pull', state: 'read', reading: { format: 'jsonl', variantPath: 'forms' } });
    expect(batch.mapFaults).toEqual([]);
    const { counts } = await tried(batch.id);
    expect(counts.created + counts.joins).toBeGreaterThan(100);
    await applied(batch.id);
  });
  it('apply by themselves once their columns were confirmed, and take a schedule', async () => {
    const [pull] = (await client.get('/api/pulls')).body.items;
    const wrong = await client.send('POST', '/api/pulls', { ...pull, schedule: 'sometimes' });
    expect(wrong.body.detail).toContain('is no schedule');
    await client.send('POST', '/api/pulls', {
      id: pull.id,
      supplierId: pull.supplierId,
      name: pull.name,
      address: pull.address,
      schedule: '0 5 * * *',
    });
    expect((await client.get('/api/pulls')).body.items[0].nextAt).toContain('T05:00:00');
    await db.execute(sql`UPDATE pull SET next_at = now() - interval '1 minute' WHERE id = ${pull.id}`);
    const done = await client.until('/api/pulls', (row) => row.items[0].lastBatchId !== pull.lastBatchId);
    const batch = await client.until(`/api/batches/${done.items[0].lastBatchId}`, (row) => row.state === 'applied');
    expect(batch.counts).toMatchObject({ created: 0, changed: 0 });
  });
  it('take any file that can be read from an address, whatever it is', async () => {
    const lists = `${standins}/windowsill/lists`;
    const leave = async (name: string, content: Buffer | string) => {
      const answer = await fetch(`${lists}/${encodeURIComponent(name)}`, {
        method: 'PUT',
        body: new Uint8Array(Buffer.from(content)),
      });
      expect(answer.status).toBe(204);
    };
    const pullFrom = async (name: string) => {
      const supplierId = await supplier(`Lists of ${name}`);
      const { body: made } = await client.send('POST', '/api/pulls', {
        supplierId,
        name: `From ${name}`,
        address: `${lists}/${encodeURIComponent(name)}`,
        schedule: null,
      });
      await client.send('POST', `/api/pulls/${made.id}/start`);
      const done = await client.until('/api/pulls', ({ items }) =>
        items.some((row: Body) => row.id === made.id && !row.running && row.lastAt !== null),
      );
      const pull = done.items.find((row: Body) => row.id === made.id);
      const batch = pull.lastBatchId === null ? undefined : (await client.get(`/api/batches/${pull.lastBatchId}`)).body;
      return { pull, batch, supplierId };
    };
    const demo = (name: string) => readFileSync(new URL(`../../../demo/files/intake/${name}`, import.meta.url));
    for (const [name, content, format] of [
      ['Überblick.csv', 'Nr;Titel;Preis EUR\nÜ-1;Schale;4,50\n', 'delimited'],
      ['lights.xlsx', demo('lumenloam-lighting.xlsx'), 'xlsx'],
      ['seeds.xml', demo('kestrelgate-seeds.xml'), 'xml'],
      ['seeds.json', demo('kestrelgate-seeds.json'), 'json'],
    ] as const) {
      await leave(name, content);
      const { batch, supplierId, pull } = await pullFrom(name);
      expect(pull.lastError, name).toBeNull();
      expect(batch, name).toMatchObject({ fileName: name, kind: 'pull', supplierId, reading: { format } });
      expect(batch.columns.length, name).toBeGreaterThan(1);
    }
    await leave('page.html', '<!doctype html><html><body><h1>Welcome</h1></body></html>');
    expect((await pullFrom('page.html')).pull.lastError).toContain('web page');
    await leave('empty.csv', '');
    expect((await pullFrom('empty.csv')).pull.lastError).toContain('empty file');
    expect((await pullFrom('gone.csv')).pull.lastError).toContain('answered 404');
  });
  it('one item by its identifier: what a person must add is asked for in the dry run', async () => {
    expect((await client.send('POST', '/api/intake/item', { placeId: 1, identifier: '123' })).body.detail).toContain(
      'knows no item “123”',
    );
    const { body } = await client.send('POST', '/api/intake/item', { placeId: 1, identifier: '2790000010373' });
    expect(await tried(body.id)).toMatchObject({ scope: 'some', counts: { created: 0, refused: 1, dropped: 0 } });
    const [row] = await rowsOf(body.id, 'refused');
    expect(row.reasons[0]).toContain('“SKU” is empty');
    const { body: fixed } = await client.send('PUT', `/api/batches/${body.id}/rows/${row.row}`, {
      cells: { SKU: 'MS-TRAY', 'Our category': 'Growing media/Potting mixes', 'Cost GBP': '2.10', Stock: '40' },
    });
    expect(fixed.row).toMatchObject({ outcome: 'created', key: 'MS-TRAY' });
    await applied(body.id);
    expect(
      await count(
        sql`SELECT count(*) AS n FROM product WHERE sku = 'MS-TRAY' AND gtin = '2790000010373' AND stock = 40`,
      ),
    ).toBe(1);
  });
});
