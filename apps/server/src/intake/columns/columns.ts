/** What a file's columns are: suggested, remembered per supplier, and its words translated into ours. */
import { createHash } from 'node:crypto';
import type { BatchAnswer } from '@velvet-shelf/contract';
import {
  type Makes,
  type ColumnMap,
  type LearntWord,
  type ReadRow,
  type SuggestSetup,
  type Suggestion,
  completeMap,
  compileRowReader,
  contentOf,
  joinKeys,
  learnWords,
  suggestColumns,
  withFileCurrency,
  noMakes,
  withMakes,
} from '@velvet-shelf/core/intake';
import { splitSlot } from '@velvet-shelf/core/claims';
import type { FileRow, Reading } from '@velvet-shelf/core/tabular';
import { type Role, closedList, foldText, formatValue } from '@velvet-shelf/core/values';
import { eq, sql, and, desc, isNotNull, count } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../../dictionary/dictionary.js';
import { currentSupplier } from '../../company/suppliers.js';
import { loadCompany } from '../../company/settings.js';
import { type Executor, json, queryRows, first, isAmong } from '../../db/client.js';
import { conflict } from '../../http/problem.js';
import * as tables from '../../db/schema/index.js';
import { optionsOf } from '../../dictionary/lists.js';

/** The same header, whatever its case and accents. */
export const signature = (columns: readonly string[]) =>
  createHash('sha256').update(columns.map(foldText).join('\u0001')).digest('base64url');

/** Whose file it is, and what says so; where nothing does, the first of the ranking, to be corrected. */
export async function guessSupplier(
  db: Executor,
  fileName: string,
  columns: string[],
  sample: readonly FileRow[],
): Promise<{ id: number; why: string | undefined }> {
  const known = await first(
    db
      .select({ id: currentSupplier })
      .from(tables.columnMap)
      .innerJoin(tables.supplier, eq(tables.supplier.id, tables.columnMap.supplierId))
      .where(eq(tables.columnMap.signature, signature(columns)))
      .orderBy(desc(tables.columnMap.at))
      .limit(1),
  );
  if (known) return { id: known.id, why: 'a file with this header was theirs' };
  // Numbers say more than a file name.
  const byRows = await supplierOfRows(db, sample);
  if (byRows !== undefined) return { id: byRows, why: 'most of its article numbers are theirs' };
  const listed = await db.select().from(tables.supplier).orderBy(tables.supplier.rank);
  const name = foldText(fileName);
  const bears = (row: { name: string }) =>
    row.name.split(' ').some((word) => word.length > 3 && name.includes(foldText(word)));
  const byName = await supplierOfName(db, fileName);
  const named =
    listed.find((row) => row.kind === 'supplier' && bears(row)) ??
    listed.find((row) => row.kind === 'own' && (name.includes('own') || name.includes(row.key)));
  if (named) return { id: named.mergedInto ?? named.id, why: 'the file’s name bears theirs' };
  if (byName !== undefined) return { id: byName, why: 'a file of this very name was theirs' };
  const best = listed.find(({ mergedInto }) => mergedInto === null);
  if (!best) throw conflict('There is no supplier yet; add one first');
  return { id: best.id, why: undefined };
}

/** A file name says nothing of a price list: the last batch of that very name does. */
async function supplierOfName(db: Executor, fileName: string): Promise<number | undefined> {
  const before = await first(
    db
      .select({ id: tables.batch.supplierId })
      .from(tables.batch)
      .where(and(eq(tables.batch.fileName, fileName), eq(tables.batch.state, 'applied')))
      .orderBy(desc(tables.batch.id))
      .limit(1),
  );
  return before?.id;
}

/** The supplier whose article numbers most of the first rows carry, in whichever column. */
async function supplierOfRows(db: Executor, sample: readonly FileRow[]): Promise<number | undefined> {
  const cells = [...new Set(sample.slice(0, 60).flatMap((row) => row.cells.map((cell) => foldText(cell))))].filter(
    Boolean,
  );
  const record = await first(
    db
      .select({ id: tables.record.supplierId, n: count() })
      .from(tables.record)
      .where(and(isNotNull(tables.record.contentId), isAmong(tables.record.key, cells)))
      .groupBy(tables.record.supplierId)
      .orderBy(desc(count()))
      .limit(1),
  );
  return record && record.n >= Math.min(sample.length, 60) / 2 ? record.id : undefined;
}

export async function suggest(
  db: Executor,
  supplierId: number,
  columns: string[],
  sample: readonly FileRow[],
  reading: Reading,
): Promise<Suggestion[]> {
  return suggestColumns(await suggestSetup(db, supplierId, columns, sample, reading));
}

/** What a person chose, with the units and currencies that headers, neighbours and the file as a whole give. */
export async function complete(
  db: Executor,
  map: ColumnMap,
  supplierId: number,
  columns: string[],
  sample: readonly FileRow[],
  { reading, isOtherCurrency, makes }: { reading: Reading; isOtherCurrency: boolean; makes: Makes },
): Promise<ColumnMap> {
  const setup = await suggestSetup(db, supplierId, columns, sample, reading, makes);
  return completeMap(isOtherCurrency ? withFileCurrency(map, setup, reading.currency) : map, setup);
}

async function suggestSetup(
  db: Executor,
  supplierId: number,
  columns: string[],
  sample: readonly FileRow[],
  reading: Reading,
  makes: Makes = noMakes,
): Promise<SuggestSetup> {
  const dictionary = await loadDictionary(db);
  const [from] = await db.select().from(tables.supplier).where(eq(tables.supplier.id, supplierId));
  const remembered = await db
    .select()
    .from(tables.columnMap)
    .where(eq(tables.columnMap.supplierId, supplierId))
    .orderBy(sql`(signature = ${signature(columns)}) DESC, at DESC`);
  const learnt = new Map<string, Record<string, string>>();
  for (const { map } of [...remembered].reverse())
    for (const { target } of map)
      if (target.to === 'attribute' && target.values)
        learnt.set(target.attribute, { ...learnt.get(target.attribute), ...target.values });
  return {
    columns,
    sample: sample.map((row) => row.cells),
    dictionary: withMakes(dictionary.attributes, makes, dictionary.home),
    remembered: remembered[0]?.map,
    learnt,
    language: from?.language ?? dictionary.home,
    languages: dictionary.languages,
    isNested: 'variantPath' in reading,
    variantPath: 'variantPath' in reading ? reading.variantPath : null,
    isOwn: from?.kind === 'own',
    style: reading,
    pricesWithVat: (await loadCompany(db)).pricesWithVat,
    supplier: from?.name,
    currency: reading.currency ?? from?.currency ?? dictionary.currency,
  };
}

interface Mapped {
  supplierId: number;
  columns: string[];
  map: ColumnMap;
  reading: Reading;
}

/** First rows as they will become, one entry for each of the map. */
export function previewRows(
  batch: Mapped,
  sample: readonly FileRow[],
  dictionary: Pick<Dictionary, 'attributes' | 'home' | 'reader'>,
): BatchAnswer['sample'] {
  const { read } = rowReader(batch, dictionary);
  return sample.map(({ row, place, cells, broken }) => {
    const result: ReadRow = broken ? { outcome: 'refused', key: undefined, reasons: [broken] } : read(cells);
    const answer = { row, place: place ?? null, cells };
    if (result.outcome === 'refused') return { ...answer, becomes: [], refused: result.reasons };
    const content = contentOf(result);
    const say = (slot: string) => {
      const value = content.values[slot];
      const attribute = dictionary.attributes.get(splitSlot(slot)[0]);
      return value === undefined || !attribute ? '' : formatValue(value, attribute, dictionary.reader);
    };
    return {
      ...answer,
      refused: [],
      becomes: batch.map.map(({ column, target }) => {
        const note = result.notes.find((note) => note.column === column);
        const text =
          target.to === 'attribute'
            ? say(
                dictionary.attributes.get(target.attribute)?.perLanguage
                  ? `${target.attribute}@${target.language ?? dictionary.home}`
                  : target.attribute,
              )
            : target.to === 'price'
              ? Object.entries(content.offer[target.kind] ?? {})
                  .map(([currency, amount]) => `${amount} ${currency}`)
                  .join(', ')
              : target.to === 'key'
                ? result.key
                : target.to === 'family'
                  ? (result.family ?? '')
                  : target.to === 'stock'
                    ? String(content.offer.stock ?? '')
                    : '';
        return { text, note: note?.note ?? null, lost: note?.lost ?? false, told: note?.told ?? false };
      }),
    };
  });
}

/** Attributes whose words differ from supplier to supplier. */
const worded: ReadonlySet<string> = new Set(['text', 'choice']);
/** … and those where a translation would be wrong: every goods' own. */
const unworded: ReadonlySet<Role> = new Set<Role>(['gtin', 'mpn', 'sku', 'title', 'brand', 'page']);
const mostWords = 60;

/** The distinct values of columns that feed words, what each becomes, and what goods both sides know say it is. */
export async function translationsOf(
  db: Executor,
  batch: Mapped & { kind: string; isOwn: boolean },
  head: readonly FileRow[],
  dictionary: Pick<Dictionary, 'attributes' | 'home'>,
): Promise<BatchAnswer['translations']> {
  const known = batch.isOwn ? new Map<string, LearntWord[]>() : await wordsOfJoined(db, batch, head, dictionary);
  return batch.map.flatMap(({ column, target }) => {
    const attribute = target.to === 'attribute' ? dictionary.attributes.get(target.attribute) : undefined;
    if (target.to !== 'attribute' || !attribute || attribute.perLanguage || attribute.many) return [];
    if (!worded.has(attribute.type) || (attribute.role && unworded.has(attribute.role))) return [];
    const at = batch.columns.indexOf(column);
    const counts = new Map<string, number>();
    for (const { cells } of head) {
      const cell = (cells[at] ?? '').trim();
      if (cells.length === batch.columns.length && cell !== '' && cell !== column)
        counts.set(cell, (counts.get(cell) ?? 0) + 1);
    }
    const isFigures = [...counts.keys()].filter((value) => /\d/.test(value)).length > counts.size / 2;
    if (!attribute.choices && (counts.size > mostWords || isFigures)) return [];
    const table = new Map(Object.entries(target.values ?? {}).map(([from, to]) => [foldText(from), to]));
    const learnt = new Map((known.get(attribute.key) ?? []).map((word) => [foldText(word.value), word]));
    const list = closedList(attribute);
    const becomes = (value: string) => {
      const ours = table.get(foldText(value)) ?? (list ? value : null);
      return ours === null || !list ? ours : list.has(ours) ? ours : (list.read(ours) ?? null);
    };
    const values = [...counts]
      .sort((a, b) => b[1] - a[1])
      .slice(0, 200)
      .map(([value, n]) => {
        // A word that means something already needs no telling; least of all whether goods are sold.
        const now = becomes(value);
        const word = now === null ? learnt.get(foldText(value)) : undefined;
        return {
          value,
          rows: n,
          becomes: now,
          learnt: word ? { ours: word.ours, agree: word.agree, seen: word.seen } : null,
        };
      });
    const useful = attribute.choices
      ? values.some((value) => value.becomes === null || table.has(foldText(value.value)))
      : values.some((value) => value.learnt !== null || value.becomes !== null);
    return useful
      ? [
          {
            column,
            attribute: attribute.key,
            label: attribute.label,
            choices: optionsOf(attribute, dictionary.home),
            values,
          },
        ]
      : [];
  });
}

/** Reads the rows of a batch as its columns are mapped. */
export const rowReader = (
  { columns, map, reading }: Pick<Mapped, 'columns' | 'map' | 'reading'>,
  { attributes, home }: Pick<Dictionary, 'attributes' | 'home'>,
) => compileRowReader({ columns, map, style: reading, dictionary: attributes, home });

/** Rows that carry an identifier of goods we hold from others: their cell beside our value, attribute by attribute. */
async function wordsOfJoined(
  db: Executor,
  batch: Mapped,
  head: readonly FileRow[],
  dictionary: Pick<Dictionary, 'attributes' | 'home'>,
): Promise<Map<string, LearntWord[]>> {
  const { read } = rowReader(batch, dictionary);
  const keyed = head.flatMap(({ cells, broken }) => {
    const row = broken ? undefined : read(cells);
    if (row?.outcome !== 'read') return [];
    const keys = joinKeys(row, { id: batch.supplierId, isOwn: false }, () => undefined, dictionary.attributes);
    return [{ cells, keys }];
  });
  const found = await queryRows<{ i: number; facts: Record<string, unknown> }>(
    db,
    sql`WITH t AS (SELECT * FROM jsonb_to_recordset(${json(keyed.map(({ keys }, i) => ({ i, keys })))}) AS t(i int, keys jsonb))
        SELECT DISTINCT ON (t.i) t.i, p.facts FROM t, jsonb_each_text(t.keys) k
        JOIN record_key o ON o.kind = k.key AND o.key = k.value JOIN record r ON r.id = o.record_id JOIN product p ON p.id = r.product_id
        WHERE r.supplier_id <> ${batch.supplierId} ORDER BY t.i, array_position(ARRAY['gtin', 'mpn', 'number'], k.key)`,
  );
  const learnt = new Map<string, LearntWord[]>();
  for (const { column, target } of batch.map) {
    if (target.to !== 'attribute') continue;
    const at = batch.columns.indexOf(column);
    const pairs = found.flatMap(({ i, facts }) => {
      const [theirs, ours] = [(keyed[i]?.cells[at] ?? '').trim(), facts[target.attribute]];
      return theirs !== '' && typeof ours === 'string' ? [[theirs, ours] as const] : [];
    });
    learnt.set(target.attribute, learnWords(pairs));
  }
  return learnt;
}
