/** Every file a supplier sends, read, tried and applied. In this order. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, count, db } from './client.js';

const client = new Client();
const { tried, applied, rowsOf, correct, supplier } = client;
beforeAll(async () => void (await client.signIn()));
afterAll(() => db.$client.end());

type Body = Answer['body'];

/** Brings a small table in for one supplier; answers the batch. */
async function bringText(name: string, text: string, supplierId: number): Promise<Body> {
  const { body } = await client.uploadText(name, text);
  await correct(body.id, { supplierId });
  await tried(body.id);
  return applied(body.id);
}

describe('every format', () => {
  beforeAll(async () => {
    await client.bringIn('mosswick-own.tsv');
    await client.bringIn('brackwater-pottery.csv');
  });

  it('a workbook: both sheets, header rows found, merged and hidden cells named', async () => {
    const { body } = await client.uploadDemo('lumenloam-lighting.xlsx');
    expect(body.supplier).toBe('Lumenloam Lighting');
    expect(body.reading.sheets).toEqual([
      { name: 'Lamps', headerRow: 3, read: true },
      { name: 'Timers & accessories', headerRow: 4, read: true },
    ]);
    expect(body.detected.notes).toEqual(['hidden column “Factor” on Lamps', '10 merged ranges']);
    expect(body.mapFaults).toEqual([]);
    expect((await tried(body.id)).counts).toMatchObject({ created: 18, joins: 70, refused: 1 });
    const list = await rowsOf(body.id);
    const noted = (part: string) =>
      list.filter((row) => row.notes.some((note: Body) => note.note.includes(part))).length;
    expect(noted('leading zero')).toBe(9);
    expect(noted('has dropped')).toBe(5);
    expect(noted('wrong check digit')).toBe(5);
    expect(list.find((row) => row.place === 'Lamps, row 73').reasons[0]).toContain('a note, not goods');
    await applied(body.id);
    const gtins = await queryRows<{ length: number; n: number }>(
      db,
      sql`SELECT length(c.content -> 'values' ->> 'gtin') AS length, count(*) AS n FROM record r JOIN record_content c ON c.id = r.content_id
          JOIN supplier s ON s.id = r.supplier_id WHERE s.key = 'lumenloam' AND c.keys -> 'gtin' IS NOT NULL GROUP BY 1`,
    );
    expect(gtins.find((gtin) => gtin.length === 12)?.n).toBe(20);
    expect(gtins.find((gtin) => gtin.length === 8)?.n).toBe(9);
    expect(
      await count(
        sql`SELECT count(*) AS n FROM record r JOIN record_content c ON c.id = r.content_id WHERE c.content -> 'values' -> 'colourTemperature' ->> 'unit' = 'k'`,
      ),
    ).toBeGreaterThan(40);
  });

  it('JSON with nested packets, and then the same goods as XML change nothing but what the formats say apart', async () => {
    const { body: json } = await client.uploadDemo('kestrelgate-seeds.json');
    expect(json.reading).toMatchObject({ format: 'json', itemPath: 'items', variantPath: 'packets' });
    expect((await tried(json.id)).counts).toMatchObject({ created: 81, joins: 37, refused: 1 });
    expect((await rowsOf(json.id, 'refused'))[0].place).toMatch(/^item \d+$/);
    await applied(json.id);
    const { body: xml } = await client.uploadDemo('kestrelgate-seeds.xml');
    expect(xml.reading).toMatchObject({ format: 'xml', itemPath: 'list.item', variantPath: 'packet' });
    expect((await tried(xml.id)).counts).toMatchObject({ created: 0, refused: 1, dropped: 0 });
    const fields = new Set(
      (await rowsOf(xml.id, 'changed')).flatMap((row) => row.changes.map((change: Body) => change.field)),
    );
    expect([...fields]).toEqual([]);
  });

  it('JSON Lines with a broken line: that line is refused with its number, the others go on', async () => {
    const { body } = await client.uploadText(
      'goods.jsonl',
      '{"sku":"J1","name":"Pot"}\n{"sku":\n{"sku":"J3","name":"Tray"}\n',
    );
    expect(body.reading.format).toBe('jsonl');
    expect((await tried(body.id)).counts).toMatchObject({ created: 2, refused: 1 });
    expect((await rowsOf(body.id, 'refused'))[0].reasons[0]).toContain('Line 2 is not JSON');
  });

  it('a page with a schema.org description', async () => {
    const product = {
      '@context': 'https://schema.org',
      '@type': 'Product',
      sku: 'P1',
      name: 'Cork mat',
      offers: { price: '4.50', priceCurrency: 'EUR' },
    };
    const { body } = await client.uploadText(
      'page.html',
      `<!doctype html><html><script type="application/ld+json">${JSON.stringify(product)}</script></html>`,
    );
    expect(body.reading.format).toBe('jsonld');
    const target = (column: string) => body.map.find((row: Body) => row.column === column)?.target;
    expect(target('sku')).toEqual({ to: 'key' });
    expect(JSON.stringify(target('offers.price'))).toContain('offers.priceCurrency');
  });

  it.each([
    [
      'entities.xml',
      '<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a><b c="&x;"/><b c="2"/></a>',
      'never loaded',
    ],
    ['plain.html', '<!doctype html><html><body>Pots</body></html>', 'no schema.org description'],
    ['flat.xml', '<a><b>1</b></a>', 'no element in it repeats'],
    ['archive.xlsx', 'PK\u0003\u0004nothing', 'damaged'],
  ])('%s gets a clear message and changes nothing', async (name, text, words) => {
    const before = (await client.get('/api/batches')).body.items.length;
    const answer = await client.uploadText(name, text);
    expect(answer.status).toBe(422);
    expect(answer.body.detail).toContain(words);
    expect((await client.get('/api/batches')).body.items.length).toBe(before);
  });
});

describe('the dry run', () => {
  it('learns a supplier’s words from goods both sides describe', async () => {
    const { body } = await client.uploadDemo('brackwater-pottery.csv');
    const words = (column: string) =>
      body.translations.find((translation: Body) => translation.column === column)?.values ?? [];
    expect(words('Warengruppe').find((word: Body) => word.value === 'Untersetzer')?.learnt).toMatchObject({
      ours: 'Planters/Saucers & trays',
    });
    expect(words('Glasur').find((word: Body) => word.value === 'Waldgrün')?.learnt?.ours).toBe('Moss');
    const map = body.map.map((row: Body) =>
      row.column === 'Glasur' ? { ...row, target: { ...row.target, values: { Waldgrün: 'Moss' } } } : row,
    );
    await correct(body.id, { map });
    const done = await tried(body.id);
    expect(done.counts.changed).toBeGreaterThan(10);
    expect(done.counts.changed + done.counts.unchanged).toBe(179);
    const changed = await rowsOf(body.id, 'changed');
    expect(changed[0].changes).toEqual([{ field: 'Glaze', before: 'Waldgrün', after: 'Moss' }]);
    await applied(body.id);
    // The next file of this supplier needs no click.
    const { body: next } = await client.uploadDemo('brackwater-pottery.csv');
    expect(JSON.stringify(next.map)).toContain('"Waldgrün":"Moss"');
    expect((await tried(next.id)).counts).toMatchObject({ created: 0, changed: 0, unchanged: 179 });
  });

  it('foresees what applying does to listings, and applying does it', async () => {
    const states = () =>
      queryRows<{ id: number; readiness: string }>(db, sql`SELECT id, readiness FROM listing ORDER BY id`);
    const before = await states();
    const [blocked] = await queryRows<{ sku: string }>(
      db,
      sql`SELECT p.sku FROM listing l JOIN product p ON p.id = l.variant_id WHERE l.readiness = 'ready' AND p.sku LIKE 'MS-%' ORDER BY p.sku LIMIT 1`,
    );
    const text = `SKU,Price GBP,Stock\n${blocked?.sku},0.00,7\nMS-NONE,1.00,1\n`;
    const { body } = await client.uploadText('mosswick-own-prices.csv', text);
    expect(body.scope).toBe('update');
    expect((await tried(body.id)).counts).toMatchObject({ changed: 1, refused: 1 });
    expect(await states()).toEqual(before);
    const { effect } = await client.until(`/api/batches/${body.id}`, (row) => row.effect !== null);
    expect(effect).toMatchObject({ rows: 1, of: 1, becameBlocked: 1, becameReady: 0, added: 0, priceChanges: 1 });
    expect(await states()).toEqual(before);
    await applied(body.id);
    // The sweep may be at the same listings just now.
    await client.idle();
    const after = await states();
    const turned = after.filter((state, i) => state.readiness !== before[i]?.readiness);
    expect(turned.map((row) => row.readiness)).toEqual(['blocked']);
    await client.send('POST', `/api/batches/${body.id}/undo`);
    await client.idle();
    expect(await states()).toEqual(before);
  });

  it('lets rows be picked out, applies the rest, and brings the others in later', async () => {
    const id = await supplier('Picked Ltd');
    const { body } = await client.uploadText('picked.csv', 'SKU;Name\nP-1;One\nP-2;Two\nP-3;Three\n');
    await correct(body.id, { supplierId: id });
    await tried(body.id);
    await client.send('POST', `/api/batches/${body.id}/left-out`, { leftOut: true, rows: [3] });
    expect(
      (await client.send('POST', `/api/batches/${body.id}/left-out`, { leftOut: true, search: 'Three' })).body,
    ).toMatchObject({ rows: 1, batch: { leftOut: 2 } });
    await applied(body.id);
    expect(
      await count(sql`SELECT count(*) AS n FROM record WHERE supplier_id = ${id} AND content_id IS NOT NULL`),
    ).toBe(1);
    const again = await client.settled((await client.send('POST', `/api/batches/${body.id}/again`)).body);
    expect(again).toMatchObject({ state: 'tried', counts: { created: 2, unchanged: 1 } });
    await applied(again.id);
    expect(
      await count(sql`SELECT count(*) AS n FROM record WHERE supplier_id = ${id} AND content_id IS NOT NULL`),
    ).toBe(3);
  });

  it('lets a refused row be corrected in place; refused rows come back as a file that can be dropped again', async () => {
    const id = await supplier('Mended Ltd');
    const { body } = await client.uploadText('mended.csv', 'SKU;Name;Weight\nM-1;One;1 kg\n;Two;2 kg\nM-3;Three\n');
    await correct(body.id, { supplierId: id });
    expect((await tried(body.id)).counts).toMatchObject({ created: 1, refused: 2 });
    const file = (await client.get(`/api/batches/${body.id}/refused.csv`)).body as string;
    expect(file).toContain('is empty');
    const fixed = await client.send('PUT', `/api/batches/${body.id}/rows/3`, {
      cells: { SKU: 'M-2', Name: 'Two', Weight: '2 kg' },
    });
    expect(fixed.body.row).toMatchObject({ outcome: 'created', key: 'M-2' });
    expect(fixed.body.batch.counts).toMatchObject({ created: 2, refused: 1 });
    const twin = await client.send('PUT', `/api/batches/${body.id}/rows/4`, {
      cells: { SKU: 'M-2', Name: 'x', Weight: '' },
    });
    expect(twin.body.row.reasons[0]).toContain('stands on row 3 too');
    await applied(body.id);
    const { body: rest } = await client.uploadText(
      'mended-refused.csv',
      file.replace(';Two', 'x').replace(/,,Two/, ',M-9,Two'),
    );
    expect(rest.scope).toBe('some');
  });

  it('marks what a supplier’s whole list no longer has, and unmarks it when it is back', async () => {
    const id = await supplier('Dropping Ltd');
    await bringText('list.csv', 'SKU;Name\nD-1;One\nD-2;Two\n', id);
    const { body } = await client.uploadText('list.csv', 'SKU;Name\nD-1;One\n');
    await correct(body.id, { supplierId: id });
    expect((await tried(body.id)).counts).toMatchObject({ unchanged: 1, dropped: 1 });
    await applied(body.id);
    const marked = sql`SELECT count(*) AS n FROM product WHERE facts::jsonb -> 'droppedBy' ? 'Dropping Ltd'`;
    expect(await count(marked)).toBe(1);
    expect(
      await count(
        sql`SELECT count(*) AS n FROM product p JOIN record r ON r.product_id = p.id WHERE r.supplier_id = ${id}`,
      ),
    ).toBe(2);
    await client.send('POST', `/api/batches/${body.id}/undo`);
    expect(await count(marked)).toBe(0);
  });
});

describe('price and stock files', () => {
  it('change prices and stock in place, list unknown numbers, and are undone whole', async () => {
    const { body } = await client.uploadDemo('price-stock-update.csv');
    expect(body).toMatchObject({ supplier: 'Brackwater Pottery', scope: 'update' });
    const done = await tried(body.id);
    expect(done.counts).toMatchObject({ created: 0, refused: 9, lostCells: 2 });
    const refused = await rowsOf(body.id, 'refused');
    expect(refused.filter((row) => row.reasons[0].includes('that we know')).length).toBe(7);
    expect(refused.filter((row) => row.reasons[0].includes('earlier row')).length).toBe(2);
    const stock = sql`SELECT coalesce(sum(on_hand), 0) AS n FROM stock_level`;
    const ours = sql`SELECT coalesce(sum(stock), 0) AS n FROM product WHERE kind <> 'family'`;
    const oursBefore = await count(ours);
    const glazes = sql`SELECT count(*) AS n FROM product WHERE facts::jsonb ? 'glaze'`;
    const [stockBefore, glazesBefore] = [await count(stock), await count(glazes)];
    await applied(body.id);
    expect(await count(stock)).not.toBe(stockBefore);
    expect(await count(glazes)).toBe(glazesBefore);
    expect(await count(sql`SELECT count(*) AS n FROM stock_level WHERE on_hand < 0`)).toBeGreaterThanOrEqual(5);
    expect(await count(ours)).toBe(oursBefore);
    await client.send('POST', `/api/batches/${body.id}/undo`);
    expect(await count(stock)).toBe(stockBefore);
  });
});

describe('large batches', () => {
  const big = (n: number, price: number) =>
    `SKU,Family,Name,Weight,Price GBP\n${Array.from({ length: n }, (_, i) => `BIG-${i},FAM-${i >> 2},Thing ${i},${i % 90} g,${price}.00`).join('\n')}\n`;

  it('go on beside the request with counts; cancelled, nothing of them is left', async () => {
    const id = await supplier('Big Ltd');
    const { body } = await client.uploadText('big.csv', big(22_000, 5));
    await correct(body.id, { supplierId: id });
    await tried(body.id);
    await client.until(`/api/batches/${body.id}`, (row) => row.state === 'tried');
    const before = await count(sql`SELECT count(*) AS n FROM product`);
    expect((await applied(body.id)).state).toBe('applying');
    await client.until('/api/shelf', (row) => row.jobs.some((job: Body) => job.kind === 'apply-batch' && job.done > 0));
    expect((await client.send('POST', '/api/feeds', { placeId: 1, format: 'jsonl' })).status).toBe(200);
    const [feed] = (await client.get('/api/feeds')).body.items;
    expect((await client.send('POST', `/api/feeds/${feed.id}/runs`)).body.detail).toContain('A batch is being applied');
    expect((await client.send('POST', `/api/batches/${body.id}/cancel`)).status).toBe(200);
    await client.until(`/api/batches/${body.id}`, (row) => row.state === 'cancelled');
    const actions: Body[] = (await client.get('/api/actions')).body.items;
    const said = actions.find((action) => action.words === 'Cancelled big.csv: what had been applied was taken back');
    expect(said?.undone).toBe(true);
    expect(await count(sql`SELECT count(*) AS n FROM product`)).toBe(before);
    expect(
      await count(sql`SELECT count(*) AS n FROM record WHERE supplier_id = ${id} AND content_id IS NOT NULL`),
    ).toBe(0);
  });

  it('go on by themselves where their worker died, and nothing is done twice', async () => {
    const id = await supplier('Crash Ltd');
    const { body } = await client.uploadText('crash.csv', big(17_000, 6));
    await correct(body.id, { supplierId: id });
    await tried(body.id);
    await client.until(`/api/batches/${body.id}`, (row) => row.state === 'tried');
    await applied(body.id);
    await client.until('/api/shelf', (row) => row.jobs.some((job: Body) => job.kind === 'apply-batch' && job.done > 0));
    // The database throws every connection of the server out, as a restart would.
    await db.execute(
      sql`SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'velvet-shelf' AND datname = current_database() AND pid <> pg_backend_pid()`,
    );
    await client.until(`/api/batches/${body.id}`, (row) => row.state === 'applied');
    expect(
      await count(sql`SELECT count(*) AS n FROM record WHERE supplier_id = ${id} AND content_id IS NOT NULL`),
    ).toBe(17_000);
    expect(
      await count(
        sql`SELECT count(*) AS n FROM price p JOIN record r ON r.product_id = p.product_id WHERE r.supplier_id = ${id}`,
      ),
    ).toBe(0);
    expect(await count(sql`SELECT count(DISTINCT product_id) AS n FROM record WHERE supplier_id = ${id}`)).toBe(17_000);
  });
});
