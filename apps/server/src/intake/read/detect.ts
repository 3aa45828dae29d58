/** What a file is and how it is read, found out from its beginning (of a workbook from all its sheets). */
import { open } from 'node:fs/promises';
import {
  type Detection,
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
import iconv from 'iconv-lite';
import { readLinked } from './source.js';
import { openWorkbook } from './workbook.js';

/** Of a text file this much is looked at. */
const sampleBytes = 256 * 1024;

/** What a file is and how it is read; throws UnreadableFile. */
export async function detectSource(path: string): Promise<Detection> {
  const sample = await readSample(path);
  if (isZip(sample)) return detectWorkbook(path);
  const kind = refuseNonText(sample);
  if (!kind.ok) throw new UnreadableFile(kind.reason);
  const encoding = detectEncoding(sample);
  const text = iconv.decode(sample, encoding.value);
  const format = detectTextFormat(text);
  const why = { format: format.why, encoding: encoding.why };
  const plain = {
    why: { decimal: 'numbers of this format have a decimal point', dateOrder: 'no dates other than year first' },
  };
  const style = { decimal: '.', dateOrder: 'ymd' } as const;
  switch (format.value) {
    case 'delimited': {
      const { delimiter, headerRow, decimal, dateOrder } = detectLayout(text);
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
        notes: [],
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
      const [first = '{}'] = text.split('\n').filter((line) => line.trim() !== '');
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
      const lists = scanXml(text);
      const { items, variants } = chooseElements(lists);
      if (!items) throw new UnreadableFile('It is XML, but no element in it repeats: there is no list of goods');
      return nested(
        {
          format: 'xml',
          encoding: encoding.value,
          itemPath: items.path,
          variantPath: variants?.path ?? null,
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
        ? `${items.objects.toLocaleString('en-GB')} items in its beginning, the outermost list`
        : 'the document is one item',
      variantPath: variants
        ? `each item lists some: ${variants.objects.toLocaleString('en-GB')} in its beginning`
        : 'items list nothing that looks like variants',
    },
    itemPaths: lists.map(choice),
    variantPaths: below.map(choice),
    notes: [],
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

async function readSample(path: string): Promise<Buffer> {
  const handle = await open(path);
  try {
    const buffer = Buffer.alloc(sampleBytes);
    const { bytesRead } = await handle.read(buffer, 0, sampleBytes, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}
