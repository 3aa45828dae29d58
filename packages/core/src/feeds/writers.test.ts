import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import type { Item } from '../checks/index.js';
import { loadRulebook } from '../rulebooks/index.js';
import { compareRuns, compileWriter, guardRun, xmlText } from './index.js';

const read = loadRulebook(
  JSON.parse(readFileSync(new URL('../../../../apps/standins/rulebooks/orrivo-2026.1.json', import.meta.url), 'utf8')),
);
if (!read.ok) throw new Error('rulebook');
const meta = { title: 'T & T', link: 'http://x', description: 'd', currency: 'GBP' };
const item: Item = {
  id: 'S1',
  title: 'Pot <5">, "moss"',
  price: 699,
  description: 'One\ntwo\t& three',
  image: [{ address: 'http://x/a.jpg' }],
  moreImages: [{ address: 'http://x/b' }, { address: 'http://x/c' }],
};

describe('delimited text', () => {
  it('is read back by another parser as it was written', () => {
    const names = read.rulebook.feed.fields.map((one) => one.attribute);
    const writer = compileWriter('csv', read.rulebook, meta);
    fc.assert(
      fc.property(
        fc.record({ id: fc.string(), title: fc.string({ unit: 'binary' }), description: fc.string() }),
        (one) => {
          // The separator is given: a guess would take "|||" for one.
          const rows = Papa.parse<string[]>(writer.head + writer.item(one) + writer.foot, { delimiter: ',' }).data;
          for (const key of ['id', 'title', 'description'] as const)
            expect(rows[1]?.[names.indexOf(key)]).toBe(one[key]);
        },
      ),
    );
  });
  it('keeps one item to a line in TSV, with money as amount and currency', () => {
    const writer = compileWriter('tsv', read.rulebook, meta);
    const line = writer.item(item);
    expect(line.match(/\n/g)?.length).toBe(1);
    expect(line.split('\t').length).toBe(read.rulebook.feed.fields.length);
    expect(line).toContain('6.99 GBP');
  });
});

describe('RSS', () => {
  it('escapes markup, repeats pictures, and uses the channel’s namespace', () => {
    const writer = compileWriter('rss', read.rulebook, meta);
    const text = writer.item(item);
    expect(writer.head).toContain('xmlns:o="urn:orrivo:catalogue:1"');
    expect(writer.head).toContain('<title>T &amp; T</title>');
    expect(text).toContain('<title>Pot &lt;5"&gt;, "moss"</title>');
    expect(text.match(/<o:more_image>/g)?.length).toBe(2);
  });
  it('drops what XML cannot hold', () => expect(xmlText('a\u0000b\u0008c\ud800')).toBe('abc\ufffd'));
});

describe('the guard', () => {
  const runs = (before: string[], after: string[]) =>
    compareRuns(new Map(before.map((one) => [one, '1'])), new Map(after.map((one) => [one, '1'])));
  it('counts what comes, goes and changes', () => {
    expect(
      compareRuns(
        new Map([
          ['a', '1'],
          ['b', '1'],
        ]),
        new Map([
          ['b', '2'],
          ['c', '1'],
        ]),
      ),
    ).toEqual({ before: 2, after: 2, added: 1, removed: 1, changed: 1 });
  });
  it('holds an empty file, and one that drops too much', () => {
    expect(guardRun(runs([], []), { maxRemoved: 0.3 })).toContain('empty');
    expect(guardRun(runs(['a', 'b', 'c'], ['a']), { maxRemoved: 0.3 })).toContain('2 of 3');
    expect(guardRun(runs(['a', 'b', 'c', 'd'], ['a', 'b', 'c']), { maxRemoved: 0.3 })).toBeUndefined();
  });
});
