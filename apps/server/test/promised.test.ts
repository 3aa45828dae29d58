/** What a trial promises of a place and what comes true are the same, also where goods are judged together: keys they share, and a channel's room. */
import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
let place: string;
let placeId: number;

const [published] = rulebooksOf('tansel') as Body[];
/** It asks for nothing: only what goods share, and how many they are, keeps them back. */
const asking = (version: string, items: number, also: Body[] = []) => ({
  ...published,
  ...{ channel: 'lenient-stall', name: 'Lenient stall', version, categoryNeed: 'optional' },
  attributes: published.attributes.map((attribute: Body) => ({
    ...{ key: attribute.key, label: attribute.label, type: attribute.type, need: 'optional', limits: {} },
  })),
  rules: [
    { check: 'quota', items },
    { check: 'gtin-unique', gtin: 'barcode' },
    { check: 'item-key-unique', key: 'tag' },
    ...also,
  ],
});

async function count(readiness: string): Promise<number> {
  const of = encodeURIComponent(readiness);
  return (await client.get(`/api/listings?place=${placeId}&readiness=${of}&limit=1`)).body.total;
}
const standing = async () => ({ ready: await count('ready'), blocked: await count('blocked') });

/** Tries, does, and compares; answers how the place stands then. */
async function promised(trying: Promise<Answer>, saving: () => Promise<Answer>) {
  const { status, body: tried } = await trying;
  expect(status).toBe(200);
  const before = await standing();
  expect((await saving()).status).toBe(200);
  await client.idle();
  const after = await standing();
  const effect = tried.effect ?? tried;
  expect({ became: effect.becameReady - effect.becameBlocked }).toEqual({ became: after.ready - before.ready });
  return { before, after, effect };
}
const fillTried = (key: string, fill: unknown) =>
  promised(client.send('POST', `${place}/fills/${key}/try`, { fill }), () =>
    client.send('PUT', `${place}/fills/${key}`, { fill }),
  );

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
  placeId = await client.placeOn(asking('1', 10_000));
  place = `/api/places/${placeId}`;
});
afterAll(() => db.$client.end());

const copy = (from: string) => ({ rule: { kind: 'copy', from }, fit: [] });
const fixed = (value: string) => ({ rule: { kind: 'fixed', value }, fit: [] });

describe('a trial of a fill', () => {
  it('foresees whose value stands on others too, and who is free of it without', async () => {
    const whole = await standing();
    const shared = await fillTried('barcode', copy('gtin'));
    expect(shared.effect.becameBlocked).toBeGreaterThan(0);
    const all = await fillTried('barcode', fixed('2104000004131'));
    expect(all.after.ready).toBe(0);
    const freed = await fillTried('barcode', null);
    expect(freed.after).toEqual(whole);
  });
  it('adds one fault to another, and takes away one of two', async () => {
    await fillTried('barcode', copy('gtin'));
    const both = await fillTried('tag', fixed('one'));
    expect(both.after.ready).toBe(0);
    const own = await fillTried('tag', copy('sku'));
    expect(own.after.ready).toBeGreaterThan(0);
    expect(own.after.blocked).toBeGreaterThan(0);
    await fillTried('barcode', null);
    await fillTried('tag', null);
  });
});

describe('a trial of a rulebook', () => {
  const take = async (version: string, items: number, also?: Body[]) => {
    await client.send('POST', `${place}/rulebooks`, { rulebook: asking(version, items, also) });
    const { id } = (await client.get(`${place}/rulebooks`)).body.items.find((book: Body) => book.version === version);
    return promised(client.send('POST', `${place}/rulebooks/${id}/try`), () =>
      client.send('PUT', `${place}/rulebooks/${id}`, { early: true }),
    );
  };
  it.each([
    ['2', 40],
    ['3', 12],
    ['4', 60],
    ['5', 10_000],
  ])('foresees where its room ends (version %s: %i)', async (version, items) => {
    const { before, after } = await take(version, items);
    const total = before.ready + before.blocked;
    expect(after.blocked).toBeGreaterThanOrEqual(Math.max(0, total - items));
    expect(after.ready).not.toBe(before.ready);
  });
  it('names what would keep goods back', async () => {
    await fillTried('tag', fixed('one'));
    await fillTried('tag', null);
    await client.send('POST', `${place}/rulebooks`, { rulebook: asking('6', 30) });
    const { id } = (await client.get(`${place}/rulebooks`)).body.items.find((book: Body) => book.version === '6');
    const { body } = await client.send('POST', `${place}/rulebooks/${id}/try`);
    const { ready, blocked } = await standing();
    const words = 'Lenient stall takes fewer goods than it is to have';
    expect(body.causes).toEqual([{ words, listings: ready + blocked - 30 }]);
  });
});

describe('a trial of some goods', () => {
  it('blocks one beside them too that they come to share a value with', async () => {
    const needed = asking('7', 10_000);
    needed.attributes = needed.attributes.map((each: Body) =>
      each.key === 'tag' ? { ...each, need: 'required' } : each,
    );
    await client.send('POST', `${place}/rulebooks`, { rulebook: needed });
    const { id } = (await client.get(`${place}/rulebooks`)).body.items.find((book: Body) => book.version === '7');
    await client.send('PUT', `${place}/rulebooks/${id}`, { early: true });
    const rule = { kind: 'translate', from: 'material', table: {}, otherwise: 'empty' };
    await client.send('PUT', `${place}/fills/tag`, { fill: { rule, fit: [] } });
    await client.idle();
    const { items } = (await client.get(`/api/causes?place=${placeId}`)).body;
    const [first, second] = items.filter(({ kind }: Body) => kind === 'translate');
    const of = (key: string) => `key=${encodeURIComponent(key)}`;
    const [one] = (await client.get(`/api/listings?place=${placeId}&cause=${encodeURIComponent(second.key)}&limit=1`))
      .body.items;
    await client.send('PUT', `/api/listings/${one.id}/pins/tag`, { text: 'shared', madeAgainst: null });
    await client.idle();
    expect((await client.get(`/api/listings/${one.id}`)).body.readiness).toBe('ready');
    const fix = { kind: 'choose', value: 'shared' };
    const { effect } = await promised(client.send('POST', `/api/causes/try?${of(first.key)}`, fix), () =>
      client.send('POST', `/api/causes/fix?${of(first.key)}`, fix),
    );
    expect(effect).toMatchObject({ becameReady: 0, becameBlocked: 1 });
    expect((await client.get(`/api/listings/${one.id}`)).body.readiness).toBe('blocked');
  });
});
