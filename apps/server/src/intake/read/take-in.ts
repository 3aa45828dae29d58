/** Takes files in: looks at them, suggests what their columns are, and corrects both as a person says. */
import { loadDictionary } from '../../dictionary/dictionary.js';
import { withoutTrial } from '../trial.js';
import { rm } from 'node:fs/promises';
import { type ColumnMap, type Scope, suggestScope } from '@velvet-shelf/core/intake';
import { type FileRow, type Format, type Reading, UnreadableFile } from '@velvet-shelf/core/tabular';
import { eq, sql, and, isNotNull, count } from 'drizzle-orm';
import { type Executor, first, isAmong } from '../../db/client.js';
import { badRequest, conflict, unprocessable } from '../../http/problem.js';
import type { Services } from '../../http/route.js';
import { type BatchRecord, getBatch, isOpen, sayState } from '../batches.js';
import { complete, guessSupplier, suggest } from '../columns/columns.js';
import { headOf, keepHead, sampleRows } from './head.js';
import { headRows } from './orders.js';
import { lookAt } from './process.js';
import type { ReceivedFile } from '../../http/receive.js';
import { isExport, roundTripMap } from '../round-trip/round-trip.js';
import { expectSupplier, ownSupplier } from '../../company/suppliers.js';
import { recordKey } from '../try/try.js';
import type { GivenKind } from '../../db/schema/index.js';
import * as tables from '../../db/schema/index.js';

/** Turns what is wrong with a file into a problem for the person who sent it. */
async function readable<T>(fileName: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof UnreadableFile)
      throw unprocessable(`“${fileName}” cannot be read. ${error.message}. Nothing was changed.`);
    throw error;
  }
}

/** Takes a file in: looks at it, suggests columns. `supplier` among its fields may be left to the file's name and rows. */
export async function readBatch(
  services: Services,
  file: ReceivedFile,
  { kind = 'file', scope }: { kind?: GivenKind; scope?: Scope } = {},
): Promise<number> {
  try {
    return await takeIn(services, file, { kind, scope });
  } catch (error) {
    // What is refused leaves nothing on the disk.
    await rm(file.path, { force: true });
    throw error;
  }
}

async function takeIn(
  { db }: Services,
  file: ReceivedFile,
  { kind, scope }: { kind: GivenKind; scope: Scope | undefined },
): Promise<number> {
  return readable(file.name, async () => {
    const { detected, columns, first } = await lookAt(file.path);
    if (!detected) throw badRequest(`“${file.name}” cannot be told`);
    const { reading } = detected;
    if (columns.length < 2 || first.length === 0)
      throw badRequest(
        `“${file.name}” holds no table: ${columns.length < 2 ? 'no separator gives more than one column' : 'there are no rows below the header'}. Nothing was changed.`,
      );
    const sample = first.slice(0, sampleRows);
    const own = isExport(columns);
    const given = Number(file.fields.supplier) || (own ? await ownSupplier(db) : 0);
    if (given) await expectSupplier(db, given);
    const { id: supplierId, why } = given
      ? { id: given, why: 'named with the file' }
      : await guessSupplier(db, file.name, columns, sample);
    const suggestions = own ? [] : await suggest(db, supplierId, columns, sample, reading);
    const map = own ? await roundTripMap(db, columns) : suggestions.map(({ column, target }) => ({ column, target }));
    return db.transaction(async (tx) => {
      const [made] = await tx
        .insert(tables.batch)
        .values({
          supplierId,
          fileName: file.name,
          bytes: file.bytes,
          sha256: file.sha256,
          path: file.path,
          detected: { ...detected, why: { ...detected.why, supplier: why ?? '' } },
          reading,
          columns,
          suggestions,
          map,
          scope: scope ?? (await scopeOf(tx, { columns, map, supplierId, bytes: file.bytes }, first)),
          kind: own ? 'round-trip' : kind,
          state: 'read',
        })
        .returning({ id: tables.batch.id });
      const id = made?.id ?? 0;
      await keepHead(tx, id, first);
      return id;
    });
  });
}

/** What a file is taken for: our own grid and what was refused are no whole lists, others as far as they overlap with one. */
async function scopeOf(
  on: Executor,
  { columns, map, supplierId, bytes }: Pick<BatchRecord, 'columns' | 'map' | 'supplierId' | 'bytes'>,
  head: readonly FileRow[],
): Promise<Scope> {
  if (isExport(columns) || /^refused because$/i.test(columns[0] ?? '')) return 'some';
  const at = columns.indexOf(map.find(({ target }) => target.to === 'key')?.column ?? '');
  const keys = head.flatMap(({ cells }) => cells[at]?.trim() || []).map(recordKey);
  const held = await first(
    on
      .select({
        listed: count(),
        known: sql<number>`count(*) FILTER (WHERE ${isAmong(tables.record.key, keys)})`,
      })
      .from(tables.record)
      .where(
        and(
          eq(tables.record.supplierId, supplierId),
          isNotNull(tables.record.contentId),
          eq(tables.record.dropped, false),
        ),
      ),
  );
  // A file that goes on after the rows looked at is about as dense as they are; packed ones are denser, and count for more.
  const seen = head.reduce((sum, { cells }) => sum + cells.join(' ').length, 0);
  const ofRows = head.length < headRows ? head.length : Math.max(head.length, (bytes * head.length) / (seen || 1));
  return suggestScope(
    map,
    { listed: held?.listed ?? 0, known: held?.known ?? 0, rows: keys.length, ofRows },
    (await loadDictionary(on)).attributes,
  );
}

export interface Correction {
  supplierId?: number | undefined;
  reading?: Reading | undefined;
  /** Another format: how it is read in that is found out anew. */
  format?: Format | undefined;
  map?: ColumnMap | undefined;
  scope?: Scope | undefined;
  makesNew?: boolean | undefined;
}

/** Corrects how a batch is read; columns are suggested anew where the header or the supplier is another. */
export async function correctBatch({ db }: Services, id: number, change: Correction): Promise<void> {
  const found = await getBatch(db, id);
  if (!isOpen(found.state))
    throw conflict(`This batch is ${sayState(found.state)}; how it is read can no longer be changed`);
  const wished = change.reading ?? found.reading;
  const supplierId = change.supplierId ?? found.supplierId;
  if (found.kind === 'round-trip' && (change.map || change.supplierId))
    throw badRequest('The columns of our own export are known; only the file itself can be changed');
  if (change.supplierId !== undefined) await expectSupplier(db, change.supplierId);
  const isNowOther = change.supplierId !== undefined && found.kind === 'file';
  const isReread = change.reading !== undefined || change.format !== undefined;
  const looked = isReread
    ? await readable(found.fileName, () =>
        lookAt(found.path, change.format ? { format: change.format } : { reading: wished }),
      )
    : undefined;
  if (looked && (looked.columns.length < 2 || looked.first.length === 0))
    throw badRequest('Read like this it holds no table: there are no two columns, or no rows below the header');
  const detected = looked?.detected
    ? { ...looked.detected, why: { ...looked.detected.why, supplier: found.detected.why.supplier ?? '' } }
    : found.detected;
  const reading = looked?.detected?.reading ?? wished;
  const first = looked?.first ?? (await headOf(db, id));
  const sample = first.slice(0, sampleRows);
  const columns = looked?.columns ?? found.columns;
  const isOther = columns.join('\u0001') !== found.columns.join('\u0001') || supplierId !== found.supplierId;
  const suggestions = isOther ? await suggest(db, supplierId, columns, sample, reading) : found.suggestions;
  const chosen = change.map ?? (isOther ? suggestions.map(({ column, target }) => ({ column, target })) : found.map);
  const strangers = chosen.filter(({ column }) => !columns.includes(column));
  if (strangers.length > 0) throw badRequest(`The file has no column “${strangers[0]?.column}”`);
  const isOtherCurrency = change.reading !== undefined && change.reading.currency !== found.reading.currency;
  const map =
    change.map || isOtherCurrency
      ? await complete(db, chosen, supplierId, columns, sample, {
          reading,
          isOtherCurrency,
          makes: found.makes,
        })
      : chosen;
  await withoutTrial(db, id, async ({ tx }, still) => {
    if (!isOpen(still.state)) throw conflict('This batch was tried or applied meanwhile');
    await tx
      .update(tables.batch)
      .set({
        columns,
        suggestions,
        map,
        reading,
        supplierId,
        detected:
          change.supplierId === undefined
            ? detected
            : { ...detected, why: { ...detected.why, supplier: 'chosen by you' } },
        scope:
          change.scope ??
          (isNowOther ? await scopeOf(tx, { columns, map, supplierId, bytes: found.bytes }, first) : found.scope),
        makesNew: change.makesNew ?? found.makesNew,
        state: 'read',
        counts: null,
        effect: null,
        error: null,
      })
      .where(eq(tables.batch.id, id));
    if (looked) await keepHead(tx, id, looked.first);
  });
}
