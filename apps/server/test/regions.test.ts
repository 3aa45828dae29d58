/** Several accounts on one channel, each in one of its regions; markets that another version of its rulebook changes or closes. */
import { takeDueRulebooks } from '@velvet-shelf/server/channels/taking';
import { readConfig } from '@velvet-shelf/server/config';
import { queryOne } from '@velvet-shelf/server/db/client';
import { registerRooms } from '@velvet-shelf/server/rooms';
import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
const services = { db, config: readConfig(), notify: () => undefined };

const market = (key: string, currency: string, region?: string) => ({
  ...{ key, name: `Market ${key}`, country: key, language: 'en-GB', currency },
  ...(region === undefined ? {} : { region }),
});
/** A channel that keeps north and south apart. */
const parted = (version: string, change: object = {}) => ({
  ...(rulebooksOf('quernby')[0] as object),
  ...{ channel: 'parted', name: 'Parted', version, validFrom: '2026-01-01', joins: 'consent' },
  regions: [
    { key: 'north', name: 'The north' },
    { key: 'south', name: 'The south' },
  ],
  markets: [market('GB', 'GBP', 'north'), market('IE', 'EUR', 'north'), market('DE', 'EUR', 'south')],
  ...change,
});

let channel: number;
let first: number;
let outside: string;
const shown = async (): Promise<Body> =>
  (await client.get('/api/channels')).body.items.find(({ id }: Body) => id === channel);
const accountOf = async (id: number): Promise<Body> => (await client.get(`/api/accounts/${id}`)).body;
const sell = (body: object): Promise<Answer> => client.send('POST', `/api/channels/${channel}/places`, body);
const change = (id: number, to: object, was: object): Promise<Answer> =>
  client.send('PATCH', `/api/accounts/${id}`, { to, was });

beforeAll(async () => {
  registerRooms();
  await client.signIn();
  await client.stocked();
  const orrivane = await queryOne<{ address: string }>(
    db,
    sql`SELECT a.address FROM account a JOIN channel c ON c.id = a.channel_id WHERE c.key = 'orrivane'`,
  );
  outside = (orrivane?.address ?? '').replace(/orrivane$/, 'quernby');
  channel = (await client.send('POST', '/api/channels', { rulebook: parted('1') })).body.id;
  first = (await shown()).accounts[0].id;
  await change(first, { address: outside }, { address: '' });
});
afterAll(() => db.$client.end());

/** What a person does on the channel’s page of consent, for the account she is sent there for or for one of another region. */
async function agreeFor(id: number, region?: string): Promise<Answer> {
  const { body } = await client.send('POST', `/api/accounts/${id}/consent`);
  const asked = new URL(body.address);
  const form = new URLSearchParams(asked.searchParams);
  form.set('answer', 'yes');
  if (region !== undefined) form.set('region', region);
  const back = await fetch(`${asked.origin}${asked.pathname}`, { method: 'POST', body: form, redirect: 'manual' });
  const { searchParams } = new URL(back.headers.get('location') ?? '');
  const [state, code] = [searchParams.get('state'), searchParams.get('code')];
  return client.send('POST', '/api/accounts/consented', { state, code });
}

describe('an account of a channel with regions', () => {
  it('has no region at first, all markets to choose from, and is not connected until it has one', async () => {
    expect(await accountOf(first)).toMatchObject({ region: '', state: 'off' });
    expect((await accountOf(first)).markets.map(({ key }: Body) => key)).toEqual(['GB', 'IE', 'DE']);
    const asked = await client.send('POST', `/api/accounts/${first}/consent`);
    expect([asked.status, asked.body.detail]).toEqual([409, 'Choose the region first: The north or The south']);
  });
  it('says what will be read there and written before anybody agrees', async () => {
    const { reads, writes } = await accountOf(first);
    expect(reads.join(' ')).toMatch(/stands, once a day.*Parcel plan, After-sale plan.*told some of their titles/);
    expect(writes).toHaveLength(1);
  });
  it('is in the region of its first place, and sells in no other', async () => {
    expect((await sell({ market: 'GB' })).status).toBe(200);
    expect(await accountOf(first)).toMatchObject({ region: 'north' });
    const south = await sell({ market: 'DE', account: first });
    expect([south.status, south.body.detail]).toEqual([409, expect.stringContaining('make a further account')]);
    const moved = await change(first, { region: 'south' }, { region: 'north' });
    expect([moved.status, moved.body.detail]).toEqual([409, expect.stringContaining('Parted, Market GB')]);
    expect((await change(first, { region: 'moon' }, { region: 'north' })).status).toBe(400);
  });
  it('is told where one agreed with an account of another region; nothing is changed', async () => {
    const wrong = await agreeFor(first, 'south');
    expect([wrong.status, wrong.body.detail]).toEqual([
      422,
      expect.stringMatching(/this account is in The south; .* is for The north. Nothing was changed/),
    ]);
    expect((await accountOf(first)).state).toBe('off');
    expect((await agreeFor(first)).status).toBe(200);
    expect((await change(first, { region: '' }, { region: 'north' })).body.detail).toContain('disconnect it');
  });
});

describe('a further account', () => {
  let second: number;
  const add = (body: object): Promise<Answer> => client.send('POST', `/api/channels/${channel}/accounts`, body);

  it('has a name and a region of its own', async () => {
    const { name } = (await shown()).accounts[0];
    expect((await add({ name, address: '', region: 'south' })).status).toBe(409);
    expect((await add({ name: 'Southern stall', address: '', region: 'west' })).status).toBe(400);
    const made = await add({ name: 'Southern stall', address: '', region: 'south' });
    expect(made.status).toBe(200);
    second = made.body.id;
    // Whom it speaks to is whom the first one speaks to.
    expect((await shown()).accounts[1]).toMatchObject({ name: 'Southern stall', region: 'south', address: outside });
  });
  it('sells where the first does not, under the name of both; two that ask at once make one place', async () => {
    const both = await Promise.all([sell({ market: 'DE' }), sell({ market: 'DE' })]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const { accounts } = await shown();
    expect(accounts.map(({ places }: Body) => places.map(({ market: of }: Body) => of))).toEqual([['GB'], ['DE']]);
    expect(accounts[1].places[0].name).toBe('Parted Southern stall, Market DE');
    await client.idle();
    const { items } = (await client.get('/api/places')).body;
    const [north, south] = ['GB', 'DE'].map((key) =>
      items.find((place: Body) => place.channel === 'parted' && place.market === key),
    );
    const sum = ({ totals }: Body) => totals.reduce((all: number, { listings }: Body) => all + listings, 0);
    expect([south.accountId, south.currency, sum(south)]).toEqual([second, 'EUR', sum(north)]);
  });
  it('is removed once it sells nowhere and is let go; the last one stays', async () => {
    const remove = (id: number): Promise<Answer> => client.send('DELETE', `/api/accounts/${id}`);
    expect((await remove(second)).body.detail).toContain('has places');
    const [place] = (await shown()).accounts[1].places;
    expect((await client.send('DELETE', `/api/places/${place.id}`)).status).toBe(200);
    expect((await agreeFor(second)).status).toBe(200);
    expect((await remove(second)).body.detail).toContain('disconnect it first');
    await client.send('POST', `/api/accounts/${second}/let-go`);
    expect((await remove(second)).status).toBe(200);
    expect((await shown()).accounts).toHaveLength(1);
    await client.send('POST', `/api/accounts/${first}/let-go`);
    const [only] = (await shown()).accounts[0].places;
    await client.send('DELETE', `/api/places/${only.id}`);
    expect((await remove(first)).body.detail).toContain('keeps one account');
    expect((await sell({ market: 'GB' })).status).toBe(200);
    await client.idle();
  });
});

describe('another version of the rulebook', () => {
  let place: number;
  const load = async (version: string, body: object): Promise<number> => {
    const loaded = await client.send('POST', `/api/places/${place}/rulebooks`, { rulebook: parted(version, body) });
    expect(loaded.status).toBe(200);
    const { items } = (await client.get(`/api/places/${place}/rulebooks`)).body;
    return items.find((row: Body) => row.version === version).id;
  };
  const versionOf = async (id: number): Promise<Body> =>
    (await client.get(`/api/places/${place}/rulebooks`)).body.items.find((row: Body) => row.id === id);
  const placed = async (): Promise<Body> =>
    (await client.get('/api/places')).body.items.find(({ id }: Body) => id === place);
  const tomorrow = (): string => new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
  const plan = (id: number, takeOn: string | null): Promise<Answer> =>
    client.send('PUT', `/api/places/${place}/rulebooks/${id}/day`, { takeOn });

  beforeAll(async () => {
    place = (await shown()).accounts[0].places[0].id;
  });

  it('is faulty where a market is in no region, or a region has none', async () => {
    const faulty = parted('9', { markets: [market('GB', 'GBP'), market('IE', 'EUR', 'west')] });
    const { status, body } = await client.send('POST', `/api/places/${place}/rulebooks`, { rulebook: faulty });
    expect([status, body.errors.map(({ detail }: Body) => detail)]).toEqual([
      400,
      [
        'markets.GB: it does not say in which region it is',
        'markets.IE: there is no region “west”',
        'regions.north: no market is in it',
        'regions.south: no market is in it',
      ],
    ]);
  });
  it('is taken by itself on its day, once; its places ask the currency it says', async () => {
    const id = await load('2', {
      markets: [market('GB', 'EUR', 'north'), market('IE', 'EUR', 'north'), market('DE', 'EUR', 'south')],
    });
    expect((await versionOf(id)).changes).toEqual([
      { part: 'market', key: 'GB', name: 'Market GB', kind: 'changed', words: ['currency now EUR, was GBP'] },
    ]);
    const today = new Date().toISOString().slice(0, 10);
    expect((await plan(id, today)).status).toBe(400);
    expect((await plan(id, tomorrow())).status).toBe(200);
    expect(await versionOf(id)).toMatchObject({ takeOn: tomorrow(), inUse: false });
    await takeDueRulebooks(services);
    expect((await versionOf(id)).inUse).toBe(false);
    await db.execute(sql`UPDATE rulebook SET take_on = ${today} WHERE id = ${id}`);
    await Promise.all([takeDueRulebooks(services), takeDueRulebooks(services)]);
    await client.idle();
    expect(await versionOf(id)).toMatchObject({ takeOn: null, inUse: true });
    expect(await placed()).toMatchObject({ rulebookVersion: '2', currency: 'EUR' });
    const { items } = (await client.get('/api/actions')).body;
    expect(items.filter(({ words }: Body) => words.includes('as it was planned'))).toHaveLength(1);
    expect((await client.undo(items[0].id)).status).toBe(200);
    await client.idle();
    expect(await placed()).toMatchObject({ rulebookVersion: '1', currency: 'GBP' });
  });
  it('is made of small things said anew, read field by field', async () => {
    const { items } = (await client.get(`/api/places/${place}/rulebooks`)).body;
    const { id } = items.find(({ version }: Body) => version === '1');
    const path = `/api/places/${place}/rulebooks/${id}/fields`;
    const { items: fields } = (await client.get(path)).body;
    expect(fields.find(({ key }: Body) => key === 'heading')).toMatchObject({
      ...{ need: 'required', limits: { maxLength: 90 }, values: null },
      says: expect.arrayContaining(['10–90 characters']),
    });
    expect((await client.get(`${path}?category=no/such`)).status).toBe(400);
    const say = (body: object): Promise<Answer> =>
      client.send('POST', path, { version: '1 own', validFrom: '2026-02-01', ...body });
    const wrong = await say({ changes: [{ attribute: 'heading', limits: { minLength: 99 } }] });
    expect([wrong.status, wrong.body.detail]).toEqual([
      400,
      expect.stringContaining('minLength 99 is above maxLength 90'),
    ]);
    expect((await say({ changes: [{ attribute: 'moon', need: 'optional' }] })).status).toBe(400);
    const good = { changes: [{ attribute: 'heading', limits: { maxLength: 70 } }] };
    expect((await say(good)).body).toEqual({ version: '1 own' });
    expect((await say(good)).body.detail).toContain('loaded already');
    const made = (await client.get(`/api/places/${place}/rulebooks`)).body.items.find(
      ({ version }: Body) => version === '1 own',
    );
    expect(made.changes).toMatchObject([
      { key: 'heading', kind: 'tightened', words: ['longest length now 70, was 90'] },
    ]);
  });
  it('that is planned can be called off', async () => {
    const id = await load('3', {});
    await plan(id, tomorrow());
    expect((await plan(id, null)).status).toBe(200);
    expect((await versionOf(id)).takeOn).toBeNull();
  });
  it('that closes a market leaves nothing for this channel there, and says so before', async () => {
    const id = await load('4', {
      regions: [{ key: 'south', name: 'The south' }],
      markets: [market('DE', 'EUR', 'south')],
    });
    const changes = (await versionOf(id)).changes;
    expect(changes.map(({ key, kind }: Body) => [key, kind])).toEqual([
      ['parted', 'changed'],
      ['GB', 'removed'],
      ['IE', 'removed'],
    ]);
    const tried = await client.send('POST', `/api/places/${place}/rulebooks/${id}/try`);
    expect(tried.status).toBe(200);
    expect((await client.send('PUT', `/api/places/${place}/rulebooks/${id}`, {})).status).toBe(200);
    await client.idle();
    const { totals } = await placed();
    expect([...new Set(totals.map(({ readiness }: Body) => readiness))]).toEqual(['not for this channel']);
    const [listing] = (await client.get(`/api/listings?place=${place}&limit=1`)).body.items;
    expect(listing.notFor ?? listing.words ?? JSON.stringify(listing)).toContain('takes no goods in this market');
  });
});
