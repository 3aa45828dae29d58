/** Families by a person's word: proposed from titles, made, moved into, taken out of, broken up; kept through later files, taken back. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';
import { expectListingsAnew } from './anew.js';

const client = new Client();
type Body = Answer['body'];

let supplier: number;
beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  supplier = await client.supplier('Nordwale Mill');
  await client.idle();
});
afterAll(() => db.$client.end());

const send = (path: string, body: object = {}): Promise<Answer> => client.send('POST', path, body);
const product = async (id: number): Promise<Body> => (await client.get(`/api/products/${id}`)).body;
const rowsOf = async (search: string, show = 'variants'): Promise<Body[]> => {
  const { token } = (await send('/api/views', { search, show, everything: true })).body;
  return (await client.get(`/api/views/${token}/rows?from=0&count=50`)).body.items;
};
const bring = async (text: string): Promise<void> => {
  const { body } = await client.uploadText('nordwale.csv', text);
  await client.correct(body.id, { supplierId: supplier });
  await client.tried(body.id);
  await client.applied(body.id);
};
/** By SKU or supplier's number: its family, and what tells it apart. */
const placed = async (search: string): Promise<Record<string, [number | null, Record<string, string>]>> => {
  const goods = await Promise.all((await rowsOf(search)).map(({ id }) => product(id)));
  return Object.fromEntries(
    goods.map(({ sku, sources, family, options }) => [
      sku ?? sources[0].key,
      [family?.id ?? null, Object.fromEntries(options)],
    ]),
  );
};
const idOf = async (search: string, number: string): Promise<number> => {
  const goods = await Promise.all((await rowsOf(search)).map(({ id }) => product(id)));
  return goods.find(({ sku, sources }) => (sku ?? sources[0].key) === number).id;
};
const singles = async (mark: string, ...titles: string[]): Promise<number[]> => {
  const made: number[] = [];
  for (const [i, title] of titles.entries())
    made.push(
      (
        await send('/api/products', {
          shared: [{ attribute: 'title', text: `${title} ${mark}` }],
          axes: [],
          variants: [{ sku: `${mark}-${i + 1}`, options: [], price: '12', stock: '4' }],
        })
      ).body.product,
    );
  return made;
};

describe('a family of singles', () => {
  it('is proposed from their titles, made with what tells them apart, kept, and taken back', async () => {
    const rows = await singles('Quellmark', 'Tea cosy 1.5 l', 'Tea cosy 2 l', 'Tea cosy 750 ml');
    const { body } = await send('/api/families/propose', { chosen: { rows } });
    expect(body).toMatchObject({ goods: 3, whole: true });
    const [proposed] = body.items;
    expect(proposed.axes).toHaveLength(1);
    expect(proposed.members.map(({ id, values }: Body) => [id, values])).toEqual([
      [rows[0], ['1.5 L']],
      [rows[1], ['2 L']],
      [rows[2], ['750 ml']],
    ]);
    const before = await placed('Quellmark');
    const family = { axes: proposed.axes, members: proposed.members.map(({ id, values }: Body) => ({ id, values })) };
    const made = await send('/api/families', { families: [family] });
    expect(made.status).toBe(200);
    const [id] = made.body.families;
    expect(await product(id)).toMatchObject({ kind: 'family', stock: 12 });
    expect((await product(id)).title).toContain('Tea cosy');
    const axis = proposed.axes[0];
    expect(await placed('Quellmark')).toEqual({
      'Quellmark-1': [id, { [axis]: '1.5 L' }],
      'Quellmark-2': [id, { [axis]: '2 L' }],
      'Quellmark-3': [id, { [axis]: '750 ml' }],
    });
    expect((await client.newest()).words).toBe('Made a family of 3 products');
    await client.idle();
    await expectListingsAnew();
    expect((await client.undoLast()).left).toEqual([]);
    expect(await placed('Quellmark')).toEqual(before);
    expect((await client.get(`/api/products/${id}`)).status).toBe(404);
    await client.idle();
    await expectListingsAnew();
  });

  it('is proposed as one where a person says they are, by the words they do not share', async () => {
    const rows = await singles('Ostermark', 'Candle fig', 'Taper of beeswax');
    expect((await send('/api/families/propose', { chosen: { rows } })).body.items).toEqual([]);
    const { body } = await send('/api/families/propose', { chosen: { rows }, asOne: true });
    expect(body.items).toHaveLength(1);
    expect(body.items[0].axes).toEqual(['']);
    expect((await send('/api/families/propose', { asOne: true })).status).toBe(400);
  });

  it.each<[string, (rows: number[]) => object[], string]>([
    [
      'with one thing twice',
      ([a, b]) => [{ axes: ['Scent'], members: [a, b].map((id) => ({ id, values: ['Fig'] })) }],
      'would both be Fig',
    ],
    ['of one product', ([a]) => [{ axes: ['Scent'], members: [{ id: a, values: ['Fig'] }] }], 'two products or more'],
    [
      'with an axis twice',
      ([a, b]) => [{ axes: ['Scent', 'scent'], members: [a, b].map((id) => ({ id, values: [null, null] })) }],
      'named twice',
    ],
    [
      'with a product twice',
      ([a]) => [{ axes: ['Scent'], members: [a, a].map((id, i) => ({ id, values: [`${i}`] })) }],
      'named twice',
    ],
    [
      'without a name for what tells them apart',
      ([a, b]) => [{ axes: [' '], members: [a, b].map((id, i) => ({ id, values: [`${i}`] })) }],
      'Say what it is',
    ],
    [
      'with a value too few',
      ([a, b]) => [{ axes: ['Scent'], members: [a, b].map((id) => ({ id, values: [] })) }],
      'on each axis',
    ],
    [
      'of what is not there',
      () => [
        {
          axes: [],
          members: [
            { id: 999_999_998, values: [] },
            { id: 999_999_999, values: [] },
          ],
        },
      ],
      '999999998',
    ],
  ])('is refused %s, and nothing is kept', async (_, families, words) => {
    const [{ id: first }, { id: second }] = (await rowsOf('Ostermark')) as [Body, Body];
    const answer = await send('/api/families', { families: families([first, second]) });
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(JSON.stringify(answer.body)).toContain(words);
    expect(Object.values(await placed('Ostermark')).map(([family]) => family)).toEqual([null, null]);
  });
});

describe('a family a source has', () => {
  const head = 'Article,Name,Price,Parent SKU,Options\n';
  const rows = (...lines: string[]) => head + lines.map((line) => `${line}\n`).join('');
  const list = rows(
    'NW-1,Nordwale apron S,20,NW,Size: S',
    'NW-2,Nordwale apron M,20,NW,Size: M',
    'NW-3,Nordwale apron L,20,NW,Size: L',
    'NW-9,Nordwale apron XL long,24,,',
  );
  const family = async (): Promise<number> =>
    (await rowsOf('Nordwale', 'families')).find(({ kind }) => kind === 'family')?.id;
  const familiesIn = async () =>
    Object.fromEntries(Object.entries(await placed('Nordwale')).map(([key, [id]]) => [key, id]));

  beforeAll(async () => {
    await bring(list);
    await client.idle();
  });

  it('takes a single in, which stays there whatever the next file says', async () => {
    const [into, id] = [await family(), await idOf('Nordwale', 'NW-9')];
    const gathered = { families: [{ into, axes: ['Size'], members: [{ id, values: ['XL'] }] }] };
    expect((await send('/api/families', gathered)).body.families).toEqual([into]);
    expect((await placed('Nordwale'))['NW-9']).toEqual([into, expect.objectContaining({ Size: 'XL' })]);
    await bring(list.replace('apron XL long,24', 'apron XL, long,25').replace('XL, long', 'XL longer'));
    await client.idle();
    expect((await product(id)).title).toContain('longer');
    expect(await familiesIn()).toEqual({ 'NW-1': into, 'NW-2': into, 'NW-3': into, 'NW-9': into });
    await expectListingsAnew();
    const moved = (await client.get('/api/actions')).body.items.find(({ kind }: Body) => kind === 'families');
    expect((await client.undo(moved.id)).body.left).toEqual([]);
    expect(await familiesIn()).toEqual({ 'NW-1': into, 'NW-2': into, 'NW-3': into, 'NW-9': null });
  });

  it('grows by a variant of ours, which takes over what the next one says, though it is a supplier’s alone', async () => {
    const id = await family();
    const grown = {
      shared: [],
      family: id,
      axes: ['size'],
      variants: [{ sku: 'NW-OURS', options: ['XXL'], price: '22' }],
    };
    const { status, body } = await send('/api/products', grown);
    expect([status, body.product]).toEqual([200, id]);
    expect((await placed('Nordwale'))['NW-OURS']).toEqual([id, { size: 'XXL' }]);
    await client.idle();
    await expectListingsAnew();
    for (const kind of ['families', 'apply-batch']) {
      const { items } = (await client.get('/api/actions')).body;
      expect((await client.undo(items.find((action: Body) => action.kind === kind).id)).body.left).toEqual([]);
    }
    expect(Object.keys(await placed('Nordwale'))).not.toContain('NW-OURS');
  });

  it('lets a variant go, which stands alone until that is taken back', async () => {
    const [from, id] = [await family(), await idOf('Nordwale', 'NW-2')];
    expect((await send('/api/families/take-out', { products: [id] })).status).toBe(200);
    expect(await familiesIn()).toEqual({ 'NW-1': from, 'NW-2': null, 'NW-3': from, 'NW-9': null });
    expect((await send('/api/families/take-out', { products: [id] })).body.detail).toContain('of no family');
    await client.undoLast();
    expect((await familiesIn())['NW-2']).toBe(from);
  });

  it('is broken up with what its source brings of it later; undo makes it whole with its edits', async () => {
    const id = await family();
    const edit = { attribute: 'material', language: null, text: 'linen', madeAgainst: null };
    expect((await client.send('PATCH', `/api/products/${id}`, { edits: [edit] })).status).toBe(200);
    expect((await send(`/api/products/${id}/break-up`)).status).toBe(200);
    expect(new Set(Object.values(await familiesIn()))).toEqual(new Set([null]));
    expect((await rowsOf('Nordwale', 'families')).every(({ kind }) => kind === 'single')).toBe(true);
    await bring(`${list}NW-4,Nordwale apron XS,20,NW,Size: XS\n`);
    await client.idle();
    expect((await familiesIn())['NW-4']).toBe(null);
    const broken = (await client.get('/api/actions')).body.items.find(({ kind }: Body) => kind === 'families');
    expect((await client.undo(broken.id)).body.left).toEqual([]);
    expect(await familiesIn()).toEqual({ 'NW-1': id, 'NW-2': id, 'NW-3': id, 'NW-4': id, 'NW-9': null });
    expect((await product(id)).values.find(({ attribute }: Body) => attribute === 'material').shown).toBe('linen');
    await client.idle();
    await expectListingsAnew();
  });

  it('gives all its variants to another and is gone, until the undo', async () => {
    const from = await family();
    const [{ id: into }] = (await rowsOf('Ambrel', 'families')).filter(({ kind }) => kind === 'family') as [Body];
    const members = (await product(from)).siblings.map(({ id }: Body) => ({ id, values: [] }));
    expect((await send('/api/families', { families: [{ into, axes: [], members }] })).status).toBe(200);
    expect(new Set(Object.values(await familiesIn()))).toEqual(new Set([into, null]));
    expect((await client.get(`/api/products/${from}`)).status).toBe(404);
    await client.undoLast();
    expect(new Set(Object.values(await familiesIn()))).toEqual(new Set([from, null]));
  });

  it('is there for two at once: of two moves one wins, and nothing is of two families', async () => {
    const [a, b] = await Promise.all([family(), idOf('Nordwale', 'NW-1')]);
    const answers = await Promise.all([1, 2].map(() => send('/api/families/take-out', { products: [b] })));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 400]);
    await client.undoLast();
    expect((await familiesIn())['NW-1']).toBe(a);
  });
});
