/** A channel that takes so many items of a place and no more: who stays, who waits, and what changes that. */
import { rulebooksOf } from '@velvet-shelf/rulebooks';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
let place: string;
let placeId: number;

const [published] = rulebooksOf('tansel') as Body[];
const withQuota = (version: string, items?: number) => ({
  ...published,
  ...{ channel: 'market-stall', name: 'Market stall', version },
  rules: [
    ...published.rules.filter(({ check }: Body) => check !== 'quota'),
    ...(items === undefined ? [] : [{ check: 'quota', items }]),
  ],
});

/** All listings of the place that are there, the first in first. */
async function listings(): Promise<{ id: number; variant: number; isBeyond: boolean }[]> {
  const found: Body[] = [];
  for (let cursor = ''; ;) {
    const { body }: Answer = await client.get(
      `/api/listings?place=${placeId}&limit=200${cursor === '' ? '' : `&cursor=${encodeURIComponent(cursor)}`}`,
    );
    found.push(...body.items);
    if (body.next === null) break;
    cursor = body.next;
  }
  return found
    .filter(({ readiness }) => readiness !== 'not for this channel')
    .map(({ id, variantId, findings }) => ({
      id,
      variant: variantId,
      isBeyond: findings.some(({ check }: Body) => check === 'quota'),
    }))
    .sort((a, b) => a.id - b.id);
}

/** Those within, then those beyond, and no others. */
async function expectBound(most: number): Promise<void> {
  const all = await listings();
  expect(all.map(({ isBeyond }) => isBeyond)).toEqual(all.map((_, i) => i >= most));
}

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
  placeId = await client.placeOn(withQuota('1', 30));
  place = `/api/places/${placeId}`;
});
afterAll(() => db.$client.end());

describe('a quota', () => {
  it('leaves those that were in first, and blocks all beyond, with one cause', async () => {
    await expectBound(30);
    const causes = (await client.get(`/api/causes?place=${placeId}`)).body.items;
    const cause = causes.find(({ kind }: Body) => kind === 'assortment');
    expect(cause.touched).toBe((await listings()).length - 30);
    expect(cause.words).toBe('Market stall takes fewer goods than it is to have');
    const { remedy } = (await client.get(`/api/causes/one?key=${encodeURIComponent(cause.key)}`)).body;
    expect(remedy).toMatchObject({ kind: 'assortment', placeId });
  });
  it('gives the room of what leaves to the next, and takes it back with it', async () => {
    const [first, second] = await listings();
    const { condition } = (await client.get(`${place}/assortment`)).body;
    const was = { condition, hand: [] };
    const hand = [first, second].map((each) => ({ product: each?.variant, isIn: false }));
    await client.send('PUT', `${place}/assortment`, { to: { condition, hand }, was });
    await client.idle();
    await expectBound(30);
    expect((await listings())[0]?.id).not.toBe(first?.id);
    await client.undo();
    await client.idle();
    await expectBound(30);
  });
  it('stays as it is where goods within and beyond are edited', async () => {
    const all = await listings();
    for (const one of [all[3], all.at(-1)]) {
      await client.send('PUT', `/api/listings/${one?.id}/pins/headline`, { text: 'Another name', madeAgainst: null });
      await client.idle();
      await expectBound(30);
    }
  });
  it('follows the rulebook that is taken: more room, less, and none said', async () => {
    const total = (await listings()).length;
    for (const [version, items] of [
      ['2', 45],
      ['3', 10],
      ['4', total + 5],
      ['5', 20],
      ['6', undefined],
    ] as const) {
      await client.send('POST', `${place}/rulebooks`, { rulebook: withQuota(version, items) });
      const { id } = (await client.get(`${place}/rulebooks`)).body.items.find((book: Body) => book.version === version);
      await client.send('PUT', `${place}/rulebooks/${id}`, { early: true });
      await client.idle();
      await expectBound(items ?? total);
    }
  });
  it.each([
    ['nought', 0],
    ['half an item', 2.5],
    ['a word', 'many'],
  ])('of %s is refused when the rulebook is loaded, and it says where', async (_, items) => {
    const { status, body } = await client.send('POST', `${place}/rulebooks`, {
      rulebook: withQuota('9', items as number),
    });
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toContain('rules');
  });
});
