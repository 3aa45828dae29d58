/** Text with separators: a header row, and goods below it. */
import { type FileRow, detectLayout, readDelimited } from '@velvet-shelf/core/tabular';
import { sayCount } from '@velvet-shelf/core/values';
import { nameColumns, rowsLookedAt, usedColumns, withoutSurplus } from '../header.js';
import { readSample } from '../sample.js';
import { textOf } from '../text.js';
import iconv from 'iconv-lite';
import type { ReadFormatOf, ReadingOf } from './model.js';

type DelimitedReading = ReadingOf<'delimited'>;

export const delimited: ReadFormatOf<DelimitedReading> = {
  async detect({ path, why, encoding }) {
    const { delimiter, headerRow, decimal, dateOrder } = detectLayout(await layoutSample(path, encoding.value));
    return {
      reading: {
        format: 'delimited',
        encoding: encoding.value,
        delimiter: delimiter.value,
        headerRow: headerRow.value,
        decimal: decimal.value,
        dateOrder: dateOrder.value,
      },
      why: {
        format: why,
        encoding: encoding.why,
        delimiter: delimiter.why,
        headerRow: headerRow.why,
        decimal: decimal.why,
        dateOrder: dateOrder.why,
      },
      itemPaths: [],
      variantPaths: [],
      notes: headerRow.value > 1 ? [`${headerRow.value - 1} rows above the header, which are no goods`] : [],
    };
  },
  async columns(path, reading) {
    let header: string[] | undefined;
    const below: string[][] = [];
    for await (const batch of allRows(path, reading)) {
      for (const { row, cells } of batch)
        if (row === reading.headerRow) header = cells;
        else if (row > reading.headerRow) below.push(cells);
      if (header && below.length >= rowsLookedAt) break;
    }
    return header ? nameColumns(usedColumns(header, below)) : [];
  },
  async *batches(path, reading, columns) {
    for await (const batch of allRows(path, reading)) {
      const below = batch.filter((row) => row.row > reading.headerRow);
      for (const file of below) file.cells = withoutSurplus(file.cells, columns.length);
      yield below;
    }
  },
};

/** Where this holds fewer rows than that, they are long, and more of them is looked at. */
const sampleBytes = 256 * 1024;
const longSampleBytes = 4 * 1024 * 1024;
const fewRows = 20;

/** The beginning of a table without the row that is cut off; a longer one where its rows are long. */
async function layoutSample(path: string, encoding: string): Promise<string> {
  const rowsOf = (text: string) => text.split(/\r\n|\n|\r/).length;
  let { bytes, isWhole } = await readSample(path, sampleBytes);
  if (!isWhole && rowsOf(iconv.decode(bytes, encoding)) < fewRows)
    ({ bytes, isWhole } = await readSample(path, longSampleBytes));
  const text = iconv.decode(bytes, encoding);
  const cut = Math.max(text.lastIndexOf('\n'), text.lastIndexOf('\r'));
  return isWhole || cut < 0 ? text : text.slice(0, cut + 1);
}

/** A text that somebody reads has no longer cell. */
const longestCell = 1_000_000;

/** All rows, those above the header too. */
async function* allRows(path: string, reading: DelimitedReading): AsyncGenerator<FileRow[]> {
  const reader = readDelimited(reading.delimiter, reading.headerRow);
  let row = 0;
  let isFirst = true;
  const take = (chunk: string, isLast: boolean): FileRow[] =>
    reader.push(chunk, isLast).flatMap(({ cells }): FileRow[] => {
      row++;
      if (cells.length === 1 && cells[0] === '') return [];
      const long = cells.findIndex((cell) => cell.length > longestCell);
      return long < 0
        ? [{ row, place: undefined, cells }]
        : [
            {
              row,
              place: undefined,
              cells: cells.map((cell) => cell.slice(0, 2000)),
              broken: `Cell ${long + 1} has more than ${sayCount(longestCell)} characters`,
            },
          ];
    });
  for await (const chunk of textOf(path, reading.encoding)) {
    const batch = take(isFirst ? chunk.replace(/^\uFEFF/, '') : chunk, false);
    isFirst = false;
    if (batch.length > 0) yield batch;
  }
  const last = take('', true);
  if (last.length > 0) yield last;
}
