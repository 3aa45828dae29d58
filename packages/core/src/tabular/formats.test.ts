/** What a file is, told by its beginning: tables with awkward headers, documents on one line, names in two namespaces, pages. */
import { describe, expect, it } from 'vitest';
import { chooseLists, detectLayout, detectTextFormat, linkedItems, scanJson, scanXml, xmlItems } from './index.js';

describe('the header', () => {
  it.each([
    ['whose names repeat', 'Art;Name;Price;Price;Stock\n1;Pot;3,20;4,10;5\n2;Bowl;4,20;5,10;6\n', 1],
    ['with empty cells', 'Art;Name;;Price;\n1;Pot;red;3,20;x\n2;Bowl;blue;4,20;y\n', 1],
    ['above goods that are all words', 'Art;Name;Colour;Colour\nA;Pot;red;blue\nB;Bowl;green;red\n', 1],
    [
      'below a row that names groups',
      'Goods;Goods;Size;Size\nArt;Name;Height;Width\nA-1;Pot;10;20\nA-2;Bowl;12;22\n',
      2,
    ],
    ['below titles', 'List of May;;;\nvalid;;;\nArt;Name;Colour;Price\nA;Pot;red;1\nB;Bowl;blue;2\n', 3],
    ['below figures', '2026;05;01;1\nArt;Name;Colour;Price\nA;Pot;red;1\nB;Bowl;blue;2\n', 2],
  ])('%s', (_, text, row) => expect(detectLayout(text).headerRow.value).toBe(row));
});

describe('a document', () => {
  it.each([
    ['on one line is one document', '{"goods":[{"id":1},{"id":2}]}', 'json'],
    ['on one line, with a line end', '{"goods":[{"id":1},{"id":2}]}\n', 'json'],
    ['of one list on one line', '[{"id":1},{"id":2}]', 'json'],
    ['with an item a line is JSON Lines', '{"id":1}\n{"id":2}\n', 'jsonl'],
    ['with an item a line, some of them broken', '{"id":1}\n{"id":2\n', 'jsonl'],
    ['over lines', '{\n "goods": [\n{"id":1}\n]}', 'json'],
    ['that is a page', '<!-- made by hand -->\n<!DOCTYPE html>\n<html>', 'jsonld'],
    ['that is a page with a declaration', '<?xml version="1.0"?>\n<!DOCTYPE html PUBLIC "x">\n<html>', 'jsonld'],
    ['that is a piece of a page', '<table><tr><td>Pot</td></tr></table>', 'jsonld'],
    ['of goods as XML', '<?xml version="1.0"?><goods><item/></goods>', 'xml'],
  ])('%s', (_, text, format) => expect(detectTextFormat(text).value).toBe(format));

  it('names the lists beside the one that is read', () => {
    const lists = scanJson('{"pots":[{"id":1},{"id":2}],"lamps":[{"id":3}]}');
    expect(lists.map(({ path, objects }) => [path, objects])).toEqual([
      ['pots', 2],
      ['lamps', 1],
    ]);
    expect(chooseLists(lists).items?.path).toBe('pots');
  });
});

it('a page that is no table is called one', () => {
  expect(() => linkedItems('<html><body><table><tr><td>Pot</td></tr></table></body></html>')).toThrow(
    /web page, not a table/,
  );
});

describe('elements of one local name in two namespaces', () => {
  const item = (title: string, other: string) =>
    `<item><title>${title}</title><g:title>${other}</g:title><g:price>3</g:price></item>`;
  const text = `<rss xmlns:g="urn:goods"><channel>${item('Pot', 'Clay pot')}${item('Bowl', 'Clay bowl')}</channel></rss>`;
  const read = async (apart?: string[]) => {
    const items = [];
    for await (const xmlItem of xmlItems(
      (async function* () {
        yield text;
      })(),
      'rss.channel.item',
      apart,
    ))
      items.push(xmlItem);
    return items;
  };
  it('are found, and kept apart', async () => {
    const { apart, lists } = scanXml(text);
    expect(apart).toEqual(['title']);
    expect(lists.map((list) => list.path)).toContain('rss.channel.item');
    expect(await read(apart)).toEqual([
      { title: 'Pot', 'g:title': 'Clay pot', price: '3' },
      { title: 'Bowl', 'g:title': 'Clay bowl', price: '3' },
    ]);
  });
  it('are not run together where nobody said so before', async () => {
    expect(await read()).toEqual([
      { title: 'Pot', 'g:title': 'Clay pot', price: '3' },
      { title: 'Bowl', 'g:title': 'Clay bowl', price: '3' },
    ]);
  });
});
