/** Goods set aside and brought back, and one value for many: counted, told first, back on the day, taken back. */
import { drainIn, markDue } from '@velvet-shelf/server/listings/drain';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, base, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
});
afterAll(() => db.$client.end());

const soon = new Date(Date.now() + 40 * 86_400_000).toISOString().slice(0, 10);
const muted = { sight: false, findings: true, gaps: true, until: soon };
const send = (path: string, body: object) => client.send('POST', path, body);
const open = async (view: object = {}): Promise<string> =>
  (await send('/api/views', { show: 'variants', ...view })).body.token;
const counts = async (view: object = {}): Promise<Body> =>
  (await client.get(`/api/views/${await open(view)}/counts`)).body;
const leftOut = async (view: object = {}): Promise<Record<string, number>> =>
  Object.fromEntries((await counts(view)).leftOut.map(({ reason, variants }: Body) => [reason, variants]));
const rowsOf = async (view: object, n: number): Promise<Body[]> =>
  (await client.get(`/api/views/${await open(view)}/rows?from=0&count=${n}`)).body.items;
const ranked = async (): Promise<Body> => (await client.get('/api/causes')).body;

describe('goods that are set aside', () => {
  it('leave everyday views and are counted there; those with pieces come back with one click, and undo', async () => {
    const before = await counts();
    const rows = (await rowsOf({ sort: '-stock' }, 3)).map(({ id }) => id);
    expect(
      (await send('/api/bulk/aside', { chosen: { rows }, aside: { ...muted, sight: true, until: null } })).body,
    ).toEqual({
      variants: 3,
    });
    const after = await counts();
    expect([after.variants, (await leftOut())['set aside']]).toEqual([before.variants - 3, 3]);
    expect((await counts({ everything: true })).leftOut).toEqual([]);
    const stocked = (await client.get(`/api/views/${await open()}/left-out`)).body.rows;
    expect(stocked).toEqual(expect.arrayContaining(rows));
    await send('/api/bulk/back', { chosen: { rows: stocked } });
    expect((await counts()).variants).toBe(before.variants + stocked.length - 3);
    await client.undoLast();
    expect([(await counts()).variants, (await leftOut())['set aside']]).toEqual([before.variants - 3, 3]);
    await client.undoLast();
    expect(await counts()).toEqual(before);
  });

  it('what is paused sells again once it is brought back', async () => {
    const [{ id }] = await rowsOf({}, 1);
    const state = async () => (await client.get(`/api/products/${id}`)).body.state;
    const held = await state();
    const said = { chosen: { rows: [id] }, attribute: 'state', text: 'paused' };
    expect((await send('/api/bulk/value', said)).status).toBe(200);
    expect(await state()).toBe('paused');
    await send('/api/bulk/back', { chosen: { rows: [id] } });
    expect(await state()).toBe('selling');
    expect((await client.undoLast()).left).toEqual([]);
    expect(await state()).toBe('paused');
    await client.undoLast();
    expect(await state()).toBe(held);
  });

  it('with findings muted alone stay in sight, are gone from the causes, and are heard again on the day', async () => {
    const before = await counts();
    const causes = await ranked();
    const rows = (await rowsOf({ toComplete: true }, 5)).map(({ id }) => id);
    expect(rows).toHaveLength(5);
    const toComplete = (await counts({ toComplete: true })).variants;
    await send('/api/bulk/aside', { chosen: { rows }, aside: muted });
    expect((await counts()).variants).toBe(before.variants);
    expect((await counts({ toComplete: true })).variants).toBe(toComplete - 5);
    const blocked = (await ranked()).blocked;
    expect(blocked).toBeLessThan(causes.blocked);
    expect((await client.get(`/api/products/${rows[0]}`)).body.aside).toMatchObject({ until: soon, sight: false });
    // The day comes.
    await db.execute(sql`UPDATE set_aside SET until = CURRENT_DATE`);
    await db.execute(sql`UPDATE listing SET next_change_at = CURRENT_DATE WHERE muted`);
    // As one: what nobody else sees, nobody else takes and has not written yet.
    await db.transaction(async (tx) => {
      expect(await markDue(tx)).toBeGreaterThan(0);
      await drainIn(tx, base, Number.POSITIVE_INFINITY);
    });
    await db.execute(sql`DELETE FROM set_aside`);
    expect([(await ranked()).blocked, (await counts({ toComplete: true })).variants]).toEqual([
      causes.blocked,
      toComplete,
    ]);
  });

  it.each([
    ['a day that is past', { ...muted, until: '2020-01-01' }],
    ['a day there is none of', { ...muted, until: '2027-02-30' }],
    ['nothing that is set aside', { sight: false, findings: false, gaps: false, until: null }],
  ])('are refused with %s', async (_, aside) => {
    const [{ id }] = await rowsOf({}, 1);
    expect((await send('/api/bulk/aside', { chosen: { rows: [id] }, aside })).status).toBe(400);
  });

  it('are refused where none of them is there', async () => {
    expect((await send('/api/bulk/aside', { chosen: { rows: [999_999_999] }, aside: muted })).status).toBe(400);
    expect((await send('/api/bulk/count', { chosen: { view: 'none' } })).status).toBe(404);
  });
});

describe('goods that are chosen', () => {
  it('are all of a view, of families too, but those that are not', async () => {
    const of = async (chosen: object) => (await send('/api/bulk/count', { chosen })).body;
    const { variants, families } = await counts();
    for (const show of ['variants', 'both', 'families'])
      expect(await of({ view: await open({ show }) })).toEqual({ variants, families });
    const [family] = (await rowsOf({ show: 'families', search: 'Ambrel' }, 1)) as [Body];
    const without = { variants: variants - family.variants, families: families - 1 };
    for (const show of ['both', 'families'])
      expect(await of({ view: await open({ show }), except: [family.id] })).toEqual(without);
    expect(await of({ rows: [family.id] })).toEqual({ variants: family.variants, families: 1 });
  });
});

describe('one value for many goods', () => {
  it('is tried first, said of all of a view but some, of families where it is theirs, and taken back as one', async () => {
    const view = { search: 'Ambrel' };
    const [first, ...others] = await rowsOf(view, 50);
    const chosen = { view: await open(view), except: [first?.id] };
    const said = { chosen, attribute: 'material', text: 'stoneware, salt glazed' };
    const tried = (await send('/api/bulk/value/try', said)).body;
    const done = (await send('/api/bulk/value', said)).body;
    expect(tried.goods).toBe(done.goods);
    expect([done.becameReady, done.becameBlocked]).toEqual([tried.becameReady, tried.becameBlocked]);
    const held = async (id: number) =>
      (await client.get(`/api/products/${id}`)).body.values.find(({ attribute }: Body) => attribute === 'material')
        .text;
    expect(await held(others[0]?.id)).toBe('stoneware, salt glazed');
    expect((await send('/api/bulk/value', said)).body.goods).toBe(0);
    await client.undoLast();
    expect(await held(others[0]?.id)).not.toBe('stoneware, salt glazed');
  });

  it('is refused where it cannot be read, where there is no such attribute, and where it names one thing alone', async () => {
    const chosen = { rows: (await rowsOf({}, 3)).map(({ id }) => id) };
    const status = async (attribute: string, text: string) =>
      (await send('/api/bulk/value', { chosen, attribute, text })).status;
    expect(await status('weight', 'heavy')).toBe(400);
    expect(await status('no such', 'x')).toBe(400);
    expect(await status('sku', 'SAME')).toBe(400);
    expect(await status('suppliers', 'x')).toBe(400);
  });
});
