/** The process that reads files strangers made: it holds nothing but the file, and may be ended at any time. */
import { type FileRow, UnreadableFile } from '@velvet-shelf/core/tabular';
import { detectSource } from './detect.js';
import { type Answer, type Looked, type Order, headRows } from './orders.js';
import { readColumns, readFirst, rowBatches } from './source.js';

const tell = (answer: Answer) => process.send?.(answer);

/** Batches that are read before they are asked for. */
const ahead = 2;

let wanted = 0;
let onMore: (() => void) | undefined;

process.on('message', (order: Order) => {
  if (order.do === 'more') {
    wanted++;
    onMore?.();
  } else void work(order);
});
process.on('disconnect', () => process.exit(0));

async function work(order: Extract<Order, { path: string }>): Promise<void> {
  try {
    if (order.do === 'look') tell({ looked: await look(order) });
    else {
      wanted = ahead;
      for await (const rows of rowBatches(order.path, order.reading, order.columns)) {
        if (rows.length === 0) continue;
        while (wanted <= 0) await new Promise<void>((resolve) => (onMore = resolve));
        wanted--;
        tell({ rows });
      }
      tell({ end: true });
    }
  } catch (error) {
    if (error instanceof UnreadableFile) tell({ unreadable: error.message });
    else tell({ fault: error instanceof Error ? error.message : String(error) });
  }
}

async function look({ path, reading: given, format }: Extract<Order, { do: 'look' }>): Promise<Looked> {
  const detected = given ? undefined : await detectSource(path, format);
  const reading = given ?? detected?.reading;
  if (!reading) throw new UnreadableFile('It cannot be told what it is');
  const columns = await readColumns(path, reading);
  const first: FileRow[] = columns.length < 2 ? [] : await readFirst(path, reading, columns, headRows);
  return { detected, columns, first: withinReason(first) };
}

/** Characters of first rows that are kept with a batch. */
const mostKept = 4_000_000;

function withinReason(rows: FileRow[]): FileRow[] {
  let length = 0;
  const cut = rows.findIndex(({ cells }, i) => {
    for (const cell of cells) length += cell.length;
    return i > 0 && length > mostKept;
  });
  return cut < 0 ? rows : rows.slice(0, cut);
}
