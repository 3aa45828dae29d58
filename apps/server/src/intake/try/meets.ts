/** Which goods the rows that make records would join: judged by the rules that applying goes by, before anything is applied. */
import { type Described, type JoinLevel, type JoinRecord, joinLevels, joinRecords } from '@velvet-shelf/core/matching';
import { type SQL, sql, eq } from 'drizzle-orm';
import { type Executor, ids, json, queryRows, first } from '../../db/client.js';
import type { RowMeeting } from '../../db/schema/index.js';
import { loadDecisions, loadMembers, reach, toJoinRecord, traitsOf } from '../../matching/joins.js';
import * as tables from '../../db/schema/index.js';

interface Meetings {
  joins: number;
  asked: number;
}

interface NewRecord {
  row: number;
  id: number;
  keys: Record<string, string>;
  described: Described;
}

/**
 * Keeps with each row that makes a record which goods it would join, or which it would ask a person about and why.
 * Rows picked out are nobody's twins. Answers how many there are of each.
 */
export async function findMeetings(tx: Executor, batchId: number, row?: number): Promise<Meetings> {
  const which = sql`b.batch_id = ${batchId} AND ${row === undefined ? sql`true` : sql`b.row = ${row}`}`;
  const head = await first(
    tx
      .select({
        supplier: tables.supplier.id,
        usesOurNumbers: sql<boolean>`${tables.supplier.usesOurNumbers} OR ${tables.supplier.kind} = 'own'`,
      })
      .from(tables.batch)
      .innerJoin(tables.supplier, eq(tables.supplier.id, tables.batch.supplierId))
      .where(eq(tables.batch.id, batchId)),
  );
  await tx.execute(sql`UPDATE batch_row b SET meets = NULL WHERE ${which} AND b.meets IS NOT NULL`);
  const news = await loadNews(tx, which);
  if (!head || news.length === 0) return { joins: 0, asked: 0 };
  const found = await judgeMeetings(tx, news, head);
  await tx.execute(
    sql`UPDATE batch_row b SET meets = t.meets FROM jsonb_to_recordset(${json(found)}) AS t(row int, meets jsonb) WHERE b.batch_id = ${batchId} AND b.row = t.row`,
  );
  const asked = found.filter(({ meets }) => meets.unless).length;
  return { joins: found.length - asked, asked };
}

/** Rows that make records and share a key, or what a person decided, with records that stand. */
function loadNews(tx: Executor, which: SQL): Promise<NewRecord[]> {
  return queryRows<NewRecord>(
    tx,
    // Keys are laid beside those that stand as two sets: row by row it would be each of them against all.
    sql`WITH news AS MATERIALIZED (
          SELECT b.row, b.record_id AS id, b.content_id FROM batch_row b WHERE ${which} AND b.outcome = 'created' AND NOT b.left_out),
        keyed AS MATERIALIZED (
          SELECT n.row, k.key AS kind, k.value AS key FROM news n JOIN record_content c ON c.id = n.content_id, json_each_text(c.keys) k),
        met AS (
          SELECT row FROM keyed WHERE (kind, key) IN (SELECT kind, key FROM record_key)
          UNION SELECT row FROM news WHERE id IN (SELECT a FROM join_decision UNION SELECT b FROM join_decision))
        SELECT n.row, n.id, c.keys, json_build_object('values', c.content -> 'values', 'options', c.content -> 'options') AS described
        FROM met JOIN news n USING (row) JOIN record_content c ON c.id = n.content_id ORDER BY n.row`,
  );
}

async function judgeMeetings(
  tx: Executor,
  news: readonly NewRecord[],
  { supplier, usesOurNumbers }: { supplier: number; usesOurNumbers: boolean },
): Promise<{ row: number; meets: RowMeeting }[]> {
  const keys = news.flatMap((piece) => Object.entries(piece.keys).map(([kind, key]) => ({ kind, key })));
  const own = news.map((piece) => piece.id);
  const met = await queryRows<{ id: number }>(
    tx,
    sql`SELECT DISTINCT o.record_id AS id FROM jsonb_to_recordset(${json(keys)}) AS t(kind text, key text) JOIN record_key o ON o.kind = t.kind AND o.key = t.key
        UNION SELECT b FROM join_decision WHERE a = ANY(${ids(own)}) UNION SELECT a FROM join_decision WHERE b = ANY(${ids(own)})`,
  );
  const closure = await reach(
    tx,
    met.map((row) => row.id),
  );
  const traits = await traitsOf(tx);
  const isNew = new Set(own);
  const members = (await loadMembers(tx, closure)).filter((member) => member.active && !isNew.has(member.id));
  const standing = new Map(members.map((member) => [member.id, member]));
  const records = [
    ...members.map((member) => toJoinRecord(member, traits)),
    ...news.map((piece) => toJoinRecord({ ...piece, supplier, usesOurNumbers }, traits)),
  ];
  const { components, proposals } = joinRecords(records, await loadDecisions(tx, [...closure, ...own]));
  const byId = new Map(records.map((record) => [record.id, record]));
  const best = (list: readonly number[]) =>
    list
      .flatMap((id) => standing.get(id) ?? [])
      .filter((member) => member.product !== null)
      .sort((a, b) => a.rank - b.rank || a.id - b.id)[0];
  const meetings = new Map<number, RowMeeting>();
  for (const { level, records: asked, reason, against } of proposals)
    for (const id of asked) {
      const other = isNew.has(id) && best(asked.filter((row) => row !== id));
      if (other && !meetings.has(id))
        meetings.set(id, { product: other.product ?? 0, by: level, unless: { reason, against: against ?? [] } });
    }
  for (const component of components) {
    const other = best(component);
    const newcomer = component.find((id) => isNew.has(id));
    if (other && newcomer !== undefined)
      meetings.set(newcomer, {
        product: other.product ?? 0,
        by: sharedLevel(
          byId.get(newcomer),
          component.flatMap((id) => (id === newcomer ? [] : (byId.get(id) ?? []))),
        ),
      });
  }
  return news.flatMap(({ row, id }) => {
    const meets = meetings.get(id);
    return meets ? [{ row, meets }] : [];
  });
}

/** The strongest identifier a record shares with the others it is joined to; none where a person joined them. */
function sharedLevel(record: JoinRecord | undefined, others: readonly JoinRecord[]): JoinLevel | null {
  return (
    joinLevels.find((level) => record?.keys[level] && others.some((join) => join.keys[level] === record.keys[level])) ??
    null
  );
}
