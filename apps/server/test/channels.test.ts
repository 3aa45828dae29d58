/** A place's set-up through the API: categories, fills, rulebooks, each with its effect, its undo and its refusals. */
import { readPublished } from '@velvet-shelf/rulebooks';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
const place = '/api/places/1';
const readyOf = async (): Promise<number> =>
  (await client.get('/api/listings?place=1&readiness=ready&limit=1')).body.total;
const undo = async () => (await client.undo()).body;
const fillOf = async (key: string): Promise<Body> =>
  (await client.get(`${place}/fills`)).body.items.find((body: Body) => body.key === key);
const saveFill = (key: string, fill: unknown) => client.send('PUT', `${place}/fills/${key}`, { fill });

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
});
afterAll(() => db.$client.end());

describe('a place', () => {
  it('is told with its market, its rulebook and totals that add up to its listings', async () => {
    const { items } = (await client.get('/api/places')).body;
    expect(items[0]).toMatchObject({
      channel: 'orrivane',
      language: 'en-GB',
      currency: 'GBP',
      rulebookVersion: '2026.1',
    });
    const sum = items[0].totals.reduce((all: number, row: Body) => all + row.listings, 0);
    expect(sum).toBe((await client.get('/api/listings?place=1&limit=1')).body.total);
  });
  it('that is not there is named', async () => {
    const answer = await client.get('/api/places/99/fills');
    expect(answer.status).toBe(404);
    expect(answer.body.detail).toContain('place 99');
  });
});

describe('listings', () => {
  it('come page by page, each once, in order', async () => {
    const seen: number[] = [];
    let cursor = '';
    do {
      const { body } = await client.get(`/api/listings?place=1&limit=100${cursor && `&cursor=${cursor}`}`);
      seen.push(...body.items.map((body: Body) => body.id));
      cursor = body.next ?? '';
      if (seen.length >= body.total) expect(cursor).toBe('');
    } while (cursor);
    expect(new Set(seen).size).toBe(seen.length);
    expect([...seen].sort((a, b) => a - b)).toEqual(seen);
  });
  it('are found by readiness, and the parts make the whole', async () => {
    const of = async (filter: string) => (await client.get(`/api/listings?place=1&limit=1${filter}`)).body.total;
    const parts = await Promise.all(
      ['ready', 'blocked', 'not for this channel'].map((state) => of(`&readiness=${encodeURIComponent(state)}`)),
    );
    expect(parts.reduce((all, row) => all + row, 0)).toBe(await of(''));
  });
  it('are found by words in any order and case, and by a cause', async () => {
    const { items, total } = (await client.get('/api/listings?search=OC%20ms-hol42&limit=5')).body;
    expect(total).toBeGreaterThan(0);
    for (const row of items) expect(row.sku).toMatch(/^MS-HOL42-.*OC/);
    const blocked = (await client.get('/api/listings?readiness=blocked&limit=1')).body.items[0];
    const { cause } = blocked.findings.find((finding: Body) => finding.severity === 'blocker');
    const found = (await client.get(`/api/listings?cause=${encodeURIComponent(cause)}&limit=20`)).body.items;
    expect(found.map((body: Body) => body.id)).toContain(blocked.id);
    for (const body of found) expect(body.findings.map((each: Body) => each.cause)).toContain(cause);
  });
  it('refuse a readiness there is none of, and say which field', async () => {
    const { status, body } = await client.get('/api/listings?readiness=perhaps');
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toContain('readiness');
  });
});

describe('a category map', () => {
  const map = (maps: { category: string; target: string | null }[]) =>
    client.send('PUT', `${place}/categories`, { maps });
  const rowOf = async (category: string): Promise<Body> =>
    (await client.get(`${place}/categories`)).body.items.find((body: Body) => body.category === category);

  it('puts what is unmapped and has most goods first, with suggestions that say why', async () => {
    const { items } = (await client.get(`${place}/categories`)).body;
    const open = items.filter((row: Body) => row.variants > 0 && (row.target === null || row.fault !== null));
    expect(items.slice(0, open.length)).toEqual(open);
    for (let i = 1; i < open.length; i++) expect(open[i].variants).toBeLessThanOrEqual(open[i - 1].variants);
    const suggested = open.find((row: Body) => row.suggestions.length > 0);
    expect(suggested.suggestions[0].evidence.length).toBeGreaterThan(0);
    const scores = suggested.suggestions.map((suggestion: Body) => suggestion.score);
    expect(scores).toEqual([...scores].sort((a: number, b: number) => b - a));
  });
  it('of values: words of ours come with what they may be, most goods first', async () => {
    const words = async (from: string): Promise<Body[]> =>
      (await client.get(`${place}/fills/differsShade/words?from=${from}`)).body.items;
    const items = await words('glaze');
    const goods = items.map((item) => item.goods);
    expect(goods).toEqual([...goods].sort((a, b) => b - a));
    const sage = items.find(({ name }) => name === 'Sage');
    expect(['moss', 'fern', 'sage']).toContain(sage?.suggestions[0].value);
    expect(sage?.suggestions[0].evidence[0]).toMatch(/looks|same/);
    expect(items.find(({ name }) => name === 'Moss')?.suggestions[0]).toMatchObject({ value: 'moss', score: 100 });
    expect(await words('description')).toEqual([]);
    expect(await words('no-such')).toEqual([]);
    expect((await client.get(`${place}/fills/no-such/words?from=glaze`)).status).toBe(404);
    const key = encodeURIComponent('translate:orrivane::differsShade:Sage');
    const { remedy } = (await client.get(`/api/causes/one?key=${key}`)).body;
    expect(remedy.suggested[0].value).toBe(sage?.suggestions[0].value);
  });
  it('taken away blocks its listings, undone brings them back', async () => {
    const { items } = (await client.get(`${place}/categories`)).body;
    const mapped = items.find((row: Body) => row.target !== null && row.fault === null && row.variants > 0);
    const before = await readyOf();
    const { body } = await map([{ category: mapped.category, target: null }]);
    expect(body.becameBlocked).toBe(before - (await readyOf()));
    expect((await rowOf(mapped.category)).target).toBeNull();
    expect((await client.newest()).words).toContain('away');
    expect((await undo()).left).toEqual([]);
    await client.idle();
    expect((await rowOf(mapped.category)).target).toBe(mapped.target);
    expect(await readyOf()).toBe(before);
  });
  it('tried says what it would do, saves nothing, and what it said then happens', async () => {
    // The second version asks for a category; the first only recommends one.
    const versions: Body[] = (await client.get(`${place}/rulebooks`)).body.items;
    const take = async (version: string) => {
      const { id } = versions.find((body) => body.version === version);
      await client.send('PUT', `${place}/rulebooks/${id}`, { early: true });
      await client.idle();
    };
    await take('2026.2');
    const { items } = (await client.get(`${place}/categories`)).body;
    const { category } = (await client.get('/api/listings?place=1&readiness=ready&limit=1')).body.items[0];
    const mapped: Body[] = items.filter((row: Body) => row.target === category);
    const maps = mapped.map((row) => ({ category: row.category, target: null }));
    const before = await readyOf();
    const { body: tried } = await client.send('POST', `${place}/categories/try`, { maps });
    expect(tried.becameBlocked).toBeGreaterThan(0);
    expect(await readyOf()).toBe(before);
    expect((await rowOf(maps[0]?.category)).target).toBe(category);
    expect((await map(maps)).body).toMatchObject({ becameBlocked: tried.becameBlocked });
    await undo();
    await client.idle();
    expect(await readyOf()).toBe(before);
    await take('2026.1');
  });
  it('to a level the channel does not take is kept and named as a fault; undo of an older map leaves the newer', async () => {
    const { items } = (await client.get(`${place}/categories`)).body;
    const mapped = items.find((row: Body) => row.target !== null && row.fault === null && row.variants > 0);
    const above = mapped.target.slice(0, mapped.target.lastIndexOf('/'));
    await map([{ category: mapped.category, target: above }]);
    const first = await client.newest();
    expect((await rowOf(mapped.category)).fault).toContain('last level');
    await map([{ category: mapped.category, target: mapped.target }]);
    const { left } = (await client.undo(first.id)).body;
    expect(left).toEqual([`${mapped.category}: mapped again since`]);
    expect((await rowOf(mapped.category)).target).toBe(mapped.target);
  });
  it('offers the channel’s tree, whose paths are what maps take', async () => {
    const { items, leafOnly } = (await client.get(`${place}/tree`)).body;
    expect(leafOnly).toBe(true);
    expect(items.length).toBeGreaterThan(240);
    for (const row of items) expect(row.names.length).toBe(row.path.split('/').length);
    const paths = new Set(items.map((row: Body) => row.path));
    for (const { path } of items.filter((row: Body) => row.path.includes('/')))
      expect(paths.has(path.slice(0, path.lastIndexOf('/')))).toBe(true);
  });
});

describe('a fill', () => {
  it('is told with its limits, sources and samples, and counts listings with and without a value', async () => {
    const title = await fillOf('short');
    expect(title).toMatchObject({ need: 'required', fill: { rule: { kind: 'copy', from: 'title' } } });
    expect(title.limits).toContain('12–110 characters');
    expect(title.samples.length).toBeGreaterThan(3);
    expect(title.sources.map((source: Body) => source.name)).toContain('title');
    expect(title.filled).toBeGreaterThan(0);
  });
  it('tried gives samples and saves nothing', async () => {
    const fill = { rule: { kind: 'compose', parts: [{ from: 'brand' }, { from: 'title', before: ' – ' }] }, fit: [] };
    const { body } = await client.send('POST', `${place}/fills/short/try`, { fill });
    for (const sample of body.samples) expect(sample.value).toContain(' – ');
    expect((await fillOf('short')).fill.rule.kind).toBe('copy');
  });
  it('tried says what becomes of listings, and shows kinds of goods that differ', async () => {
    // It fills all of them, and blocks them all: "filled" alone would hide it.
    const fill = { rule: { kind: 'fixed', value: 'as good as new' }, fit: [] };
    const before = await readyOf();
    const { body } = await client.send('POST', `${place}/fills/grade/try`, { fill });
    expect(body.missing).toBe(0);
    expect(body.effect).toMatchObject({ becameReady: 0, becameBlocked: before });
    expect((await fillOf('grade')).effect).toBeNull();
    const mixed = await fillOf('gtin');
    const kinds = new Set(
      mixed.samples.map((sample: Body) => (sample.fault ? 'fault' : sample.value === null ? 'empty' : 'filled')),
    );
    expect(kinds.size).toBeGreaterThan(1);
  });
  it('fitted to length cuts at a word and takes the fault away that it is for', async () => {
    const fill = { rule: { kind: 'copy', from: 'title' }, fit: [{ do: 'trim-at-word', length: 20 }] };
    const { body } = await client.send('POST', `${place}/fills/short/try`, { fill });
    for (const { value, title } of body.samples) {
      expect(value.length).toBeLessThanOrEqual(20);
      expect(title.startsWith(value)).toBe(true);
    }
  });
  it('taken away blocks what needs it, and says so; undone, all is as before', async () => {
    const before = await readyOf();
    const was = (await fillOf('maker')).fill;
    const { body } = await saveFill('maker', null);
    expect(body).toMatchObject({ becameReady: 0, becameBlocked: before });
    expect((await client.newest()).words).toContain('away');
    const listing = (await client.get('/api/listings?place=1&readiness=blocked&limit=1')).body.items[0];
    expect(listing.findings.map((finding: Body) => finding.cause)).toContain('fill:orrivane::maker');
    expect((await undo()).left).toEqual([]);
    await client.idle();
    expect(await readyOf()).toBe(before);
    expect((await fillOf('maker')).fill).toEqual(was);
  });
  it('changed twice is undone in turn; the older undone first leaves the newer and says so', async () => {
    const was = (await fillOf('grade')).fill;
    await saveFill('grade', { rule: { kind: 'fixed', value: 'opened' }, fit: [] });
    const older = await client.newest();
    await saveFill('grade', { rule: { kind: 'fixed', value: 'mended' }, fit: [] });
    const { left } = (await client.undo(older.id)).body;
    expect(left).toEqual(['the fill of grade: changed since']);
    await saveFill('grade', was);
    await client.idle();
  });
  it('of a wrong kind is refused, with the place where; one the channel has not is named', async () => {
    const wrong = await saveFill('short', { rule: { kind: 'guess' }, fit: [] });
    expect(wrong.status).toBe(400);
    expect(JSON.stringify(wrong.body)).toContain('/body/fill');
    const short = await saveFill('short', {
      rule: { kind: 'copy', from: 'title' },
      fit: [{ do: 'trim-at-word', length: 0 }],
    });
    expect(short.status).toBe(400);
    const strange = {
      rule: {
        kind: 'when',
        cases: [{ if: { attribute: 'moonlight', op: 'isNotEmpty' }, then: { kind: 'fixed', value: 'x' } }],
        otherwise: null,
      },
      fit: [],
    };
    for (const { status, body } of [
      await saveFill('short', strange),
      await client.send('POST', `${place}/fills/short/try`, { fill: strange }),
    ]) {
      expect(status).toBe(400);
      expect(body.detail).toContain('compares “moonlight”, which is no attribute');
    }
    const missing = await saveFill('smell', { rule: { kind: 'fixed', value: 'pine' }, fit: [] });
    expect(missing.status).toBe(404);
    expect(missing.body.detail).toContain('“smell”');
  });
});

describe('a rulebook', () => {
  const books = async (): Promise<Body[]> => (await client.get(`${place}/rulebooks`)).body.items;
  const read = async (): Promise<Body> => JSON.parse(readPublished('orrivane-2026.2.json'));
  const load = (rulebook: unknown) => client.send('POST', `${place}/rulebooks`, { rulebook });

  it('is refused where it is none, is another channel’s, or is there already', async () => {
    const none = await load({ channel: 'orrivane' });
    expect(none.status).toBe(400);
    expect(none.body.errors.length).toBeGreaterThan(2);
    const other = await load({ ...(await read()), channel: 'quernby' });
    expect(other.body.detail).toContain('“quernby”');
    const again = await load(await read());
    expect(again.body.detail).toContain('is loaded already');
  });
  it('loaded anew says how it differs; tried, nothing is changed; taken, listings follow it', async () => {
    const next = await read();
    next.version = '2026.3';
    next.attributes.find((attribute: Body) => attribute.key === 'short').limits.maxLength = 12;
    expect((await load(next)).body).toEqual({ version: '2026.3' });
    const third = (await books()).find((book) => book.version === '2026.3');
    expect(third?.changes.find((change: Body) => change.key === 'short').words).toContain(
      'longest length now 12, was 110',
    );
    const before = await readyOf();
    const { body: tried } = await client.send('POST', `${place}/rulebooks/${third?.id}/try`);
    expect(await readyOf()).toBe(before);
    expect(tried.becameBlocked).toBeGreaterThan(100);
    expect(tried.causes[0].listings).toBeGreaterThan(100);
    await client.send('PUT', `${place}/rulebooks/${third?.id}`, { early: true });
    await client.idle();
    expect(await readyOf()).toBe(before - tried.becameBlocked + tried.becameReady);
    const first = (await books()).find((book) => book.version === '2026.1');
    await client.send('PUT', `${place}/rulebooks/${first?.id}`, {});
    await client.idle();
    expect(await readyOf()).toBe(before);
  });
  it('that holds from a later day is taken before it only by somebody who says that she means it', async () => {
    await load({ ...(await read()), version: '2999.1', validFrom: '2999-01-01' });
    const later = (await books()).find((book) => book.version === '2999.1');
    const asked = await client.send('PUT', `${place}/rulebooks/${later?.id}`, {});
    expect([asked.status, asked.body.detail]).toEqual([409, expect.stringContaining('holds from 2999-01-01')]);
    expect((await books()).find((book) => book.inUse)?.version).toBe('2026.1');
    expect((await client.send('PUT', `${place}/rulebooks/${later?.id}`, { early: true })).status).toBe(200);
    const { body } = await client.get('/api/actions');
    await client.send('POST', `/api/actions/${body.items[0].id}/undo`);
    await client.idle();
    expect((await books()).find((book) => book.inUse)?.version).toBe('2026.1');
  });
  it('that is not this channel’s is named', async () => {
    const { status, body } = await client.send('PUT', `${place}/rulebooks/999`, {});
    expect(status).toBe(404);
    expect(body.detail).toContain('rulebook 999');
  });
});

describe('a viewer', () => {
  it('looks at all of it and changes nothing', async () => {
    const viewer = new Client();
    const { status } = await viewer.signIn('viewer@mosswick.example');
    expect(status).toBe(200);
    for (const path of ['/categories', '/tree', '/fills', '/rulebooks'])
      expect((await viewer.get(`${place}${path}`)).status).toBe(200);
    const fill = { rule: { kind: 'fixed', value: 'x' }, fit: [] };
    expect((await viewer.send('PUT', `${place}/fills/title`, { fill })).status).toBe(403);
    const maps = [{ category: 'Pots', target: null }];
    expect((await viewer.send('PUT', `${place}/categories`, { maps })).status).toBe(403);
    expect((await viewer.send('PUT', `${place}/rulebooks/1`, {})).status).toBe(403);
  });
});

describe('a category as JSON Schema', () => {
  const pots = 'plants-growing/pots-planters/indoor-pots';
  const inUse = async (): Promise<Body> =>
    (await client.get(`${place}/rulebooks`)).body.items.find((body: Body) => body.inUse);

  it('is written with what it does not say, and read into a version of its own', async () => {
    const { id } = await inUse();
    const { status, body } = await client.get(`${place}/rulebooks/${id}/schema?category=${pots}`);
    expect([status, body.schema.type, body.schema.required]).toEqual([200, 'object', expect.arrayContaining(['own'])]);
    expect(body.left).toContain('The rule told-by');
    const schema = { ...body.schema, properties: { ...body.schema.properties, depth: { type: 'number', minimum: 1 } } };
    const made = await client.send('POST', `${place}/rulebooks/${id}/schema`, {
      ...{ category: pots, version: 'with depth', schema },
    });
    expect([made.status, made.body.version]).toEqual([200, 'with depth']);
    const { items } = (await client.get(`${place}/rulebooks`)).body;
    const next = items.find(({ version }: Body) => version === 'with depth');
    expect(next.inUse).toBe(false);
    expect(next.changes.find(({ key }: Body) => key === 'depth')).toMatchObject({ part: 'attribute', kind: 'added' });
  });

  it('is refused where there is no such category, version or schema, and nothing is loaded', async () => {
    const { id } = await inUse();
    const before = (await client.get(`${place}/rulebooks`)).body.items.length;
    const path = `${place}/rulebooks/${id}/schema`;
    const body = { category: pots, version: 'no', schema: { properties: { a: { type: 'string' } } } };
    const refused = [
      await client.get(`${path}?category=nowhere`),
      await client.send('POST', path, { ...body, category: 'nowhere' }),
      await client.send('POST', path, { ...body, version: 'with depth' }),
      await client.send('POST', path, { ...body, schema: { properties: { a: { minLength: -1 } } } }),
    ];
    expect(refused.map(({ status }) => status)).toEqual([400, 400, 400, 400]);
    expect(refused[3]?.body.errors[0].detail).toContain('properties.a.minLength');
    expect((await client.get(`${place}/rulebooks/999999/schema`)).status).toBe(404);
    expect((await client.get(`${place}/rulebooks`)).body.items).toHaveLength(before);
  });

  it('is of a format that is told itself', async () => {
    const { body } = await client.get('/api/rulebook-format');
    expect(body.required).toEqual(expect.arrayContaining(['channel', 'attributes', 'exchange']));
  });
});

describe('variants that nothing tells apart', () => {
  it('are offered the axis that tells them, and what was tried then happens', async () => {
    const { items } = (await client.get('/api/causes')).body;
    const cause = items.find((row: Body) => row.kind === 'axis');
    const query = `?key=${encodeURIComponent(cause.key)}`;
    const { body: told } = await client.get(`/api/causes/one${query}`);
    expect(told.remedy.kind).toBe('choose');
    const [best] = told.remedy.suggested;
    expect(best.evidence[0]).toMatch(/^tells \d+ of \d+ from all their siblings$/);
    const fix = { kind: 'choose', value: best.value };
    const { body: tried } = await client.send('POST', `/api/causes/try${query}`, fix);
    expect(tried.becameReady).toBeGreaterThan(0);
    const before = await readyOf();
    await client.send('POST', `/api/causes/fix${query}`, fix);
    await client.idle();
    expect(await readyOf()).toBe(before + tried.becameReady - tried.becameBlocked);
    await undo();
    await client.idle();
    expect(await readyOf()).toBe(before);
    const wrong = await client.send('POST', `/api/causes/try${query}`, { kind: 'choose', value: 'smell=options' });
    expect([wrong.status, wrong.body.detail]).toEqual([400, 'Choose what tells the variants apart']);
  });
});
