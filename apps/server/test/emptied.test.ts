/** A shelf that was emptied: what comes after PostgreSQL has looked at it then is not planned for as if nothing were there. */
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { expectTotals } from './anew.js';
import { Client, count, db } from './client.js';

const client = new Client();
beforeAll(async () => {
  await client.signIn();
  await client.stocked();
});
afterAll(() => db.$client.end());

/** Rows a table has, as plans are made for it. */
const believed = (table: string): Promise<number> =>
  count(sql`SELECT reltuples AS n FROM pg_class WHERE oid = ${table}::regclass`);
const filled = ['batch_row', 'record_content', 'record', 'record_key', 'product', 'fact', 'listing', 'listing_key'];

it('is looked at again by whatever fills it', async () => {
  await client.undo();
  await client.idle();
  expect(await count(sql`SELECT count(*) AS n FROM product`)).toBe(0);
  await db.execute(sql`ANALYZE`);
  expect(await believed('product')).toBe(0);
  await client.bringIn('mosswick-own.tsv');
  for (const table of filled) expect(await believed(table), table).toBeGreaterThan(100);
  await client.bringIn('brackwater-pottery.csv');
  await expectTotals();
});
