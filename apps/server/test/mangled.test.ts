/**
 * Files as they should never be: cut off, with bytes changed, doubled or put in. Whatever comes, there is a clear answer,
 * every row is accounted for, and what was applied can be taken back to the last value.
 */
import { readFileSync } from 'node:fs';
import { queryRows } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Answer, Client, db } from './client.js';

const client = new Client();

beforeAll(async () => {
  await client.signIn();
  const { body } = await client.upload('mosswick-own.tsv', originals['mosswick-own.tsv'] as Uint8Array);
  await client.send('POST', `/api/batches/${body.id}/try`);
  await client.send('POST', `/api/batches/${body.id}/apply`);
  await client.idle();
});
afterAll(() => db.$client.end());

const demo = (name: string) => readFileSync(new URL(`../../../demo/files/intake/${name}`, import.meta.url));
const utf8 = (text: string) => new TextEncoder().encode(text);

/** A dozen goods of each format: small enough to be mangled hundreds of times. */
const originals: Record<string, Uint8Array> = {
  'brackwater-pottery.csv': demo('brackwater-pottery.csv').subarray(0, linesEnd(demo('brackwater-pottery.csv'), 13)),
  'mosswick-own.tsv': demo('mosswick-own.tsv').subarray(0, linesEnd(demo('mosswick-own.tsv'), 40)),
  'price-stock-update.csv': demo('price-stock-update.csv').subarray(0, linesEnd(demo('price-stock-update.csv'), 12)),
  'kestrelgate-seeds.json': utf8(firstItems()),
  'kestrelgate-lines.jsonl': utf8(
    itemsOf(JSON.parse(firstItems()))
      .map((item) => JSON.stringify(item))
      .join('\n'),
  ),
  'kestrelgate-seeds.xml': utf8(
    demo('kestrelgate-seeds.xml')
      .toString('utf8')
      .replace(/^((?:[\s\S]*?<\/kg:item>){5})[\s\S]*(<\/kg:list>\s*)$/, '$1$2'),
  ),
};

function linesEnd(bytes: Uint8Array, lines: number): number {
  let at = 0;
  for (let i = 0; i < lines; i++) at = bytes.indexOf(0x0a, at) + 1;
  return at;
}

type Item = Record<string, unknown>;

/** The longest list in a document is its goods. */
function itemsOf(document: unknown): Item[] {
  const lists: Item[][] = [];
  const walk = (value: unknown) => {
    if (Array.isArray(value)) lists.push(value as Item[]);
    else if (typeof value === 'object' && value !== null) Object.values(value).forEach(walk);
  };
  walk(document);
  return lists.sort((a, b) => b.length - a.length)[0] ?? [];
}

function firstItems(): string {
  const document = JSON.parse(demo('kestrelgate-seeds.json').toString('utf8')) as unknown;
  itemsOf(document).splice(6);
  return JSON.stringify(document, null, 1);
}

/** What goes wrong on the way: each takes bytes and a place among them. */
const mishaps = {
  'is cut off': (bytes: Uint8Array, at: number) => bytes.slice(0, at),
  'has a byte changed': (bytes: Uint8Array, at: number, chance: number) => {
    const copy = bytes.slice();
    copy[at] = chance % 256;
    return copy;
  },
  'has a piece twice': (bytes: Uint8Array, at: number, chance: number) =>
    join(bytes.slice(0, at), bytes.slice(Math.max(0, at - (chance % 300)))),
  'lacks a piece': (bytes: Uint8Array, at: number, chance: number) =>
    join(bytes.slice(0, at), bytes.slice(at + (chance % 300))),
  'has something put in': (bytes: Uint8Array, at: number, chance: number) =>
    join(bytes.slice(0, at), utf8(intruders[chance % intruders.length] ?? ''), bytes.slice(at)),
  'has a byte of no encoding put in': (bytes: Uint8Array, at: number, chance: number) =>
    join(bytes.slice(0, at), Uint8Array.of([0x00, 0xff, 0xfe, 0x81, 0xc3, 0xed][chance % 6] ?? 0), bytes.slice(at)),
};

const intruders = [
  '"',
  '\n',
  '\r',
  '\t',
  ';;;;',
  '\\u0000',
  '\\ud800',
  '\\',
  '{',
  ']',
  '</',
  '&amp;amp;',
  '&nobody;',
  '<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]>',
  '=cmd|x!A1',
  '9'.repeat(400),
  '1e400',
  '-0.000000000000000000001',
  '\u202e\u0301\u{1f331}',
  "'; DROP TABLE product; --",
  'A'.repeat(70_000),
];

/** In thousandths of a file. */
const places = fc.integer({ min: 0, max: 999 });

const join = (...parts: Uint8Array[]) => new Uint8Array(Buffer.concat(parts));

/** All that a batch can change of the goods, as one text. */
async function shelf(): Promise<string> {
  const found = await queryRows<{ all: string }>(
    db,
    sql`SELECT md5(coalesce(string_agg(concat_ws('|', p.sku, p.kind, p.title, p.brand, p.category, p.gtin, p.state, p.price, p.stock, p.facts, p.offers, p.options, p.merged_into, t.texts,
          (SELECT string_agg(concat_ws(':', f.attribute_id, f.lang, f.num, f.key), ',' ORDER BY f.attribute_id, f.lang, f.num, f.key) FROM fact f WHERE f.product_id = p.id)), E'\n' ORDER BY p.id), ''))
          || ' ' || count(*) AS "all"
        FROM product p LEFT JOIN product_text t ON t.product_id = p.id`,
  );
  return found[0]?.all ?? '';
}

const words = (answer: Answer) => JSON.stringify(answer.body).slice(0, 500);

/** Refused by name, with something a person can do about it. */
function expectProblem(answer: Answer): void {
  expect(answer.headers.get('content-type'), words(answer)).toContain('application/problem+json');
  expect(answer.status, words(answer)).toBeLessThan(500);
  expect(answer.body.detail.length, words(answer)).toBeGreaterThan(15);
}

/** Brings a file in as far as it goes, and takes it back. Answers how far it came. */
async function bringInAndBack(name: string, bytes: Uint8Array): Promise<'unread' | 'untried' | 'unapplied' | 'undone'> {
  const before = await shelf();
  const uploaded = await client.upload(name, bytes);
  if (uploaded.status >= 400) {
    expectProblem(uploaded);
    return 'unread';
  }
  const batch = `/api/batches/${uploaded.body.id}`;
  const tried = await client.send('POST', `${batch}/try`);
  if (tried.status >= 400) {
    expectProblem(tried);
    expect((await client.get(batch)).body.state).toBe('read');
    expect(await shelf()).toBe(before);
    return 'untried';
  }
  const { counts } = tried.body;
  const listed = await client.get(`${batch}/rows?limit=200`);
  expect(listed.body.items).toHaveLength(
    Math.min(200, counts.created + counts.joins + counts.changed + counts.unchanged + counts.refused),
  );
  for (const row of listed.body.items)
    if (row.outcome === 'refused') expect(row.reasons.join(), JSON.stringify(row)).toMatch(/\w{3}/);
  const refused = new TextDecoder().decode(await client.bytes(`${batch}/refused.csv`));
  if (counts.refused > 0) expect(refused).toMatch(/Refused because/);
  expect(await shelf()).toBe(before);
  const applied = await client.send('POST', `${batch}/apply`);
  if (applied.status >= 400) {
    expectProblem(applied);
    return 'unapplied';
  }
  expect(applied.body.state, words(applied)).toBe('applied');
  const undone = await client.send('POST', `${batch}/undo`);
  expect(undone.status, words(undone)).toBe(200);
  expect((await client.get(batch)).body.state).toBe('undone');
  expect(await shelf()).toBe(before);
  return 'undone';
}

describe.each(Object.keys(originals))('%s', (name) => {
  const original = originals[name] as Uint8Array;

  it('as it is comes in, and goes without a trace', async () => {
    expect(await bringInAndBack(name, original)).toBe('undone');
  });

  it.each(Object.entries(mishaps))('that %s', async (_, mishap) => {
    await fc.assert(
      fc.asyncProperty(places, fc.nat(), async (at, chance) => {
        await bringInAndBack(name, mishap(original, Math.floor((at / 1000) * original.length), chance));
      }),
      { numRuns: 2 },
    );
  });
});

describe('a workbook', () => {
  const original = new Uint8Array(demo('lumenloam-lighting.xlsx'));

  it.each(['is cut off', 'has a byte changed', 'lacks a piece'] as const)('that %s', async (what) => {
    await fc.assert(
      fc.asyncProperty(places, fc.nat(), async (at, chance) => {
        await bringInAndBack(
          'lumenloam-lighting.xlsx',
          mishaps[what](original, Math.floor((at / 1000) * original.length), chance),
        );
      }),
      { numRuns: 2 },
    );
  });
});
