/** What a file is and how it is read, found out from its beginning (of a workbook from all its sheets). */
import { open } from 'node:fs/promises';
import {
  type Detection,
  type Format,
  type FoundList,
  type Reading,
  type SheetLayout,
  UnreadableFile,
  chooseElements,
  chooseLists,
  detectEncoding,
  detectLayout,
  detectStyle,
  detectTextFormat,
  findHeader,
  isZip,
  linkedItems,
  refuseNonText,
  scanJson,
  scanXml,
  variantElements,
  variantLists,
} from '@velvet-shelf/core/tabular';
import { sayCount } from '@velvet-shelf/core/values';
import iconv from 'iconv-lite';
import { readLinked } from './text.js';
import { openWorkbook } from './workbook.js';

/** Of a text file this much is looked at, and more where its rows are so long that this holds few of them. */
const sampleBytes = 256 * 1024;
const longSampleBytes = 4 * 1024 * 1024;
const fewRows = 20;

/** What a file is and how it is read; `wanted` is what a person says it is. Throws UnreadableFile. */
export async function detectSource(path: string, wanted?: Format): Promise<Detection> {
  const sample = await readSample(path, sampleBytes);
  if (wanted === 'xlsx' || (wanted === undefined && isZip(sample.bytes))) {
    if (!isZip(sample.bytes)) throw new UnreadableFile('It is no XLSX workbook: it is text');
    return detectWorkbook(path);
  }
  if (isZip(sample.bytes)) throw new UnreadableFile('It is an XLSX workbook or another ZIP archive, and no text');
  const kind = refuseNonText(sample.bytes);
  if (!kind.ok) throw new UnreadableFile(kind.reason);
  const encoding = detectEncoding(sample.bytes);
  const text = iconv.decode(sample.bytes, encoding.value);
  const format: { value: Format; why: string } =
    wanted === undefined ? detectTextFormat(text) : { value: wanted, why: 'chosen by you' };
  const why = { format: format.why, encoding: encoding.why };
  const plain = {
    why: { decimal: 'numbers of this format have a decimal point', dateOrder: 'no dates other than year first' },
  };
  const style = { decimal: '.', dateOrder: 'ymd' } as const;
  switch (format.value) {
    case 'xlsx':
      return detectWorkbook(path);
    case 'delimited': {
      const { delimiter, headerRow, decimal, dateOrder } = detectLayout(
        await layoutSample(path, sample, encoding.value),
      );
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
          ...why,
          delimiter: delimiter.why,
          headerRow: headerRow.why,
          decimal: decimal.why,
          dateOrder: dateOrder.why,
        },
        itemPaths: [],
        variantPaths: [],
        notes: headerRow.value > 1 ? [`${headerRow.value - 1} rows above the header, which are no goods`] : [],
      };
    }
    case 'json': {
      const lists = scanJson(text);
      const { items, variants } = chooseLists(lists);
      return nested(
        {
          format: 'json',
          encoding: encoding.value,
          itemPath: items?.path ?? '',
          variantPath: variants?.path ?? null,
          ...style,
        },
        { ...why, ...plain.why },
        lists,
        items ? variantLists(lists, items.path) : [],
        items,
        variants,
      );
    }
    case 'jsonl': {
      const [first = '{}'] = text.split(/\r\n|\n|\r/).filter((line) => line.trim() !== '');
      const lists = scanJson(`[${first}]`);
      const found = variantLists(lists, '');
      const variants = found.sort((a, b) => b.objects - a.objects)[0];
      return nested(
        { format: 'jsonl', encoding: encoding.value, variantPath: variants?.path ?? null, ...style },
        { ...why, ...plain.why },
        [],
        found,
        undefined,
        variants,
      );
    }
    case 'xml': {
      const { lists, apart } = scanXml(text);
      const { items, variants } = chooseElements(lists);
      if (!items) throw new UnreadableFile('It is XML, but no element in it repeats: there is no list of goods');
      return nested(
        {
          format: 'xml',
          encoding: encoding.value,
          itemPath: items.path,
          variantPath: variants?.path ?? null,
          ...(apart.length > 0 ? { apart } : {}),
          ...style,
        },
        { ...why, ...plain.why },
        lists,
        variantElements(lists, items.path),
        items,
        variants,
      );
    }
    case 'jsonld': {
      const items = linkedItems(await readLinked(path, encoding.value));
      const hasVariants = items.some((item) => Array.isArray((item as { hasVariant?: unknown }).hasVariant));
      return {
        reading: {
          format: 'jsonld',
          encoding: encoding.value,
          variantPath: hasVariants ? 'hasVariant' : null,
          ...style,
        },
        why: {
          ...why,
          ...plain.why,
          variantPath: hasVariants ? 'groups of goods list their variants (hasVariant)' : 'no group lists variants',
        },
        itemPaths: [],
        variantPaths: hasVariants ? [{ path: 'hasVariant', objects: items.length }] : [],
        notes: [`${items.length} descriptions of goods`],
      };
    }
  }
}

interface Sample {
  bytes: Buffer;
  isWhole: boolean;
}

/** The beginning of a table without the row that is cut off; a longer one where its rows are long. */
async function layoutSample(path: string, sample: Sample, encoding: string): Promise<string> {
  const rowsOf = (text: string) => text.split(/\r\n|\n|\r/).length;
  let { bytes, isWhole } = sample;
  if (!isWhole && rowsOf(iconv.decode(bytes, encoding)) < fewRows)
    ({ bytes, isWhole } = await readSample(path, longSampleBytes));
  const text = iconv.decode(bytes, encoding);
  const cut = Math.max(text.lastIndexOf('\n'), text.lastIndexOf('\r'));
  return isWhole || cut < 0 ? text : text.slice(0, cut + 1);
}

/** Lists beside the one that is read: what stands in them is named, so that nobody takes it for read. */
function besideNotes(lists: readonly FoundList[], items: FoundList | undefined): string[] {
  return lists
    .filter(
      (list) => items && list.path !== items.path && !list.path.startsWith(items.path === '' ? ' ' : `${items.path}.`),
    )
    .map(
      ({ path, objects }) => `${objects} more in “${path || 'the document'}”, not read: choose them under “Items are”`,
    );
}

function nested(
  reading: Reading,
  why: Record<string, string>,
  lists: FoundList[],
  below: FoundList[],
  items: FoundList | undefined,
  variants: FoundList | undefined,
): Detection {
  const choice = ({ path, objects }: FoundList) => ({ path, objects });
  return {
    reading,
    why: {
      ...why,
      itemPath: items
        ? `${sayCount(items.objects)} items in its beginning, the outermost list`
        : 'the document is one item',
      variantPath: variants
        ? `each item lists some: ${sayCount(variants.objects)} in its beginning`
        : 'items list nothing that looks like variants',
    },
    itemPaths: lists.map(choice),
    variantPaths: below.map(choice),
    notes: besideNotes(lists, items),
  };
}

async function detectWorkbook(path: string): Promise<Detection> {
  const book = await openWorkbook(path);
  try {
    const sheets: { name: string; headerRow: number; read: boolean; merged?: boolean }[] = [];
    const notes: string[] = [];
    const why: string[] = [];
    const texts: string[] = [];
    let merged = 0;
    for (const sheet of book.sheets) {
      const head: string[][] = [];
      const layout: SheetLayout = { merged: [], hiddenColumns: new Set() };
      let rows = 0;
      let width = 0;
      for await (const row of book.rows(sheet, layout)) {
        rows++;
        width = Math.max(width, row.cells.length);
        if (row.row > 200) continue;
        while (head.length < row.row - 1) head.push([]);
        head.push(row.cells);
        texts.push(...row.cells.filter((_, i) => !row.numeric.has(i)));
      }
      const header = findHeader(head, width);
      const goods = Math.max(0, rows - head.slice(0, header.value).filter((row) => row.length > 0).length);
      const isMerged = layout.merged.some((range) => range.bottom > Math.max(range.top, header.value));
      sheets.push({
        name: sheet.name,
        headerRow: header.value,
        read: !sheet.hidden && width > 1 && goods > 0,
        ...(isMerged ? { merged: true } : {}),
      });
      why.push(`${sheet.name}: header in row ${header.value}, ${goods} rows below it${sheet.hidden ? ', hidden' : ''}`);
      merged += layout.merged.length;
      for (const column of layout.hiddenColumns)
        if (head[header.value - 1]?.[column])
          notes.push(`hidden column “${head[header.value - 1]?.[column]}” on ${sheet.name}`);
    }
    if (merged > 0) notes.push(`${merged} merged ranges`);
    if (sheets.length === 0) throw new UnreadableFile('The workbook has no sheet');
    const { decimal, dateOrder } = detectStyle(texts);
    return {
      reading: { format: 'xlsx', sheets, decimal: decimal.value, dateOrder: dateOrder.value },
      why: {
        format: 'it is an XLSX workbook inside, whatever its name',
        sheets: why.join('; '),
        decimal: `in texts: ${decimal.why}`,
        dateOrder: `in texts: ${dateOrder.why}`,
      },
      itemPaths: [],
      variantPaths: [],
      notes,
    };
  } finally {
    book.close();
  }
}

async function readSample(path: string, most: number): Promise<Sample> {
  const handle = await open(path);
  try {
    const { size } = await handle.stat();
    const buffer = Buffer.alloc(Math.min(most, size));
    const { bytesRead } = await handle.read(buffer, 0, buffer.length, 0);
    return { bytes: buffer.subarray(0, bytesRead), isWhole: size <= most };
  } finally {
    await handle.close();
  }
}
