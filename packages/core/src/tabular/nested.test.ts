import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  UnreadableFile,
  chooseElements,
  chooseLists,
  detectTextFormat,
  flattenItem,
  jsonItems,
  jsonLines,
  linkedItems,
  scanJson,
  scanXml,
  variantLists,
  xmlItems,
} from './index.js';

const demo = (name: string) => readFileSync(new URL(`../../../../demo/files/intake/${name}`, import.meta.url), 'utf8');

/** A text as it comes from a disk: in pieces that end anywhere. */
async function* pieces(text: string, size = 97): AsyncGenerator<string> {
  for (let at = 0; at < text.length; at += size) yield text.slice(at, at + size);
}
async function all<T>(source: AsyncIterable<T>): Promise<T[]> {
  const list: T[] = [];
  for await (const awaited of source) list.push(awaited);
  return list;
}

describe('what a text is', () => {
  it.each([
    ['a;b\n1;2', 'delimited'],
    ['{"items": [\n{"a": 1}]}', 'json'],
    ['[{"a": 1}]', 'json'],
    ['{"a": 1}\n{"a": 2}\n', 'jsonl'],
    ['<list><item a="1"/></list>', 'xml'],
    ['<!DOCTYPE html><html></html>', 'jsonld'],
    ['{"@context": "https://schema.org", "@type": "Product"}', 'jsonld'],
  ] as const)('%j is %s', (text, format) => expect(detectTextFormat(text).value).toBe(format));
});

describe('JSON', () => {
  it('finds the list of items and that of their variants, from a beginning that ends anywhere', () => {
    const lists = scanJson(demo('kestrelgate-seeds.json').slice(0, 9000));
    const { items, variants } = chooseLists(lists);
    expect(items?.path).toBe('items');
    expect(variants?.path).toBe('packets');
    expect(variantLists(lists, 'items').map((list) => list.path)).toEqual(['packets']);
  });
  it('reads item by item: 55 items with 118 packets, one of them without', async () => {
    const items = await all(jsonItems(pieces(demo('kestrelgate-seeds.json')), 'items'));
    expect(items.length).toBe(55);
    const rows = items.flatMap((item) => flattenItem(item, 'packets'));
    expect(rows.filter((row) => row.has('packets.code')).length).toBe(118);
    expect(rows.filter((row) => !row.has('packets.code')).length).toBe(1);
    expect(rows[0]?.get('height.value')).toBe('40');
  });
  it('drops U+0000 and half characters out of names and values, and finds no list under such a name', () => {
    const text =
      '{"it\\u0000ems": [{"a": 1}], "goods": [{"na\\u0000me\\ud800": "Fl\\u0000ower \\ud83c\\udf31 \\udf31"}]}';
    expect(scanJson(text).map((list) => list.path)).toEqual(['goods']);
    const [row] = flattenItem((JSON.parse(text) as { goods: unknown[] }).goods[0], null);
    expect([...(row ?? [])]).toEqual([['name\uFFFD', 'Flower \u{1f331} \uFFFD']]);
  });
  it('takes a list at the root', async () => {
    expect(await all(jsonItems(pieces('[{"a":1},{"a":2}]', 5), ''))).toEqual([{ a: 1 }, { a: 2 }]);
  });
  it('says where a document breaks off', async () => {
    await expect(all(jsonItems(pieces('{"items":[{"a":1},{"a"'), 'items'))).rejects.toThrow('not closed');
    await expect(all(jsonItems(pieces('{"items":[{"a":1},nonsense]}'), 'items'))).rejects.toThrow(/stops being JSON/);
  });
  it('reads lines one by one, and hands on a broken one with its number', async () => {
    const lines = await all(jsonLines(pieces('{"a":1}\n\n{"a":\n{"a":3}', 4)));
    expect(lines.map((line) => ('item' in line ? 'ok' : line.broken))).toEqual([
      'ok',
      expect.stringContaining('Line 3 is not JSON'),
      'ok',
    ]);
  });
});

describe('XML', () => {
  it('finds repeated elements by their local names', () => {
    const { items, variants } = chooseElements(scanXml(demo('kestrelgate-seeds.xml').slice(0, 6000)).lists);
    expect(items?.path).toBe('list.item');
    expect(variants?.path).toBe('packet');
  });
  it('reads the same goods as the JSON of them: attributes, CDATA, namespaces', async () => {
    const items = await all(xmlItems(pieces(demo('kestrelgate-seeds.xml')), 'list.item'));
    const rows = items.flatMap((item) => flattenItem(item, 'packet'));
    expect(items.length).toBe(55);
    expect(rows.filter((row) => row.has('packet.@code')).length).toBe(118);
    expect(rows[0]?.get('text')).toContain('Pinch out early & often');
    expect(rows[0]?.get('name')).toContain('&lsquo;Ombrel&rsquo;');
    expect(rows[0]?.get('name.@botanical')).toBe('Ocimum basilicum');
  });
  it('never loads an external entity, and refuses documents that name one', async () => {
    const bad = '<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a><b c="1">&x;</b><b c="2"/></a>';
    expect(() => scanXml(bad)).toThrow(UnreadableFile);
    await expect(all(xmlItems(pieces(bad), 'a.b'))).rejects.toThrow('never loaded');
  });
  it('says the line where a document is broken', async () => {
    await expect(all(xmlItems(pieces('<a>\n<b c="1"></b>\n<b></c></a>'), 'a.b'))).rejects.toThrow('line 3');
  });
});

describe('schema.org', () => {
  const product = {
    '@context': 'https://schema.org',
    '@graph': [
      {
        '@type': 'ProductGroup',
        productGroupID: 'HOL',
        name: 'Hollin',
        hasVariant: [
          {
            '@type': 'Product',
            sku: 'HOL-1',
            gtin13: '2104000004131',
            offers: { '@type': 'Offer', price: '6.99', priceCurrency: 'GBP' },
          },
          { '@type': 'Product', sku: 'HOL-2', brand: { '@type': 'Brand', name: 'Brackwater' } },
        ],
      },
    ],
  };
  it('comes out of a page, wherever its scripts stand', () => {
    const page = `<!doctype html><html><head><title>x</title><script>var a = 1 < 2;</script>
      <script type="application/ld+json">${JSON.stringify(product)}</script></head><body><p>Hollin</p></body></html>`;
    const rows = linkedItems(page).flatMap((item) => flattenItem(item, 'hasVariant'));
    expect(rows.map((row) => row.get('hasVariant.sku'))).toEqual(['HOL-1', 'HOL-2']);
    expect(rows[0]?.get('hasVariant.offers.priceCurrency')).toBe('GBP');
    expect(rows[1]?.get('productGroupID')).toBe('HOL');
  });
  it('says so where a page describes nothing', () => {
    expect(() => linkedItems('<html><body>Hollin</body></html>')).toThrow('no schema.org description');
    expect(() => linkedItems('{"@context":"https://schema.org","@type":"Person"}')).toThrow('no product');
  });
});

describe('an item as flat rows', () => {
  it('joins lists of plain values, numbers lists of objects, and says yes and no', () => {
    const [row] = flattenItem({ a: [1, 2], b: [{ c: 'x' }, { c: 'y' }], d: true, e: null, f: { g: { h: 7 } } }, null);
    expect(Object.fromEntries(row ?? [])).toEqual({
      a: '1 | 2',
      'b[1].c': 'x',
      'b[2].c': 'y',
      d: 'yes',
      e: '',
      'f.g.h': '7',
    });
  });
  it('repeats the item’s own fields on each variant; an item without variants is one row', () => {
    const rows = flattenItem({ id: 'A', v: [{ n: 1 }, { n: 2 }] }, 'v');
    expect(rows.map((row) => Object.fromEntries(row))).toEqual([
      { id: 'A', 'v.n': '1' },
      { id: 'A', 'v.n': '2' },
    ]);
    expect(flattenItem({ id: 'B', v: [] }, 'v').map((row) => Object.fromEntries(row))).toEqual([{ id: 'B' }]);
    expect(flattenItem({ id: 'C', v: { n: 3 } }, 'v').map((row) => row.get('v.n'))).toEqual(['3']);
  });
  it('finds variants below a path of several keys', () => {
    const rows = flattenItem({ id: 'A', more: { v: [{ n: 1 }, { n: 2 }] } }, 'more.v');
    expect(rows.map((row) => row.get('more.v.n'))).toEqual(['1', '2']);
  });
});

it('members of schema.org’s enumerations are words', () => {
  const page = JSON.stringify({
    '@context': 'https://schema.org',
    '@type': 'Product',
    sku: 'A',
    offers: {
      '@type': 'Offer',
      price: '12.50',
      priceCurrency: 'EUR',
      availability: 'https://schema.org/InStock',
      itemCondition: { '@id': 'https://schema.org/NewCondition' },
    },
    weight: { '@type': 'QuantitativeValue', value: 3, unitCode: 'KGM' },
  });
  expect(Object.fromEntries(linkedItems(page).flatMap((item) => [...(flattenItem(item, null)[0] ?? [])]))).toEqual({
    sku: 'A',
    'offers.price': '12.50',
    'offers.priceCurrency': 'EUR',
    'offers.availability': 'in stock',
    'offers.itemCondition': 'new condition',
    'weight.value': '3',
    'weight.unitCode': 'KGM',
  });
});
