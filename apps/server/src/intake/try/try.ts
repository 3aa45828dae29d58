/** The dry run: what every row of a batch would do, kept row by row, nothing else touched. */
import { hash } from 'node:crypto';
import {
  type ColumnMap,
  type Makes,
  type ReadRow,
  type RecordContent,
  type Scope,
  contentOf,
  joinKeys,
  mergeContent,
} from '@velvet-shelf/core/intake';
import { type FileRow, type Reading, UnreadableFile } from '@velvet-shelf/core/tabular';
import { isInHouse } from '@velvet-shelf/core/matching';
import { canonical, foldText } from '@velvet-shelf/core/values';
import { sql, eq } from 'drizzle-orm';
import { refreshStatistics } from '../../db/statistics.js';
import { breathe, keptJson } from '../../db/copy.js';
import {
  type Database,
  type Executor,
  ids as idList,
  onClient,
  queryOne,
  queryRows,
  takeIds,
  texts,
} from '../../db/client.js';
import type { BatchCounts } from '../../db/schema/index.js';
import { rowReader } from '../columns/columns.js';
import { dictionaryOf } from '../columns/makes.js';
import { currentSupplier } from '../../company/suppliers.js';
import type { Dictionary } from '../../dictionary/dictionary.js';
import { emptyCounts } from './counts.js';
import { type Judged, dropRows, writeJudged } from './judged.js';
import { findMeetings } from './meets.js';
import { rowsApart } from '../read/process.js';
import * as tables from '../../db/schema/index.js';

export interface Tried {
  id: number;
  path: string;
  reading: Reading;
  columns: string[];
  map: ColumnMap;
  makes: Makes;
  scope: Scope;
  supplier: { id: number; name: string; kind: 'own' | 'supplier' };
}

const chunkRows = 2000;
const sliceRows = 200;

/** The key a record is found by: small letters, no spaces around. */
export const recordKey = (written: string) => foldText(written);

/** Rows of a file with what is known of their records. */
interface Looked {
  files: readonly FileRow[];
  keys: string[];
  prints: (string | null)[];
  /** By place in `files`. */
  known: (Known | undefined)[];
}

/** `look` may go on beside the judging of the rows before; `judge` takes rows in the order of the file. */
interface Judge {
  look(files: readonly FileRow[]): Promise<Looked>;
  /** What each row would do, in order. */
  judge(looked: Looked): Promise<Judged[]>;
}

/** Compiles a judge for rows of a batch. */
export async function compileJudge(db: Executor, batch: Tried, dictionary: Dictionary): Promise<Judge> {
  const isOwn = batch.supplier.kind === 'own';
  const suppliers = await db
    .select({ id: currentSupplier, name: tables.supplier.name })
    .from(tables.supplier)
    // Of two of a name the one that stands is the last, which counts.
    .orderBy(sql`(${tables.supplier.mergedInto} IS NULL)`);
  const byName = new Map(suppliers.map((supplier) => [foldText(supplier.name), supplier.id]));
  const reader = rowReader(batch, dictionary);
  const isUpdate = batch.scope === 'update';
  const way = hash(
    'md5',
    canonical([batch.map, batch.columns, batch.reading, [...dictionary.attributes]]),
    'base64url',
  );
  const printOf = (file: FileRow) =>
    isUpdate || file.broken ? null : hash('md5', `${way}\u0001${file.cells.join('\u0001')}`, 'base64url');

  const judgeOne = (file: FileRow, folded: string, print: string | null, known: Known | undefined): Judged => {
    if (known?.isSame) {
      const written = reader.keyOf(file.cells);
      const again = reader.take(written, folded);
      return again ? refused(again.key, again.reasons) : unchanged(written, folded, known);
    }
    const found = known && known.content !== null ? known : undefined;
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
    const held = isUpdate && found?.text ? (JSON.parse(found.text) as RecordContent) : undefined;
    const content = held ? mergeContent(held, given) : given;
    const text = keptJson(held ? canonical(content) : JSON.stringify(given));
    return {
      outcome: found === undefined ? 'created' : saysSame(found.text, text) ? 'unchanged' : 'changed',
      key: row.key,
      recordKey: recordKey(row.key),
      reasons: null,
      notes: row.notes.length > 0 ? row.notes : null,
      content,
      text,
      keys:
        held && found?.keys
          ? found.keys
          : joinKeys(
              row,
              { id: batch.supplier.id, isOwn },
              (name) => byName.get(foldText(name)),
              dictionary.attributes,
            ),
      recordId: known?.record ?? null,
      beforeId: found?.content ?? null,
      print,
    };
  };
  const look: Judge['look'] = async (files) => {
    const keys = files.map((file) => (file.broken ? '' : recordKey(reader.keyOf(file.cells))));
    const prints = files.map(printOf);
    return { files, keys, prints, known: await loadKnown(db, batch.supplier.id, keys, prints) };
  };
  const judge: Judge['judge'] = async ({ files, keys, prints, known }) => {
    const judged: Judged[] = [];
    for (let i = 0; i < files.length; i++) {
      judged.push(judgeOne(files[i] as FileRow, keys[i] ?? '', prints[i] ?? null, known[i]));
      if (i % sliceRows === sliceRows - 1) await breathe();
    }
    const unnumbered = judged.filter((row) => row.outcome === 'created' && row.recordId === null);
    const numbers = await takeIds(db, 'record', unnumbered.length);
    unnumbered.forEach((row, i) => (row.recordId = numbers[i] ?? null));
    return judged;
  };
  return { look, judge };
}

/**
 * Equal as written or, where another version of ours wrote it, equal in order. Most contents that differ differ in length,
 * and need not be put in order to be told apart; those that were once `jsonb` hold spaces.
 */
const saysSame = (held: string | undefined, text: string) =>
  held === text ||
  (held !== undefined &&
    (held.length === text.length || /^\{"\w+": /.test(held)) &&
    canonical(JSON.parse(held)) === text);

/** A record that a row of a file may belong to. */
interface Known {
  record: number;
  content: number | null;
  /** It was read out of a row just like this one, in the same way: there is nothing to compare. */
  isSame: boolean;
  /** Of the others, what it says: keys, and the content as JSON. */
  keys?: Record<string, string>;
  text?: string;
}

/** The records of some rows. They come as one text of numbers: a row each would cost more than the comparing. */
async function loadKnown(
  db: Executor,
  supplier: number,
  keys: readonly string[],
  prints: readonly (string | null)[],
): Promise<(Known | undefined)[]> {
  const found = await queryOne<{ list: string | null }>(
    db,
    sql`SELECT string_agg(concat_ws(' ', t.at, r.id, coalesce(c.id, 0), (c.print = t.print)::int), ',') AS list
        FROM unnest(${texts(keys)}, ${texts(prints)}) WITH ORDINALITY AS t(key, print, at)
        JOIN record r ON r.supplier_id = ${supplier} AND r.key = t.key LEFT JOIN record_content c ON c.id = r.content_id WHERE t.key <> ''`,
  );
  const known: (Known | undefined)[] = new Array<undefined>(keys.length).fill(undefined);
  const others = new Map<number, Known[]>();
  for (const part of found?.list?.split(',') ?? []) {
    const [at, record, content, same] = part.split(' ');
    const held: Known = { record: Number(record), content: Number(content) || null, isSame: same === '1' };
    known[Number(at) - 1] = held;
    if (held.content === null || held.isSame) continue;
    const alike = others.get(held.content);
    if (alike) alike.push(held);
    else others.set(held.content, [held]);
  }
  if (others.size === 0) return known;
  const contents = await queryRows<{ id: number; text: string; keys: Record<string, string> }>(
    db,
    sql`SELECT id, content::text AS text, keys FROM record_content WHERE id = ANY(${idList([...others.keys()])})`,
  );
  for (const { id, ...rest } of contents) for (const held of others.get(id) ?? []) Object.assign(held, rest);
  return known;
}

const nothing = { reasons: null, notes: null, content: null, text: null, keys: null, print: null } as const;

const unchanged = (key: string, folded: string, { record, content }: Known): Judged => ({
  outcome: 'unchanged',
  key,
  recordKey: folded,
  ...nothing,
  recordId: record,
  beforeId: content,
});

export function refused(key: string | undefined, reasons: string[]): Judged {
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
  const { look, judge } = await compileJudge(db, batch, await dictionaryOf(db, batch));
  const counts = emptyCounts();
  const fixes = await loadFixes(db, batch);

  await onClient(db, async (on) => {
    await dropRows(on.tx, batch.id);
    let chunk: FileRow[] = [];
    let done = 0;
    let last = 0;
    let writing = Promise.resolve();
    let looking: ReturnType<typeof look> | undefined;
    /** The next rows are looked up, and these judged, while the last ones are still on their way to the database. */
    const settle = async () => {
      const before = looking;
      looking = chunk.length > 0 ? look(chunk) : undefined;
      looking?.catch(() => undefined);
      chunk = [];
      if (!before) return;
      const looked = await before;
      const { files } = looked;
      const answers = await judge(looked);
      for (const answer of answers) {
        counts[answer.outcome]++;
        if (isInHouse(answer.keys?.gtin)) counts.inHouse = (counts.inHouse ?? 0) + 1;
        for (const note of answer.notes ?? []) if (note.lost) counts.lostCells++;
      }
      await writing;
      writing = writeJudged(on, batch.id, files, answers);
      writing.catch(() => undefined);
      done += files.length;
      await onRows(done);
    };
    try {
      for await (const part of rowsApart(batch.path, batch.reading, batch.columns)) {
        for (const file of part)
          chunk.push(fixes.size === 0 ? file : withFix(file, batch.columns, fixes.get(file.row)));
        last = part.at(-1)?.row ?? last;
        if (chunk.length >= chunkRows) await settle();
      }
    } catch (error) {
      if (!(error instanceof UnreadableFile) || last === 0) throw error;
      // What came before is kept; the place where the file breaks off is a refused row of its own.
      chunk.push({
        row: last + 1,
        place: 'where the file breaks off',
        cells: batch.columns.map(() => ''),
        broken: error.message,
      });
    }
    await settle();
    // The last rows have only been looked up by now.
    await settle();
    await writing;
    await refreshStatistics(on.tx, done, ['record_content', 'batch_row']);
    const { rows: gone } = await on.client.query<{ n: number }>(
      `SELECT count(*) AS n FROM record r WHERE r.supplier_id = $1 AND r.content_id IS NOT NULL AND $2 = 'whole'
         AND NOT EXISTS (SELECT 1 FROM batch_row b WHERE b.batch_id = $3 AND b.record_key = r.key)`,
      [batch.supplier.id, batch.scope, batch.id],
    );
    counts.dropped = gone[0]?.n ?? 0;
    const { joins, asked } = await findMeetings(on.tx, batch.id);
    Object.assign(counts, { joins, asked, created: counts.created - joins });
  });
  return counts;
}

async function loadFixes(db: Executor, batch: Tried): Promise<Map<number, Record<string, string>>> {
  const batchFixes = await db
    .select({ row: tables.batchFix.row, cells: tables.batchFix.cells })
    .from(tables.batchFix)
    .where(eq(tables.batchFix.batchId, batch.id));
  return new Map(batchFixes.map((batchFix) => [batchFix.row, batchFix.cells]));
}

/** The row with a person's corrections over the file's cells; a row cut off is filled up to the header's length. */
export function withFix(file: FileRow, columns: readonly string[], fix: Record<string, string> | undefined): FileRow {
  if (!fix) return file;
  const cells = columns.map((column, i) => fix[column] ?? file.cells[i] ?? '');
  return { row: file.row, place: file.place, cells };
}
