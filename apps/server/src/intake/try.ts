/** The dry run: what every row of a batch would do, kept row by row, nothing else touched. */
import { createHash } from 'node:crypto';
import { type ColumnMap, type ReadRow, compileRowReader, contentOf, joinKeys } from '@velvet-shelf/core/intake';
import { canonical, foldText } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { type Cell, copyIn, copyLine } from '../db/copy.js';
import { type Database, rows } from '../db/client.js';
import type { BatchCounts, Reading } from '../db/schema/index.js';
import { loadDictionary } from '../catalog/dictionary.js';
import { type FileRow, readRows } from './file.js';

export interface Tried {
  id: number;
  path: string;
  reading: Reading;
  columns: string[];
  map: ColumnMap;
  supplier: { id: number; kind: 'own' | 'supplier' };
}

const chunkRows = 5000;

/** The key a record is found by: small letters, no spaces around. */
export const recordKey = (written: string) => foldText(written);

export async function tryBatch(db: Database, batch: Tried): Promise<BatchCounts> {
  const dictionary = await loadDictionary(db);
  const isOwn = batch.supplier.kind === 'own';
  const suppliers = await rows<{ id: number; name: string }>(db, sql`SELECT id, name FROM supplier`);
  const byName = new Map(suppliers.map((one) => [foldText(one.name), one.id]));
  const read = compileRowReader({
    columns: batch.columns,
    map: batch.map,
    style: batch.reading,
    dictionary: dictionary.attributes,
  });
  const counts: BatchCounts = { created: 0, changed: 0, unchanged: 0, refused: 0, lostCells: 0 };

  const judge = async (chunk: { file: FileRow; row: ReadRow }[]): Promise<string[]> => {
    const keys = chunk.flatMap(({ row }) => (row.outcome === 'read' ? [recordKey(row.key)] : []));
    const existing = new Map(
      (
        await rows<{ key: string; content: number; hash: string }>(
          db,
          sql`SELECT r.key, c.id AS content, c.hash FROM record r JOIN record_content c ON c.id = r.content_id
              WHERE r.supplier_id = ${batch.supplier.id} AND r.key IN (SELECT jsonb_array_elements_text(${JSON.stringify(keys)}::jsonb))`,
        )
      ).map((one) => [one.key, one]),
    );
    return chunk.map(({ file, row }) => {
      if (row.outcome === 'refused') {
        counts.refused++;
        return line(batch.id, file, ['refused', row.key ?? null, null, row.reasons, null, null, null, null, null]);
      }
      if (isOwn) row.values.sku = row.key;
      const content = contentOf(row);
      const hash = createHash('sha1').update(canonical(content)).digest('base64url');
      const keysOf = joinKeys(row, { id: batch.supplier.id, isOwn }, (name) => byName.get(foldText(name)));
      const before = existing.get(recordKey(row.key));
      const outcome = before === undefined ? 'created' : before.hash === hash ? 'unchanged' : 'changed';
      counts[outcome]++;
      counts.lostCells += row.notes.filter((note) => note.lost).length;
      return line(batch.id, file, [
        outcome,
        row.key,
        recordKey(row.key),
        null,
        row.notes.length > 0 ? row.notes : null,
        content,
        hash,
        keysOf,
        before?.content ?? null,
      ]);
    });
  };

  async function* lines(): AsyncGenerator<string> {
    let chunk: { file: FileRow; row: ReadRow }[] = [];
    for await (const file of readRows(batch.path, batch.reading)) {
      if (file.row <= batch.reading.headerRow) continue;
      chunk.push({ file, row: read(file.cells) });
      if (chunk.length >= chunkRows) {
        yield* await judge(chunk);
        chunk = [];
      }
    }
    yield* await judge(chunk);
  }

  const client = await db.$client.connect();
  try {
    await client.query('BEGIN');
    await client.query('DELETE FROM batch_row WHERE batch_id = $1', [batch.id]);
    await copyIn(
      client,
      'batch_row',
      [
        'batch_id',
        'row',
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
      ],
      lines(),
    );
    await client.query('COMMIT');
  } catch (error) {
    await client.query('ROLLBACK');
    throw error;
  } finally {
    client.release();
  }
  return counts;
}

function line(batchId: number, file: FileRow, rest: Cell[]): string {
  return copyLine([batchId, file.row, file.cells, ...rest]);
}
