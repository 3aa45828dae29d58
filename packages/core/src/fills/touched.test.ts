import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { closedList } from '../values/index.js';
import { type Fill, changedWords, keysMeant } from './index.js';

const translate = (table: Record<string, string>, from = 'colour', otherwise: 'keep' | 'empty' = 'keep'): Fill => ({
  rule: { kind: 'translate', from, table, otherwise },
  fit: [],
});
const copy = (from = 'colour'): Fill => ({ rule: { kind: 'copy', from }, fit: [] });

describe('a change of a fill that changes words of a translation alone', () => {
  it('is told by the words that are added, taken out, or translated otherwise', () => {
    const before = translate({ moss: 'green', slate: 'grey', chalk: 'white' });
    const after = translate({ moss: 'green', slate: 'black', ochre: 'yellow' });
    expect(changedWords(before, after)).toEqual({ from: 'colour', words: ['slate', 'chalk', 'ochre'] });
    expect(changedWords(before, before)).toEqual({ from: 'colour', words: [] });
  });
  it('may begin as a copy, which keeps every word', () => {
    expect(changedWords(copy(), translate({ moss: 'green' }))?.words).toEqual(['moss']);
    expect(changedWords(translate({ moss: 'green' }), copy())?.words).toEqual(['moss']);
    expect(changedWords(copy(), translate({ moss: 'green' }, 'colour', 'empty'))).toBeUndefined();
  });
  it.each<[string, Fill | null, Fill | null]>([
    ['there was none', null, translate({})],
    ['there is none', translate({}), null],
    ['it reads something else', copy('colour'), copy('glaze')],
    ['it is another kind', copy(), { rule: { kind: 'fixed', value: 'green' }, fit: [] }],
    ['its steps are others', copy(), { ...copy(), fit: [{ do: 'plain-text' }] }],
    ['it drops what it does not know', translate({}), translate({}, 'colour', 'empty')],
  ])('is none where %s', (_why, before, after) => expect(changedWords(before, after)).toBeUndefined());
});

describe('the values of a list that words mean', () => {
  const list = closedList({
    choices: [
      { key: 'c1', names: { 'en-GB': 'Moss', 'de-DE': 'Waldgrün' }, spellings: ['mossy'] },
      { key: 'c2', names: { 'en-GB': 'Slate' } },
      { key: 'c3', names: { 'en-GB': 'Dark' }, parent: 'c2' },
    ],
  });
  it.each([
    [['c1'], ['c1']],
    [['MOSS'], ['c1']],
    [['waldgrün'], ['c1']],
    [['Mossy'], ['c1']],
    [['Slate / Dark'], ['c3']],
    [
      ['dark', 'c2'],
      ['c2', 'c3'],
    ],
    [['ochre'], []],
  ])('%j are %j', (words, keys) => expect(keysMeant(words, list)).toEqual(keys));

  it('are at least those that the list itself reads out of them', () => {
    const word = fc.oneof(fc.constantFrom('c1', 'Moss', 'slate', 'Slate / Dark', 'DARK'), fc.string());
    fc.assert(
      fc.property(fc.array(word, { maxLength: 5 }), (words) => {
        const meant = keysMeant(words, list);
        for (const text of words) {
          const key = list.read(text);
          if (key !== undefined) expect(meant).toContain(key);
        }
      }),
    );
  });
});
