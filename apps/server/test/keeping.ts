/** The dictionary as a client keeps it, for tests of what becomes of it. */
import type { Answer, Client } from './client.js';

type Body = Answer['body'];

/** What is said of an attribute that nothing is to be said of. */
export const blank = {
  type: 'text',
  many: false,
  perLanguage: false,
  level: 'variant',
  dimension: null,
  role: null,
  aliases: [],
  group: 'Own',
};

export function keeping(client: Client) {
  const dictionary = async (): Promise<Body[]> => (await client.get('/api/dictionary')).body.items;
  const tree = async (): Promise<Body[]> =>
    (await client.get(`/api/dictionary/${(await client.get('/api/categories/own')).body.id}/values`)).body.items;
  return {
    attribute: async (label: string): Promise<Body> => (await dictionary()).find((row) => row.label === label),
    make: (...attributes: object[]) => client.send('POST', '/api/dictionary', { attributes }),
    tree,
    category: async (path: string): Promise<Body> => (await tree()).find((row) => row.path.join('/') === path),
  };
}
