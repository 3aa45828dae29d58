/** What rows of a batch would do, as it is kept until they are applied. */
import type { RecordContent } from '@velvet-shelf/core/intake';
import type { FileRow } from '@velvet-shelf/core/tabular';
import { sql } from 'drizzle-orm';
import { type ClientTransaction, type Executor, takeIds } from '../../db/client.js';
import { copyIn, copyLine, copyText } from '../../db/copy.js';

/** What a row would do, as `batch_row` keeps it. */
export interface Judged {
  outcome: 'created' | 'changed' | 'unchanged' | 'refused';
  key: string | null;
  recordKey: string | null;
  reasons: string[] | null;
  notes: ReadonlyArray<{ column: string; cell: string; note: string; lost: boolean }> | null;
  content: RecordContent | null;
  /** The content as JSON. */
  text: string | null;
  keys: Partial<Record<string, string>> | null;
  /** Of a row that makes a record, the id it will have. */
  recordId: number | null;
  beforeId: number | null;
  print: string | null;
}

/** What the rows that are news would have their records say. */
const isNews = (judged: Judged) => judged.outcome === 'created' || judged.outcome === 'changed';

/** Forgets an earlier dry run of a batch, or of one of its rows, and the contents that nothing else names. */
export async function dropRows(on: Executor, batchId: number, row?: number): Promise<void> {
  const which = sql`b.batch_id = ${batchId} AND ${row === undefined ? sql`true` : sql`b.row = ${row}`}`;
  await on.execute(sql`
    DELETE FROM record_content c USING batch_row b
    WHERE ${which} AND c.id = b.content_id AND NOT EXISTS (
      SELECT 1 FROM record_version v WHERE v.record_id = c.record_id AND v.content_id = c.id)`);
  await on.execute(sql`DELETE FROM batch_row b WHERE ${which}`);
}

/** Writes judged rows: their contents first, then the rows that name them. */
export async function writeJudged(
  { tx, client }: ClientTransaction,
  batchId: number,
  files: readonly FileRow[],
  answers: readonly Judged[],
): Promise<void> {
  const taken = await takeIds(tx, 'record_content', answers.filter(isNews).length);
  const ids = answers.map((answer) => (isNews(answer) ? (taken.shift() ?? null) : null));
  await copyIn(client, 'record_content', contentColumns, contentLines(files, answers, ids));
  await copyIn(client, 'batch_row', rowColumns, rowLines(batchId, files, answers, ids));
}

const contentColumns = ['id', 'record_id', 'print', 'content', 'keys', 'cells'];

function* contentLines(files: readonly FileRow[], answers: readonly Judged[], ids: readonly (number | null)[]) {
  for (let i = 0; i < answers.length; i++) {
    if (ids[i] === null) continue;
    const { recordId, print, text, keys } = answers[i] as Judged;
    yield copyLine([ids[i], recordId, print, text, keys, files[i]?.cells]);
  }
}

const rowColumns = [
  'batch_id',
  'row',
  'outcome',
  'key',
  'record_key',
  'record_id',
  'before_id',
  'content_id',
  'place',
  'cells',
  'reasons',
  'notes',
];

function* rowLines(
  batchId: number,
  files: readonly FileRow[],
  answers: readonly Judged[],
  ids: readonly (number | null)[],
) {
  for (let i = 0; i < answers.length; i++) {
    const { outcome, key, recordKey: found, recordId, beforeId, reasons, notes } = answers[i] as Judged;
    const { row, place, cells } = files[i] as FileRow;
    if (outcome === 'unchanged' && place === undefined && notes === null) {
      // Most rows of a list that comes again: nothing of them is left to say.
      yield `${batchId}\t${row}\t${outcome}\t${copyText(key ?? '')}\t${copyText(found ?? '')}\t${recordId}\t${beforeId}\t\\N\t\\N\t\\N\t\\N\t\\N\n`;
      continue;
    }
    const kept = outcome === 'refused' ? cells : null;
    yield copyLine([batchId, row, outcome, key, found, recordId, beforeId, ids[i], place, kept, reasons, notes]);
  }
}
