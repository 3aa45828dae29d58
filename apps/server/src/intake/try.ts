/** The dry run: what every row of a batch would do, kept row by row, nothing else touched. */
import { hash } from 'node:crypto';
import {
  type ColumnMap,
  type ReadRow,
  type RecordContent,
  type Scope,
  compileRowReader,
  contentOf,
  joinKeys,
  mergeContent,
} from '@velvet-shelf/core/intake';
import { type Reading, UnreadableFile } from '@velvet-shelf/core/tabular';
import { canonical, foldText } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { type Cell, copyIn, copyLine } from '../db/copy.js';
import { json, onClient, rows, type Database, type Executor } from '../db/client.js';
import type { BatchCounts } from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../catalog/dictionary.js';
import { type FileRow, rowBatches } from './source.js';

export interface Tried {
  id: number;
  path: string;
  reading: Reading;
  columns: string[];
  map: ColumnMap;
  scope: Scope;
  supplier: { id: number; name: string; kind: 'own' | 'supplier' };
}

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
  hash: string | null;
  keys: Partial<Record<string, string>> | null;
  recordId: number | null;
  beforeId: number | null;
  print: string | null;
}

const chunkRows = 2000;

/** The key a record is found by: small letters, no spaces around. */
export const recordKey = (written: string) => foldText(written);

export const emptyCounts = (): BatchCounts => ({
  created: 0,
  changed: 0,
  unchanged: 0,
  refused: 0,
  lostCells: 0,
  dropped: 0,
});

/** Compiles a judge for rows of a batch: hand in some, get what each would do, in order. */
export async function compileJudge(
  db: Executor,
  batch: Tried,
  dictionary: Dictionary,
): Promise<(rows: readonly FileRow[]) => Promise<Judged[]>> {
  const isOwn = batch.supplier.kind === 'own';
  const suppliers = await rows<{ id: number; name: string }>(db, sql`SELECT id, name FROM supplier`);
  const byName = new Map(suppliers.map((one) => [foldText(one.name), one.id]));
  const reader = compileRowReader({
    columns: batch.columns,
    map: batch.map,
    style: batch.reading,
    dictionary: dictionary.attributes,
  });
  const isUpdate = batch.scope === 'update';
  const contentColumn = isUpdate ? sql`, c.content AS held` : sql``;
  const way = hash(
    'md5',
    canonical([batch.map, batch.columns, batch.reading, [...dictionary.attributes]]),
    'base64url',
  );
  const printOf = (file: FileRow) =>
    isUpdate || file.broken ? null : hash('md5', `${way}\u0001${file.cells.join('\u0001')}`, 'base64url');
  return async (chunk) => {
    const keys = chunk.map((file) => (file.broken ? '' : recordKey(reader.keyOf(file.cells))));
    const existing = new Map(
      (
        await rows<{
          key: string;
          record: number;
          content: number;
          hash: string;
          print: string | null;
          held?: RecordContent;
        }>(
          db,
          sql`SELECT r.key, r.id AS record, c.id AS content, c.hash, c.print ${contentColumn} FROM record r JOIN record_content c ON c.id = r.content_id
              WHERE r.supplier_id = ${batch.supplier.id} AND r.key = ANY(ARRAY(SELECT jsonb_array_elements_text(${json(keys.filter(Boolean))})))`,
        )
      ).map((one) => [one.key, one]),
    );
    return chunk.map((file, i): Judged => {
      const found = existing.get(keys[i] ?? '');
      const print = printOf(file);
      if (found && print !== null && found.print === print) {
        const written = reader.keyOf(file.cells);
        const again = reader.take(written);
        return again
          ? refused(again.key, again.reasons)
          : { ...unchanged, key: written, recordKey: found.key, recordId: found.record, beforeId: found.content };
      }
      const row: ReadRow = file.broken
        ? { outcome: 'refused', key: undefined, reasons: [file.broken] }
        : reader.read(file.cells);
      if (row.outcome === 'refused') return refused(row.key, row.reasons);
      if (isUpdate && !found)
        return refused(row.key, [
          `${batch.supplier.name} has no article number “${row.key}” that we know; this file updates goods and makes none`,
        ]);
      if (isOwn) row.values.sku = row.key;
      const given = contentOf(row);
      const content = isUpdate && found?.held ? mergeContent(found.held, given) : given;
      const text = canonical(content);
      const hashed = hash('sha1', text, 'base64url');
      const keysOf =
        isUpdate && found?.held
          ? null
          : joinKeys(row, { id: batch.supplier.id, isOwn }, (name) => byName.get(foldText(name)));
      return {
        outcome: found === undefined ? 'created' : found.hash === hashed ? 'unchanged' : 'changed',
        key: row.key,
        recordKey: recordKey(row.key),
        reasons: null,
        notes: row.notes.length > 0 ? row.notes : null,
        content,
        text,
        hash: hashed,
        keys: keysOf,
        recordId: found?.record ?? null,
        beforeId: found?.content ?? null,
        print,
      };
    });
  };
}

const nothing = { reasons: null, notes: null, content: null, text: null, hash: null, keys: null, print: null } as const;
const unchanged = { ...nothing, outcome: 'unchanged' } as const;

function refused(key: string | undefined, reasons: string[]): Judged {
  return {
    outcome: 'refused',
    key: key ?? null,
    recordKey: key === undefined ? null : recordKey(key),
    ...nothing,
    reasons,
    recordId: null,
    beforeId: null,
  };
}

export async function tryBatch(
  db: Database,
  batch: Tried,
  onRows: (done: number) => Promise<void> = async () => undefined,
): Promise<BatchCounts> {
  const judge = await compileJudge(db, batch, await loadDictionary(db));
  const counts = emptyCounts();
  const fixes = await loadFixes(db, batch);

  /** Lines for COPY, many at a time. */
  async function* lines(): AsyncGenerator<string> {
    let chunk: FileRow[] = [];
    let done = 0;
    const judged = async (): Promise<string> => {
      const answers = await judge(chunk);
      let text = '';
      answers.forEach((answer, i) => {
        const file = chunk[i];
        if (!file) return;
        counts[answer.outcome]++;
        for (const note of answer.notes ?? []) if (note.lost) counts.lostCells++;
        text += toLine(batch.id, file, answer);
      });
      done += chunk.length;
      await onRows(done);
      return text;
    };
    try {
      for await (const part of rowBatches(batch.path, batch.reading, batch.columns)) {
        for (const file of part)
          chunk.push(fixes.size === 0 ? file : withFix(file, batch.columns, fixes.get(file.row)));
        if (chunk.length < chunkRows) continue;
        yield await judged();
        chunk = [];
      }
    } catch (error) {
      if (!(error instanceof UnreadableFile) || done + chunk.length === 0) throw error;
      // What came before is kept; the place where the file breaks off is a refused row of its own.
      const last = chunk.at(-1)?.row ?? done;
      chunk.push({
        row: last + 1,
        place: 'where the file breaks off',
        cells: batch.columns.map(() => ''),
        broken: error.message,
      });
    }
    yield await judged();
  }

  await onClient(db, async (client) => {
    await client.query('DELETE FROM batch_row WHERE batch_id = $1', [batch.id]);
    await copyIn(client, 'batch_row', rowColumns, lines());
    const { rows: gone } = await client.query<{ n: number }>(
      `SELECT count(*) AS n FROM record r WHERE r.supplier_id = $1 AND r.content_id IS NOT NULL AND $2 = 'whole'
         AND NOT EXISTS (SELECT 1 FROM batch_row b WHERE b.batch_id = $3 AND b.record_key = r.key)`,
      [batch.supplier.id, batch.scope, batch.id],
    );
    counts.dropped = gone[0]?.n ?? 0;
  });
  return counts;
}

const rowColumns = [
  'record_id',
  'print',
  'batch_id',
  'row',
  'place',
  'cells',
  'outcome',
  'key',
  'record_key',
  'reasons',
  'notes',
  'content',
  'hash',
  'keys',
  'before_id',
];

function toLine(batchId: number, file: FileRow, judged: Judged): string {
  // What is unchanged stands in the record already.
  const isKnown = judged.outcome === 'unchanged';
  const cells: Cell[] = [
    judged.recordId,
    judged.print,
    batchId,
    file.row,
    file.place,
    isKnown ? null : file.cells,
    judged.outcome,
    judged.key,
    judged.recordKey,
    judged.reasons,
    judged.notes,
    isKnown ? null : judged.text,
    judged.hash,
    isKnown ? null : judged.keys,
    judged.beforeId,
  ];
  return copyLine(cells);
}

async function loadFixes(db: Executor, batch: Tried): Promise<Map<number, Record<string, string>>> {
  const found = await rows<{ row: number; cells: Record<string, string> }>(
    db,
    sql`SELECT row, cells FROM batch_fix WHERE batch_id = ${batch.id}`,
  );
  return new Map(found.map((one) => [one.row, one.cells]));
}

/** The row with a person's corrections over the file's cells; a row cut off is filled up to the header's length. */
export function withFix(file: FileRow, columns: readonly string[], fix: Record<string, string> | undefined): FileRow {
  if (!fix) return file;
  const cells = columns.map((column, i) => fix[column] ?? file.cells[i] ?? '');
  return { row: file.row, place: file.place, cells };
}
