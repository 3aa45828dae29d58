import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testAttribute } from '../../values/fixtures.js';
import {
  type Changes,
  cleanUps,
  compileFinder,
  fillDown,
  fillOver,
  noChanges,
  placeCells,
  putBack,
  reachOf,
  readCells,
  redo,
  sumOf,
  undo,
  write,
  writeCells,
} from './index.js';

describe('cells as spreadsheets hand them over', () => {
  it('are read with tabs, line ends and quotes in them', () => {
    expect(readCells('a\tb\r\nc\t"two\nlines"\r\n')).toEqual([
      ['a', 'b'],
      ['c', 'two\nlines'],
    ]);
    expect(readCells('"say ""hi"""\t')).toEqual([['say "hi"', '']]);
  });
  it('keep a quote that is an inch or stands alone', () => {
    expect(readCells('19" wide\t"\n"24" deep')).toEqual([['19" wide', '"'], ['"24" deep']]);
  });
  it('come back as they were written, whatever they hold', () => {
    const cell = fc.string({ unit: fc.constantFrom('a', ' ', '"', '\t', '\n', '\r', 'é') });
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 2, maxLength: 4 }), { minLength: 1, maxLength: 4 }), (rows) => {
        expect(readCells(writeCells(rows))).toEqual(rows);
      }),
      { seed: 11 },
    );
  });
});

describe('where pasted cells go', () => {
  const size = { rows: 10, columns: 4 };
  const span = (top: number, left: number, bottom = top, right = left) => ({
    from: { row: top, column: left },
    to: { row: bottom, column: right },
  });
  it('one cell fills all that is chosen, a block is repeated where it fits in whole numbers', () => {
    expect(placeCells([['x']], span(1, 1, 3, 2), size).puts).toHaveLength(6);
    const twice = placeCells([['a'], ['b']], span(4, 0, 1, 0), size);
    expect(twice.puts.map(({ row, text }) => [row, text])).toEqual([
      [1, 'a'],
      [2, 'b'],
      [3, 'a'],
      [4, 'b'],
    ]);
    expect(placeCells([['a'], ['b']], span(0, 0, 2, 0), size).puts).toHaveLength(2);
  });
  it('what lies beyond the edges is left out and counted', () => {
    const cut = placeCells([['a', 'b', 'c']], span(9, 2), size);
    expect([cut.puts.length, cut.beyond, cut.span.to]).toEqual([2, 1, { row: 9, column: 3 }]);
  });
  it('the first row is filled into those below it', () => {
    const puts = fillDown(span(3, 1, 1, 2), (row, column) => `${row}/${column}`);
    expect(puts.map(({ row, text }) => `${row} ${text}`)).toEqual(['2 1/1', '3 1/1', '2 1/2', '3 1/2']);
  });
  it('what is chosen is repeated as far as its corner is dragged, in the direction that lies further', () => {
    const chosen = span(2, 1, 3, 2);
    const filled = (row: number, column: number) => {
      const reach = reachOf(chosen, { row, column });
      return (
        reach && fillOver(chosen, reach, (y, x) => `${y}/${x}`).map((put) => `${put.row}/${put.column}=${put.text}`)
      );
    };
    expect(filled(3, 2)).toBeUndefined();
    expect(filled(5, 3)).toEqual(['4/1=2/1', '4/2=2/2', '5/1=3/1', '5/2=3/2']);
    expect(filled(0, 0)).toEqual(['0/1=2/1', '0/2=2/2', '1/1=3/1', '1/2=3/2']);
    expect(filled(2, 4)).toEqual(['2/3=2/1', '2/4=2/2', '3/3=3/1', '3/4=3/2']);
    expect(filled(2, 0)).toEqual(['2/0=2/2', '3/0=3/2']);
  });
});

describe('what is written', () => {
  const held = (key: string) => (key === 'a' ? 'old' : '');
  const put = (changes: Changes, key: string, text: string) => write(changes, [{ key, text }], { held, words: 'w' });
  it('is no change where it is as held, and leaves nothing when it is written back', () => {
    expect(put(noChanges, 'a', 'old')).toBe(noChanges);
    const once = put(noChanges, 'a', 'new');
    expect(once.written).toEqual(new Map([['a', 'new']]));
    expect(put(once, 'a', 'old').written.size).toBe(0);
  });
  it('is taken back and done again step by step, and a new step ends what was taken back', () => {
    const two = put(put(noChanges, 'a', '1'), 'b', '2');
    expect(undo(two).written).toEqual(new Map([['a', '1']]));
    expect(redo(undo(two)).written).toEqual(two.written);
    expect(undo(undo(undo(two))).written.size).toBe(0);
    expect(redo(put(undo(two), 'b', '3')).written.get('b')).toBe('3');
    expect(putBack(two, ['a'], 'w').written).toEqual(new Map([['b', '2']]));
    expect(undo(putBack(two, ['a'], 'w')).written).toEqual(two.written);
  });
  it('is as before after as many steps back as were made, whatever they were', () => {
    const step = fc.array(
      fc.record({ key: fc.constantFrom('a', 'b', 'c'), text: fc.constantFrom('', 'old', 'x', 'y') }),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 8 }), (steps) => {
        let changes: Changes = noChanges;
        for (const puts of steps) changes = write(changes, puts, { held, words: 'w' });
        const end = changes;
        for (let i = end.done.length; i > 0; i--) changes = undo(changes);
        expect(changes.written.size).toBe(0);
        for (let i = end.done.length; i > 0; i--) changes = redo(changes);
        expect(changes.written).toEqual(end.written);
      }),
      { seed: 12 },
    );
  });
});

describe('finding', () => {
  const finder = (text: string, how = {}) =>
    compileFinder({ text, isPattern: false, matchCase: false, whole: false, ...how });
  const replaced = (text: string, cell: string, by: string, how = {}) => {
    const found = finder(text, how);
    return found.ok ? found.replace(cell, by) : found.reason;
  };
  it('takes a plain text as it stands, signs of patterns and replacements too', () => {
    expect(replaced('1.5', '1.5 or 1x5', '2')).toBe('2 or 1x5');
    expect(replaced('oak', 'Oak OAK', '$1\\')).toBe('$1\\ $1\\');
    expect(replaced('oak', 'Oak oak', 'ash', { matchCase: true })).toBe('Oak ash');
    expect(replaced('oak', 'oak bench', 'ash', { whole: true })).toBe('oak bench');
  });
  it('takes a pattern with its parts, and says what is none', () => {
    expect(replaced('(\\d+) ?cm', '16cm', '$1 cm', { isPattern: true })).toBe('16 cm');
    expect(finder('(', { isPattern: true })).toMatchObject({
      ok: false,
      reason: expect.stringContaining('no pattern'),
    });
  });
  it('ends on what would make other engines run for ever', () => {
    const found = finder('(a+)+$', { isPattern: true });
    expect(found.ok && found.finds(`${'a'.repeat(5000)}b`)).toBe(false);
  });
});

describe('cleaning up', () => {
  it.each(cleanUps.map((cleanUp) => [cleanUp.label, cleanUp] as const))('%s', (_, { clean, example }) => {
    const { before, after, attribute } = example;
    expect(clean(before, attribute)).toBe(after);
    // Done twice it is as done once.
    expect(clean(after, attribute)).toBe(after);
  });
});

describe('the sum of cells', () => {
  it('adds figures and measures in the unit of the first, and nothing that is none', () => {
    const weight = testAttribute({ key: 'weight', type: 'measure', dimension: 'mass' });
    expect(sumOf(['1.5 kg', '500 g', ''], weight, 'en-GB')).toBe('2 kg');
    expect(sumOf(['1.5 kg'], weight, 'en-GB')).toBeUndefined();
    expect(sumOf(['2', 'x', '3.5'], testAttribute({ key: 'n', type: 'number' }), 'de-DE')).toBe('5,5');
    expect(sumOf(['a', 'b'], testAttribute({ key: 't', type: 'text' }), 'en-GB')).toBeUndefined();
  });
});
