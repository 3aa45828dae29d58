/** No row is lost unsaid: whatever stands in cells, and however lines end, as many rows come out as were put in. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Delimiter, delimiters, parseRows, readDelimited } from './index.js';

describe('a cell', () => {
  it.each([
    [
      'that begins with a quoted word and goes on',
      'a;"Moss" pot;b\nc;d;e\n',
      [
        ['a', '"Moss" pot', 'b'],
        ['c', 'd', 'e'],
      ],
    ],
    [
      'with a quote that is never closed',
      'a;"Moss;b\nc;d;e\n',
      [
        ['a', '"Moss', 'b'],
        ['c', 'd', 'e'],
      ],
    ],
    [
      'with an inch mark',
      'a;5" pot;b\nc;d;e\n',
      [
        ['a', '5" pot', 'b'],
        ['c', 'd', 'e'],
      ],
    ],
    [
      'in quotes over lines',
      'a;"two\nlines";b\nc;d;e\n',
      [
        ['a', 'two\nlines', 'b'],
        ['c', 'd', 'e'],
      ],
    ],
    ['in quotes with quotes and separators', 'a;"say ""hi""; there";b\n', [['a', 'say "hi"; there', 'b']]],
    [
      'that is a lone quote',
      'a;";b\nc;";e\n',
      [
        ['a', '"', 'b'],
        ['c', '"', 'e'],
      ],
    ],
    ['that is empty in quotes', '"";"";""\n', [['', '', '']]],
    ['at the end without a line end', 'a;b;"c"', [['a', 'b', 'c']]],
  ])('%s', (_, text, rows) => {
    const reader = readDelimited(';', 1);
    const [, ...read] = reader.push(`A;B;C\n${text}`, true).map((row) => row.cells);
    expect(read).toEqual(rows);
  });
});

const word = fc.constantFrom('pot', '"Moss" pot', '5"', '"', '""', 'a "b" c', '"x', 'y"', '', ' ', 'Ø 5', "'");
const breaks = fc.constantFrom('\n', '\r\n', '\r');

/** A row of cells that are written out as they stand: no separators and no line ends in them. */
const plainTable = fc.integer({ min: 2, max: 5 }).chain((width) =>
  fc.record({
    width: fc.constant(width),
    rows: fc.array(fc.tuple(fc.array(word, { minLength: width, maxLength: width }), breaks), {
      minLength: 1,
      maxLength: 30,
    }),
    delimiter: fc.constantFrom(...delimiters),
  }),
);

const inChunks = (text: string, delimiter: Delimiter, size: number, headerRow?: number) => {
  const reader = readDelimited(delimiter, headerRow);
  const rows = [];
  for (let at = 0; at < text.length; at += size)
    rows.push(...reader.push(text.slice(at, at + size), at + size >= text.length));
  return rows;
};

it('as many rows come out as lines were put in, whatever quotes stand in them and however the lines end', () => {
  fc.assert(
    fc.property(plainTable, fc.integer({ min: 1, max: 40 }), ({ width, rows, delimiter }, size) => {
      // A last cell "\n" after CR would be one line end with it: lines with something in them keep them apart.
      const head = Array.from({ length: width }, (_, i) => `column ${i}`).join(delimiter);
      const text = `${head}\n${rows.map(([cells, end], i) => [`${i}`, ...cells.slice(1)].join(delimiter) + end).join('')}`;
      const [, ...read] = inChunks(text, delimiter, size, 1);
      expect(read).toHaveLength(rows.length);
      expect(read.map((row) => row.cells[0])).toEqual(rows.map((_, i) => `${i}`));
      for (const row of read) expect(row.width).toBe(width);
    }),
    { numRuns: 400 },
  );
});

it('what a writer that follows RFC 4180 put in comes out letter by letter, in chunks of any size', () => {
  const cell = fc
    .array(fc.constantFrom('pot', ' ', '"', ';', ',', '\t', '|', '\n', '\r\n', 'é', '😀'), { maxLength: 5 })
    .map((parts) => parts.join(''));
  const table = fc.integer({ min: 2, max: 4 }).chain((width) =>
    fc.record({
      width: fc.constant(width),
      rows: fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 1, maxLength: 10 }),
      delimiter: fc.constantFrom(...delimiters),
      end: fc.constantFrom('\n', '\r\n'),
    }),
  );
  fc.assert(
    fc.property(table, fc.integer({ min: 1, max: 50 }), ({ width, rows, delimiter, end }, size) => {
      const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
      const text = rows.map((cells) => cells.map(quoted).join(delimiter)).join(end) + end;
      const read = inChunks(text, delimiter, size);
      expect(read.map((row) => row.cells)).toEqual(rows);
      expect(parseRows(text, delimiter)).toEqual(rows);
      expect(read.every((row) => row.width === width)).toBe(true);
    }),
    { numRuns: 300 },
  );
});

it('a quote that opens and is closed thousands of rows later swallows none of them', () => {
  const lines = ['Nr;Name;Mark', ...Array.from({ length: 2999 }, (_, i) => `${i};pot ${i};x`)];
  lines[1] = '1;"open;x';
  lines[2998] = '2998;closed";x';
  const rows = readDelimited(';', 1).push(lines.join('\n'), true);
  expect(rows).toHaveLength(3000);
});

it('a row of a million cells is counted, and not kept', () => {
  const [row] = readDelimited(';').push(`${'a;'.repeat(1_000_000)}\n`, true);
  expect(row?.width).toBe(1_000_001);
  expect(row?.cells.length).toBeLessThan(10_000);
});
