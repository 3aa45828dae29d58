/** The grid as a file, worked over by hand: what was typed is there, nothing else has moved, and undone all is as before. */
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import Papa from 'papaparse';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Client, db } from './client.js';

const client = new Client();
let view = '';

beforeAll(async () => {
  await client.signIn();
  await client.stocked();
  await client.bringIn('kestrelgate-seeds.json');
  await client.idle();
  const { body } = await client.send('POST', '/api/views', { search: 'seed', show: 'variants', everything: true });
  view = body.token;
  expect(body.first.length).toBeGreaterThan(10);
});
afterAll(() => db.$client.end());

/** What people type into a cell, and what then stands there. */
const typed: Record<string, fc.Arbitrary<[text: string, shown: string]>> = {
  material: fc.oneof(
    fc.constantFrom<[string, string]>(
      ['cork', 'cork'],
      ['  glazed   stoneware ', 'glazed stoneware'],
      ['say "oak", or ash', 'say "oak", or ash'],
      ['tæ – ☂ 水 \u{1f331}', 'tæ – ☂ 水 \u{1f331}'],
      ['Salt &amp; ash', 'Salt & ash'],
      ['=SUM(A1)', '=SUM(A1)'],
      ['+44 clay', '+44 clay'],
      ["'quoted'", "'quoted'"],
    ),
    fc
      .stringMatching(/^[a-zA-Zåäöß][a-zA-Zåäöß,;"' -]{0,20}[a-zA-Zåäöß]$/)
      .map((text): [string, string] => [text, text.replace(/ +/g, ' ')]),
  ),
  weight: fc
    .tuple(fc.integer({ min: 1, max: 99_999 }), fc.constantFrom('g', 'kg'))
    .map(([n, unit]) => [`${n / 100} ${unit}`, `${n / 100} ${unit}`]),
  'title@sv-SE': fc.constantFrom<[string, string]>(
    ['Kruka, röd', 'Kruka, röd'],
    ['Fröpåse “Ängla”', 'Fröpåse “Ängla”'],
  ),
  'price GBP': fc.integer({ min: 1, max: 99_999 }).map((pence) => [(pence / 100).toFixed(2), String(pence / 100)]),
  stock: fc.nat(5000).map((n) => [String(n), String(n)]),
};
const columns = Object.keys(typed);

/** A cell that gets another text, or is emptied where its column may be. */
const change = fc.constantFrom(...columns).chain((column) =>
  fc.record({
    row: fc.nat(),
    column: fc.constant(column),
    to: fc.oneof(
      { weight: 4, arbitrary: typed[column] as fc.Arbitrary<[string, string]> },
      ...(column === 'stock' ? [] : [{ weight: 1, arbitrary: fc.constant<[string, string]>(['', '']) }]),
    ),
  }),
);

type Line = Record<string, string>;

async function exported(): Promise<{ fields: string[]; lines: Line[] }> {
  const text = new TextDecoder().decode(await client.bytes(`/api/export?format=csv&view=${view}`));
  const { data, meta } = Papa.parse<Line>(text.replace(/^\uFEFF/, ''), { header: true, skipEmptyLines: true });
  return { fields: meta.fields ?? [], lines: data };
}

/** As the file shows a text that begins like a formula. */
const safe = (text: string) => (/^[=+\-@\t\r']/.test(text) ? `'${text}` : text);

async function bringBack(fields: string[], lines: Line[]) {
  const { body } = await client.uploadText(
    'grid.csv',
    `\uFEFF${Papa.unparse({ fields, data: lines.map((line) => fields.map((key) => line[key] ?? '')) })}`,
  );
  expect(body.kind).toBe('round-trip');
  const tried = await client.send('POST', `/api/batches/${body.id}/try`);
  return { id: body.id as number, counts: tried.body.counts };
}

it('any cells changed by hand are changed, and no others', async () => {
  const first = await exported();
  await fc.assert(
    fc.asyncProperty(fc.array(change, { minLength: 1, maxLength: 12 }), async (changes) => {
      const { fields, lines } = await exported();
      expect(lines).toEqual(first.lines);
      const wanted = lines.map((line) => ({ ...line }));
      const touched = new Set<number>();
      for (const { row, column, to } of changes) {
        const at = row % lines.length;
        (lines[at] as Line)[column] = safe(to[0]);
        (wanted[at] as Line)[column] = safe(to[1]);
      }
      for (const [at, line] of wanted.entries())
        if (JSON.stringify(line) !== JSON.stringify(first.lines[at])) touched.add(at);
      const { id, counts } = await bringBack(fields, lines);
      expect(counts).toMatchObject({
        changed: touched.size,
        unchanged: lines.length - touched.size,
        refused: 0,
        created: 0,
      });
      if (touched.size === 0) return;
      await client.send('POST', `/api/batches/${id}/apply`);
      expect((await exported()).lines).toEqual(wanted);
      // Brought back once more it says nothing new.
      expect((await bringBack(fields, (await exported()).lines)).counts.changed).toBe(0);
      await client.send('POST', `/api/batches/${id}/undo`);
      expect((await exported()).lines).toEqual(first.lines);
    }),
    { numRuns: 12 },
  );
  const edits = await queryRows<{ n: number }>(db, sql`SELECT count(*) AS n FROM claim_edit`);
  expect(edits[0]?.n).toBe(0);
});

it('cells that cannot be are refused one by one, and the rest of their file goes in', async () => {
  const { fields, lines } = await exported();
  const [first, second, third] = lines as [Line, Line, Line];
  first.weight = 'rather heavy';
  second['price GBP'] = 'ask us';
  third.material = 'cork';
  const { id, counts } = await bringBack(fields, lines);
  expect(counts).toMatchObject({ changed: 1, refused: 2 });
  const refused = (await client.get(`/api/batches/${id}/rows?outcome=refused`)).body.items;
  expect(refused.map((row: { reasons: string[] }) => row.reasons.join())).toEqual([
    expect.stringMatching(/rather heavy/),
    expect.stringMatching(/ask us/),
  ]);
  await client.send('POST', `/api/batches/${id}/apply`);
  const after = (await exported()).lines;
  expect(after[2]?.material).toBe('cork');
  expect(after[0]?.weight).not.toBe('rather heavy');
  await client.send('POST', `/api/batches/${id}/undo`);
});
