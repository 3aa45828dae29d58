/** Everything any channel asks of a product: what is missing first, who asks, what of ours answers it. */
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Answer, Client, count, db } from './client.js';

const client = new Client();
type Body = Answer['body'];
let family = 0;

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.idle();
  const { items } = (await client.get('/api/search?q=Ambrel')).body;
  family = items.find(({ kind }: Body) => kind === 'family').id;
});
afterAll(() => db.$client.end());

const asked = async (id: number): Promise<Body> => (await client.get(`/api/products/${id}/asked`)).body;
const line = async (id: number, attribute: string | null, label?: string): Promise<Body> =>
  (await asked(id)).lines.find((each: Body) => each.attribute === attribute && (!label || each.label === label));
const product = async (id: number): Promise<Body> => (await client.get(`/api/products/${id}`)).body;
const edit = async (
  id: number,
  attribute: string,
  text: string | null,
  madeAgainst: string | null,
  language: string | null = null,
) =>
  (await client.send('PATCH', `/api/products/${id}`, { edits: [{ attribute, text, madeAgainst, language }] })).status;

it('tells of a family all its listings together, of a variant its own, what is open before what is there', async () => {
  const { listings, lines } = await asked(family);
  expect(listings).toBe(
    await count(
      sql`SELECT count(*) AS n FROM listing l JOIN product p ON p.id = l.variant_id WHERE p.family_id = ${family}`,
    ),
  );
  const isOpen = ({ asks }: Body) =>
    asks.some(({ need, missing, findings }: Body) => (missing > 0 && need !== 'optional') || findings.length > 0);
  const open = lines.map(isOpen);
  expect(open.lastIndexOf(true)).toBeLessThan(open.includes(false) ? open.indexOf(false) : open.length);
  const [{ id }] = (await product(family)).siblings;
  const own = await asked(id);
  expect(own.listings).toBeLessThan(listings);
  expect(own.lines.find(({ attribute }: Body) => attribute === 'brand').held).toMatchObject({ of: 1, without: [] });
  expect((await client.get('/api/products/999999999/asked')).status).toBe(404);
});

it('says which variants are without a value, and says no more of it once they have it', async () => {
  const [{ id }] = (await product(family)).siblings;
  const language = (await asked(family)).lines.find(({ attribute }: Body) => attribute === 'description').language;
  const { text } = (await product(id)).values.find(
    (value: Body) => value.attribute === 'description' && value.language === language,
  );
  expect(await edit(id, 'description', null, text, language)).toBe(200);
  const empty = await line(family, 'description');
  expect(empty.held.without).toEqual([id]);
  expect(empty.asks[0]).toMatchObject({ need: 'required', missing: 1 });
  expect((await asked(family)).lines[0].attribute).toBe('description');
  await client.undo();
  expect((await line(family, 'description')).held.without).toEqual([]);
});

it('a category that the channel has none for is told, though no field asks for it', async () => {
  const [{ id }] = (await product(family)).siblings;
  const { text } = (await product(id)).values.find(({ attribute }: Body) => attribute === 'category');
  expect(await edit(id, 'category', null, text)).toBe(200);
  const wrong = async (): Promise<Body[]> =>
    ((await line(id, 'category'))?.asks ?? []).flatMap(({ findings }: Body) => findings);
  expect(await wrong()).toContainEqual(expect.objectContaining({ listings: 1 }));
  await client.undo();
  expect(await wrong()).toEqual([]);
});

it('a field that nothing of ours feeds says what of ours would, and is fed once there is such an attribute', async () => {
  const bare = (await asked(family)).lines.find(
    ({ attribute, filled, asks }: Body) => attribute === null && filled === null && asks[0].own,
  );
  const [{ placeId, field, own }] = bare.asks;
  const attribute = {
    ...own,
    label: bare.label,
    perLanguage: false,
    level: 'variant',
    role: null,
    aliases: [],
    group: 'For channels',
  };
  const { ids } = (await client.send('POST', '/api/dictionary', { attributes: [attribute] })).body;
  const { items } = (await client.get('/api/dictionary')).body;
  const { key } = items.find((row: Body) => row.id === ids[0]);
  await client.send('PUT', `/api/places/${placeId}/fills/${field}`, {
    fill: { rule: { kind: 'copy', from: key }, fit: [] },
  });
  await client.idle();
  const fed = await line(family, key);
  expect(fed.asks[0]).toMatchObject({ placeId, field });
  expect(fed.held.without).toHaveLength((await product(family)).siblings.length);
});
