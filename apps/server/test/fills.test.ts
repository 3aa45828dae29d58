/** What fills come to: the parts of their goods by the rule that gives their value, the goods of a part, and fills carried to another place. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
const place = '/api/places/1';
let tansel: string;

const fillOf = async (key: string, within?: string): Promise<Body> =>
  (
    await client.get(`${place}/fills${within === undefined ? '' : `?within=${encodeURIComponent(within)}`}`)
  ).body.items.find((body: Body) => body.key === key);
const tryFill = async (key: string, fill: unknown, more: object = {}): Promise<Body> =>
  (await client.send('POST', `${place}/fills/${key}/try`, { fill, ...more })).body;
const sum = (parts: Body[]) => parts.reduce((all, { goods }) => all + goods, 0);

/** All goods of a part, page after page. */
async function goodsOf(key: string, body: object): Promise<Body[]> {
  const found: Body[] = [];
  for (let after: number | null = 0; after !== null;) {
    const { body: page }: Answer = await client.send('POST', `${place}/fills/${key}/goods`, { ...body, after });
    found.push(...page.items);
    after = page.next;
  }
  return found;
}

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
  const { body: channel } = await client.send('POST', '/api/channels', { shipped: 'tansel' });
  const { body: made } = await client.send('POST', `/api/channels/${channel.id}/places`, {
    market: 'GB',
    name: 'Tansel, Great Britain',
  });
  tansel = `/api/places/${made.id}`;
  await client.idle();
});
afterAll(() => db.$client.end());

describe('the parts of a fill', () => {
  it('are all of its goods: what each rule gives, what is refused of it, and what is empty', async () => {
    const { items, categories } = (await client.get(`${place}/fills`)).body;
    for (const { parts, filled, refused } of items) {
      expect(sum(parts)).toBe(filled);
      expect(parts.reduce((all: number, part: Body) => all + part.refused, 0)).toBe(refused);
    }
    const listings = (await client.get('/api/listings?place=1&limit=1')).body.total;
    const left = (await client.get('/api/listings?place=1&readiness=not%20for%20this%20channel&limit=1')).body.total;
    const title = items.find(({ key }: Body) => key === 'short');
    expect(title.filled + title.missing).toBe(listings - left);
    const goods = categories.map((one: Body) => one.goods);
    expect(goods).toEqual([...goods].sort((a, b) => b - a));
  });
  it('tell apart the rules of one fill that is tried, and each opens just its goods', async () => {
    const fill = {
      rule: {
        kind: 'first',
        of: [
          { kind: 'copy', from: 'glaze' },
          { kind: 'copy', from: 'material' },
          { kind: 'fixed', value: 'of one kind' },
        ],
      },
      fit: [],
    };
    const tried = await tryFill('short', fill);
    expect(tried.missing).toBe(0);
    expect(tried.parts.map(({ path }: Body) => path)).toEqual([[0], [1], [2]]);
    expect(sum(tried.parts)).toBe(tried.filled);
    for (const { at, path, goods } of tried.parts) {
      const found = await goodsOf('short', { part: { at, path }, tried: { fill, market: '', category: '' } });
      expect(found.length).toBe(goods);
      expect(new Set(found.map(({ listingId }) => listingId)).size).toBe(goods);
      for (const one of found)
        if (path[0] === 2) expect(one.value).toBe('of one kind');
        else expect(one.from.value).toBe(one.value);
    }
  });
  it('are those of one category where it is asked for', async () => {
    const { categories } = (await client.get(`${place}/fills`)).body;
    const [{ path, goods }] = categories;
    const { filled, missing } = await fillOf('short', path);
    expect(filled + missing).toBe(goods);
    const tried = await tryFill('short', null, { within: path });
    expect(tried).toMatchObject({ filled: 0, missing: goods });
    // What becomes of listings is told of all.
    expect(tried.effect.becameBlocked).toBe((await tryFill('short', null)).effect.becameBlocked);
  });
  it('have what is empty and refused apart, with how their listings stand', async () => {
    const long = { rule: { kind: 'copy', from: 'description' }, fit: [] };
    const { refused, missing } = await tryFill('short', long);
    const tried = { fill: long, market: '', category: '' };
    const wrong = await goodsOf('short', { part: 'refused', tried });
    expect(wrong.length).toBe(refused);
    expect(refused).toBeGreaterThan(0);
    for (const { fault, becomes } of wrong) expect([typeof fault, becomes]).toEqual(['string', 'blocked']);
    const none = await goodsOf('short', { part: 'empty', tried });
    expect(none.length).toBe(missing);
    for (const { value } of none) expect(value).toBeNull();
  });
  it('have what is pinned for single listings as their own', async () => {
    const [one] = await goodsOf('short', { part: { at: { market: '', category: '' }, path: [] } });
    await client.send('PUT', `/api/listings/${one?.listingId}/pins/short`, {
      text: 'Pinned name of a pot',
      madeAgainst: null,
    });
    await client.idle();
    const pinned = await goodsOf('short', { part: { at: null, path: [] } });
    expect(pinned).toMatchObject([{ listingId: one?.listingId, value: 'Pinned name of a pot' }]);
    expect((await fillOf('short')).parts.at(-1)).toMatchObject({ at: null, goods: 1 });
    await client.undo();
    await client.idle();
  });
  it('of an attribute there is none of are refused', async () => {
    const answer = await client.send('POST', `${place}/fills/no-such/goods`, { part: 'empty' });
    expect(answer.status).toBe(404);
  });
});

describe('a value pinned for many listings', () => {
  const pins = (body: object, way = ''): Promise<Answer> => client.send('POST', `/api/listings/pins${way}`, body);
  const ready = { place: 1, readiness: 'ready' };

  it('does what it was said to do, is told apart from what was so already, and is taken back as one', async () => {
    const { items, total } = (await client.get('/api/listings?place=1&readiness=ready&limit=3')).body;
    const ids = items.map(({ id }: Body) => id);
    const text = 'A pot named by hand';
    const some = { which: { ids }, attribute: 'short', text };
    expect((await pins(some, '/try')).body).toMatchObject({ changed: 3, same: 0, without: 0 });
    expect((await client.get('/api/listings?pinned=yes&limit=1')).body.total).toBe(0);
    expect((await pins(some)).body).toMatchObject({ changed: 3, same: 0 });
    await client.idle();
    const pinned = (await client.get('/api/listings?pinned=yes&limit=10')).body;
    expect(pinned.items.map(({ id, pinned: names }: Body) => [id, names])).toEqual(
      ids.map((id: number) => [id, ['Short wording']]),
    );
    const all = { which: { all: ready, except: [] }, attribute: 'short', text };
    const fewer = { ...all, which: { all: ready, except: ids } };
    expect((await pins(fewer, '/try')).body).toMatchObject({ changed: total - 3, same: 0 });
    const { body: tried } = await pins(all, '/try');
    expect([tried.changed, tried.same]).toEqual([total - 3, 3]);
    expect((await pins({ ...some, text: null })).body).toMatchObject({ changed: 3 });
    await client.idle();
    expect((await client.get('/api/listings?pinned=yes&limit=1')).body.total).toBe(0);
    await client.undo();
    await client.idle();
    expect((await client.get('/api/listings?pinned=yes&limit=1')).body.total).toBe(3);
    await pins({ ...some, text: null });
    await client.idle();
  });
  it('blocks and frees as it was tried', async () => {
    const { id } = (await client.get('/api/listings?place=1&readiness=ready&limit=1')).body.items[0];
    const bad = { which: { ids: [id] }, attribute: 'short', text: 'x' };
    const { body: tried } = await pins(bad, '/try');
    expect(tried.becameBlocked).toBe(1);
    expect((await pins(bad)).body.becameBlocked).toBe(1);
    expect((await pins({ ...bad, text: null })).body.becameReady).toBe(1);
  });
  it.each([
    ['of an attribute there is none of', { which: { all: { place: 1 } }, attribute: 'no-such', text: 'x' }],
    ['that cannot be read', { which: { all: { place: 1 } }, attribute: 'asks', text: 'much' }],
    ['of no listing', { which: { ids: [999_999_999] }, attribute: 'short', text: 'x' }],
    ['of nothing', { which: { ids: [] }, attribute: 'short', text: 'x' }],
    ['of a filter there is none of', { which: { all: { readiness: 'perhaps' } }, attribute: 'short', text: 'x' }],
  ])('%s is refused, and nothing is pinned', async (_, body) => {
    expect((await pins(body)).status).toBe(400);
    expect((await client.get('/api/listings?pinned=yes&limit=1')).body.total).toBe(0);
  });
});

describe('a cause of goods whose category has a fill of its own', () => {
  it('is mended in that fill, as promised, and the one for all goods stays', async () => {
    const ready = (await client.get('/api/listings?place=1&readiness=ready&limit=1')).body.items[0];
    const { category } = ready;
    const own = { rule: { kind: 'translate', from: 'brand', table: {}, otherwise: 'empty' }, fit: [] };
    const general = (await fillOf('maker')).fill;
    const before = (await client.get('/api/listings?place=1&readiness=ready&limit=1')).body.total;
    await client.send('PUT', `${place}/fills/maker`, { fill: own, category });
    await client.idle();
    const { findings } = (await client.get(`/api/listings/${ready.id}`)).body;
    const { cause } = findings.find(({ attribute }: Body) => attribute === 'maker');
    expect(cause).toContain(category.replaceAll(':', '%3A'));
    const one = `key=${encodeURIComponent(cause)}`;
    expect((await client.get(`/api/causes/one?${one}`)).body.words).toMatch(/ in /);
    const fix = { kind: 'choose', value: 'A maker' };
    const { body: promised } = await client.send('POST', `/api/causes/try?${one}`, fix);
    expect(promised.becameReady).toBeGreaterThan(0);
    const { body: got } = await client.send('POST', `/api/causes/fix?${one}`, fix);
    expect(got.becameReady).toBe(promised.becameReady);
    const { fill, slots } = await fillOf('maker');
    expect(fill).toEqual(general);
    expect(slots.find((slot: Body) => slot.category === category).fill.rule.table).not.toEqual({});
    await client.send('PUT', `${place}/fills/maker`, { fill: null, category });
    await client.idle();
    expect((await client.get('/api/listings?place=1&readiness=ready&limit=1')).body.total).toBe(before);
  });
});

describe('a price converted', () => {
  const rate = (is: object | null, was: string | null) =>
    client.send('PUT', '/api/rates', { from: 'GBP', to: 'EUR', is, was });
  const said = (text: string) => ({ rate: text, source: 'the bank', day: '2026-11-20' });
  const fill = { rule: { kind: 'convert', from: 'price', currency: 'GBP' }, fit: [] };
  let abroad: string;
  let money: string;

  beforeAll(async () => {
    const { items } = (await client.get('/api/channels')).body;
    const { id } = items.find(({ name }: Body) => name === 'Tansel');
    const { body } = await client.send('POST', `/api/channels/${id}/places`, { market: 'DE', name: 'Tansel, Germany' });
    expect(body.id).toBeGreaterThan(0);
    abroad = `/api/places/${body.id}`;
    money = (await client.get(`${abroad}/fills`)).body.items.find(({ type }: Body) => type === 'money').key;
    await client.send('PUT', `${abroad}/fills/${money}`, { fill, market: 'DE' });
    await client.idle();
  });
  const filled = async (): Promise<Body> => {
    await client.idle();
    return (await client.get(`${abroad}/fills`)).body.items.find(({ key }: Body) => key === money);
  };

  it('is nothing until the company says a rate, and follows it', async () => {
    const before = await filled();
    expect(before.missing).toBeGreaterThan(0);
    expect((await rate(said('1.1'), null)).status).toBe(200);
    const after = await filled();
    expect(after.filled).toBeGreaterThan(before.filled);
    const [sample] = after.samples.filter(({ value }: Body) => value !== null);
    const price = Number(/[\d.]+/.exec(sample.from.value)?.[0]);
    expect(Number(/[\d.]+/.exec(sample.value)?.[0])).toBeCloseTo(price * 1.1, 2);
    expect((await client.get('/api/rates')).body.items).toMatchObject([{ from: 'GBP', to: 'EUR', rate: '1.1' }]);
  });
  it('keeps what two said at once apart, and takes a rate back', async () => {
    const stale = await rate(said('1.3'), null);
    expect([stale.status, stale.body.current.rate]).toEqual([412, '1.1']);
    expect((await rate(said('1.2'), '1.1')).status).toBe(200);
    await client.undo();
    expect((await client.get('/api/rates')).body.items).toMatchObject([{ rate: '1.1' }]);
    await rate(null, '1.1');
    expect((await filled()).filled).toBe(0);
  });
  it.each([
    ['zero', said('0')],
    ['a word', said('much')],
    ['below zero', said('-1')],
    ['of no day', { ...said('1'), day: 'yesterday' }],
    ['of nobody', { ...said('1'), source: ' ' }],
  ])('at a rate that is %s is refused', async (_, is) => expect((await rate(is, null)).status).toBe(400));
});

describe('fills carried to another place', () => {
  const carry = (body: object): Promise<Answer> => client.send('POST', `${tansel}/fills/carry`, body);

  it('come fitted to what it takes, beside what stands there, and are saved and undone as one', async () => {
    const { status, body } = await carry({ place: 1 });
    expect(status).toBe(200);
    expect(body.items.length).toBeGreaterThan(3);
    const known = new Map<string, Body>(
      (await client.get(`${tansel}/fills`)).body.items.map((each: Body) => [each.key, each]),
    );
    for (const { attribute, is, now, sources } of body.items) {
      expect(known.get(attribute)).toBeDefined();
      expect([is, now]).toEqual(['new', null]);
      expect(sources.length).toBeGreaterThan(0);
    }
    for (const { why } of body.unfit) expect(why).not.toBe('');
    const fills = body.items.map(({ attribute, market, category, fill }: Body) => ({
      attribute,
      market,
      category,
      fill,
    }));
    const { body: tried } = await client.send('POST', `${tansel}/fills/try`, { fills });
    const { body: effect } = await client.send('PUT', `${tansel}/fills`, { fills, over: true });
    expect(effect.becameReady).toBe(tried.becameReady);
    await client.idle();
    expect((await carry({ place: 1 })).body.items.map(({ is }: Body) => is)).toEqual(fills.map(() => 'same'));
    await client.undo();
    await client.idle();
    expect((await carry({ place: 1 })).body.items.map(({ is }: Body) => is)).toEqual(fills.map(() => 'new'));
  });
  it('are written over where that is said, and left where it is not', async () => {
    const [first] = (await carry({ place: 1 })).body.items;
    const { attribute, fill } = first;
    const own = { rule: { kind: 'copy', from: 'sku' }, fit: [] };
    await client.send('PUT', `${tansel}/fills/${attribute}`, { fill: own });
    expect((await carry({ place: 1 })).body.items[0]).toMatchObject({ is: 'other', now: own });
    await client.send('PUT', `${tansel}/fills`, { fills: [{ attribute, fill }] });
    expect((await carry({ place: 1 })).body.items[0].now).toEqual(own);
    await client.send('PUT', `${tansel}/fills`, { fills: [{ attribute, fill }], over: true });
    expect((await carry({ place: 1 })).body.items[0].is).toBe('same');
    await client.undo();
    expect((await carry({ place: 1 })).body.items[0].now).toEqual(own);
  });
  it('are kept in a file that is read back as it was, and elsewhere as from their place', async () => {
    const { body: file } = await client.get(`${place}/fills/file`);
    expect(file).toMatchObject({ format: 'velvet-shelf fills', market: 'GB' });
    const home = (await client.send('POST', `${place}/fills/carry`, { file })).body;
    expect(home.unfit).toEqual([]);
    expect(home.items.length).toBe(file.fills.length);
    for (const { is, notes } of home.items) expect([is, notes]).toEqual(['same', []]);
  });
  it.each([
    ['nothing', null],
    ['a text', 'fills'],
    ['another file', { format: 'something', fills: [] }],
    [
      'a rule there is none of',
      {
        format: 'velvet-shelf fills',
        version: 1,
        channel: 'x',
        market: 'GB',
        fills: [{ attribute: 'short', market: '', category: '', fill: { rule: { kind: 'magic' }, fit: [] } }],
      },
    ],
  ])('of a file that is %s are refused, and it says what is wrong', async (_, file) => {
    const { status, body } = await carry({ file });
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toMatch(/file/);
  });
  it('that name what this channel or company does not have are told, and the others stand', async () => {
    const fill = (from: string) => ({ rule: { kind: 'copy', from }, fit: [] });
    const at = { market: '', category: '' };
    const [known] = (await client.get(`${tansel}/fills`)).body.items.filter(({ type }: Body) => type === 'text');
    const { body } = await carry({
      file: {
        format: 'velvet-shelf fills',
        version: 1,
        channel: 'Elsewhere',
        market: 'GB',
        fills: [
          { attribute: known.key, ...at, fill: fill('title') },
          { attribute: 'quite-unknown', label: 'Quite unknown', ...at, fill: fill('title') },
          { attribute: known.key, market: '', category: 'no/such', fill: fill('title') },
        ],
      },
    });
    expect(body.items).toMatchObject([{ attribute: known.key }]);
    expect(body.unfit.map(({ label }: Body) => label)).toEqual(['Quite unknown', known.key]);
  });
});
