/** The dry run as people see it: its rows, picked out or corrected one by one, and what applying would do to listings. */
import type { BatchRowAnswer } from '@velvet-shelf/contract';
import { type RecordContent, contentChanges } from '@velvet-shelf/core/intake';
import { type Foreseen, splitSlot } from '@velvet-shelf/core/claims';
import { type Attribute, type Value, formatValue, keyOf, plainText } from '@velvet-shelf/core/values';
import { type SQL, and, eq, sql, ne } from 'drizzle-orm';
import type { Dictionary } from '../../dictionary/dictionary.js';
import { type Executor, containing, json, queryOne, first, isIn } from '../../db/client.js';
import { conflict, notFound } from '../../http/problem.js';
import type { Services } from '../../http/route.js';
import { doesAsk, doesJoin, recount } from './counts.js';
import { type Aimed, foreseeGoods, goodsOf } from './goods.js';
import { findMeetings } from './meets.js';
import { dropRows, writeJudged } from './judged.js';
import { type Tried, compileJudge, refused, withFix } from './try.js';
import * as tables from '../../db/schema/index.js';
import type { BatchRecord } from '../batches.js';
import { withoutTrial } from '../trial.js';
import { dictionaryOf } from '../columns/makes.js';

type RowRecord = typeof tables.batchRow.$inferSelect;

/** What a row says, or, where it is unchanged, what its record says; and what it would replace. */
interface RowContents {
  own: Held | undefined;
  before: Held | undefined;
}
interface Held {
  id: number;
  content: RecordContent;
  cells: string[];
  keys: Record<string, string>;
}

export interface RowFilter {
  outcome?: string | undefined;
  search?: string | undefined;
}

function filterSql(id: number, { outcome, search }: RowFilter): SQL {
  const parts = [sql`batch_id = ${id}`];
  if (outcome === 'noted') parts.push(sql`notes IS NOT NULL`);
  else if (outcome === 'left out') parts.push(sql`left_out`);
  else if (outcome === 'created') parts.push(sql`outcome = 'created' AND NOT ${doesJoin}`);
  else if (outcome === 'joins') parts.push(doesJoin);
  else if (outcome === 'asked') parts.push(doesAsk);
  else if (outcome) parts.push(sql`outcome = ${outcome}`);
  if (search) {
    const found = (text: SQL) =>
      sql`lower(${text} COLLATE "C") LIKE ANY (ARRAY[${sql.join(
        spellings(search).map((like) => sql`${like}`),
        sql`, `,
      )}])`;
    parts.push(sql`row IN (
      SELECT b.row FROM batch_row b LEFT JOIN record_content c ON c.id = coalesce(b.content_id, b.before_id)
      WHERE b.batch_id = ${id} AND (${found(sql`b.key`)} OR ${found(sql`b.cells::text`)} OR ${found(sql`c.cells::text`)}))`);
  }
  return sql.join(parts, sql` AND `);
}

/**
 * Patterns of a text whatever its letters' case. Hundreds of thousands of cells are put into small letters by their bytes,
 * which leaves those beyond ASCII as they are: those are sought small and large.
 */
function spellings(search: string): string[] {
  const small = (text: string) => text.replace(/[A-Z]/g, (letter) => letter.toLowerCase());
  const pattern = (text: string) => containing(small(text));
  return [...new Set([pattern(search.toLowerCase()), pattern(search.toUpperCase()), pattern(search)])];
}

export async function listRows(
  { db }: Services,
  id: number,
  query: RowFilter & { cursor?: string | undefined; limit: number; locale?: string | undefined },
): Promise<{ items: BatchRowAnswer[]; next: string | null }> {
  const found = await db
    .select()
    .from(tables.batchRow)
    .where(and(filterSql(id, query), query.cursor ? sql`row > ${Number(query.cursor)}` : undefined))
    .orderBy(tables.batchRow.row)
    .limit(query.limit + 1);
  const shown = found.slice(0, query.limit);
  const items = await sayRows(db, id, shown, query.locale);
  return { items, next: found.length > query.limit ? String(items.at(-1)?.row) : null };
}

async function sayRows(db: Executor, id: number, shown: RowRecord[], locale?: string): Promise<BatchRowAnswer[]> {
  const head = await first(
    db
      .select({ supplier: tables.batch.supplierId, state: tables.batch.state, makes: tables.batch.makes })
      .from(tables.batch)
      .where(eq(tables.batch.id, id)),
  );
  if (!head) throw notFound(`batch ${id}`);
  const dictionary = await dictionaryOf(db, head, locale);
  const { attributes } = dictionary;
  const contentsOf = await loadContents(db, shown);
  const goodsOfRow = await goodsOf(db, head.supplier, shown);
  const foreseen =
    head.state === 'tried'
      ? await foreseeGoods(db, head.supplier, aimedRows(shown, contentsOf, goodsOfRow), dictionary)
      : new Map<number, Foreseen>();
  return shown.map((row): BatchRowAnswer => {
    const { own, before } = contentsOf(row);
    const held = own ?? before;
    const { joins, asks } = goodsOfRow(row);
    const isJoin = row.meets !== null && !row.meets.unless;
    const ofGoods = foreseen.get(row.row);
    const changed =
      isJoin && ofGoods
        ? ofGoods.changes.map(({ slot, before: was, after }) => ({ field: slot, before: was, after }))
        : own && contentChanges(before?.content, own.content);
    const changes = changed
      ? changed.map(({ field, before: was, after }) => ({
          field: sayFieldName(field, attributes),
          before: sayChange(field, was, dictionary),
          after: sayChange(field, after, dictionary),
        }))
      : (row.edits ?? []).map(({ attribute, language, before: was, after }) => ({
          field: sayFieldName(language === null ? attribute : `${attribute}@${language}`, attributes),
          before: was,
          after,
        }));
    return {
      row: row.row,
      place: row.place,
      leftOut: row.leftOut,
      cells: row.cells ?? held?.cells ?? [],
      outcome: isJoin ? 'joins' : row.outcome,
      key: row.key,
      title: titleOf(held?.content, row.cells ?? held?.cells ?? [], dictionary),
      reasons: row.reasons ?? [],
      notes: row.notes ?? [],
      changes,
      stays: (ofGoods?.stays ?? []).map(({ slot, says, keeps, why, by }) => ({
        field: sayFieldName(slot, attributes),
        says: sayChange(slot, says, dictionary) ?? '',
        keeps: sayChange(slot, keeps, dictionary),
        why,
        by,
      })),
      joins,
      asks,
    };
  });
}

/** Rows that would have something new said of goods that stand. */
function aimedRows(
  shown: readonly RowRecord[],
  contentsOf: (row: RowRecord) => RowContents,
  goodsOfRow: (row: RowRecord) => Pick<BatchRowAnswer, 'joins'>,
): Aimed[] {
  return shown.flatMap((row) => {
    const [own, joins] = [contentsOf(row).own, goodsOfRow(row).joins];
    return own && joins && row.recordId !== null
      ? [{ row: row.row, record: row.recordId, product: joins.productId, content: own.content }]
      : [];
  });
}

async function loadContents(db: Executor, shown: readonly RowRecord[]): Promise<(row: RowRecord) => RowContents> {
  const wanted = shown.flatMap((row) => [row.contentId ?? [], row.beforeId ?? []].flat());
  const recordContents = await db
    .select({
      id: tables.recordContent.id,
      content: tables.recordContent.content,
      cells: tables.recordContent.cells,
      keys: tables.recordContent.keys,
    })
    .from(tables.recordContent)
    .where(isIn(tables.recordContent.id, wanted));
  const byId = new Map(recordContents.map((recordContent) => [recordContent.id, recordContent]));
  return ({ contentId, beforeId }) => ({ own: byId.get(contentId ?? 0), before: byId.get(beforeId ?? 0) });
}

function titleOf(
  content: RecordContent | undefined,
  cells: readonly string[],
  { attributes, home }: Dictionary,
): string | null {
  const values = content?.values ?? {};
  const key = keyOf(attributes, 'title') ?? '';
  const title = values[`${key}@${home}`] ?? Object.entries(values).find(([slot]) => slot.startsWith(`${key}@`))?.[1];
  if (typeof title === 'string') return title;
  const filled = cells.filter((cell) => cell !== '').slice(0, 3);
  return filled.join(' · ').slice(0, 120) || null;
}

function sayFieldName(field: string, attributes: ReadonlyMap<string, Attribute>): string {
  const [key, language] = splitSlot(field);
  const label = attributes.get(key)?.label ?? field.charAt(0).toUpperCase() + field.slice(1);
  return language ? `${label}, ${language}` : label;
}

function sayChange(
  field: string,
  value: Value | undefined,
  { attributes, reader }: Pick<Dictionary, 'attributes' | 'reader'>,
): string | null {
  if (value === undefined) return null;
  const attribute = attributes.get(splitSlot(field)[0]);
  const text = attribute ? formatValue(value, attribute, reader) : String(value);
  return attribute?.type === 'richText' ? plainText(text).slice(0, 300) : text.slice(0, 300);
}

/** Rows whose records say something else than they did at the dry run. */
export async function countOutdated(
  tx: Executor,
  { id, supplierId }: { id: number; supplierId: number },
): Promise<number> {
  const found = await queryOne<{ n: number }>(
    tx,
    sql`SELECT (SELECT count(*) FROM batch_row b LEFT JOIN record r ON r.id = b.record_id
                WHERE b.batch_id = ${id} AND b.outcome IN ('changed', 'unchanged') AND b.edits IS NULL AND b.before_id IS DISTINCT FROM r.content_id)
             + (SELECT count(*) FROM batch_row b JOIN record r ON r.supplier_id = ${supplierId} AND r.key = b.record_key
                WHERE b.batch_id = ${id} AND b.outcome = 'created' AND b.edits IS NULL AND b.before_id IS DISTINCT FROM r.content_id) AS n`,
  );
  return Number(found?.n ?? 0);
}

/** Picks rows out, or takes them in again; answers how many. Refused rows are never applied anyway. */
export async function leaveOut(
  { db }: Services,
  id: number,
  wish: RowFilter & { leftOut: boolean; rows?: number[] | undefined },
): Promise<number> {
  const which = wish.rows
    ? sql`batch_id = ${id} AND row = ANY(ARRAY(SELECT jsonb_array_elements_text(${json(wish.rows)})::int))`
    : filterSql(id, wish);
  return withoutTrial(db, id, async ({ tx }, { state }) => {
    mustBeTried(state);
    const done = await tx
      .update(tables.batchRow)
      .set({ leftOut: wish.leftOut })
      .where(and(which, ne(tables.batchRow.outcome, 'refused'), ne(tables.batchRow.leftOut, wish.leftOut)))
      .returning({ row: tables.batchRow.row });
    return done.length;
  });
}

function mustBeTried(state: BatchRecord['state']): void {
  if (state !== 'tried') throw conflict(`This batch is ${state}; only a batch that was tried can be picked from`);
}

/** Corrects cells of one row; it is judged again at once, and the batch's counts follow. */
export async function fixRow(
  services: Services,
  tried: Tried,
  row: number,
  { cells, locale }: { cells: Record<string, string>; locale?: string | undefined },
): Promise<BatchRowAnswer> {
  const { db } = services;
  await withoutTrial(db, tried.id, async (on, { state }) => {
    const { tx } = on;
    mustBeTried(state);
    const [held] = await tx
      .select()
      .from(tables.batchRow)
      .where(and(eq(tables.batchRow.batchId, tried.id), eq(tables.batchRow.row, row)));
    if (!held) throw notFound(`row ${row} of this batch`);
    await tx
      .insert(tables.batchFix)
      .values({ batchId: tried.id, row, cells })
      .onConflictDoUpdate({
        target: [tables.batchFix.batchId, tables.batchFix.row],
        set: { cells: sql`${tables.batchFix.cells} || excluded.cells` },
      });
    const { look, judge } = await compileJudge(tx, tried, await dictionaryOf(tx, tried));
    const fixed = withFix(
      { row, place: held.place ?? undefined, cells: await cellsOf(tx, held) },
      tried.columns,
      cells,
    );
    const [judged] = await judge(await look([fixed]));
    if (!judged) return;
    const twin = await first(
      tx
        .select({ row: tables.batchRow.row })
        .from(tables.batchRow)
        .where(
          and(
            eq(tables.batchRow.batchId, tried.id),
            ne(tables.batchRow.row, row),
            ne(tables.batchRow.outcome, 'refused'),
            eq(tables.batchRow.recordKey, judged.recordKey ?? ''),
          ),
        )
        .limit(1),
    );
    const final =
      twin && judged.outcome !== 'refused'
        ? refused(judged.key ?? undefined, [
            `Article number ${judged.key} stands on row ${twin.row} too; the first one counts`,
          ])
        : judged;
    await dropRows(tx, tried.id, row);
    await writeJudged(on, tried.id, [fixed], [final]);
    await tx
      .update(tables.batchRow)
      .set({ leftOut: held.leftOut && final.outcome !== 'refused' })
      .where(and(eq(tables.batchRow.batchId, tried.id), eq(tables.batchRow.row, row)));
    await findMeetings(tx, tried.id, row);
    await recount(tx, tried.id);
  });
  const [after] = await db
    .select()
    .from(tables.batchRow)
    .where(and(eq(tables.batchRow.batchId, tried.id), eq(tables.batchRow.row, row)));
  const [answer] = after ? await sayRows(db, tried.id, [after], locale) : [];
  if (!answer) throw notFound(`row ${row} of this batch`);
  return answer;
}

/** The cells of a row as it stands in the dry run. */
async function cellsOf(on: Executor, { cells, contentId, beforeId }: RowRecord): Promise<string[]> {
  if (cells) return cells;
  const held = await first(
    on
      .select({ cells: tables.recordContent.cells })
      .from(tables.recordContent)
      .where(eq(tables.recordContent.id, contentId ?? beforeId ?? 0)),
  );
  return held?.cells ?? [];
}

/** The refused rows as a table with the reason before the file's own columns. */
export async function refusedRows(
  { db }: Services,
  id: number,
): Promise<{ name: string; columns: string[]; rows: { place: string; reasons: string[]; cells: string[] }[] }> {
  const [found] = await db.select().from(tables.batch).where(eq(tables.batch.id, id));
  if (!found) throw notFound(`batch ${id}`);
  const refused = await db
    .select({
      row: tables.batchRow.row,
      place: tables.batchRow.place,
      reasons: tables.batchRow.reasons,
      cells: tables.batchRow.cells,
    })
    .from(tables.batchRow)
    .where(and(eq(tables.batchRow.batchId, id), eq(tables.batchRow.outcome, 'refused')))
    .orderBy(tables.batchRow.row);
  return {
    name: found.fileName,
    columns: found.columns,
    rows: refused.map(({ row, place, reasons, cells }) => ({
      place: place ?? String(row),
      reasons: reasons ?? [],
      cells: cells ?? [],
    })),
  };
}
