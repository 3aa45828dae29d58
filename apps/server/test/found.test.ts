/** Values found in the texts of many goods: counted, taken together, turned down, left where goods hold another one by now. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();
type Body = Answer['body'];

const rows = [
  'TY-1,"Jug, 1.5 kg",Holds flowers. Height 24 cm.,',
  'TY-2,"Bowl, 2 kg",Height 9 cm.,1.2 kg',
  'TY-3,"Vase, 800 g",Height 31 cm.,',
  'TY-4,Plain tray,Nothing is said of it.,',
];

beforeAll(async () => {
  await client.signIn();
  const { body } = await client.uploadText(
    'teasel.csv',
    `Article number,Title,Description,Weight\n${rows.join('\n')}\n`,
  );
  await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: await client.supplier('Teasel Yard') });
  await client.tried(body.id);
  await client.applied(body.id);
  await client.idle();
});
afterAll(() => db.$client.end());

const view = async (): Promise<string> => (await client.send('POST', '/api/views', { show: 'variants' })).body.token;
const readTexts = async (): Promise<void> => {
  const { body } = await client.send('POST', '/api/found', { chosen: { view: await view() } });
  expect(body.goods).toBe(rows.length);
  await client.idle();
};
const found = async (query = ''): Promise<Body> => (await client.get(`/api/found?limit=50${query}`)).body;
const said = ({ items }: Body): string[] =>
  items
    .map(
      ({ title, label, text, held }: Body) => `${title.split(',')[0]}: ${label} ${text}${held ? ` for ${held}` : ''}`,
    )
    .sort();
const one = async (words: string): Promise<Body> =>
  (await found()).items.find(({ title, label }: Body) => `${title} ${label}`.includes(words));

it('all goods of a view are read, twice as once', async () => {
  await readTexts();
  const all = await found();
  expect(said(all)).toEqual([
    'Bowl: Height 9 cm',
    'Bowl: Weight 2 kg for 1.2 kg',
    'Jug: Height 24 cm',
    'Jug: Weight 1.5 kg',
    'Vase: Height 31 cm',
    'Vase: Weight 800 g',
  ]);
  expect(all.attributes.map(({ label, open }: Body) => [label, open])).toEqual([
    ['Height', 3],
    ['Weight', 3],
  ]);
  for (const { evidence, text } of all.items) expect(evidence.words.replace(/\s/g, '')).toBe(text.replace(/\s/g, ''));
  await readTexts();
  expect(said(await found())).toEqual(said(all));
});

it('they come page by page, by attribute, and for empty places alone', async () => {
  const pages: string[] = [];
  let cursor: string | null = '';
  while (cursor !== null) {
    const after = cursor === '' ? '' : `&cursor=${encodeURIComponent(cursor)}`;
    const page: Body = (await client.get(`/api/found?limit=2${after}`)).body;
    pages.push(...said(page));
    cursor = page.next;
  }
  expect(pages.sort()).toEqual(said(await found()));
  const weight = (await one('Jug, 1.5 kg Weight')).attribute;
  expect(said(await found(`&attribute=${weight}&gaps=yes`))).toEqual(['Jug: Weight 1.5 kg', 'Vase: Weight 800 g']);
});

it('what is turned down is not asked about again', async () => {
  const { id } = await one('Vase, 800 g Weight');
  expect((await client.send('POST', '/api/found/decline', { ids: [id] })).status).toBe(200);
  await readTexts();
  expect(said(await found())).not.toContain('Vase: Weight 800 g');
});

it('what goods hold otherwise by now is left; the rest is taken as one edit, and taken back', async () => {
  const jug = await one('Jug, 1.5 kg Height');
  await client.send('PATCH', `/api/products/${jug.product}`, {
    edits: [{ attribute: jug.attribute, text: '25 cm', madeAgainst: null }],
  });
  const open = (await found()).attributes.reduce((sum: number, { sure }: Body) => sum + sure, 0);
  const { body } = await client.send('POST', '/api/found/take', { attribute: null, least: 0.9 });
  expect([body.taken, body.left]).toEqual([open - 1, 1]);
  const held = async (id: number, attribute: string) =>
    (await client.get(`/api/products/${id}`)).body.values.find((value: Body) => value.attribute === attribute).text;
  expect(await held(jug.product, jug.attribute)).toBe('25 cm');
  expect((await client.newest()).words).toBe(`Took ${open - 1} ${open === 2 ? 'value' : 'values'} from texts`);
  expect((await client.send('POST', '/api/found/take', { attribute: null, least: 0.9 })).body.taken).toBe(0);
  // What holds another value waits for somebody who looks at it.
  const bowl = await one('Bowl, 2 kg Weight');
  expect((await client.send('POST', '/api/found/take', { ids: [bowl.id] })).body.taken).toBe(1);
  expect(await held(bowl.product, bowl.attribute)).toBe('2 kg');
  await client.undo();
  expect(await held(bowl.product, bowl.attribute)).toBe('1.2 kg');
});
