/** Goods taken away by a person: hidden and not deleted, back with the undo or with a source that lists them again. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

beforeAll(() => client.signIn());
afterAll(() => db.$client.end());

const title = (text: string) => ({ attribute: 'title', text });
const make = async (body: object): Promise<number> =>
  (await client.send('POST', '/api/products', { shared: [], axes: [], ...body })).body.product;
const product = (id: number) => client.get(`/api/products/${id}`);
const remove = (id: number) => client.send('DELETE', `/api/products/${id}`);
const found = async (search: string): Promise<number> => {
  const { token, isLike } = (await client.send('POST', '/api/views', { search, everything: true })).body;
  // Where nothing has it, what is like it is shown.
  return isLike ? 0 : (await client.get(`/api/views/${token}/counts`)).body.variants;
};
const runner = (sku: string, span: string) => ({ sku, options: [span], stock: '4', price: '12.5' });

describe('a product taken away', () => {
  let family: number;
  let siblings: Body[];
  beforeAll(async () => {
    family = await make({
      shared: [title('Cord mat')],
      axes: ['Span'],
      variants: [runner('MAT-1', '1 m'), runner('MAT-2', '2 m'), runner('MAT-3', '3 m')],
    });
    siblings = (await product(family)).body.siblings;
  });
  const idOf = (sku: string): number => siblings.find((one) => one.sku === sku).id;

  it('says first what goes with it', async () => {
    const { body } = await client.get(`/api/products/${family}/removal`);
    expect(body).toMatchObject({ variants: 3, stock: 12, edits: 0, known: [] });
    expect(body.sources.map(({ records }: Body) => records)).toEqual([3]);
  });
  it('is gone everywhere, and its siblings stay', async () => {
    expect((await remove(idOf('MAT-2'))).status).toBe(200);
    const gone = await product(idOf('MAT-2'));
    expect([gone.status, gone.body.detail]).toEqual([404, expect.stringContaining('taken away')]);
    expect((await product(family)).body.siblings.map(({ sku }: Body) => sku).sort()).toEqual(['MAT-1', 'MAT-3']);
    expect(await found('MAT-2')).toBe(0);
    expect((await remove(idOf('MAT-2'))).status).toBe(404);
  });
  it('comes back with the undo, as it was', async () => {
    expect((await client.undo()).body.left).toEqual([]);
    const { body } = await product(idOf('MAT-2'));
    expect([body.sku, body.stock, body.options, body.family.id]).toEqual(['MAT-2', 4, [['span', '2 m']], family]);
    expect(Object.values<Body>(body.price)[0].regular).toMatch(/^12\.5/);
    expect(await found('MAT-2')).toBe(1);
  });
  it('keeps what a person set, and takes the family with the last of its variants', async () => {
    const edit = { attribute: 'material', text: 'jute', madeAgainst: null };
    await client.send('PATCH', `/api/products/${idOf('MAT-3')}`, { edits: [edit] });
    const actions: number[] = [];
    for (const sku of ['MAT-1', 'MAT-2', 'MAT-3']) {
      expect((await remove(idOf(sku))).status).toBe(200);
      actions.push((await client.newest()).id);
    }
    expect((await product(family)).status).toBe(404);
    expect(await found('Cord mat')).toBe(0);
    for (const action of actions.reverse()) await client.undo(action);
    const whole = (await product(family)).body;
    expect(whole.siblings.map(({ sku }: Body) => sku).sort()).toEqual(['MAT-1', 'MAT-2', 'MAT-3']);
    const kept = (await product(idOf('MAT-3'))).body.values.find((row: Body) => row.attribute === 'material');
    expect([kept.text, kept.origin]).toEqual(['jute', 'edit']);
  });
  it('goes as a family, and its numbers are free to be made again', async () => {
    expect((await remove(family)).status).toBe(200);
    expect(await found('Cord mat')).toBe(0);
    const again = await make({ shared: [title('Cord mat, new')], variants: [{ sku: 'MAT-1', options: [] }] });
    expect((await product(again)).body.title).toBe('Cord mat, new');
    expect(await found('MAT-1')).toBe(1);
  });
  it('is taken away once, pressed twice at one moment', async () => {
    const id = await make({ shared: [title('Once gone')], variants: [{ sku: 'GONE-1', options: [] }] });
    const answers = await Promise.all([remove(id), remove(id)]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 404]);
  });
});

describe('goods of a supplier', () => {
  const list = 'Article,Name,Price\nRD-1,Reed screen,19.90\nRD-2,Rush seat,24.50\n';
  let supplier: number;
  const bring = async (text: string) => {
    const { body } = await client.uploadText('reeds.csv', text);
    await client.correct(body.id, { supplierId: supplier });
    return body.id as number;
  };
  const goods = async (sku: string): Promise<Body[]> => {
    const { token } = (await client.send('POST', '/api/views', { search: sku, show: 'variants', everything: true }))
      .body;
    return (await client.get(`/api/views/${token}/rows?from=0&count=5`)).body.items;
  };

  beforeAll(async () => {
    supplier = await client.supplier('Reeds & Rushes');
    const id = await bring(list);
    await client.tried(id);
    await client.applied(id);
  });

  it('are silent, and come back the same when it lists them again', async () => {
    const [{ id }] = await goods('Reed screen');
    expect((await remove(id)).status).toBe(200);
    expect(await goods('Reed screen')).toEqual([]);
    const again = await bring(list);
    const { counts } = await client.tried(again);
    expect([counts.created, counts.unchanged]).toEqual([1, 1]);
    await client.applied(again);
    expect((await goods('Reed screen')).map((row) => row.id)).toEqual([id]);
  });
  it('are not brought in unnoticed by a batch that was tried while they stood', async () => {
    const waiting = await bring(list.replace('24.50', '26'));
    expect((await client.tried(waiting)).counts.changed).toBe(1);
    await client.until('/api/shelf', ({ jobs }) => jobs.length === 0);
    const [{ id }] = await goods('Rush seat');
    expect((await remove(id)).status).toBe(200);
    const refused = await client.send('POST', `/api/batches/${waiting}/apply`);
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringMatching(/try/i)]);
    await client.undo();
    expect((await goods('Rush seat')).map((row) => row.id)).toEqual([id]);
  });
});
