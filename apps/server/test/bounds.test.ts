/** Who may do what, and what bad requests and wrong files get: a clear problem, and nothing changed. */
import { beforeAll, describe, expect, it } from 'vitest';
import { Client, base } from './client.js';

const client = new Client();
beforeAll(async () => void (await client.signIn()));

describe('sessions', () => {
  it('sets an HttpOnly SameSite cookie, and refuses a wrong password in plain words', async () => {
    const good = await new Client().signIn();
    expect(good.headers.get('set-cookie')).toMatch(/httponly/i);
    expect(good.headers.get('set-cookie')).toMatch(/samesite=lax/i);
    const bad = await new Client().signIn('iris@mosswick.example', 'wrong');
    expect(bad.status).toBe(401);
    expect(bad.headers.get('content-type')).toContain('application/problem+json');
  });
  it('answers nothing without one', async () => {
    expect((await new Client().get('/api/places')).status).toBe(401);
    expect((await new Client().get('/api/batches/1/refused.csv')).status).toBe(401);
  });
  it('ends when signed out', async () => {
    const other = new Client();
    await other.signIn();
    await other.send('DELETE', '/api/session');
    expect((await other.get('/api/session')).status).toBe(401);
  });
  it('lets a viewer look and change nothing', async () => {
    const viewer = new Client();
    await viewer.signIn('viewer@mosswick.example');
    expect((await viewer.get('/api/places')).status).toBe(200);
    expect((await viewer.send('POST', '/api/feeds', { placeId: 1, format: 'xml' })).status).toBe(403);
    expect((await viewer.upload('a.csv', new TextEncoder().encode('a;b\n1;2\n'))).status).toBe(403);
  });
  it('takes no change that another site’s page sends', async () => {
    const answer = await client.send(
      'POST',
      '/api/feeds',
      { placeId: 1, format: 'xml' },
      { origin: 'http://elsewhere.example' },
    );
    expect(answer.status).toBe(403);
  });
});

describe('bad requests', () => {
  it('point at each wrong field', async () => {
    const answer = await client.send('POST', '/api/feeds', { placeId: 'x', format: 'pdf' });
    expect(answer.status).toBe(400);
    expect(answer.body.errors.map((error: { pointer: string }) => error.pointer)).toEqual([
      '/body/placeId',
      '/body/format',
    ]);
  });
  it('say what is not there', async () => {
    expect((await client.get('/api/products/999999')).status).toBe(404);
    expect((await client.get('/api/nothing')).body.detail).toContain('/api/nothing');
    expect((await client.get('/api/batches/abc')).status).toBe(400);
  });
  it('name an attribute nobody knows, and a broken condition', async () => {
    const answer = await client.send('POST', '/api/views', {
      condition: { attribute: 'nothing', op: 'is', value: 'x' },
    });
    expect(answer.body.detail).toContain('nothing');
    expect((await client.send('POST', '/api/views', { condition: { op: 'is' } })).status).toBe(400);
  });
  it.each([
    ['/assets/of-an-older-build.js', 404],
    ['/assets/%E0%A4%A', 400],
    ['/media/%E0%A4%A', 404],
    ['/media/nobody.jpg', 404],
    ['/api/products/%E0%A4%A', 400],
  ])('%s is answered with %d', async (path, status) => {
    const answer = await client.get(path);
    expect([answer.status, answer.headers.get('content-type')]).toEqual([
      status,
      expect.stringContaining('problem+json'),
    ]);
  });
  it('are refused when the body is no JSON', async () => {
    const answer = await fetch(`${base}/api/session`, {
      method: 'POST',
      body: '{',
      headers: { 'content-type': 'application/json' },
    });
    expect(answer.status).toBe(400);
  });
});

describe('matching, trust, pulls and exports', () => {
  it('need a session, and let a viewer look and decide nothing', async () => {
    for (const path of ['/api/matches', '/api/trust', '/api/pulls', '/api/export?format=csv'])
      expect((await new Client().get(path)).status).toBe(401);
    const viewer = new Client();
    await viewer.signIn('viewer@mosswick.example');
    expect((await viewer.get('/api/matches')).status).toBe(200);
    expect((await viewer.send('POST', '/api/matches/decide', { verdict: 'same', above: 90 })).status).toBe(403);
    expect((await viewer.send('PUT', '/api/trust', { attribute: 'weight', policy: 'highest' })).status).toBe(403);
    expect((await viewer.send('POST', '/api/pulls/1/start')).status).toBe(403);
  });
  it('say what is wrong with a wish', async () => {
    expect((await client.send('POST', '/api/matches/decide', { verdict: 'same' })).body.detail).toContain(
      'Name the pairs',
    );
    expect(
      (await client.send('POST', '/api/matches/decide', { verdict: 'maybe', above: 90 })).body.errors[0].pointer,
    ).toBe('/body/verdict');
    expect((await client.send('POST', '/api/products/999999/split', { records: [1] })).status).toBe(404);
    expect((await client.send('PUT', '/api/trust', { attribute: 'nothing', policy: 'highest' })).body.detail).toContain(
      'nothing',
    );
    expect((await client.send('PUT', '/api/trust', {})).body.detail).toContain('general order');
    expect((await client.get('/api/export?format=pdf')).body.detail).toContain('format');
    expect((await client.get('/api/export?format=csv&view=gone')).status).toBe(404);
    expect(
      (await client.send('POST', '/api/pulls', { supplierId: 1, name: 'x', address: 'ftp://x' })).body.detail,
    ).toContain('is no address');
    expect((await client.send('POST', '/api/suppliers', { name: 'Brackwater' })).status).toBe(409);
  });
  it('answer an empty catalogue with its columns alone', async () => {
    const text = (await client.get('/api/export?format=csv')).body as string;
    expect(text.split('\r\n').filter(Boolean).length).toBe(1);
    expect(text).toContain('shelf-id,sku,title@en-GB');
    expect(text).toContain('suppliers,articleNumbers');
  });
});

describe('batches in the wrong state', () => {
  it('cannot be picked from, corrected, cancelled or applied before they are tried', async () => {
    const { body } = await client.uploadText('early.csv', 'SKU;Name\nE-1;One\n');
    const path = `/api/batches/${body.id}`;
    expect((await client.send('POST', `${path}/left-out`, { leftOut: true, rows: [2] })).body.detail).toContain(
      'only a batch that was tried',
    );
    expect((await client.send('PUT', `${path}/rows/2`, { cells: { Name: 'x' } })).status).toBe(409);
    expect((await client.send('POST', `${path}/cancel`)).body.detail).toContain('nothing to cancel');
    expect((await client.send('POST', `${path}/apply`)).body.detail).toContain('Try the batch first');
    expect((await client.send('POST', `${path}/undo`)).status).toBe(409);
  });
  it('take no column the file does not have, and no reading of another format', async () => {
    const { body } = await client.uploadText('odd.csv', 'SKU;Name\nO-1;One\n');
    const path = `/api/batches/${body.id}/reading`;
    expect((await client.send('PUT', path, { map: [{ column: 'Nr', target: { to: 'key' } }] })).body.detail).toContain(
      'no column “Nr”',
    );
    expect((await client.send('PUT', path, { reading: { format: 'pdf' } })).status).toBe(400);
    const asJson = {
      format: 'json',
      encoding: 'utf-8',
      itemPath: '',
      variantPath: null,
      decimal: '.',
      dateOrder: 'ymd',
    };
    expect((await client.send('PUT', path, { reading: asJson })).status).toBe(422);
  });
});

describe('wrong files', () => {
  const text = (content: string) => new TextEncoder().encode(content);
  it.each([
    ['empty.csv', new Uint8Array(), 422, 'empty'],
    ['picture.csv', Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a), 422, 'PNG'],
    ['workbook.csv', Uint8Array.of(0x50, 0x4b, 3, 4, 20, 0, 6, 0), 422, 'XLSX workbook or ZIP archive, but damaged'],
    ['old-workbook.csv', Uint8Array.of(0xd0, 0xcf, 0x11, 0xe0, 1), 422, 'save it as XLSX'],
    ['prose.csv', text('just a line of words\nand another\n'), 400, 'no table'],
    ['header-only.csv', text('sku;name\n'), 400, 'no rows below the header'],
    ['large.csv', text(`sku;name\n${'x'.repeat(5_100_000)}`), 413, 'larger than 5 MB'],
  ])('%s gets a clear message and changes nothing', async (name, bytes, status, words) => {
    const before = (await client.get('/api/batches')).body.items.length;
    const answer = await client.upload(name, bytes);
    expect(answer.status).toBe(status);
    expect(answer.body.detail).toContain(words);
    expect((await client.get('/api/batches')).body.items.length).toBe(before);
  });
  it('of a supplier there is none of are named, dropped, given over or pulled', async () => {
    const form = new FormData();
    form.append('supplier', '4321');
    form.append('file', new Blob(['Article;Name\n1;Pot\n2;Cup\n']), 'a.csv');
    const dropped = await client.send('POST', '/api/batches', form);
    expect([dropped.status, dropped.body.detail]).toEqual([400, 'There is no supplier 4321']);
    const { body } = await client.uploadText('a.csv', 'Article;Name\n1;Pot\n2;Cup\n');
    const given = await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: 4321 });
    expect([given.status, given.body.detail]).toEqual([400, 'There is no supplier 4321']);
    const pulled = await client.send('POST', '/api/pulls', {
      supplierId: 4321,
      name: 'A shop',
      address: 'http://shop.example/goods',
      schedule: null,
    });
    expect([pulled.status, pulled.body.detail]).toEqual([400, 'There is no supplier 4321']);
  });
  it('a request without a file says so', async () => {
    expect((await client.send('POST', '/api/batches', {})).status).toBe(400);
  });
});

it('describes itself as OpenAPI', async () => {
  const { body } = await new Client().get('/api/openapi.json');
  expect(body.openapi).toBe('3.1.0');
  expect(Object.keys(body.paths).length).toBeGreaterThan(30);
  expect(body.paths['/api/products/{id}'].patch.requestBody).toBeDefined();
});
