/** Goods that leave an assortment leave the feed; a wrong pin is its own cause; what a channel refuses stands among what blocks. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { markPlace } from '@velvet-shelf/server/history/dirty';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
let feed: Body;

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
  feed = (await client.send('POST', '/api/feeds', { placeId: 1, format: 'xml' })).body;
});
afterAll(() => db.$client.end());

async function run(): Promise<Body> {
  const { body } = await client.send('POST', `/api/feeds/${feed.id}/runs`);
  const done = await client.until(
    `/api/feeds/${feed.id}`,
    ({ runs }) => runs[0].id === body.id && runs[0].state !== 'running',
  );
  return done.runs[0];
}
async function offer(): Promise<void> {
  await client.send('POST', `/api/feeds/${feed.id}/offer`);
  await client.idle();
}
async function assortment(condition: object): Promise<void> {
  await db.execute(sql`UPDATE place SET assortment = ${JSON.stringify(condition)}::jsonb WHERE id = 1`);
  await markPlace(db, 1);
  await client.idle();
}
const states = async () =>
  Object.fromEntries(
    (
      await queryRows<{ state: string; n: number }>(
        db,
        sql`SELECT channel_state AS state, count(*)::int AS n FROM listing WHERE place_id = 1 GROUP BY 1`,
      )
    ).map(({ state, n }) => [state, n]),
  );

describe('goods that are live and leave the assortment', () => {
  it('are gone from the next file, in its difference, and withdrawn; and come back when it is widened again', async () => {
    const [held] = await queryRows<{ assortment: object }>(db, sql`SELECT assortment FROM place WHERE id = 1`);
    const first = await run();
    await offer();
    const { live: before } = await states();
    expect(before).toBeGreaterThan(0);
    const [row] = await queryRows<{ category: string; n: number }>(
      db,
      sql`SELECT p.category, count(*)::int AS n FROM listing l JOIN product p ON p.id = l.variant_id WHERE l.channel_state = 'live' GROUP BY 1 ORDER BY 2 LIMIT 1`,
    );
    await assortment({ all: [held?.assortment, { not: { attribute: 'category', op: 'is', value: row?.category } }] });
    const next = await run();
    expect(next.difference.removed).toBe(row?.n);
    expect(next.counts.sent).toBe(first.counts.sent - (row?.n ?? 0) + next.difference.added);
    expect(next.counts.selected).toBe(next.counts.sent + next.counts.leftOut);
    if (next.state === 'held') await client.send('POST', `/api/runs/${next.id}/release`);
    await offer();
    expect((await states()).withdrawn).toBe(row?.n);
    const left = await client.get('/api/listings?readiness=not%20for%20this%20channel&channelState=withdrawn');
    expect(left.body.items[0].notFor).toContain('left the assortment');
    await assortment(held?.assortment ?? {});
    const again = await run();
    expect(again.counts.sent).toBe(first.counts.sent);
  });
});

describe('goods that leave, and shared a number with others', () => {
  it('hold them back no more, though the channel still has them', async () => {
    const [one, other] = await queryRows<{ id: number; variant: number }>(
      db,
      sql`SELECT l.id, l.variant_id AS variant FROM listing l JOIN product p ON p.id = l.variant_id
          WHERE l.place_id = 1 AND l.readiness = 'ready' AND l.channel_state = 'live' AND p.gtin IS NOT NULL ORDER BY l.id LIMIT 2`,
    );
    const readiness = async (of?: { id: number }) => (await client.get(`/api/listings/${of?.id}`)).body.readiness;
    const gtinOf = async (of?: { id: number }) =>
      (await client.get(`/api/listings/${of?.id}`)).body.values.find((value: Body) => value.attribute === 'gtin');
    const text = (await gtinOf(one)).value;
    await client.send('PUT', `/api/listings/${other?.id}/pins/gtin`, { text, madeAgainst: null });
    expect([await readiness(one), await readiness(other)]).toEqual(['blocked', 'blocked']);
    const was = (await client.get('/api/places/1/assortment')).body;
    const held = { condition: was.condition, hand: [] };
    const without = { condition: was.condition, hand: [{ product: one?.variant, isIn: false }] };
    await client.send('PUT', '/api/places/1/assortment', { to: without, was: held });
    await client.idle();
    expect([await readiness(one), await readiness(other)]).toEqual(['not for this channel', 'ready']);
    await client.send('PUT', '/api/places/1/assortment', { to: held, was: without });
    await client.idle();
    expect([await readiness(one), await readiness(other)]).toEqual(['blocked', 'blocked']);
    await client.send('PUT', `/api/listings/${other?.id}/pins/gtin`, { text: null, madeAgainst: text });
    expect([await readiness(one), await readiness(other)]).toEqual(['ready', 'ready']);
  });
});

describe('a pinned value that does not fit', () => {
  it('has the pin as its cause: it is what is corrected, or let go', async () => {
    const [listing] = await queryRows<{ id: number }>(
      db,
      sql`SELECT id FROM listing WHERE place_id = 1 AND readiness = 'ready' ORDER BY id LIMIT 1`,
    );
    const { body } = await client.get(`/api/listings/${listing?.id}`);
    const title = body.values.find((value: Body) => value.attribute === 'short');
    const pinned = await client.send('PUT', `/api/listings/${listing?.id}/pins/short`, {
      text: 'x'.repeat(500),
      madeAgainst: title.pinned,
    });
    expect(pinned.status).toBe(200);
    const cause = pinned.body.findings.find((finding: Body) => finding.attribute === 'short').cause;
    expect(cause).toMatch(/^pin:/);
    const { body: told } = await client.get(`/api/causes/one?key=${encodeURIComponent(cause)}`);
    expect(told.remedy).toMatchObject({ kind: 'cells', attribute: 'pin' });
    expect(told.words).toContain('pinned');
  });
});

describe('what the channel refused', () => {
  it('stands among what blocks', async () => {
    await db.execute(sql`
      UPDATE listing SET channel_state = 'refused', reported = '[{"check":"channel-answer","severity":"blocker","attribute":"","cause":"report:orrivane:GB:made-up","params":{"message":"Refused: made up"}}]'
      WHERE id = (SELECT id FROM listing WHERE place_id = 1 ORDER BY id DESC LIMIT 1)`);
    const { body } = await client.get('/api/causes');
    expect(body.items.some((body: Body) => body.key === 'report:orrivane:GB:made-up' && body.touched === 1)).toBe(true);
    expect(body.advice.some((row: Body) => row.key === 'report:orrivane:GB:made-up')).toBe(false);
  });
});

describe('what is taken away for good', () => {
  const gone = async (path: string) => (await client.get(path)).status;
  const remove = (path: string) => client.send('DELETE', path);

  it('is a feed that nobody has fetched, with its runs; the others stay and say why', async () => {
    const { body: made } = await client.send('POST', '/api/feeds', { placeId: 1, format: 'xml' });
    await client.send('POST', `/api/feeds/${made.id}/runs`);
    await client.until(`/api/feeds/${made.id}`, ({ runs }) => runs[0] && runs[0].state !== 'running');
    expect((await remove(`/api/feeds/${made.id}`)).status).toBe(200);
    expect(await gone(`/api/feeds/${made.id}`)).toBe(404);
    const held = await remove(`/api/feeds/${feed.id}`);
    expect([held.status, held.body.detail]).toEqual([409, expect.stringContaining('has been fetched')]);
    expect(await gone(`/api/feeds/${feed.id}`)).toBe(200);
  });
  it('is a channel without places, with its maps and fills', async () => {
    const small = {
      name: 'Corner window',
      fields: [
        { label: 'Number', type: 'text', need: 'required' },
        { label: 'Title', type: 'text', need: 'required' },
      ],
      market: { name: 'Here', country: 'GB', language: 'en-GB', currency: 'GBP' },
      categories: [['Home']],
      needsCategory: true,
      formats: ['csv'],
    };
    const { body: made } = await client.send('POST', '/api/channels', { small });
    const { body: place } = await client.send('POST', `/api/channels/${made.id}/places`, {
      market: (await client.get('/api/channels')).body.items.find((row: Body) => row.id === made.id).markets[0].key,
      name: '',
      condition: { all: [] },
    });
    const held = await remove(`/api/channels/${made.id}`);
    expect([held.status, held.body.detail]).toEqual([409, expect.stringContaining('remove Corner window')]);
    const rows = (await client.get(`/api/places/${place.id}/categories`)).body.items;
    const [target] = (await client.get(`/api/places/${place.id}/tree`)).body.items;
    await client.send('PUT', `/api/places/${place.id}/categories`, {
      maps: [{ category: rows[0].category, target: target.path }],
    });
    expect((await remove(`/api/places/${place.id}`)).status).toBe(200);
    expect((await remove(`/api/channels/${made.id}`)).status).toBe(200);
    expect((await client.get('/api/channels')).body.items.some((row: Body) => row.id === made.id)).toBe(false);
    // Its key is free again.
    expect((await client.send('POST', '/api/channels', { small })).status).toBe(200);
  });
  it('is a batch that was not applied, with its file; one that was stays', async () => {
    const { body } = await client.uploadText('thrown.csv', 'SKU;Title\nT-1;Thrown away\nT-2;Thrown as well\n');
    const own = (await client.get('/api/suppliers')).body.items.find((row: Body) => row.kind === 'own').id;
    await client.correct(body.id, { supplierId: own, scope: 'some' });
    await client.tried(body.id);
    const count = async () =>
      (await queryRows<{ n: number }>(db, sql`SELECT count(*)::int AS n FROM record_content`))[0]?.n;
    const before = await count();
    expect((await remove(`/api/batches/${body.id}`)).status).toBe(200);
    expect(await gone(`/api/batches/${body.id}`)).toBe(404);
    expect(await count()).toBe((before ?? 0) - 2);
    const applied = (await client.get('/api/batches')).body.items.find((row: Body) => row.state === 'applied');
    const held = await remove(`/api/batches/${applied.id}`);
    expect([held.status, held.body.detail]).toEqual([409, expect.stringContaining('undo it instead')]);
  });
});
