/** Files that are no pictures: kept by content, named by goods, handed out to be saved. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, base, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

const sheet = '%PDF-1.4\nA sheet\n%%EOF\n';
let id: number;
const held = async (name: string): Promise<Body | undefined> =>
  (await client.get(`/api/files?search=${encodeURIComponent(name)}`)).body.items.find(
    (file: Body) => file.name === name,
  );
const send = (name: string, text: string) => client.uploadOnly(name, new TextEncoder().encode(text), '/api/files');
const say = async (text: string | null, madeAgainst: string | null) =>
  client.send('PATCH', `/api/products/${id}`, { edits: [{ attribute: 'safetySheet', text, madeAgainst }] });

beforeAll(async () => {
  await client.signIn();
  const { body } = await client.send('POST', '/api/products', {
    shared: [{ attribute: 'title', text: 'Filed soap' }],
    axes: [],
    variants: [{ sku: 'FI-1', options: [], price: '5', stock: '2' }],
  });
  id = body.product;
});
afterAll(() => db.$client.end());

describe('a file', () => {
  it('named by goods before it came is missing, and then theirs', async () => {
    await say('soap-sheet.pdf', null);
    const { items } = (await client.get('/api/files/missing')).body;
    expect(items).toContainEqual({ name: 'soap-sheet.pdf', goods: 1, product: id });
    const { status, body } = await send('soap-sheet.pdf', sheet);
    expect([status, body]).toMatchObject([200, { name: 'soap-sheet.pdf', type: 'application/pdf', used: 1 }]);
    expect((await client.get('/api/files/missing')).body.items).not.toContainEqual(
      expect.objectContaining({ name: 'soap-sheet.pdf' }),
    );
  });
  it('is handed out to be saved, with no more said of it than what it is', async () => {
    const answer = await fetch(`${base}/files/soap-sheet.pdf`);
    expect(await answer.text()).toBe(sheet);
    expect(Object.fromEntries(answer.headers)).toMatchObject({
      'content-type': 'application/pdf',
      'content-disposition': 'attachment; filename="soap-sheet.pdf"',
      'x-content-type-options': 'nosniff',
    });
    const tag = answer.headers.get('etag') ?? '';
    const again = await fetch(`${base}/files/soap-sheet.pdf`, {
      headers: { 'if-none-match': tag, 'cache-control': 'max-age=0' },
    });
    expect(again.status).toBe(304);
  });
  it('that would be a page is bytes alone', async () => {
    expect((await send('page.html', '<script>alert(1)</script>')).status).toBe(200);
    const answer = await fetch(`${base}/files/page.html`);
    expect(answer.headers.get('content-type')).toBe('application/octet-stream');
    expect(answer.headers.get('content-disposition')).toContain('attachment');
    expect(answer.headers.get('content-security-policy')).toContain('sandbox');
  });
  it('of a name that another has goes by the name with a figure; the same content is kept once', async () => {
    const { body: other } = await send('soap-sheet.pdf', `${sheet}other`);
    expect(other.name).toBe('soap-sheet-2.pdf');
    expect((await send('soap-sheet.pdf', sheet)).body.id).toBe((await held('soap-sheet.pdf'))?.id);
    const { body: twin } = await send('twin.pdf', sheet);
    expect((await client.send('DELETE', `/api/files/${twin.id}`)).status).toBe(200);
    expect((await fetch(`${base}/files/soap-sheet.pdf`)).status).toBe(200);
  });
  it('that is empty is refused, and so is one whose name is a path', async () => {
    expect((await send('nothing.pdf', '')).body.detail).toContain('is empty');
    const { body } = await send('../../etc/passwd', 'root');
    expect(body.name).toBe('passwd');
    expect((await fetch(`${base}/files/..%2F..%2Fetc%2Fpasswd`)).status).toBe(404);
  });
  it('that goods name is not thrown away, one that nothing names is', async () => {
    const file = await held('soap-sheet.pdf');
    const refused = await client.send('DELETE', `/api/files/${file?.id}`);
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringContaining('a file of 1 product')]);
    await say(null, 'soap-sheet.pdf');
    expect((await client.send('DELETE', `/api/files/${file?.id}`)).status).toBe(200);
    expect((await fetch(`${base}/files/soap-sheet.pdf`)).status).toBe(404);
  });
});
