import { describe, expect, it } from 'vitest';
import { loadRulebook } from '../checks/index.js';
import { startSet } from '../catalog/index.js';
import { suggestFills } from '../listings/index.js';
import { type SmallChannel, smallRulebook } from './small.js';

const small: SmallChannel = {
  name: 'Tråd & Tøj',
  fields: [
    { label: 'Article number', type: 'text', need: 'optional' },
    { label: 'Title', type: 'text', need: 'required', maxLength: 60 },
    { label: 'Title', type: 'text', need: 'optional' },
    { label: 'Our price', type: 'money', need: 'required' },
    { label: '2nd picture', type: 'picture', need: 'optional' },
    { label: 'Fit', type: 'text', need: 'optional', values: ['slim', 'loose'] },
  ],
  market: { name: 'Denmark', country: 'DK', language: 'da-DK', currency: 'DKK' },
  categories: [['Tøj', 'Huer'], ['Tøj', 'Vanter'], ['Bolig']],
  needsCategory: true,
  formats: ['csv', 'xml', 'jsonl', 'rss', 'tsv'],
  today: '2026-11-28',
};

describe('a small channel', () => {
  const book = smallRulebook(small);
  it('is a rulebook like any other', () => expect(loadRulebook(book)).toMatchObject({ ok: true }));
  it('names an item by its first field, and tells fields of one name apart', () => {
    expect(book.exchange.itemKey).toBe('articleNumber');
    expect(book.attributes[0]?.need).toBe('required');
    expect(book.attributes.map(({ key }) => key)).toEqual([
      'articleNumber',
      'title',
      'title2',
      'ourPrice',
      'field2ndPicture',
      'fit',
      'category',
    ]);
  });
  it('has its tree, each category below its parent', () =>
    expect(book.categories.map(({ name }) => name)).toEqual(['Tøj', 'Huer', 'Vanter', 'Bolig']));
  it('has fills suggested where names and types agree', () => {
    const fills = suggestFills(book, new Map(startSet.map((attribute) => [attribute.key, attribute])));
    const from = Object.fromEntries(
      [...fills].map(
        ([
          key,
          {
            fill: { rule },
          },
        ]) => [key, rule.kind === 'copy' && rule.from],
      ),
    );
    expect(from).toMatchObject({
      articleNumber: 'sku',
      title: 'title',
      ourPrice: 'price',
      field2ndPicture: 'mainPicture',
    });
    expect(from.fit).toBeUndefined();
  });
});
