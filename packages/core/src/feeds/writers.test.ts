import { readPublished, rulebooksOf } from '@velvet-shelf/rulebooks';
import { validateXML } from 'xmllint-wasm';
import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { type Item, loadRulebook } from '../checks/index.js';
import type { Rulebook } from '../rulebooks/index.js';
import { compareRuns, compileWriter, guardRun, xmlText } from './index.js';

const read = loadRulebook(rulebooksOf('orrivane').at(0));
if (!read.ok) throw new Error('rulebook');
const { rulebook } = read;
const meta = { title: 'T & T', link: 'http://x', description: 'd', currency: 'GBP' };
const item: Item = {
  own: 'S-1',
  leavesIn: 0,
  asks: { kind: 'money', minor: 699, currency: 'GBP' },
  askedBefore: { kind: 'money', minor: 900, currency: 'GBP' },
  until: '2026-12-24',
  gtin: '2104000004131',
  maker: 'A & B',
  kin: 'F9',
  differsShade: 'moss',
  differsSize: '12 cm',
  view: { kind: 'pictures', pictures: [{ address: 'http://x/a.jpg' }] },
  moreViews: { kind: 'pictures', pictures: [{ address: 'http://x/b' }, { address: 'http://x/c' }] },
  short: 'Pot <5">, "moss"',
  long: 'One\ntwo\t& three',
  page: 'https://x.example/a',
  parcel: { kind: 'measure', amount: '1200', unit: 'g' },
};

/** A channel that takes rows. */
const flat: Rulebook = {
  ...rulebook,
  exchange: {
    itemKey: 'own',
    formats: ['csv', 'tsv', 'rss'],
    rows: {
      rss: { prefix: 'v', namespace: 'urn:v' },
      fields: [
        { attribute: 'own', name: 'code' },
        { attribute: 'short', name: 'title', plain: true },
        { attribute: 'long', name: 'about' },
        { attribute: 'asks', name: 'asks' },
        { attribute: 'moreViews', name: 'view' },
      ],
    },
  },
};

describe('delimited text', () => {
  it('is read back by another parser as it was written', () => {
    const writer = compileWriter('csv', flat, meta);
    fc.assert(
      fc.property(fc.record({ own: fc.string(), short: fc.string({ unit: 'binary' }), long: fc.string() }), (row) => {
        // The separator is given: a guess would take "|||" for one.
        const rows = Papa.parse<string[]>(writer.head + writer.item(row) + writer.foot, { delimiter: ',' }).data;
        expect(rows[1]?.slice(0, 3)).toEqual([row.own, row.short, row.long]);
      }),
    );
  });
  it('keeps one item to a line in TSV, with money as amount and currency', () => {
    const line = compileWriter('tsv', flat, meta).item(item);
    expect(line.match(/\n/g)?.length).toBe(1);
    expect(line.split('\t').slice(3)).toEqual(['6.99 GBP', 'http://x/b,http://x/c\n']);
  });
});

describe('RSS', () => {
  it('escapes markup, repeats lists, and uses the channel’s namespace', () => {
    const writer = compileWriter('rss', flat, meta);
    const text = writer.item(item);
    expect(writer.head).toContain('xmlns:v="urn:v"');
    expect(writer.head).toContain('<title>T &amp; T</title>');
    expect(text).toContain('<title>Pot &lt;5"&gt;, "moss"</title>');
    expect(text.match(/<v:view>/g)?.length).toBe(2);
  });
  it('drops what XML cannot hold', () => expect(xmlText('a\u0000b\u0008c\ud800')).toBe('abc\ufffd'));
});

describe('a document of blocks', () => {
  const blocks =
    '<piece><terms><leaves-in>0</leaves-in><asks currency="GBP">6.99</asks><asked-before until="2026-12-24">9.00</asked-before></terms>' +
    '<codes><code kind="own">S-1</code><code kind="gtin">2104000004131</code><maker>A &amp; B</maker></codes>' +
    '<kin key="F9"><differs name="shade">moss</differs><differs name="size">12 cm</differs></kin>' +
    '<looks><view>http://x/a.jpg</view><view>http://x/b</view><view>http://x/c</view></looks>' +
    '<words><short>Pot &lt;5"&gt;, "moss"</short><long>One\ntwo\t&amp; three</long></words>' +
    '<where><page>https://x.example/a</page></where><parcel>1200</parcel></piece>\n';
  it('has them in their order, and leaves out what has no value', () => {
    const writer = compileWriter('xml', rulebook, meta);
    expect(writer.head).toContain('<goods xmlns="urn:orrivane:goods:1">');
    expect(writer.item(item)).toBe(blocks);
    const without = writer.item({ ...item, kin: undefined, until: undefined });
    expect(without).not.toContain('<kin');
    expect(without).toContain('<asked-before>9.00</asked-before>');
  });
  it('is what the channel’s own schema asks for, whatever stands in its texts', async () => {
    const writer = compileWriter('xml', rulebook, meta);
    const words = fc.record({
      short: fc.string({ unit: 'binary', minLength: 1 }),
      long: fc.string({ unit: 'binary', minLength: 1 }),
    });
    const some = fc.sample(words, { numRuns: 200, seed: 7 }).map((text) => writer.item({ ...item, ...text }));
    const judged = (contents: string) =>
      validateXML({ xml: { fileName: 'goods.xml', contents }, schema: readPublished('orrivane-goods.xsd') });
    expect(await judged(writer.head + some.join('') + writer.foot)).toMatchObject({ valid: true, errors: [] });
    const bare = writer.item({ ...item, maker: undefined });
    expect((await judged(writer.head + bare + writer.foot)).valid).toBe(false);
  });
  it('says the same as JSON Lines, lists as lists', () => {
    const line = compileWriter('jsonl', rulebook, meta).item(item);
    expect(line.endsWith('}\n')).toBe(true);
    expect(JSON.parse(line)).toEqual({
      terms: {
        'leaves-in': '0',
        asks: { currency: 'GBP', value: '6.99' },
        'asked-before': { until: '2026-12-24', value: '9.00' },
      },
      codes: {
        code: [
          { kind: 'own', value: 'S-1' },
          { kind: 'gtin', value: '2104000004131' },
        ],
        maker: 'A & B',
      },
      kin: {
        key: 'F9',
        differs: [
          { name: 'shade', value: 'moss' },
          { name: 'size', value: '12 cm' },
        ],
      },
      looks: { view: ['http://x/a.jpg', 'http://x/b', 'http://x/c'] },
      words: { short: 'Pot <5">, "moss"', long: 'One\ntwo\t& three' },
      where: { page: 'https://x.example/a' },
      parcel: '1200',
    });
  });
  it('keeps an item to a line whatever stands in it', () => {
    const writer = compileWriter('jsonl', rulebook, meta);
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (short) => {
        const line = writer.item({ own: 'a', short });
        expect(line.indexOf('\n')).toBe(line.length - 1);
        expect((JSON.parse(line) as { words: { short: string } }).words.short).toBe(short);
      }),
    );
  });
});

describe('the guard', () => {
  const runs = (before: string[], after: string[]) =>
    compareRuns(new Map(before.map((text) => [text, '1'])), new Map(after.map((text) => [text, '1'])));
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
