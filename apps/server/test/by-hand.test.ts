/** Goods made by hand: one or a family, told at the field where something is wrong, taken back as they came. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

beforeAll(() => client.signIn());
afterAll(() => db.$client.end());

const title = (text: string) => ({ attribute: 'title', text });
const variant = (sku: string, ...options: string[]) => ({ sku, options });
const make = (body: object) => client.send('POST', '/api/products', { shared: [], axes: [], ...body });
const product = async (id: number): Promise<Body> => (await client.get(`/api/products/${id}`)).body;
const batches = async (): Promise<Body[]> => (await client.get('/api/batches')).body.items;
const pointers = ({ body }: Answer) => body.errors.map(({ pointer }: { pointer: string }) => pointer);

describe('a product made by hand', () => {
  it('is there with all that was said of it, and gone with its undo', async () => {
    const { status, body } = await make({
      shared: [title('Reading stool, ash; "low" | 1.234 kg')],
      variants: [{ ...variant('STOOL 1'), price: '1234.5', stock: '7', gtin: '4006381333931' }],
    });
    expect(status).toBe(200);
    const made = await product(body.product);
    expect(made).toMatchObject({
      kind: 'single',
      sku: 'STOOL 1',
      title: 'Reading stool, ash; "low" | 1.234 kg',
      stock: 7,
    });
    expect(Object.values<Body>(made.price)[0].regular).toMatch(/^1234\.5/);
    expect((await client.newest()).words).toContain('by hand');
    expect((await client.undo()).body.left).toEqual([]);
    expect((await client.get(`/api/products/${body.product}`)).status).toBe(404);
  });
  it('is told in the figures of whoever reads it', async () => {
    const { body } = await make({
      shared: [title('Counted'), { attribute: 'weight', text: '1234.5 g' }],
      variants: [{ ...variant('COUNTED-1') }],
    });
    const shown = async (language: string) => {
      const headers = { 'accept-language': language };
      const answer = await client.send('GET', `/api/products/${body.product}`, undefined, headers);
      return answer.body.values.find((row: Body) => row.attribute === 'weight').shown;
    };
    expect(await Promise.all(['en-GB', 'de-DE,en;q=0.5', '*, nonsense_', 'sv'].map(shown))).toEqual([
      '1,234.5 g',
      '1.234,5 g',
      '1,234.5 g',
      '1\u00a0234,5 g',
    ]);
  });
  it('comes as a family with its options, in which nothing is typed twice', async () => {
    const { status, body } = await make({
      shared: [title('Felt slippers')],
      axes: ['Size', 'Colour of felt'],
      variants: [
        { ...variant('SLIP-36-G', '36', 'Grey'), price: '39' },
        { ...variant('SLIP-37-G', '37', 'Grey'), price: '39' },
        { ...variant('SLIP-36-B', '36', 'Brick') },
      ],
    });
    expect(status).toBe(200);
    const family = await product(body.product);
    expect([family.kind, family.siblings.length]).toEqual(['family', 3]);
    const own = await product(family.siblings.find((one: Body) => one.sku === 'SLIP-37-G').id);
    expect(own.options).toEqual([
      ['size', '37'],
      ['colour of felt', 'Grey'],
    ]);
    expect(own.title).toBe('Felt slippers');
  });
  it('is refused where its number is taken, in any spelling, and nothing is kept', async () => {
    await make({ shared: [title('Once')], variants: [variant('ONCE-1')] });
    const before = (await batches()).length;
    const again = await make({ shared: [title('Twice')], variants: [variant('FREE-1'), variant(' once-1')], axes: [] });
    expect([again.status, pointers(again)]).toEqual([400, expect.arrayContaining(['/body/variants/1/sku'])]);
    expect((await make({ shared: [title('Twice')], variants: [variant('FREE-1')] })).status).toBe(200);
    expect(await batches()).toHaveLength(before + 1);
  });
  it.each([
    [
      'two with one number',
      { axes: ['Size'], variants: [variant('A-1', 'S'), variant('a-1', 'M')] },
      '/body/variants/1/sku',
    ],
    ['a value missing', { axes: ['Size'], variants: [variant('A-1')] }, '/body/variants/0/options'],
    [
      'the same twice',
      { axes: ['Length'], variants: [variant('A-1', '1.5 m'), variant('A-2', '1.5 M')] },
      '/body/variants/1/options',
    ],
    ['an axis twice', { axes: ['Size', 'size'], variants: [variant('A-1', 'S', 'M')] }, '/body/axes/1'],
    [
      'what is on no list',
      { shared: [{ attribute: 'category', text: 'Moon dust' }], variants: [variant('A-1')] },
      '/body/shared/0/text',
    ],
    [
      'an attribute nobody has',
      { shared: [{ attribute: 'nope', text: 'x' }], variants: [variant('A-1')] },
      '/body/shared/0',
    ],
    ['a price that is none', { variants: [{ ...variant('A-1'), price: 'cheap' }] }, '/body/variants/0/price'],
    ['a stock that is none', { variants: [{ ...variant('A-1'), stock: '1.5' }] }, '/body/variants/0/stock'],
    [
      'a check digit that is wrong',
      { variants: [{ ...variant('A-1'), gtin: '4006381333932' }] },
      '/body/variants/0/gtin',
    ],
  ])('is told at the field: %s', async (_, body, pointer) => {
    const before = (await batches()).length;
    const refused = await make(body);
    expect([refused.status, pointers(refused)]).toEqual([400, expect.arrayContaining([pointer])]);
    expect(await batches()).toHaveLength(before);
  });
  it('is made once, pressed twice at one moment', async () => {
    const body = { shared: [title('Pressed')], variants: [variant('PRESSED-1')] };
    const answers = await Promise.all([make(body), make(body)]);
    expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
    const { token } = (await client.send('POST', '/api/views', { search: 'PRESSED-1', everything: true })).body;
    expect((await client.get(`/api/views/${token}/counts`)).body.variants).toBe(1);
  });
});

describe('a family that grows', () => {
  const grow = (family: number, axes: string[], ...variants: object[]) =>
    client.send('POST', '/api/products', { family, shared: [], axes, variants });
  let family: number;

  beforeAll(async () => {
    const { body } = await make({
      shared: [title('Linen runner, 1.5 m'), { attribute: 'material', text: 'linen' }],
      axes: ['Span'],
      variants: [variant('RUN-15', '1.5 m'), variant('RUN-20', '2 m')],
    });
    family = body.product;
  });
  it('takes a combination that nobody has, and what its siblings say', async () => {
    const { status, body } = await grow(family, ['span'], { ...variant('RUN-25', '2.5 m'), price: '45' });
    expect([status, body.product]).toEqual([200, family]);
    const { siblings } = await product(family);
    expect(siblings.map(({ sku }: Body) => sku).sort()).toEqual(['RUN-15', 'RUN-20', 'RUN-25']);
    const made = await product(siblings.find(({ sku }: Body) => sku === 'RUN-25').id);
    expect([made.title, made.options]).toEqual(['Linen runner, 2.5 m', [['span', '2.5 m']]]);
    expect(made.values.find((row: Body) => row.attribute === 'material').text).toBe('linen');
  });
  it('takes none twice, whatever the unit it is written in', async () => {
    const refused = await grow(family, ['Span'], variant('RUN-X', '200 cm'));
    expect([refused.status, refused.body.detail]).toEqual([400, expect.stringContaining('is the same as RUN-20')]);
    expect((await product(family)).siblings).toHaveLength(3);
  });
  it('takes none with other options, and none where it is no family', async () => {
    const other = await grow(family, ['Colour'], variant('RUN-X', 'red'));
    expect([other.status, pointers(other)]).toEqual([400, ['/body/axes']]);
    const [one] = (await product(family)).siblings;
    expect((await grow(one.id, ['Span'], variant('RUN-X', '3 m'))).status).toBe(404);
  });
});
