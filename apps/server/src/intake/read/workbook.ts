/** XLSX workbooks on disk: the archive opened, its sheets streamed as rows. */
import {
  type SheetContext,
  type SheetEntry,
  type SheetLayout,
  type SheetRow,
  UnreadableFile,
  readDateStyles,
  readSharedStrings,
  readWorkbook,
  sheetRows,
} from '@velvet-shelf/core/tabular';
import yauzl from 'yauzl';

/** Most bytes a part may unpack to: a small archive can hold a very large one (zip bomb). */
const largestPart = 2 ** 31;
const largestStrings = 2 ** 28;
/** All parts together, and by how much a large one may have been packed: tables shrink to a tenth, seldom to a hundredth. */
const largestTotal = 2 ** 32;
const largestRatio = 400;
const ratioCounts = 2 ** 26;
const mostParts = 10_000;

export interface Workbook {
  sheets: SheetEntry[];
  /** Rows of a sheet; `layout` is whole when the last one has been read. */
  rows(sheet: SheetEntry, layout: SheetLayout): AsyncGenerator<SheetRow>;
  close(): void;
}

export async function openWorkbook(path: string): Promise<Workbook> {
  const zip = await openArchive(path);
  const entries = await listEntries(zip);
  const text = async (name: string, most = largestStrings) => {
    let whole = '';
    for await (const chunk of part(zip, entries, name, most)) whole += chunk;
    return whole;
  };
  try {
    if (!entries.has('xl/workbook.xml'))
      throw new UnreadableFile('It is a ZIP archive, but no XLSX workbook: unpack it and drop what is in it');
    expectSound(entries);
    const { sheets, date1904 } = readWorkbook(await text('xl/workbook.xml'), await text('xl/_rels/workbook.xml.rels'));
    const context: SheetContext = {
      strings: entries.has('xl/sharedStrings.xml')
        ? await readSharedStrings(part(zip, entries, 'xl/sharedStrings.xml', largestStrings))
        : [],
      dateStyles: entries.has('xl/styles.xml') ? readDateStyles(await text('xl/styles.xml')) : [],
      date1904,
    };
    return {
      sheets: sheets.filter((sheet) => entries.has(sheet.path)),
      rows: (sheet, layout) => sheetRows(part(zip, entries, sheet.path, largestPart), context, layout),
      close: () => zip.close(),
    };
  } catch (error) {
    zip.close();
    throw error;
  }
}

/** What unpacks to far more than it is was made to fill somebody's disk or time. */
function expectSound(entries: ReadonlyMap<string, yauzl.Entry>): void {
  let total = 0;
  for (const { uncompressedSize, compressedSize } of entries.values()) {
    total += uncompressedSize;
    if (uncompressedSize > ratioCounts && uncompressedSize > largestRatio * Math.max(1, compressedSize))
      throw new UnreadableFile('The workbook unpacks to many hundred times its size; save it as CSV');
  }
  if (total > largestTotal) throw new UnreadableFile('The workbook unpacks to more than 4 GB; save it as CSV');
}

async function openArchive(path: string): Promise<yauzl.ZipFile> {
  return new Promise((resolve, reject) => {
    yauzl.open(path, { lazyEntries: true, autoClose: false }, (error, zip) => {
      if (error) reject(new UnreadableFile(`It is an XLSX workbook or ZIP archive, but damaged: ${error.message}`));
      else resolve(zip);
    });
  });
}

async function listEntries(zip: yauzl.ZipFile): Promise<Map<string, yauzl.Entry>> {
  const entries = new Map<string, yauzl.Entry>();
  return new Promise((resolve, reject) => {
    zip.on('entry', (entry: yauzl.Entry) => {
      entries.set(entry.fileName, entry);
      if (entries.size > mostParts) return reject(new UnreadableFile(`The archive has more than ${mostParts} parts`));
      zip.readEntry();
    });
    zip.once('end', () => resolve(entries));
    zip.once('error', (error: Error) => reject(damaged(error)));
    zip.readEntry();
  });
}

async function* part(
  zip: yauzl.ZipFile,
  entries: ReadonlyMap<string, yauzl.Entry>,
  name: string,
  most: number,
): AsyncGenerator<string> {
  const entry = entries.get(name);
  if (!entry) throw new UnreadableFile(`The workbook is damaged: it has no ${name}`);
  if (entry.uncompressedSize > most)
    throw new UnreadableFile(`The workbook unpacks to more than ${Math.round(most / 2 ** 20)} MB; save it as CSV`);
  const stream = await new Promise<NodeJS.ReadableStream>((resolve, reject) => {
    zip.openReadStream(entry, (error, opened) => (error ? reject(damaged(error)) : resolve(opened)));
  });
  stream.setEncoding('utf8');
  try {
    for await (const chunk of stream as AsyncIterable<string>) yield chunk;
  } catch (error) {
    throw error instanceof UnreadableFile ? error : damaged(error);
  }
}

const damaged = (error: unknown) =>
  new UnreadableFile(`The archive is damaged: ${error instanceof Error ? error.message : String(error)}`);
