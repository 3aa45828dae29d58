/** Pictures: known by content, measured, fit to go out, refused by content; placed by their names, given, used, thrown away. */
import { createServer } from 'node:http';
import { eq } from 'drizzle-orm';
import * as tables from '@velvet-shelf/server/db/schema/index';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { expectListingsAnew } from './anew.js';
import { type Answer, Client, base, db } from './client.js';
import { blank, keeping } from './keeping.js';

const client = new Client();
const { attribute, make } = keeping(client);
type Body = Answer['body'];

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
});
afterAll(() => db.$client.end());

const send = (path: string, body: object): Promise<Answer> => client.send('POST', path, body);
const shot = (width: number, height: number, ground = '#ffffff') =>
  sharp({ create: { width, height, channels: 3, background: ground } })
    .composite([
      {
        input: {
          create: { width: Math.round(width / 2), height: Math.round(height / 2), channels: 3, background: '#205030' },
        },
      },
    ])
    .jpeg();
const bring = (name: string, bytes: Uint8Array): Promise<Answer> => client.uploadOnly(name, bytes, '/api/pictures');
const product = async (id: number): Promise<Body> => (await client.get(`/api/products/${id}`)).body;
const variant = async (sku: string): Promise<Body> =>
  product((await client.get(`/api/search?q=${sku}&only=ordered`)).body.items[0].id);
const picturesOf = async (sku: string): Promise<string> =>
  (await variant(sku)).values.find(({ role }: Body) => role === 'pictures').text;
const media = (name: string, query = '') => fetch(`${base}/media/${encodeURIComponent(name)}${query}`);

describe('a picture that comes', () => {
  it('is measured, kept by its content, and goes out with what it is', async () => {
    const bytes = await shot(800, 600).toBuffer();
    const { status, body } = await bring('pot front.jpg', bytes);
    expect(status).toBe(200);
    expect(body).toMatchObject({
      ...{
        name: 'pot front.jpg',
        format: 'jpeg',
        width: 800,
        height: 600,
        plain: 100,
        blank: 24,
        changes: [],
        used: 0,
      },
    });
    expect((await bring('pot front.jpg', bytes)).body.id).toBe(body.id);
    const answer = await media('pot front.jpg');
    expect([answer.status, answer.headers.get('content-type'), answer.headers.get('x-content-type-options')]).toEqual([
      ...[200, 'image/jpeg', 'nosniff'],
    ]);
    expect(Buffer.from(await answer.arrayBuffer())).toEqual(bytes);
  });

  it('of a name that another has goes by one with a figure; neither is written over', async () => {
    const { body } = await bring('pot front.jpg', await shot(400, 400, '#d0d0d0').toBuffer());
    expect(body.name).toBe('pot front-2.jpg');
    expect((await client.get('/api/pictures?search=pot front')).body.items.map(({ width }: Body) => width)).toEqual([
      ...[400, 800],
    ]);
  });

  it('is turned upright, out of the colours of print, without what the camera wrote', async () => {
    const camera = await shot(300, 200)
      .withExif({ IFD0: { Artist: 'Nobody at all', Orientation: '6' } })
      .withMetadata({ orientation: 6 })
      .toBuffer();
    const { body } = await bring('camera.jpg', camera);
    expect([body.width, body.height]).toEqual([200, 300]);
    expect(body.changes).toContain('turned upright');
    const out = await sharp(Buffer.from(await (await media('camera.jpg')).arrayBuffer())).metadata();
    expect([out.exif, out.orientation ?? 1, out.space]).toEqual([undefined, 1, 'srgb']);
    const print = await bring('print.jpg', await shot(200, 200).toColourspace('cmyk').toBuffer());
    expect(print.body.changes).toContain('colours of print made those of screens');
  });

  it('goes by the end its content has', async () => {
    expect((await bring('cup.jpg', await shot(90, 90).png().toBuffer())).body.name).toBe('cup.png');
    expect((await bring('a|b,c?.JPEG', await shot(91, 90).toBuffer())).body.name).toBe('a-b-c-.JPEG');
  });

  const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>alert(1)</script></svg>';
  it.each<[string, string, string | Uint8Array, string]>([
    ['what draws itself', 'logo.png', svg, 'SVG'],
    ['a page', 'page.jpg', '<html><script>1</script></html>', 'no picture'],
    ['nothing', 'empty.jpg', '', 'no picture'],
    ['the beginning of one', 'cut.jpg', new Uint8Array([255, 216, 255, 224, 0, 16, 74, 70]), 'no picture'],
  ])('is refused where it is %s, and nothing is kept', async (_, name, content, words) => {
    const { status, body } = await bring(
      name,
      typeof content === 'string' ? new TextEncoder().encode(content) : content,
    );
    expect([status, body.detail]).toEqual([400, expect.stringContaining(words)]);
    expect((await client.get(`/api/pictures?search=${name.split('.')[0]}`)).body.items).toEqual([]);
    expect((await media(name)).status).toBe(404);
  });

  it('is fetched from an address; what is private, or no picture, is refused', async () => {
    const bytes = await shot(120, 120).webp().toBuffer();
    const server = createServer((request, answer) => {
      answer.end(request.url === '/there/lamp.webp' ? bytes : '<html>');
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const at = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
    const refused = await send('/api/pictures/fetch', { address: `${at}/there/lamp.webp` });
    expect([refused.status, refused.body.detail]).toEqual([422, expect.stringContaining('private network')]);
    expect((await send('/api/pictures/fetch', { address: 'ftp://example.org/a.jpg' })).status).toBe(422);
    await new Promise((resolve) => server.close(resolve));
  });
});

describe('a rendition', () => {
  it('is made for its rule, once, and kept', async () => {
    const made = async (query: string) => {
      const answer = await media('pot front.jpg', query);
      const { width, height, format } = await sharp(Buffer.from(await answer.arrayBuffer())).metadata();
      return [width, height, format];
    };
    expect(await made('?side=256')).toEqual([256, 192, 'jpeg']);
    expect(await made('?side=256&square=white')).toEqual([256, 256, 'jpeg']);
    expect(await made('?side=2000')).toEqual([800, 600, 'jpeg']);
    expect(await made('?square=clear&format=png')).toEqual([800, 800, 'png']);
    expect(await Promise.all([1, 2, 3].map(() => made('?side=512&format=webp')))).toEqual(
      [1, 2, 3].map(() => [512, 384, 'webp']),
    );
  });

  it('is as light as it is to be, of the size that was promised', async () => {
    const noise = Buffer.from(Array.from({ length: 1200 * 900 * 3 }, (_, i) => (i * 2654435761) >>> 24));
    const heavy = sharp(noise, { raw: { width: 1200, height: 900, channels: 3 } });
    await bring('noise.jpg', await heavy.jpeg({ quality: 95 }).toBuffer());
    const weigh = async (query: string) => (await (await media('noise.jpg', query)).arrayBuffer()).byteLength;
    const whole = await weigh('');
    const light = await weigh('?bytes=500000');
    expect(whole).toBeGreaterThan(500_000);
    expect(light).toBeLessThan(whole);
    const made = await media('noise.jpg', '?bytes=500000&side=1000&square=white');
    const { width, height } = await sharp(Buffer.from(await made.arrayBuffer())).metadata();
    expect([width, height]).toEqual([1000, 1000]);
  });

  it.each(['?side=777', '?bytes=12', '?side=x', '?square=pink', '?format=svg'])('of %s is refused', async (query) => {
    expect((await media('pot front.jpg', query)).status).toBe(400);
  });
});

describe('pictures of goods', () => {
  const sku = 'MS-AMB71-13-HA';

  it('are placed by the numbers in their names, and given behind those there are; undo takes them out', async () => {
    const names = ['MS_AMB71_13_HA-side.jpg', 'MS-AMB71-13-HA back.jpg', 'holiday.jpg'];
    for (const [i, name] of names.entries()) await bring(name, await shot(500 + i, 500).toBuffer());
    const { body } = await send('/api/pictures/place', { names });
    expect(body.items.map(({ name, product: goods, held }: Body) => [name, goods?.sku ?? null, held])).toEqual([
      ['holiday.jpg', null, false],
      ['MS_AMB71_13_HA-side.jpg', sku, false],
      ['MS-AMB71-13-HA back.jpg', sku, false],
    ]);
    const before = await picturesOf(sku);
    const given = body.items.flatMap(({ name, product: goods }: Body) => (goods ? [{ name, product: goods.id }] : []));
    expect((await send('/api/pictures/give', { given })).body.goods).toBe(1);
    expect(await picturesOf(sku)).toBe([before, 'MS_AMB71_13_HA-side.jpg', 'MS-AMB71-13-HA back.jpg'].join(', '));
    expect((await send('/api/pictures/give', { given })).body.goods).toBe(0);
    await client.idle();
    await expectListingsAnew();
    expect((await client.undo()).body.left).toEqual([]);
    expect(await picturesOf(sku)).toBe(before);
  });

  it('may be one for several, and are thrown away only where nothing names them', async () => {
    const goods = await Promise.all([sku, 'MS-AMB71-16-HA'].map(variant));
    const given = goods.map(({ id }) => ({ name: 'holiday.jpg', product: id }));
    expect((await send('/api/pictures/give', { given })).body.goods).toBe(2);
    const [{ id, used }] = (await client.get('/api/pictures?search=holiday')).body.items;
    expect(used).toBe(2);
    expect((await client.get(`/api/pictures/${id}`)).body.goods.map((one: Body) => one.sku).sort()).toEqual([
      ...[sku, 'MS-AMB71-16-HA'],
    ]);
    const refused = await client.send('DELETE', `/api/pictures/${id}`);
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringContaining('2 products')]);
    await client.undo();
    expect((await client.get('/api/pictures?unused=yes&search=holiday')).body.items).toHaveLength(1);
    expect((await client.send('DELETE', `/api/pictures/${id}`)).status).toBe(200);
    expect((await media('holiday.jpg')).status).toBe(404);
  });

  it('are in use whichever attribute of pictures names them', async () => {
    expect((await make({ ...blank, label: 'Plans', type: 'media', many: true })).status).toBe(200);
    const { key } = await attribute('Plans');
    const { body } = await bring('plan.png', await shot(640, 480).png().toBuffer());
    const { id } = await variant(sku);
    const edit = { attribute: key, text: 'plan.png', madeAgainst: null };
    expect((await client.send('PATCH', `/api/products/${id}`, { edits: [edit] })).status).toBe(200);
    expect((await client.get(`/api/pictures/${body.id}`)).body).toMatchObject({ used: 1, goods: [{ id }] });
    expect((await client.send('DELETE', `/api/pictures/${body.id}`)).status).toBe(409);
    await client.undo();
  });

  it('that are named and have not come are listed, and are there for all who name them once they come', async () => {
    const { items } = (await client.get('/api/pictures/missing')).body;
    const [missing] = items as [Body];
    expect(missing.goods).toBeGreaterThan(0);
    const sized = async () => {
      const [row] = await db.select().from(tables.product).where(eq(tables.product.id, missing.product));
      return (row?.facts.pictures as { name: string; width?: number }[]).find(({ name }) => name === missing.name)
        ?.width;
    };
    expect(await sized()).toBe(undefined);
    await bring(missing.name, await shot(910, 910).toBuffer());
    expect(await sized()).toBe(910);
    expect((await client.get('/api/pictures/missing')).body.items).toHaveLength(items.length - 1);
    await client.idle();
    await expectListingsAnew();
  });

  it('are refused where the name is a slip, or the goods are not there', async () => {
    const { id } = await variant(sku);
    expect((await send('/api/pictures/give', { given: [{ name: 'nobody.jpg', product: id }] })).status).toBe(404);
    expect(
      (await send('/api/pictures/give', { given: [{ name: 'pot front.jpg', product: 999_999_999 }] })).status,
    ).toBe(404);
  });

  it('say what is seen on them, in the languages texts are kept in', async () => {
    const [{ id }] = (await client.get('/api/pictures?search=pot front.jpg')).body.items;
    const say = (alt: object) => client.send('PUT', `/api/pictures/${id}/alt`, { alt });
    expect((await say({ 'en-GB': 'A pot from the front', 'de-DE': '' })).body.alt).toEqual({
      'en-GB': 'A pot from the front',
    });
    expect((await say({ 'xx-XX': 'nothing' })).status).toBe(400);
  });
});
