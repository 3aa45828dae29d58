/** Values that the texts of goods say: proposed with their words, taken, and not asked about again. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client, db } from './client.js';

const client = new Client();
let id = 0;

beforeAll(async () => {
  await client.signIn();
  const supplier = await client.supplier('Teasel Yard');
  const { body } = await client.uploadText(
    'teasel.csv',
    'Article number,Title,Description,Weight\nTY-1,"Jug, 1.5 kg",Holds flowers. Carries up to 4 kg. Height 24 cm.,\nTY-2,"Bowl, 2 kg",Height 9 cm.,1.2 kg\n',
  );
  await client.send('PUT', `/api/batches/${body.id}/reading`, { supplierId: supplier });
  await client.tried(body.id);
  expect((await client.applied(body.id)).state).toBe('applied');
  id = await goods('Jug');
});
afterAll(() => db.$client.end());

async function goods(search: string): Promise<number> {
  const { body } = await client.send('POST', '/api/views', { search, show: 'both' });
  return (await client.get(`/api/views/${body.token}/rows?from=0&count=1`)).body.items[0].id;
}

interface Proposal {
  attribute: string;
  label: string;
  text: string;
  held: string | null;
  score: number;
  evidence: { words: string; in: string };
}
const proposals = async (of: number): Promise<Proposal[]> =>
  (await client.get(`/api/products/${of}/proposals`)).body.items;
const found = async (of: number) =>
  (await proposals(of)).map(({ label, text, held, evidence }) => [label, text, held, evidence.in, evidence.words]);

describe('proposals', () => {
  it('say what the texts say, and the words they come from', async () => {
    expect(await found(id)).toEqual([
      ['Height', '24 cm', null, 'description', '24 cm'],
      ['Weight', '1.5 kg', null, 'title', '1.5 kg'],
    ]);
  });

  it('say where a source says something else', async () => {
    expect(await found(await goods('Bowl'))).toContainEqual(['Weight', '2 kg', '1.2 kg', 'title', '2 kg']);
  });

  it('are taken as an edit, against what was held, and undone as one', async () => {
    const [height] = await proposals(id);
    const take = () =>
      client.send('PATCH', `/api/products/${id}`, {
        edits: [{ attribute: height?.attribute, text: height?.text, madeAgainst: height?.held }],
      });
    expect((await take()).status).toBe(200);
    expect((await found(id)).map(([label]) => label)).toEqual(['Weight']);
    const [action] = (await client.get(`/api/products/${id}/history`)).body.items;
    expect((await client.send('POST', `/api/actions/${action.id}/undo`)).status).toBe(200);
    expect((await found(id)).map(([label]) => label)).toEqual(['Height', 'Weight']);
  });

  it('are not made where a person has spoken', async () => {
    const { attribute } = (await proposals(id))[1] as Proposal;
    await client.send('PATCH', `/api/products/${id}`, { edits: [{ attribute, text: '1.4 kg', madeAgainst: null }] });
    expect((await found(id)).map(([label]) => label)).toEqual(['Height']);
  });

  it('are none of goods that are not there', async () => {
    expect((await client.get('/api/products/999999/proposals')).status).toBe(404);
  });
});
