/** Two suppliers that are one: what the first told is told by the other, and parted again as it was. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

beforeAll(() => client.signIn());
afterAll(() => db.$client.end());

const bring = async (supplierId: number, name: string, text: string): Promise<number> => {
  const { body } = await client.uploadText(name, text);
  await client.correct(body.id, { supplierId });
  await client.tried(body.id);
  await client.applied(body.id);
  return body.id;
};
const suppliers = async (): Promise<Body[]> => (await client.get('/api/suppliers')).body.items;
const goods = async (search: string): Promise<Body[]> => {
  const { token } = (await client.send('POST', '/api/views', { search, show: 'variants', everything: true })).body;
  const { items } = (await client.get(`/api/views/${token}/rows?from=0&count=50`)).body;
  return Promise.all(items.map(async ({ id }: Body) => (await client.get(`/api/products/${id}`)).body));
};
const told = async (search: string) =>
  (await goods(search))
    .map(({ title, family, sources }) => ({
      title,
      family: family?.id ?? null,
      sources: sources.map(({ supplier, key }: Body) => `${supplier} ${key}`),
    }))
    .sort((a, b) => a.sources.join().localeCompare(b.sources.join()));
const merge = (id: number, into: number) => client.send('POST', `/api/suppliers/${id}/merge`, { into });
const done = () => client.until('/api/shelf', ({ jobs }) => jobs.length === 0);

describe('two suppliers made one', () => {
  const head = 'Article,Name,Price,Group,Width\n';
  let from: number;
  let into: number;
  let before: Body;

  beforeAll(async () => {
    from = await client.supplier('Fernhill Linen Ltd');
    into = await client.supplier('Fernhill Linen');
    await bring(
      into,
      'fern-new.csv',
      `${head}FH-1,Fernhill towel one,9.90,FT,50 cm\nFH-2,Fernhill towel two,11.90,FT,70 cm\n`,
    );
    await bring(
      from,
      'fern-old.csv',
      `${head}FH-2,Fernhill towel second,12.50,FT,70 cm\nFH-3,Fernhill towel three,14.50,FT,90 cm\nFH-4,Fernhill mat,8,FM,40 cm\n`,
    );
    before = await told('Fernhill');
  });

  it('are refused where they are the same, gone, or our own sheet', async () => {
    const [own] = (await suppliers()).filter(({ kind }) => kind === 'own');
    expect((await merge(from, from)).status).toBe(400);
    expect((await merge(own.id, into)).body.detail).toContain('own sheet');
    expect((await merge(999_999, into)).status).toBe(404);
  });
  it('wait for what is being tried', async () => {
    const { body } = await client.uploadText('fern-wait.csv', `${head}FH-9,Fernhill waiting,1,,\n`);
    await client.correct(body.id, { supplierId: from });
    await client.tried(body.id);
    const refused = await merge(from, into);
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringContaining('fern-wait.csv is tried')]);
    await client.send('DELETE', `/api/batches/${body.id}`);
  });
  it('are one: each article once, in one family, told by the newer file', async () => {
    expect((await merge(from, into)).status).toBe(200);
    await done();
    expect((await suppliers()).some(({ id }) => id === from)).toBe(false);
    expect((await suppliers()).find(({ id }) => id === into).records).toBe(4);
    const now = await told('Fernhill');
    expect(now.map(({ sources }) => sources)).toEqual([
      ['Fernhill Linen FH-1'],
      ['Fernhill Linen FH-2'],
      ['Fernhill Linen FH-3'],
      ['Fernhill Linen FH-4'],
    ]);
    expect(now[1]?.title).toBe('Fernhill towel second');
    expect(new Set(now.slice(0, 3).map(({ family }) => family)).size).toBe(1);
    expect((await merge(from, into)).status).toBe(409);
  });
  it('are read as one: a file of either is the other’s', async () => {
    const { body } = await client.uploadText('fern-again.csv', `${head}FH-3,Fernhill towel three,15,FT,90 cm\n`);
    expect(body.supplier).toBe('Fernhill Linen');
    expect((await client.tried(body.id)).counts).toMatchObject({ created: 0, changed: 1 });
    await client.send('DELETE', `/api/batches/${body.id}`);
  });
  it('are two again with the undo, and everything as it was', async () => {
    const action = (await client.get('/api/actions')).body.items.find(({ kind }: Body) => kind === 'merge-suppliers');
    expect((await client.undo(action.id)).body.left).toEqual([]);
    await done();
    expect(await told('Fernhill')).toEqual(before);
    expect((await suppliers()).filter(({ name }) => name.startsWith('Fernhill')).map(({ records }) => records)).toEqual(
      [3, 2],
    );
  });
});
