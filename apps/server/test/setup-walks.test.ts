/**
 * A channel set up in any order: maps, fills, pins and rulebooks, and undos in between. Listings are what checking all of
 * them anew gives, and taken back from the last to the first, the set-up and every listing are as before.
 */
import { readPublished } from '@velvet-shelf/rulebooks';
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { expectListingsAnew, listings, newestAction, undoAll, undoables } from './anew.js';
import { type Answer, Client, db } from './client.js';

const client = new Client();
const place = '/api/places/1';
type Body = Answer['body'];
let categories: string[];
let targets: string[];
let books: number[];
let listed: number[];

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
  const next = readPublished('orrivane-2026.2.json');
  await client.send('POST', `${place}/rulebooks`, { rulebook: JSON.parse(next) });
  categories = (await client.get(`${place}/categories`)).body.items
    .filter((body: Body) => body.variants > 0)
    .map((body: Body) => body.category);
  targets = (await client.get(`${place}/tree`)).body.items.map((body: Body) => body.path);
  books = (await client.get(`${place}/rulebooks`)).body.items.map((body: Body) => body.id);
  expect(books.length).toBeGreaterThan(1);
  listed = (await client.get('/api/listings?place=1&limit=40')).body.items.map((body: Body) => body.id);
});
afterAll(() => db.$client.end());

const fill = fc.constantFrom(
  null,
  { rule: { kind: 'fixed', value: 'new' }, fit: [] },
  { rule: { kind: 'copy', from: 'title' }, fit: [{ do: 'trim-at-word', length: 30 }] },
  { rule: { kind: 'compose', parts: [{ from: 'brand', after: ' ' }, { from: 'title' }] }, fit: [] },
  { rule: { kind: 'translate', from: 'colour', table: { Moss: 'moss' }, otherwise: 'empty' }, fit: [] },
  {
    rule: {
      kind: 'first',
      of: [
        { kind: 'copy', from: 'material' },
        { kind: 'copy', from: 'colour' },
      ],
    },
    fit: [],
  },
);

const step = fc.oneof(
  fc.record({
    do: fc.constant('map' as const),
    category: fc.nat(),
    target: fc.option(fc.nat(), { freq: 3, nil: null }),
  }),
  fc.record({
    do: fc.constant('fill' as const),
    attribute: fc.constantFrom('short', 'grade', 'color', 'differsShade', 'factStuff', 'maker'),
    fill,
  }),
  fc.record({
    do: fc.constant('pin' as const),
    listing: fc.nat(),
    text: fc.constantFrom('A pot of its own', 'ANOTHER POT, IN CAPITALS', null),
  }),
  fc.record({ do: fc.constant('undo' as const), action: fc.nat(4) }),
);
type Step = typeof step extends fc.Arbitrary<infer T> ? T : never;

const at = <T>(list: readonly T[], n: number): T => list[n % list.length] as T;
let begun = 0;

async function take(row: Step): Promise<Answer | undefined> {
  switch (row.do) {
    case 'map':
      return client.send('PUT', `${place}/categories`, {
        maps: [
          { category: at(categories, row.category), target: row.target === null ? null : at(targets, row.target) },
        ],
      });
    case 'fill':
      return client.send('PUT', `${place}/fills/${row.attribute}`, { fill: row.fill });
    case 'pin': {
      const id = at(listed, row.listing);
      const { values } = (await client.get(`/api/listings/${id}`)).body;
      const held = values.find((value: Body) => value.attribute === 'short')?.pinned ?? null;
      return client.send('PUT', `/api/listings/${id}/pins/title`, { text: row.text, madeAgainst: held });
    }
    case 'undo': {
      const open = await undoables(client, begun);
      return open.length === 0 ? undefined : client.send('POST', `/api/actions/${at(open, row.action)}/undo`);
    }
  }
}

/** Maps, fills, pins and the rulebook of the place. */
const setup = () =>
  queryRows(
    db,
    sql`SELECT (SELECT json_agg(c.rulebook_id) FROM channel c) AS books,
          (SELECT json_agg(m ORDER BY m.category) FROM (SELECT category, target FROM category_map) m) AS maps,
          (SELECT json_agg(f ORDER BY f.attribute) FROM (SELECT attribute, fill FROM fill) f) AS fills,
          (SELECT json_agg(p ORDER BY p.listing_id, p.attribute) FROM (SELECT listing_id, attribute, value FROM pin) p) AS pins`,
  );

it('in any order, listings agree, and taken back all is as before', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 10 }), async (steps) => {
      const [before, had] = [await setup(), await listings()];
      begun = await newestAction();
      for (const row of steps) {
        const answer = await take(row);
        expect(answer?.status ?? 200, `${JSON.stringify(row)}: ${JSON.stringify(answer?.body)}`).toBeLessThan(500);
      }
      await client.idle();
      await expectListingsAnew();
      await undoAll(client, begun);
      expect(await setup()).toEqual(before);
      expect(await listings()).toEqual(had);
    }),
    { numRuns: Number(process.env.VELVET_RUNS ?? 5), endOnFailure: true },
  );
});

it('every rulebook of the channel can be taken after every other, and back', async () => {
  const had = await listings();
  const first = (await client.get(`${place}/rulebooks`)).body.items.find((body: Body) => body.inUse).id;
  for (const book of [...books, ...[...books].reverse()]) {
    expect((await client.send('PUT', `${place}/rulebooks/${book}`, { early: true })).status).toBeLessThan(500);
    await client.idle();
    await expectListingsAnew();
  }
  await client.send('PUT', `${place}/rulebooks/${first}`, {});
  await client.idle();
  expect(await listings()).toEqual(had);
});
