/** Closed lists: a value is renamed and moved, and whatever refers to it goes on holding, for it has its key. */
import { queryOne } from '@velvet-shelf/server/db/client';
import * as tables from '@velvet-shelf/server/db/schema/index';
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

type Body = Answer['body'];
const client = new Client();
const pots = 'Planters/Indoor pots';
const value = tables.listValue;

/** Variants a condition finds: how many, and the first of them. */
async function found(condition: object): Promise<{ count: number; first: Body }> {
  const { body } = await client.send('POST', '/api/views', { condition, show: 'variants', everything: true });
  const { body: rows } = await client.get(`/api/views/${body.token}/rows?from=0&count=1&columns=`);
  const { body: size } = await client.get(`/api/views/${body.token}`);
  return { count: size.rows, first: rows.items[0] };
}
const under = (key: string) => found({ attribute: 'category', op: 'under', value: key });
const mapped = async () =>
  (await client.get('/api/places/1/categories')).body.items.find((row: Body) => row.category === pots);

let before: typeof value.$inferSelect | undefined;

beforeAll(async () => {
  await client.signIn();
  const known = await queryOne<{ n: number }>(db, sql`SELECT count(*) AS n FROM product WHERE category = ${pots}`);
  if (!known?.n) await client.stocked();
  await client.idle();
  [before] = await db.select().from(value).where(eq(value.key, pots));
});
afterAll(async () => {
  if (before)
    await db.update(value).set({ names: before.names, parentId: before.parentId }).where(eq(value.id, before.id));
  await db.$client.end();
});

describe('a category that is renamed and moved', () => {
  it('keeps its goods, its map and every condition that names it', async () => {
    const [goods, map] = [await found({ attribute: 'category', op: 'is', value: pots }), await mapped()];
    const [inPlanters, inGifts] = [await under('Planters'), await under('Gifts')];
    expect(goods.count).toBeGreaterThan(0);
    expect(goods.first.category).toEqual(['Planters', 'Indoor pots']);

    const [gifts] = await db.select({ id: value.id }).from(value).where(eq(value.key, 'Gifts'));
    await db
      .update(value)
      .set({
        names: { 'en-GB': 'Windowsill pots & bowls / all', 'de-DE': 'Fenstertöpfe' },
        parentId: gifts?.id ?? null,
      })
      .where(eq(value.key, pots));

    const after = await found({ attribute: 'category', op: 'is', value: pots });
    expect(after.count).toBe(goods.count);
    expect(after.first.category).toEqual(['Gifts', 'Windowsill pots & bowls / all']);
    expect((await under('Planters')).count).toBe(inPlanters.count - goods.count);
    expect((await under('Gifts')).count).toBe(inGifts.count + goods.count);
    expect(await mapped()).toMatchObject({
      names: ['Gifts', 'Windowsill pots & bowls / all'],
      target: map.target,
      variants: map.variants,
    });
  });

  it('is read in a file by its new names, and named so where a value is edited', async () => {
    const { body } = await client.uploadText(
      'new-names.csv',
      'Article,Title,Our category,Price GBP\nNN-1,Bowl,Fenstertöpfe,4\nNN-2,Bowl,Gifts > Windowsill pots & bowls / all,4\nNN-3,Bowl,Indoor pots,4\n',
    );
    await client.send('POST', `/api/batches/${body.id}/try`);
    const tried = await client.until(`/api/batches/${body.id}`, (batch) => batch.state === 'tried');
    const { body: rows } = await client.get(`/api/batches/${tried.id}/rows?limit=10`);
    const notes = rows.items.map((row: Body) => row.notes.filter((note: Body) => note.lost).length);
    expect(notes).toEqual([0, 0, 1]);

    const { first: row } = await found({ attribute: 'category', op: 'is', value: pots });
    const { body: product } = await client.get(`/api/products/${row.id}`);
    const category = product.values.find((shown: Body) => shown.attribute === 'category');
    expect(category.text).toBe('Gifts / Windowsill pots & bowls / all');
    expect(category.choices).toContainEqual({ key: pots, name: category.text });
    const { status } = await client.send('PATCH', `/api/products/${row.id}`, {
      edits: [{ attribute: 'category', language: null, text: 'Fenstertöpfe', madeAgainst: category.text }],
    });
    expect(status).toBe(200);
    await client.undo();
  });
});
