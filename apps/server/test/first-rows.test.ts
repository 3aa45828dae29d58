/** The first rows of a view are those that all of it begins with. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Client, db } from './client.js';

const client = new Client();

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
});
afterAll(() => db.$client.end());

const conditions = {
  nested: {
    all: [
      {
        any: [
          { attribute: 'brand', op: 'contains', value: 'mos' },
          { attribute: 'material', op: 'isEmpty' },
        ],
      },
      { not: { attribute: 'state', op: 'is', value: 'paused' } },
    ],
  },
  few: { attribute: 'diameter', op: 'atLeast', value: '18 cm' },
  'by number and category': {
    any: [
      { attribute: 'sku', op: 'contains', value: 'hol' },
      { attribute: 'category', op: 'isEmpty' },
    ],
  },
  none: { attribute: 'brand', op: 'is', value: 'nobody' },
  'of texts': { attribute: 'title', op: 'contains', value: 'pot' },
};

describe.each(Object.entries(conditions))('of a condition: %s', (_, condition) => {
  it.each(
    ['family', '-family', 'price', '-price', 'sku', '-sku', 'stock', 'title', 'complete'].flatMap((sort) =>
      ['all', 'variants'].map((show) => [sort, show] as const),
    ),
  )('sorted by %s, %s', async (sort, show) => {
    const view = { condition, sort, search: '', ...(show === 'variants' ? { show } : {}) };
    const { body } = await client.send('POST', '/api/views', view);
    const first = body.first.map(({ id }: { id: number }) => id);
    const { items } = (await client.get(`/api/views/${body.token}/rows?from=0&count=100`)).body;
    expect(first).toEqual(items.map(({ id }: { id: number }) => id));
    if (body.rows !== null) expect((await client.get(`/api/views/${body.token}`)).body.rows).toBe(body.rows);
  });
});
