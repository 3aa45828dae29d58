/** What records say, version by version: which batches gave it, and which cell of theirs. */
import type { ColumnMap } from '@velvet-shelf/core/intake';
import { splitSlot } from '@velvet-shelf/core/claims';
import type { Value } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import { type Executor, ids, queryRows } from '../db/client.js';
import * as tables from '../db/schema/index.js';

/** Batches whose word counts: one that is being undone counts until that is done. */
export const counting = sql`('applying', 'applied', 'undoing')`;

/** The article number as its source first wrote it. */
export const writtenNumber = sql<string>`coalesce(nullif(${tables.record.written}, ''), ${tables.record.key})`;

/** A batch that gave a record a content, and where the row stands in it. */
export interface RecordVersion {
  batchId: number;
  row: number;
  /** Where the row stands, where that is no row of a delimited text. */
  place: string | null;
  at: string;
  columns: string[];
  map: ColumnMap;
  cells: string[];
}

export interface RecordSource {
  record: number;
  supplier: string;
  values: Record<string, Value>;
  /** Newest first. A price list laid over a record stands before the file that described it. */
  versions: RecordVersion[];
}

/** The records, by number, with their versions. */
export async function loadSources(on: Executor, records: number[]): Promise<Map<number, RecordSource>> {
  const recordVersions = await queryRows<RecordSource>(
    on,
    sql`SELECT r.id AS record, s.name AS supplier, c.content -> 'values' AS values, (
          SELECT coalesce(jsonb_agg(jsonb_build_object('batchId', v.batch_id, 'row', v.row, 'place', w.place, 'at', b.applied_at, 'columns', b.columns, 'map', b.map, 'cells', o.cells)
            ORDER BY v.batch_id DESC), '[]')
          FROM (SELECT DISTINCT ON (x.content_id) x.* FROM record_version x JOIN batch y ON y.id = x.batch_id
                WHERE x.record_id = r.id AND y.state IN ${counting} AND x.batch_id > coalesce(r.silent_after, 0) ORDER BY x.content_id, x.batch_id) v
          JOIN batch b ON b.id = v.batch_id JOIN record_content o ON o.id = v.content_id LEFT JOIN batch_row w ON w.batch_id = v.batch_id AND w.row = v.row
        ) AS versions
        FROM record r JOIN supplier s ON s.id = r.supplier_id JOIN record_content c ON c.id = r.content_id WHERE r.id = ANY(${ids(records)})`,
  );
  return new Map(recordVersions.map((recordSource) => [recordSource.record, recordSource]));
}

/** The newest version whose file has a column for what is asked, with that column; else the newest of all. */
export function feeding(
  source: RecordSource | undefined,
  columnIn: (map: ColumnMap) => string | null,
): { version: RecordVersion; column: string | null } | undefined {
  for (const version of source?.versions ?? []) {
    const column = columnIn(version.map);
    if (column !== null) return { version, column };
  }
  const [newest] = source?.versions ?? [];
  return newest && { version: newest, column: null };
}

/** The column of the file that fed a slot; the article number stands in for our SKU, options for what tells variants apart. */
export function columnOf(map: ColumnMap, slot: string, isSku: boolean): string | null {
  const [key, language] = splitSlot(slot);
  const direct = map.find(
    ({ target }) =>
      target.to === 'attribute' && target.attribute === key && (language === undefined || target.language === language),
  );
  const stand = isSku
    ? map.find(({ target }) => target.to === 'key')
    : map.find(({ target }) => target.to === 'options');
  return (direct ?? stand)?.column ?? null;
}
