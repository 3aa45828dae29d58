/** Accounts on channels: joined in three ways, asked how they stand, let go; terms that vanish keep listings back. */
import { queryOne } from '@velvet-shelf/server/db/client';
import { seal, unseal } from '@velvet-shelf/server/outgoing/seal';
import { readPublished } from '@velvet-shelf/rulebooks';
import { refreshDueAccounts } from '@velvet-shelf/server/channels/accounts';
import { readConfig } from '@velvet-shelf/server/config';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

/** Start of the simulated channels’ addresses. */
let outside: string;
const accounts: Record<string, number> = {};
const places: Record<string, number> = {};
const show = async (key: string): Promise<Body> => (await client.get(`/api/accounts/${accounts[key]}`)).body;
const post = (key: string, what: string, body: object = {}): Promise<Answer> =>
  client.send('POST', `/api/accounts/${accounts[key]}/${what}`, body);
const mood = (key: string, body: object) =>
  fetch(`${outside}/${key}/mood`, { method: 'POST', body: JSON.stringify(body) });

/** What a person does on the channel’s page of consent; answers what she comes back with. */
async function agree(address: string, answer: 'yes' | 'no' = 'yes'): Promise<URLSearchParams> {
  const asked = new URL(address);
  const form = new URLSearchParams(asked.searchParams);
  form.set('answer', answer);
  const back = await fetch(`${asked.origin}${asked.pathname}`, { method: 'POST', body: form, redirect: 'manual' });
  return new URL(back.headers.get('location') ?? '').searchParams;
}
const consent = async (): Promise<{ state: string; code: string }> => {
  const back = await agree((await post('quernby', 'consent')).body.address);
  return { state: back.get('state') ?? '', code: back.get('code') ?? '' };
};
const cells = async (id: number): Promise<Body> => {
  const { items } = (await client.get(`/api/listings?place=${places.quernby}&search=TE-1&limit=5`)).body;
  return items.find((row: Body) => row.variantId === id);
};

beforeAll(async () => {
  await client.signIn();
  const held = await queryOne<{ address: string }>(
    db,
    sql`SELECT a.address FROM account a JOIN channel c ON c.id = a.channel_id WHERE c.key = 'orrivane'`,
  );
  outside = (held?.address ?? '').replace(/\/orrivane$/, '');
  for (const [key, market] of [
    ['quernby', 'GB'],
    ['skarvelund', 'SE'],
    ['tansel', 'GB'],
    ['windowsill', 'GB'],
  ] as const) {
    const { body: channel } = await client.send('POST', '/api/channels', { shipped: key });
    const { items } = (await client.get('/api/channels')).body;
    const { id } = items.find((row: Body) => row.id === channel.id).accounts[0];
    accounts[key] = id;
    await client.send('PATCH', `/api/accounts/${id}`, {
      to: { address: `${outside}/${key}` },
      was: { address: '' },
    });
    const { body: place } = await client.send('POST', `/api/channels/${channel.id}/places`, { market, name: key });
    places[key] = place.id;
  }
});
afterAll(async () => {
  await mood('quernby', { renews: true, tokenSeconds: 3600 });
  await db.$client.end();
});

describe('an account joined by consent', () => {
  it('is off until somebody agrees, and not joined where she does not', async () => {
    expect(await show('quernby')).toMatchObject({ state: 'off', joins: 'consent', terms: [], linked: 0 });
    const back = await agree((await post('quernby', 'consent')).body.address, 'no');
    expect([back.get('refused'), back.get('code')]).toEqual(['yes', null]);
    expect((await show('quernby')).state).toBe('off');
  });
  it('takes the code once, and only with the state that was asked for here', async () => {
    const first = await consent();
    const strange = await client.send('POST', '/api/accounts/consented', { ...first, state: 'of somebody else' });
    expect([strange.status, strange.body.detail]).toEqual([400, expect.stringContaining('not asked for here')]);
    const wrong = await client.send('POST', '/api/accounts/consented', { ...first, code: 'made up' });
    expect([wrong.status, wrong.body.detail]).toEqual([422, expect.stringContaining('Nothing was changed')]);
    expect((await show('quernby')).state).toBe('off');
    const good = await consent();
    const { status, body } = await client.send('POST', '/api/accounts/consented', good);
    expect([status, body.state]).toEqual([200, 'pending']);
    expect(body.missing).toEqual([expect.stringContaining('Payment details')]);
    expect(body.terms.map(({ key }: Body) => key)).toEqual([
      ...['as-the-law', 'thirty-days'],
      ...['large-four-days', 'letter', 'small-two-days'],
    ]);
    expect((await client.send('POST', '/api/accounts/consented', good)).status).toBe(400);
  });
  it('keeps nothing readable of what it is spoken to with', async () => {
    const row = await queryOne<{ credentials: string }>(
      db,
      sql`SELECT credentials FROM account WHERE id = ${accounts.quernby}`,
    );
    expect(row?.credentials).toMatch(/^[0-9a-f]{12}(\.[\w-]+){3}$/);
    const config = { files: '/nowhere', key: 'ab'.repeat(32) };
    const sealed = await seal(config, { token: 'x' });
    expect(await unseal(config, sealed)).toEqual({ token: 'x' });
    expect(await unseal(config, `${sealed.slice(0, -2)}AA`)).toBeUndefined();
    expect(await unseal({ ...config, key: 'cd'.repeat(32) }, sealed)).toBeUndefined();
    expect(JSON.stringify((await client.get('/api/actions')).body)).not.toContain(row?.credentials.slice(0, 30));
  });
  it('is connected once nothing is missing; a token that has run out is renewed unseen', async () => {
    await mood('quernby', { missing: [] });
    expect((await post('quernby', 'refresh')).body).toMatchObject({ state: 'connected', missing: [], late: 1.4 });
    expect((await client.newest()).words).toContain('is connected now');
    await mood('quernby', { forget: 'token' });
    expect((await post('quernby', 'refresh')).body).toMatchObject({ state: 'connected', fault: null });
  });
  it('says plainly that it is not let in any more, and joins again', async () => {
    await mood('quernby', { forget: 'token', renews: false });
    expect((await post('quernby', 'refresh')).body).toMatchObject({
      state: 'expired',
      fault: expect.stringContaining('does not let us in any more'),
    });
    await mood('quernby', { renews: true });
    expect((await client.send('POST', '/api/accounts/consented', await consent())).body.state).toBe('connected');
  });
  it('that cannot be reached says so, and stays as it is', async () => {
    const to = { address: 'http://127.0.0.1:1/quernby' };
    const was = { address: `${outside}/quernby` };
    await client.send('PATCH', `/api/accounts/${accounts.quernby}`, { to, was });
    const { body } = await post('quernby', 'refresh');
    expect([body.state, typeof body.fault]).toEqual(['connected', 'string']);
    await client.send('PATCH', `/api/accounts/${accounts.quernby}`, { to: was, was: to });
    expect((await post('quernby', 'refresh')).body.fault).toBeNull();
  });
});

describe('where the channel itself would put goods', () => {
  const placed = (key: string, category: string): Promise<Answer> =>
    client.get(`/api/places/${places[key]}/placing?category=${encodeURIComponent(category)}`);
  let indoors: string;

  it('is said of goods there are, in categories that take some; a token that has run out is renewed', async () => {
    const { items } = (await client.get(`/api/places/${places.quernby}/categories`)).body;
    indoors = items.find(({ names }: Body) => names.at(-1) === 'Indoor pots').category;
    expect((await placed('quernby', indoors)).body.detail).toContain('no goods in it');
    const made = await client.send('POST', '/api/products', {
      shared: [
        { attribute: 'title', text: 'Hanging pot of stoneware' },
        { attribute: 'category', text: 'Planters/Indoor pots' },
      ],
      axes: [],
      variants: [{ sku: 'PL-1', options: [], price: '5', stock: '1' }],
    });
    expect(made.status).toBe(200);
    await mood('quernby', { forget: 'token' });
    const { status, body } = await placed('quernby', indoors);
    expect([status, body.items[0]?.path]).toEqual([200, 'green-rooms/pots-and-tubs/hanging-pots']);
    expect(body.items[0].names.at(-1)).toBe('Hanging pots');
    // Goods go into categories of the last level alone.
    expect(body.items.map(({ path }: Body) => path)).not.toContain('green-rooms/pots-and-tubs');
    // The token it was renewed by is kept.
    expect((await post('quernby', 'refresh')).body).toMatchObject({ state: 'connected', fault: null });
  });
  it('is told to be unknown where it lets us in no more, and is not asked of one that does not say', async () => {
    await mood('quernby', { forget: 'token', renews: false });
    const refused = await placed('quernby', indoors);
    expect([refused.status, refused.body.detail]).toEqual([502, expect.stringContaining('connect the account again')]);
    await mood('quernby', { renews: true });
    expect((await client.send('POST', '/api/accounts/consented', await consent())).status).toBe(200);
    const tree = async (key: string) => (await client.get(`/api/places/${places[key]}/tree`)).body.saysPlaces;
    expect([await tree('quernby'), await tree('tansel')]).toEqual([true, false]);
    expect((await placed('tansel', indoors)).status).toBe(409);
  });
});

describe('terms of an account', () => {
  it('are what a fill may name; one that vanishes keeps listings back until it is there again', async () => {
    const { body } = await client.send('POST', '/api/products', {
      shared: [{ attribute: 'title', text: 'Termed pot of stoneware' }],
      axes: [],
      variants: [{ sku: 'TE-1', options: [], price: '5', stock: '2' }],
    });
    const plan = (value: string) =>
      client.send('PUT', `/api/places/${places.quernby}/fills/parcel-plan`, {
        fill: { rule: { kind: 'fixed', value }, fit: [] },
      });
    const said = async () =>
      (await cells(body.product)).findings.filter(({ attribute }: Body) => attribute === 'parcel-plan');
    expect(await said()).toMatchObject([{ check: 'required' }]);
    expect((await plan('small-two-days')).status).toBe(200);
    expect(await said()).toEqual([]);
    const all = (await show('quernby')).terms;
    await mood('quernby', {
      terms: all.filter(({ key }: Body) => key !== 'small-two-days'),
    });
    const { terms } = (await post('quernby', 'refresh')).body;
    expect(terms.find(({ key }: Body) => key === 'small-two-days').goneAt).not.toBeNull();
    await client.idle();
    expect(await said()).toMatchObject([{ check: 'term-known', words: expect.stringContaining('small-two-days') }]);
    await mood('quernby', { terms: all });
    await post('quernby', 'refresh');
    await client.idle();
    expect(await said()).toEqual([]);
  });
});

describe('an account joined by its secret', () => {
  it('says plainly that a secret is wrong, and changes nothing', async () => {
    const wrong = await post('skarvelund', 'secret', { id: 'mosswick-04417', secret: 'guessed' });
    expect([wrong.status, wrong.body.detail]).toEqual([
      422,
      'Skarvelund Torg does not know what was given: check it and try again. Nothing was changed.',
    ]);
    expect((await show('skarvelund')).state).toBe('off');
    const right = await post('skarvelund', 'secret', { id: 'mosswick-04417', secret: 'lingon-och-ljung' });
    expect(right.body).toMatchObject({ state: 'connected', joins: 'secret' });
  });
  it('is the company’s own shop too', async () => {
    const right = await post('windowsill', 'secret', { id: 'mosswick-shop', secret: 'pots-on-the-sill' });
    expect(right.body).toMatchObject({ state: 'connected', joins: 'secret', terms: [] });
  });
  it('is let go with its links kept, and joined again', async () => {
    expect((await post('skarvelund', 'let-go')).body).toMatchObject({ state: 'off' });
    expect((await post('skarvelund', 'let-go')).status).toBe(409);
    expect((await post('skarvelund', 'refresh')).status).toBe(409);
    const again = await post('skarvelund', 'secret', { id: 'mosswick-04417', secret: 'lingon-och-ljung' });
    expect(again.body.state).toBe('connected');
  });
  it('is joined in its own way only', async () => {
    expect((await post('skarvelund', 'consent')).status).toBe(409);
    expect((await post('skarvelund', 'token', { token: 'x' })).status).toBe(409);
  });
});

describe('an account told an address first', () => {
  it('takes the token that the channel shows, and waits for what is still missing', async () => {
    expect((await post('tansel', 'token', { token: 'made up' })).status).toBe(422);
    const given = (await (await fetch(`${outside}/tansel/api/hand-out`, { method: 'POST' })).json()) as Body;
    const { body } = await post('tansel', 'token', { token: given.token });
    expect(body).toMatchObject({ state: 'pending', missing: [expect.stringContaining('at least 25 goods')] });
  });
});

it('accounts that were not asked for a day are asked', async () => {
  await db.execute(sql`UPDATE account SET asked_at = now() - interval '30 hours' WHERE id = ${accounts.skarvelund}`);
  const before = (await show('skarvelund')).askedAt;
  await refreshDueAccounts({ db, config: readConfig(), notify: () => undefined });
  expect((await show('skarvelund')).askedAt > before).toBe(true);
});

it('places say how many variants of one family their channels take, where those say it', async () => {
  const { items } = (await client.get('/api/places')).body;
  for (const { channel, rulebookVersion, mostInFamily } of items) {
    const { rules } = JSON.parse(readPublished(`${channel}-${rulebookVersion}.json`)) as Body;
    expect(mostInFamily).toBe(rules.find(({ check }: Body) => check === 'family-size')?.most ?? null);
  }
  expect(items.find(({ channel }: Body) => channel === 'quernby').mostInFamily).toBeGreaterThan(1);
});

describe('an exemption', () => {
  const made = async (sku: string, brand: string): Promise<number> => {
    const { body } = await client.send('POST', '/api/products', {
      shared: [
        { attribute: 'title', text: `Exempt pot ${sku}` },
        { attribute: 'brand', text: brand },
      ],
      axes: [],
      variants: [{ sku, options: [], price: '5', stock: '2' }],
    });
    return body.product;
  };
  const lacks = async (sku: string): Promise<boolean> => {
    const { items } = (await client.get(`/api/listings?place=${places.quernby}&search=${sku}&limit=5`)).body;
    return items[0].findings.some(({ attribute, check }: Body) => attribute === 'gtin' && check === 'required');
  };
  const list = async (): Promise<Body> => (await client.get(`/api/accounts/${accounts.quernby}/exemptions`)).body;

  it('is asked for, granted and taken back; goods of it go without the attribute meanwhile, others do not', async () => {
    await made('EX-1', 'Handmakers');
    await made('EX-2', 'Others');
    expect([await lacks('EX-1'), await lacks('EX-2')]).toEqual([true, true]);
    expect((await list()).attributes).toEqual([{ key: 'gtin', label: 'GTIN', by: ['maker', 'goods', 'condition'] }]);
    const { body } = await post('quernby', 'exemptions', {
      ...{ attribute: 'gtin', by: 'maker', whom: 'Handmakers', reason: 'Each one is made by hand' },
    });
    expect(await lacks('EX-1')).toBe(true);
    expect((await list()).items).toMatchObject([{ whom: 'Handmakers', state: 'asked', goods: 1 }]);
    const set = (state: string, was: string) => client.send('PATCH', `/api/exemptions/${body.id}`, { state, was });
    expect((await set('granted', 'asked')).status).toBe(200);
    expect([await lacks('EX-1'), await lacks('EX-2')]).toEqual([false, true]);
    expect((await set('refused', 'asked')).status).toBe(412);
    expect((await set('refused', 'granted')).status).toBe(200);
    expect(await lacks('EX-1')).toBe(true);
    await set('granted', 'refused');
    expect((await client.send('DELETE', `/api/exemptions/${body.id}`)).status).toBe(200);
    expect([await lacks('EX-1'), (await list()).items]).toEqual([true, []]);
  });
  it('is for all goods that meet a condition, which has to be said and to compare what there is', async () => {
    const asked = { attribute: 'gtin', by: 'condition', whom: 'Pots of others', reason: 'Each one is made by hand' };
    const condition = { all: [{ attribute: 'brand', op: 'is', value: 'Others' }] };
    expect((await post('quernby', 'exemptions', asked)).status).toBe(400);
    const unknown = { all: [{ attribute: 'no-such', op: 'is', value: 'x' }] };
    expect((await post('quernby', 'exemptions', { ...asked, condition: unknown })).status).toBe(400);
    const { body } = await post('quernby', 'exemptions', { ...asked, condition });
    await client.send('PATCH', `/api/exemptions/${body.id}`, { state: 'granted', was: 'asked' });
    expect((await list()).items).toMatchObject([{ whom: 'Pots of others', goods: 1 }]);
    expect([await lacks('EX-1'), await lacks('EX-2')]).toEqual([true, false]);
    await client.send('DELETE', `/api/exemptions/${body.id}`);
    expect(await lacks('EX-2')).toBe(true);
  });
  it('is offered at the cause it would mend, for the maker most of its goods are of', async () => {
    const { items } = (await client.get(`/api/causes?place=${places.quernby}`)).body;
    const detailOf = async (key: string): Promise<Body> =>
      (await client.get(`/api/causes/one?key=${encodeURIComponent(key)}`)).body;
    const details: Body[] = [];
    for (const { key } of items) details.push(await detailOf(key));
    const missing = details.find(({ exempt }) => exempt.length > 0);
    expect(missing.exempt).toEqual([
      {
        accountId: accounts.quernby,
        channel: 'Quernby',
        attribute: 'gtin',
        maker: expect.stringMatching(/^(Handmakers|Others)$/),
      },
    ]);
    expect(details.some(({ exempt }) => exempt.length === 0)).toBe(true);
  });
  it('is for attributes that the channel lets goods go without, and asked for once', async () => {
    const asked = { by: 'goods', whom: 'EX-1', reason: 'None was given' };
    expect((await post('quernby', 'exemptions', { ...asked, attribute: 'heading' })).status).toBe(400);
    expect((await post('quernby', 'exemptions', { ...asked, attribute: 'gtin' })).status).toBe(200);
    expect((await post('quernby', 'exemptions', { ...asked, attribute: 'gtin' })).status).toBe(409);
    const [{ id, goods }] = (await list()).items;
    expect(goods).toBe(1);
    await client.send('PATCH', `/api/exemptions/${id}`, { state: 'granted', was: 'asked' });
    expect([await lacks('EX-1'), await lacks('EX-2')]).toEqual([false, true]);
  });
});
