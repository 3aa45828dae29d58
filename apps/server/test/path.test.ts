/** The path, end to end, at the server: two files in, joined; edits, causes, feed, report, undo. In this order. */
import { readPublished } from '@velvet-shelf/rulebooks';
import { validateXML } from 'xmllint-wasm';
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import * as tables from '@velvet-shelf/server/db/schema/index';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { expectTotals } from './anew.js';
import { Client, base, count, db } from './client.js';

const client = new Client();
beforeAll(async () => void (await client.signIn()));
afterAll(() => db.$client.end());

const shape = () =>
  queryRows<{ members: string; family: string }>(
    db,
    sql`SELECT string_agg(s.key || ':' || r.key, '+' ORDER BY s.key, r.key) AS members, coalesce(f.title, '') AS family
        FROM record r JOIN supplier s ON s.id = r.supplier_id JOIN product p ON p.id = r.product_id LEFT JOIN product f ON f.id = p.family_id GROUP BY p.id, f.title ORDER BY 1`,
  );
describe('intake', () => {
  let pottery: number;
  let alone: unknown;

  it('reads the pottery file: encoding, separator, header and figures, each with its reason', async () => {
    const { body } = await client.uploadDemo('brackwater-pottery.csv');
    pottery = body.id;
    expect(body.supplier).toBe('Brackwater Pottery');
    expect(body.reading).toEqual({
      format: 'delimited',
      encoding: 'windows-1252',
      delimiter: ';',
      headerRow: 1,
      decimal: ',',
      dateOrder: 'ymd',
    });
    expect(body.detected.why.encoding).toContain('not valid UTF-8');
    expect(body.translations[0].values[0]).toMatchObject({ value: 'Töpfe', becomes: null });
  });
  it('can be corrected, and says what is wrong with a mapping', async () => {
    const { body } = await client.get(`/api/batches/${pottery}`);
    const without = body.map.map((row: { column: string }) =>
      row.column === 'Artikelnummer' ? { column: row.column, target: { to: 'ignore' } } : row,
    );
    const wrong = await client.send('PUT', `/api/batches/${pottery}/reading`, { map: without });
    expect(wrong.body.mapFaults[0]).toContain('article number');
    expect((await client.send('POST', `/api/batches/${pottery}/try`)).status).toBe(400);
    const map = body.map.map((row: { column: string; target: object }) =>
      row.column === 'Warengruppe'
        ? { ...row, target: { ...row.target, values: { Töpfe: 'Planters/Indoor pots' } } }
        : row,
    );
    expect((await client.send('PUT', `/api/batches/${pottery}/reading`, { map })).body.mapFaults).toEqual([]);
  });
  it('tries it: 179 would be created, 18 refused, each with its reason; nothing is changed', async () => {
    const { body } = await client.send('POST', `/api/batches/${pottery}/try`);
    expect(body.counts).toMatchObject({ created: 179, changed: 0, unchanged: 0, refused: 18 });
    const refused = (await client.get(`/api/batches/${pottery}/rows?outcome=refused`)).body.items;
    expect(refused.every((row: { reasons: string[] }) => row.reasons.length === 1)).toBe(true);
    expect(await count(sql`SELECT count(*) AS n FROM product`)).toBe(0);
    const file = await client.get(`/api/batches/${pottery}/refused.csv`);
    expect(file.body.split('\r\n').length).toBeGreaterThan(18);
  });
  it('applies it: products in 28 families, kept with umlauts and euros', async () => {
    const { body } = await client.send('POST', `/api/batches/${pottery}/apply`);
    expect(body.state).toBe('applied');
    expect(await count(sql`SELECT count(*) AS n FROM product WHERE kind = 'family'`)).toBe(28);
    expect(await count(sql`SELECT count(*) AS n FROM product WHERE kind = 'variant'`)).toBe(179);
    expect(await count(sql`SELECT count(*) AS n FROM product WHERE facts ->> 'glaze' = 'Waldgrün'`)).toBeGreaterThan(
      10,
    );
    alone = await shape();
    await expectTotals();
  });
  it('brings in the own sheet: joined by GTIN, then brand and MPN, then their number', async () => {
    const body = await client.bringIn('mosswick-own.tsv');
    expect(body.counts).toMatchObject({ created: 266, joins: 151, refused: 0 });
    const joined = await count(
      sql`SELECT count(*) AS n FROM (SELECT product_id FROM record WHERE product_id IS NOT NULL GROUP BY 1 HAVING count(*) > 1) j`,
    );
    expect(joined).toBeGreaterThanOrEqual(148);
    expect(joined).toBeLessThanOrEqual(153);
    expect(
      await count(
        sql`SELECT count(*) AS n FROM (SELECT product_id, supplier_id FROM record WHERE product_id IS NOT NULL GROUP BY 1, 2 HAVING count(*) > 1) twice`,
      ),
    ).toBe(0);
    expect(await count(sql`SELECT count(*) AS n FROM join_proposal`)).toBeGreaterThan(0);
    await expectTotals();
  });
  it('reads the same file again as unchanged', async () => {
    const { body } = await client.uploadDemo('mosswick-own.tsv');
    expect((await client.send('POST', `/api/batches/${body.id}/try`)).body.counts).toMatchObject({
      created: 0,
      changed: 0,
      unchanged: 417,
    });
    await client.send('POST', `/api/batches/${body.id}/apply`);
    expect((await client.send('POST', `/api/batches/${body.id}/apply`)).status).toBe(409);
    await client.send('POST', `/api/batches/${body.id}/undo`);
  });
  it('gives the same joins and families whichever batch came first', async () => {
    const together = await shape();
    const own = (await client.get('/api/batches')).body.items.find(
      (body: { fileName: string; state: string }) => body.fileName === 'mosswick-own.tsv' && body.state === 'applied',
    );
    await client.send('POST', `/api/batches/${own.id}/undo`);
    expect(await shape()).toEqual(alone);
    await client.send('POST', `/api/batches/${pottery}/undo`);
    expect(await count(sql`SELECT count(*) AS n FROM product`)).toBe(0);
    expect(await count(sql`SELECT count(*) AS n FROM listing`)).toBe(0);
    await client.bringIn('mosswick-own.tsv');
    await client.bringIn('brackwater-pottery.csv');
    expect(await shape()).toEqual(together);
    await expectTotals();
  });
});

describe('catalog', () => {
  it('opens a view by ids, answers windows, and says what it leaves out', async () => {
    const { body: view } = await client.send('POST', '/api/views', { search: 'hollin moss', show: 'variants' });
    const { body: window } = await client.get(`/api/views/${view.token}/rows?from=0&count=50&columns=diameter,weight`);
    expect(view.rows).toBeGreaterThan(2);
    expect(window.items.every((row: { title: string }) => /hollin/i.test(row.title))).toBe(true);
    expect(window.items[0].values.diameter).toMatch(/cm$/);
    const { body: counts } = await client.get(`/api/views/${view.token}/counts`);
    const all =
      counts.variants + counts.leftOut.reduce((sum: number, row: { variants: number }) => sum + row.variants, 0);
    expect(all).toBe(
      await count(sql`SELECT count(*) AS n FROM product WHERE kind IN ('variant', 'single') AND merged_into IS NULL`),
    );
  });

  it('shows claims side by side, saves an edit against what it was made against, and keeps both in the history', async () => {
    const [row] = await queryRows<{ id: number }>(
      db,
      sql`SELECT p.id FROM product p WHERE p.kind = 'variant' AND p.sku IS NOT NULL AND (SELECT count(*) FROM record r WHERE r.product_id = p.id) = 2 AND p.facts::jsonb ? 'weight' ORDER BY p.id LIMIT 1`,
    );
    const path = `/api/products/${row?.id}`;
    const { body: product } = await client.get(path);
    const weight = product.values.find((value: { attribute: string }) => value.attribute === 'weight');
    expect(weight.claims[0].from).toBe('Mosswick own sheet');
    const edit = (text: string | null, madeAgainst: string | null) =>
      client.send('PATCH', path, { edits: [{ attribute: 'weight', text, madeAgainst }] });
    const saved = await edit('4.2 kg', weight.text);
    expect(saved.status).toBe(200);
    expect(
      (await client.get(path)).body.values.find((value: { attribute: string }) => value.attribute === 'weight'),
    ).toMatchObject({
      text: '4.2 kg',
      origin: 'edit',
    });
    const stale = await edit('5 kg', weight.text);
    expect(stale.status).toBe(412);
    expect(stale.body).toMatchObject({ current: '4.2 kg', yours: '5 kg' });
    expect((await edit('heavy', '4.2 kg')).body.detail).toContain('heavy');
    const { body: history } = await client.get(`${path}/history`);
    expect(history.items[0]).toMatchObject({ kind: 'edit', actor: 'Iris Ravensbourne', canUndo: true });
    await client.send('POST', `/api/actions/${history.items[0].id}/undo`);
    const after = (await client.get(path)).body.values.find(
      (value: { attribute: string }) => value.attribute === 'weight',
    );
    expect(after).toMatchObject({ text: weight.text, origin: 'record' });
  });

  it('keeps a person’s edit when the batch below it is brought in again', async () => {
    const [row] = await queryRows<{ id: number; brand: string }>(
      db,
      sql`SELECT id, brand FROM product WHERE sku = 'MS-HOL42-10-MO'`,
    );
    await client.send('PATCH', `/api/products/${row?.id}`, {
      edits: [{ attribute: 'brand', text: 'Mosswick', madeAgainst: row?.brand }],
    });
    await client.bringIn('mosswick-own.tsv');
    expect(
      (await client.get(`/api/products/${row?.id}`)).body.values.find(
        (value: { attribute: string }) => value.attribute === 'brand',
      ).text,
    ).toBe('Mosswick');
  });
});

describe('causes', () => {
  it('ranks them, tries a fix, saves it, and clears its listings at once', async () => {
    const { body: before } = await client.get('/api/causes');
    const cause = before.items.find((row: { key: string }) => row.key === 'translate:orrivane::differsShade:Sage');
    const query = `?key=${encodeURIComponent(cause.key)}`;
    const fix = { kind: 'choose', value: 'fern' };
    const tried = await client.send('POST', `/api/causes/try${query}`, fix);
    expect(tried.body.becameReady).toBeGreaterThan(0);
    expect(tried.body.becameReady).toBeLessThanOrEqual(cause.unlocks);
    const saved = await client.send('POST', `/api/causes/fix${query}`, fix);
    expect(saved.body.becameReady).toBe(tried.body.becameReady);
    const { body: after } = await client.get('/api/causes');
    expect(after.items.some((row: { key: string }) => row.key === cause.key)).toBe(false);
    expect(after.blocked).toBe(before.blocked - saved.body.becameReady);
    await expectTotals();
  });
  it('undoes a fix, and the listings are blocked again', async () => {
    const { body: before } = await client.get('/api/causes');
    const { body: actions } = await client.get('/api/actions');
    await client.send('POST', `/api/actions/${actions.items[0].id}/undo`);
    expect((await client.get('/api/causes')).body.blocked).toBeGreaterThan(before.blocked);
  });
  it('mends the cells of a catalog cause, collective ones too', async () => {
    const key = 'catalog:gtin:gtin-unique';
    const { body: cause } = await client.get(`/api/causes/one?key=${key}`);
    const [first] = cause.listings;
    const fix = { kind: 'cells', cells: [{ productId: first.productId, text: '', madeAgainst: first.text }] };
    // What is promised is what one gets, and trying keeps nothing.
    const tried = await client.send('POST', `/api/causes/try?key=${key}`, fix);
    expect(tried.body.listingsChanged).toBeGreaterThan(0);
    expect((await client.get(`/api/causes/one?key=${key}`)).body.touched).toBe(cause.touched);
    const answer = await client.send('POST', `/api/causes/fix?key=${key}`, fix);
    expect([answer.status, answer.body]).toEqual([200, tried.body]);
    expect((await client.get(`/api/causes/one?key=${key}`)).body.touched).toBeLessThanOrEqual(cause.touched - 2);
    await expectTotals();
  });
  it('maps a category, and refuses one the channel does not have', async () => {
    const good = await client.send('PUT', '/api/places/1/categories', {
      maps: [{ category: 'Seeds/Herbs', target: 'plants-growing/seeds/herb-seeds' }],
    });
    expect(good.body.listingsChanged).toBeGreaterThan(5);
    expect(
      (await client.send('PUT', '/api/places/1/categories', { maps: [{ category: 'Seeds/Herbs', target: 'nowhere' }] }))
        .status,
    ).toBe(400);
  });
  it('tries the next rulebook on the whole assortment without changing anything', async () => {
    const { body } = await client.get('/api/places/1/rulebooks');
    const next = body.items.find((body: { inUse: boolean }) => !body.inUse);
    const before = (await client.get('/api/causes')).body.blocked;
    const tried = (await client.send('POST', `/api/places/1/rulebooks/${next.id}/try`)).body;
    expect(tried.becameBlocked).toBeGreaterThan(20);
    expect((await client.get('/api/causes')).body.blocked).toBe(before);
    const taken = (await client.send('PUT', `/api/places/1/rulebooks/${next.id}`, { early: true })).body;
    expect(taken.becameBlocked).toBe(tried.becameBlocked);
    const old = body.items.find((body: { inUse: boolean }) => body.inUse);
    expect((await client.send('PUT', `/api/places/1/rulebooks/${old.id}`, {})).body.becameReady).toBe(
      tried.becameBlocked,
    );
  });
});

describe('feeds', () => {
  const finished = async (feed: number) => {
    const { runs } = await client.until(`/api/feeds/${feed}`, (body) => body.runs[0].state !== 'running');
    return runs[0];
  };
  let feed: { id: number; address: string };

  it('offers nothing before the first run', async () => {
    feed = (await client.send('POST', '/api/feeds', { placeId: 1, format: 'xml' })).body;
    expect((await fetch(feed.address)).status).toBe(404);
    expect((await client.send('POST', `/api/feeds/${feed.id}/offer`)).status).toBe(409);
  });
  it('builds a document that is whole XML, with a balance that adds up and a cause for all that is left out', async () => {
    await client.send('POST', `/api/feeds/${feed.id}/runs`);
    const run = await finished(feed.id);
    expect(run).toMatchObject({ state: 'done', up: true });
    expect(run.counts.selected).toBe(run.counts.sent + run.counts.leftOut);
    const text = await (await fetch(feed.address)).text();
    expect(text.match(/<piece>/g)?.length).toBe(run.counts.sent);
    const { body: left } = await client.get(`/api/runs/${run.id}/left-out`);
    expect(left.groups.reduce((sum: number, row: { listings: number }) => sum + row.listings, 0)).toBe(
      run.counts.leftOut,
    );
    const schema = readPublished('orrivane-goods.xsd');
    expect(await validateXML({ xml: { fileName: 'goods.xml', contents: text }, schema })).toMatchObject({ errors: [] });
  });
  it('keeps where each item stands in the file', async () => {
    const run = (await client.get(`/api/feeds/${feed.id}`)).body.runs[0];
    const file = Buffer.from(await (await fetch(feed.address)).arrayBuffer());
    const [item] = await queryRows<{ item_key: string; offset: number; length: number }>(
      db,
      sql`SELECT item_key, "offset", length FROM run_item WHERE run_id = ${run.id} ORDER BY "offset" DESC LIMIT 1`,
    );
    expect(file.subarray(item!.offset, item!.offset + item!.length).toString()).toContain(
      `<code kind="own">${item!.item_key}</code>`,
    );
  });
  it('serves gzip and answers 304 to whoever has it', async () => {
    const first = await fetch(feed.address, { headers: { 'accept-encoding': 'gzip' } });
    const etag = first.headers.get('etag') ?? '';
    expect(first.headers.get('content-encoding')).toBe('gzip');
    expect((await first.text()).startsWith('<?xml')).toBe(true);
    expect(
      (
        await fetch(feed.address, {
          headers: { 'accept-encoding': 'gzip', 'if-none-match': etag, 'cache-control': 'max-age=0' },
        })
      ).status,
    ).toBe(304);
    expect((await fetch(`${base}/f/guessed.xml`)).status).toBe(404);
  });
  it('is fetched and checked by the channel; refusals land on the items, and the balance holds', async () => {
    await client.send('POST', `/api/feeds/${feed.id}/offer`);
    const { runs } = await client.until(`/api/feeds/${feed.id}`, (body) => body.runs[0].report !== null);
    const [run] = runs;
    expect(run.asked).toBeNull();
    const { accepted, warned, refused, unanswered } = run.report;
    expect(accepted + warned + refused + unanswered).toBe(run.counts.sent);
    expect(refused).toBeGreaterThan(0);
    expect(unanswered).toBeGreaterThan(0);
    const { body: listings } = await client.get('/api/listings?channelState=refused');
    expect(listings.total).toBe(refused);
    expect(listings.items[0].findings.some((finding: { words: string }) => finding.words.startsWith('Refused:'))).toBe(
      true,
    );
    const live = await count(sql`SELECT sum(listings) AS n FROM place_total WHERE channel_state = 'live'`);
    expect(Number(live)).toBe(accepted + warned);
    await expectTotals();
  });
  it('says of a channel that cannot be reached that it could not be asked, and keeps what it answered before', async () => {
    const [account] = await db.select().from(tables.account);
    await db.update(tables.account).set({ address: 'http://127.0.0.1:9/nobody' });
    const { status, body } = await client.send('POST', `/api/feeds/${feed.id}/offer`);
    expect([status, body.asked.state]).toEqual([200, 'reading']);
    const { runs } = await client.until(`/api/feeds/${feed.id}`, ({ runs: [run] }) => run.asked?.state === 'failed');
    expect(runs[0].asked.error).not.toBe('');
    expect(runs[0].report).not.toBeNull();
    await db.update(tables.account).set({ address: account?.address ?? '' });
  });
  it('and now every figure that has one name is one figure, and a ticket opens what it counts', async () => {
    const { body: shelf } = await client.get('/api/shelf');
    const { body: today } = await client.get('/api/today');
    const { body: places } = await client.get('/api/places');
    const { body: causes } = await client.get('/api/causes');
    const listings = async (filter: string) => (await client.get(`/api/listings?limit=1&${filter}`)).body.total;
    const waits = (words: RegExp) => today.waiting.find((row: { words: string }) => words.test(row.words))?.count ?? 0;

    expect(shelf.toMatch).toBe((await client.get('/api/matches')).body.total);
    const toComplete = { toComplete: true, everything: true, show: 'variants' };
    const { body: view } = await client.send('POST', '/api/views', toComplete);
    expect((await client.get(`/api/views/${view.token}`)).body.rows).toBe(shelf.toComplete);
    expect((await client.get(`/api/views/${view.token}/counts`)).body.variants).toBe(shelf.toComplete);
    const blocked = await listings('readiness=blocked');
    expect(blocked).toBeGreaterThan(0);
    expect([shelf.toFit, causes.blocked, waits(/blocked by/)]).toEqual([blocked, blocked, blocked]);
    expect(today.waiting.find((row: { words: string }) => /blocked by/.test(row.words)).words).toContain(
      `blocked by ${causes.items.length} causes`,
    );
    const toSend = await listings('toSend=yes');
    expect([shelf.toSend, waits(/ready and not sent/)]).toEqual([toSend, toSend]);
    expect(waits(/refused by the channel/)).toBe(await listings('channelState=refused'));
    type Total = { readiness: string; channelState: string; listings: number };
    const { totals }: { totals: Total[] } = places.items[0];
    expect(today.places[0].totals).toEqual(totals);
    for (const field of ['readiness', 'channelState'] as const)
      for (const value of new Set(totals.map((total) => total[field]))) {
        const told = totals.filter((total) => total[field] === value).reduce((sum, { listings: n }) => sum + n, 0);
        expect(told, value).toBe(await listings(`place=1&${field}=${encodeURIComponent(value)}`));
      }
  });
  it('writes the same goods as JSON Lines, a line an item', async () => {
    const lined = (await client.send('POST', '/api/feeds', { placeId: 1, format: 'jsonl' })).body;
    await client.send('POST', `/api/feeds/${lined.id}/runs`);
    const run = await finished(lined.id);
    const lines = (await (await fetch(lined.address)).text()).trimEnd().split('\n');
    expect(lines.length).toBe(run.counts.sent);
    const keys = lines.map((line) => JSON.parse(line).codes.code[0].value as string);
    expect(new Set(keys).size).toBe(run.counts.sent);
    // What the channel takes is asked of its rulebook.
    const refused = await client.send('POST', '/api/feeds', { placeId: 1, format: 'tsv' });
    expect([refused.status, refused.body.detail]).toEqual([400, 'Orrivane takes no TSV; choose XML or JSON Lines']);
  });
  it('holds a run that would drop too much, keeps the last file up, and releases it by hand', async () => {
    const up = await (await fetch(feed.address)).text();
    await client.send('PUT', '/api/places/1/fills/maker', { fill: null });
    await client.send('POST', `/api/feeds/${feed.id}/runs`);
    const held = await finished(feed.id);
    expect(held.state).toBe('held');
    expect(held.heldWhy).toContain('empty file');
    expect(await (await fetch(feed.address)).text()).toBe(up);
    expect((await client.send('POST', `/api/runs/${held.id}/release`)).status).toBe(409);
    await client.send('PUT', '/api/places/1/fills/maker', {
      fill: { rule: { kind: 'copy', from: 'brand' }, fit: [] },
    });
  });
  it('traces a value from the channel’s field to the supplier’s cell', async () => {
    const { body: list } = await client.get('/api/listings?readiness=ready&search=hollin');
    const { body: trace } = await client.get(`/api/listings/${list.items[0].id}/trace/short`);
    expect(trace.steps.map((step: { at: string }) => step.at)).toEqual(
      expect.arrayContaining(['channel', 'fill', 'catalog', 'row']),
    );
    expect(trace.steps.at(-1).words).toMatch(/row \d+, column “Title”/);
    expect(trace.steps.at(-1).edit.to).toBe('batch');
  });
});

it('Today and the shelf edge count what the tables hold', async () => {
  const { body: shelf } = await client.get('/api/shelf');
  expect(shelf.toFit).toBe(await count(sql`SELECT count(*) AS n FROM listing WHERE readiness = 'blocked'`));
  expect(shelf.rechecking).toBe(0);
  const { body: today } = await client.get('/api/today');
  expect(today.places[0].listings).toBe(await count(sql`SELECT count(*) AS n FROM listing`));
  expect(today.waiting.length).toBeGreaterThan(2);
});
