/** The sheet: cells as they are held, and many of them saved as one. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

const slots = ['material', 'weight', 'title@en-GB', 'price@GBP', 'stock'];
const open = async (search: string): Promise<string> =>
  (await client.send('POST', '/api/views', { search, show: 'variants', everything: true })).body.token;
const rows = async (search: string): Promise<Body[]> =>
  (await client.get(`/api/views/${await open(search)}/sheet?from=0&count=500&columns=${slots.join(',')}`)).body.items;
const save = (products: object[]) => client.send('POST', '/api/sheet', { products });
const edit = (attribute: string, text: string | null, madeAgainst: string | null, language: string | null = null) => ({
  attribute,
  text,
  madeAgainst,
  language,
});

beforeAll(async () => {
  await client.signIn();
  await client.send('POST', '/api/products', {
    shared: [{ attribute: 'title', text: 'Sheeted mat' }],
    axes: ['Span'],
    variants: ['1 m', '2 m', '3 m'].map((span, i) => ({ sku: `SH-${i}`, options: [span], price: '5', stock: '2' })),
  });
});
afterAll(() => db.$client.end());

describe('a sheet', () => {
  it('has columns for what can be typed, a list’s with all its names', async () => {
    const { items } = (await client.get('/api/sheet/columns')).body;
    expect(items.map(({ slot }: Body) => slot)).toEqual(expect.arrayContaining(slots));
    expect(items.some(({ read }: Body) => read?.type === 'media')).toBe(false);
  });
  it('shows what is held and whose word it is', async () => {
    const found = await rows('Sheeted mat');
    expect(found).toHaveLength(3);
    expect(found[0]).toMatchObject({ sku: 'SH-0', family: { title: 'Sheeted mat' } });
    expect(found[0].cells.map(([text]: [string]) => text)).toEqual([null, null, 'Sheeted mat', '5', '2']);
    expect(found[0].cells[0]).toEqual([null, 'none']);
  });
  it('saves cells of many products as one action, and takes them back as one', async () => {
    const before = await rows('Sheeted mat');
    const { status } = await save(
      before.map(({ id }, i) => ({
        productId: id,
        edits: [
          edit('material', 'jute', null),
          edit('weight', `${i + 1}.5 kg`, null),
          edit('price', '7.25', '5', 'GBP'),
        ],
      })),
    );
    expect(status).toBe(200);
    const after = await rows('Sheeted mat');
    expect(after.map(({ cells }) => [cells[0][0], cells[1], cells[3][0]])).toEqual([
      ['jute', ['1.5 kg', 'own'], '7.25'],
      ['jute', ['2.5 kg', 'own'], '7.25'],
      ['jute', ['3.5 kg', 'own'], '7.25'],
    ]);
    expect((await client.newest()).words).toContain('and 8 more');
    expect((await client.undo()).body.left).toEqual([]);
    expect(await rows('Sheeted mat')).toEqual(before);
  });
  it('tells every cell that somebody changed meanwhile, and saves none', async () => {
    const [a, b, c] = await rows('Sheeted mat');
    await save([{ productId: a.id, edits: [edit('material', 'hemp', null)] }]);
    await save([{ productId: b.id, edits: [edit('price', '6', '5', 'GBP')] }]);
    const refused = await save([
      { productId: a.id, edits: [edit('material', 'jute', null)] },
      { productId: b.id, edits: [edit('price', '9', '5', 'GBP')] },
      { productId: c.id, edits: [edit('material', 'jute', null)] },
    ]);
    expect(refused.status).toBe(412);
    expect(refused.body.conflicts).toMatchObject([
      { productId: a.id, attribute: 'material', current: 'hemp', yours: 'jute' },
      { productId: b.id, attribute: 'price', current: '6', yours: '9', language: 'GBP' },
    ]);
    expect((await rows('Sheeted mat'))[2].cells[0]).toEqual([null, 'none']);
  });
  it('tells every cell that cannot be a value, and saves none', async () => {
    const [a, , c] = await rows('Sheeted mat');
    const refused = await save([
      { productId: a.id, edits: [edit('weight', 'heavy', null)] },
      { productId: c.id, edits: [edit('weight', '5 cm', null), edit('material', 'jute', null)] },
    ]);
    expect([refused.status, refused.body.errors.length]).toEqual([400, 2]);
    expect((await rows('Sheeted mat'))[2].cells[0]).toEqual([null, 'none']);
  });
  it('writes prices and stock of many as one, and takes them back', async () => {
    const before = await rows('Sheeted mat');
    const { status } = await save(
      before.map(({ id, cells }, i) => ({
        productId: id,
        edits: [edit('price', i === 0 ? null : `1${i}`, cells[3][0], 'GBP'), edit('stock', `${i + 5}`, cells[4][0])],
      })),
    );
    expect(status).toBe(200);
    expect((await rows('Sheeted mat')).map(({ cells }) => [cells[3][0], cells[4][0]])).toEqual([
      [null, '5'],
      ['11', '6'],
      ['12', '7'],
    ]);
    expect((await client.undo()).body.left).toEqual([]);
    expect(await rows('Sheeted mat')).toEqual(before);
  });
  it('is tried first: what would become of listings is told, and nothing is kept', async () => {
    const before = await rows('Sheeted mat');
    const actions = (await client.get('/api/actions')).body.items.length;
    const products = before.map(({ id, cells }) => ({ productId: id, edits: [edit('stock', '77', cells[4][0])] }));
    const tried = await client.send('POST', '/api/sheet/try', { products });
    expect([tried.status, tried.body]).toEqual([
      200,
      { listingsChanged: expect.any(Number), becameReady: 0, becameBlocked: 0, whole: true },
    ]);
    expect(await rows('Sheeted mat')).toEqual(before);
    expect((await client.get('/api/actions')).body.items).toHaveLength(actions);
    const stale = [{ productId: before[0].id, edits: [edit('stock', '77', '76')] }];
    expect((await client.send('POST', '/api/sheet/try', { products: stale })).status).toBe(412);
  });
  it('refuses a cell that stands there twice', async () => {
    const [a] = await rows('Sheeted mat');
    const twice = edit('stock', '9', a.cells[4][0]);
    expect((await save([{ productId: a.id, edits: [twice, twice] }])).body.detail).toContain('twice');
  });
  it('empties on purpose', async () => {
    const [a] = await rows('Sheeted mat');
    await save([{ productId: a.id, edits: [edit('material', null, 'hemp')] }]);
    expect((await rows('Sheeted mat'))[0].cells[0]).toEqual([null, 'own']);
  });
});

describe('columns of a channel in a sheet', () => {
  const find = async (slot: string, search = 'Sheeted mat'): Promise<Body[]> =>
    (await client.get(`/api/views/${await open(search)}/sheet?from=0&count=500&columns=${encodeURIComponent(slot)}`))
      .body.items;
  /** The column of a text attribute of the first place, and one whose values are a closed list. */
  const columnsOf = async (): Promise<Body[]> => {
    const { items } = (await client.get('/api/sheet/columns')).body;
    const pins = items.filter(({ pin }: Body) => pin);
    return [
      pins.find(({ pin, label }: Body) => pin.type === 'text' && label === 'Short wording'),
      pins.find(({ pin }: Body) => pin.values),
    ];
  };
  const pin = (column: Body, text: string | null, madeAgainst: string | null) =>
    edit('pin', text, madeAgainst, column.language);

  it('show what the fill gives, pin it for listings of many goods as one action, and are taken back', async () => {
    const [words] = await columnsOf();
    const before = await find(words.slot);
    expect(before.map(({ cells }) => cells[0][1])).toEqual(['fill', 'fill', 'fill']);
    const products = before.map(({ id }, i) => ({ productId: id, edits: [pin(words, `Mat number ${i}`, null)] }));
    const tried = await client.send('POST', '/api/sheet/try', { products });
    expect([tried.status, await find(words.slot)]).toEqual([200, before]);
    expect((await save(products)).status).toBe(200);
    expect((await find(words.slot)).map(({ cells }) => cells[0])).toEqual(
      [0, 1, 2].map((i) => [`Mat number ${i}`, 'own']),
    );
    expect((await client.newest()).words).toContain(words.pin.place);
    expect((await client.undo()).body.left).toEqual([]);
    expect(await find(words.slot)).toEqual(before);
  });
  it('refuse what is no value of the list, and what somebody has pinned meanwhile, with all of it named', async () => {
    const [words, listed] = await columnsOf();
    const [a, b] = await find(words.slot);
    const bad = await save([
      { productId: a.id, edits: [pin(listed, 'none of these', null), pin(words, 'Fine', null)] },
    ]);
    expect([bad.status, bad.body.detail]).toEqual([400, expect.stringContaining('none of the values')]);
    await save([{ productId: a.id, edits: [pin(words, 'Pinned first', null)] }]);
    const stale = await save([
      { productId: a.id, edits: [pin(words, 'Pinned second', null)] },
      { productId: b.id, edits: [pin(words, 'Beside', null)] },
    ]);
    expect([stale.status, stale.body.conflicts]).toMatchObject([412, [{ productId: a.id, current: 'Pinned first' }]]);
    expect((await find(words.slot)).map(({ cells }) => cells[0][1])).toEqual(['own', 'fill', 'fill']);
    expect((await save([{ productId: a.id, edits: [pin(words, null, 'Pinned first')] }])).status).toBe(200);
    expect((await find(words.slot)).map(({ cells }) => cells[0][1])).toEqual(['fill', 'fill', 'fill']);
  });
  it('say where goods have no listing, and are empty of places nobody knows', async () => {
    const [words] = await columnsOf();
    const [a] = await find(words.slot);
    expect((await find('pin@999999/short'))[0]?.cells[0]).toEqual([null, 'nowhere']);
    const lost = await save([{ productId: a.id, edits: [edit('pin', 'x', null, '999999/short')] }]);
    expect([lost.status, lost.body.detail]).toEqual([400, expect.stringContaining('has no listing at')]);
    const garbled = await save([{ productId: a.id, edits: [edit('pin', 'x', null, 'short')] }]);
    expect(garbled.status).toBe(400);
    const unknown = await save([
      { productId: a.id, edits: [edit('pin', 'x', null, words.language.replace(/\/.*/, '/%E0%A4%A'))] },
    ]);
    expect(unknown.status).toBe(400);
  });
});
