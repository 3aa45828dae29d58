/** Tables written in every dialect suppliers use, and found out from their bytes alone. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type Delimiter, delimiters, detectEncoding, detectLayout, parseRows } from './index.js';

interface Dialect {
  delimiter: Delimiter;
  decimal: '.' | ',';
  newline: '\n' | '\r\n';
  encoding: 'utf-8' | 'windows-1252' | 'utf-16le' | 'utf-16be';
  hasMark: boolean;
  quotesAll: boolean;
  /** Rows above the header: a title each, in the first cell. */
  titles: number;
  /** Whether those rows are as wide as the others. */
  padsTitles: boolean;
}

const dialect: fc.Arbitrary<Dialect> = fc.record({
  delimiter: fc.constantFrom(...delimiters),
  decimal: fc.constantFrom('.' as const, ',' as const),
  newline: fc.constantFrom('\n' as const, '\r\n' as const),
  encoding: fc.constantFrom('utf-8' as const, 'windows-1252' as const, 'utf-16le' as const, 'utf-16be' as const),
  hasMark: fc.boolean(),
  quotesAll: fc.boolean(),
  titles: fc.integer({ min: 0, max: 2 }),
  padsTitles: fc.boolean(),
});

const names = ['Größe', 'Farbe', 'Serie', 'Material', 'Hinweis', 'Marke'];
/** Texts with what makes tables hard: separators, quotes, line breaks, letters beyond ASCII. */
const text = fc
  .array(fc.constantFrom('Topf', 'mit Fuß', 'Ø', ';', ',', '|', '"rund"', '\n', '½', 'für innen'), {
    minLength: 1,
    maxLength: 4,
  })
  .map((parts) => parts.join(' ').trim() || 'Topf');

const table = fc.integer({ min: 1, max: names.length }).chain((extra) =>
  fc.record({
    header: fc.constant<string[]>(['Nr', 'Preis', 'Datum', ...names.slice(0, extra)]),
    rows: fc.array(
      fc.record({
        price: fc.tuple(fc.integer({ min: 0, max: 999 }), fc.integer({ min: 10, max: 99 })),
        day: fc.integer({ min: 13, max: 28 }),
        texts: fc.array(text, { minLength: extra, maxLength: extra }),
      }),
      { minLength: 4, maxLength: 12 },
    ),
  }),
);

function write(
  { header, rows }: { header: string[]; rows: string[][] },
  { delimiter, newline, quotesAll, titles, padsTitles }: Dialect,
) {
  const cell = (value: string) =>
    quotesAll || /["\r\n]/.test(value) || delimiters.some((delimiter) => value.includes(delimiter))
      ? `"${value.replaceAll('"', '""')}"`
      : value;
  const line = (cells: readonly string[]) => cells.map(cell).join(delimiter);
  const above = ['Preisliste Frühjahr', 'gültig ab sofort']
    .slice(0, titles)
    .map((title) => [title, ...(padsTitles ? header.slice(1).map(() => '') : [])]);
  return [...above, header, ...rows].map(line).join(newline) + newline;
}

function encode(written: string, { encoding, hasMark }: Dialect): Uint8Array {
  const marked = `\uFEFF${written}`;
  switch (encoding) {
    case 'utf-8':
      return Buffer.from(hasMark ? marked : written, 'utf8');
    case 'windows-1252':
      return Buffer.from(written, 'latin1');
    case 'utf-16le':
      return Buffer.from(marked, 'utf16le');
    case 'utf-16be':
      return Buffer.from(marked, 'utf16le').swap16();
  }
}

it('are found out: encoding, separator, header row, decimal mark, order of dates; and every cell is read as written', () => {
  fc.assert(
    fc.property(table, dialect, ({ header, rows }, how) => {
      const cells = rows.map(({ price: [whole, cents], day, texts }, i) => [
        `N-${i}`,
        `${whole}${how.decimal}${cents}`,
        `${day}.05.2026`,
        ...texts,
      ]);
      const bytes = encode(write({ header, rows: cells }, how), how);
      expect(detectEncoding(bytes).value).toBe(how.encoding);
      const decoded = new TextDecoder(how.encoding === 'windows-1252' ? 'latin1' : how.encoding).decode(bytes);
      const found = detectLayout(decoded);
      expect({
        delimiter: found.delimiter.value,
        headerRow: found.headerRow.value,
        decimal: found.decimal.value,
        dateOrder: found.dateOrder.value,
      }).toEqual({ delimiter: how.delimiter, headerRow: how.titles + 1, decimal: how.decimal, dateOrder: 'dmy' });
      const read = parseRows(decoded, found.delimiter.value).slice(how.titles, how.titles + 1 + cells.length);
      const alike = (list: string[][]) => list.map((row) => row.map((value) => value.replaceAll('\r\n', '\n')));
      expect(alike(read)).toEqual(alike([header, ...cells]));
    }),
    { numRuns: 200 },
  );
});
