/** What goes in by COPY or as a parameter comes out again: every text there is, but for what no text can hold. */
import { copyIn, copyLine, copyText, keptJson } from '@velvet-shelf/server/db/copy';
import { json, onClient, queryRows, texts, verbatim } from '@velvet-shelf/server/db/client';
import { sql } from 'drizzle-orm';
import fc from 'fast-check';
import { afterAll, describe, expect, it } from 'vitest';
import { db } from './client.js';

afterAll(() => db.$client.end());

/** U+0000 is dropped, half a surrogate pair becomes U+FFFD. */
const kept = (text: string) => text.replaceAll('\0', '').toWellFormed();

/** Escapes written out, escapes themselves, and what COPY and JSON give a meaning to. */
const text = fc
  .array(
    fc.oneof(
      fc.string({ unit: 'binary', maxLength: 4 }),
      fc.constantFrom(
        '\0',
        '\ud83c',
        '\udf31',
        '\u{1f331}',
        '\\',
        '\\N',
        '\\.',
        '\\u0000',
        '\\\\u0000',
        '\\ud800',
        '"',
        "'",
        '\t',
        '\n',
        '\r',
        '{',
        '}',
      ),
    ),
    { maxLength: 6 },
  )
  .map((parts) => parts.join(''));

describe('a text', () => {
  it('is the same after COPY, in a column of its own, in json and in jsonb', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(text, { minLength: 1, maxLength: 8 }), async (list) => {
        const found = await onClient(db, async ({ tx, client }) => {
          await tx.execute(sql`CREATE TEMP TABLE tried (id int, plain text, letter json, tree jsonb) ON COMMIT DROP`);
          const lines = list.map((word, id) =>
            copyLine([id, word, { [`k${word}`]: word }, { list: [word, null, 1.5, true] }]),
          );
          await copyIn(client, 'tried', ['id', 'plain', 'letter', 'tree'], lines);
          return queryRows<{ plain: string; letter: Record<string, string>; tree: { list: unknown[] } }>(
            tx,
            sql`SELECT plain, letter, tree FROM tried ORDER BY id`,
          );
        });
        expect(found).toEqual(
          list.map((word) => ({
            plain: kept(word),
            letter: { [kept(`k${word}`)]: kept(word) },
            tree: { list: [kept(word), null, 1.5, true] },
          })),
        );
      }),
      { numRuns: 60 },
    );
  });

  it('is the same as a parameter: in json, in jsonb, in a list', async () => {
    const clean = text.map(kept);
    await fc.assert(
      fc.asyncProperty(text, fc.array(clean, { minLength: 1, maxLength: 5 }), async (word, list) => {
        const [found] = await queryRows<{ tree: string; letter: { v: string }; list: string[] }>(
          db,
          sql`SELECT ${json({ v: word })} ->> 'v' AS tree, ${verbatim({ v: word })} AS letter, ${texts(list)} AS list`,
        );
        expect(found).toEqual({ tree: kept(word), letter: { v: kept(word) }, list });
      }),
      { numRuns: 60 },
    );
  });
});

it('JSON is only touched where it holds what cannot be kept', () => {
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      const written = JSON.stringify(value);
      expect(keptJson(written)).toBe(written);
    }),
  );
  fc.assert(
    fc.property(text, (word) => {
      expect(JSON.parse(keptJson(JSON.stringify(word)))).toBe(kept(word));
    }),
  );
  expect(keptJson(JSON.stringify('written out: \\u0000'))).toBe('"written out: \\\\u0000"');
});

it('a line of COPY tells empty from nothing', () => {
  expect(copyLine([1, '', null, undefined, true, 0])).toBe('1\t\t\\N\t\\N\ttrue\t0\n');
  expect(copyText('\\N')).toBe('\\\\N');
  expect(copyText('a\tb\nc')).toBe('a\\tb\\nc');
});
