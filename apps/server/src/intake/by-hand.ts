/** Goods made by hand are rows of our own sheet that nobody has to write: a batch of their own, tried, applied and taken back like any. */
import { randomUUID } from 'node:crypto';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type ByHand } from '@velvet-shelf/contract';
import { axisKindOf, isComputed, siblingFaults } from '@velvet-shelf/core/catalog';
import { splitSlot } from '@velvet-shelf/core/claims';
import type { ColumnMap, ColumnTarget } from '@velvet-shelf/core/intake';
import { type Attribute, foldText, keyOf } from '@velvet-shelf/core/values';
import { and, asc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { parseEdit } from '../catalog/edit.js';
import { loadCompany } from '../company/settings.js';
import { ownSupplier } from '../company/suppliers.js';
import { type Executor, first } from '../db/client.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { apart } from '../jobs/aside.js';
import { getBatch } from './batches.js';
import { discard } from './discard.js';
import { type Growing, axisFaults, growingFamily, takenOver } from './growing.js';
import * as jobs from './jobs.js';
import { applyTried, dryRun } from './service.js';
import { recordKey } from './try/try.js';
import * as tables from '../db/schema/index.js';

interface Fault {
  pointer: string;
  detail: string;
}

/** A column of the sheet: its head, what it feeds, and its cell for each variant. */
interface Column {
  head: string;
  target: ColumnTarget;
  /** The field of a variant it is, where it is one. */
  field?: 'gtin' | 'price' | 'stock';
  cell(variant: ByHand['variants'][number], i: number): string;
}

/** One at a time: of two that give goods the same number at one moment the second finds it taken. */
let before: Promise<unknown> = Promise.resolve();

/** Makes them; refuses what any of them would lose, each fault at its field, with nothing kept. */
export function makeByHand(services: Services, user: User, given: ByHand): Promise<{ product: number; batch: number }> {
  const made = before.then(() => makeNow(services, user, given));
  before = made.catch(() => undefined);
  return made;
}

async function makeNow(services: Services, user: User, given: ByHand): Promise<{ product: number; batch: number }> {
  const { db, config } = services;
  const own = await ownSupplier(db);
  const dictionary = await loadDictionary(db);
  const growing = given.family === undefined ? undefined : await growingFamily(db, own, given.family);
  const faults = [...faultsOf(given, dictionary, growing), ...(await takenNumbers(db, own, given, dictionary))];
  if (faults.length > 0) throw badRequest(faults[0]?.detail ?? '', faults);
  const columns = told(columnsOf(given, dictionary, (await loadCompany(db)).currency, growing));
  const directory = join(config.files, 'intake');
  await mkdir(directory, { recursive: true });
  const path = join(directory, randomUUID());
  const rows = given.variants.map((variant, i) =>
    Object.fromEntries(columns.map(({ head, cell }) => [head, cell(variant, i)])),
  );
  const text = JSON.stringify(rows);
  await writeFile(path, text);
  const file = { name: nameOf(given, dictionary), path, bytes: Buffer.byteLength(text), sha256: '' };
  const id = await apart(jobs.readFile, services, {
    file: { ...file, fields: { supplier: String(own) } },
    how: { kind: 'hand', scope: 'some' },
  });
  try {
    const map: ColumnMap = columns.map(({ head, target }) => ({ column: head, target }));
    const { reading } = await getBatch(db, id);
    // Typed as our own figures are, whatever the rows look like.
    const change = { map, reading: { ...reading, decimal: '.', dateOrder: 'ymd' } as const };
    await apart(jobs.correctFile, services, { id, change });
    await dryRun(services, id);
    const lost = await lostOf(db, id, columns);
    if (lost.length > 0) throw badRequest(lost[0]?.detail ?? '', lost);
  } catch (error) {
    await discard(db, id);
    throw error;
  }
  await applyTried(services, id, user);
  services.notify('catalog');
  const made = await first(
    db
      .select({ unit: tables.product.unitId })
      .from(tables.recordVersion)
      .innerJoin(tables.record, eq(tables.record.id, tables.recordVersion.recordId))
      .innerJoin(tables.product, eq(tables.product.id, tables.record.productId))
      .where(eq(tables.recordVersion.batchId, id))
      .orderBy(asc(tables.recordVersion.row))
      .limit(1),
  );
  return { product: made?.unit ?? 0, batch: id };
}

/** What the batch and the history call it. */
function nameOf({ shared, variants }: ByHand, { attributes }: Dictionary): string {
  const title = shared.find(({ attribute }) => attribute === keyOf(attributes, 'title'))?.text;
  return `${(title ?? variants[0]?.sku ?? '').slice(0, 120)}, by hand`;
}

function faultsOf(given: ByHand, dictionary: Dictionary, growing: Growing | undefined): Fault[] {
  const { shared, axes, variants } = given;
  const faults: Fault[] = [];
  const say = (pointer: string, detail: string) => faults.push({ pointer: `/body/${pointer}`, detail });
  for (const [i, { attribute: key, text }] of shared.entries()) {
    const attribute = dictionary.attributes.get(key);
    if (!attribute || isComputed(key)) say(`shared/${i}`, `There is no attribute “${key}” that can be typed`);
    else {
      const read = parseEdit(text, attribute);
      if ('reason' in read) say(`shared/${i}/text`, `${attribute.label}: ${read.reason}`);
    }
  }
  const twice = axes.findIndex((axis, i) => axes.findIndex((other) => foldText(other) === foldText(axis)) < i);
  if (twice >= 0) say(`axes/${twice}`, `There are two options named ${axes[twice]}`);
  const seen = new Map<string, number>();
  const gtinAttribute = dictionary.attributes.get(keyOf(dictionary.attributes, 'gtin') ?? '');
  for (const [i, { sku, options, gtin }] of variants.entries()) {
    const number = gtin === '' || !gtinAttribute ? undefined : parseEdit(gtin, gtinAttribute);
    if (number && 'reason' in number) say(`variants/${i}/gtin`, number.reason);
    const before = seen.get(recordKey(sku));
    if (before !== undefined) say(`variants/${i}/sku`, `Variant ${before + 1} has the SKU ${sku} already`);
    else seen.set(recordKey(sku), i);
    if (options.length !== axes.length)
      say(`variants/${i}/options`, `${sku} needs ${axes.length} values, one for each option; it has ${options.length}`);
  }
  const unlike = growing && axisFaults(growing, given);
  if (unlike !== undefined) say('axes', unlike);
  if (axes.length === 0 && variants.length > 1)
    say('axes', 'Several variants are told apart by an option: give it a name, and each of them a value');
  if (faults.length > 0) return faults;
  const attributes = [...dictionary.attributes.values()].map((one) => ({ ...one, role: one.role ?? null }));
  const held = growing?.siblings ?? [];
  const alike = siblingFaults(
    axes.map((key) => ({ key, kind: axisKindOf(key, attributes) })),
    // Those that are there have numbers below 0, and stand first.
    [
      ...held.map(({ options }, i) => ({ id: i - held.length, options: Object.fromEntries(options) })),
      ...variants.map(({ options }, id) => ({
        id,
        options: Object.fromEntries(axes.map((axis, i) => [axis, options[i]])),
      })),
    ],
  ).filter(({ kind }) => kind === 'duplicate-combination');
  const numberOf = (id: number) => (id < 0 ? held[id + held.length] : variants[id])?.sku ?? '';
  for (const { variants: same, values } of alike)
    for (const id of same.slice(1))
      if (id >= 0)
        say(
          `variants/${id}/options`,
          `${numberOf(id)} is the same as ${numberOf(same[0] ?? 0)}: ${values?.join(', ')}`,
        );
  return faults;
}

/** Numbers that goods of ours have already. */
async function takenNumbers(
  on: Executor,
  own: number,
  { variants }: ByHand,
  { attributes }: Dictionary,
): Promise<Fault[]> {
  const keys = variants.map(({ sku }) => recordKey(sku));
  const records = await on
    .select({ key: tables.record.key })
    .from(tables.record)
    .where(
      and(eq(tables.record.supplierId, own), inArray(tables.record.key, keys), isNotNull(tables.record.contentId)),
    );
  const products = await on
    .select({ key: sql<string>`${tables.product.sku}` })
    .from(tables.product)
    .where(
      and(
        inArray(
          tables.product.sku,
          variants.map(({ sku }) => sku),
        ),
        isNull(tables.product.mergedInto),
      ),
    );
  const taken = new Set([...records, ...products].map(({ key }) => recordKey(key)));
  const label = attributes.get(keyOf(attributes, 'sku') ?? '')?.label ?? 'SKU';
  return variants.flatMap(({ sku }, i) =>
    taken.has(recordKey(sku))
      ? [{ pointer: `/body/variants/${i}/sku`, detail: `Goods with the ${label} ${sku} are there already` }]
      : [],
  );
}

function columnsOf(
  { shared, axes, variants }: ByHand,
  dictionary: Dictionary,
  currency: string,
  growing: Growing | undefined,
): Column[] {
  const { attributes, home } = dictionary;
  const feeds = ({ key, perLanguage }: Attribute): ColumnTarget => ({
    to: 'attribute',
    attribute: key,
    ...(perLanguage ? { language: home } : {}),
  });
  const gtin = attributes.get(keyOf(attributes, 'gtin') ?? '');
  const family = growing?.key ?? `hand-${randomUUID()}`;
  const columns: Column[] = [{ head: 'SKU', target: { to: 'key' }, cell: ({ sku }) => sku }];
  if (axes.length > 0)
    columns.push(
      { head: 'Family', target: { to: 'family' }, cell: () => family },
      {
        head: 'Options',
        target: { to: 'options' },
        cell: ({ options }) => options.map((value, i) => `${axes[i]}: ${value}`).join(' | '),
      },
    );
  for (const { attribute: key, text } of shared) {
    const attribute = attributes.get(key);
    if (attribute) columns.push({ head: attribute.label, target: feeds(attribute), cell: () => text });
  }
  if (growing) columns.push(...columnsTakenOver(growing, { axes, variants, shared }, dictionary));
  // An option that an attribute is named like is a value of it too, where every variant's can be read as one.
  for (const [i, axis] of axes.entries()) {
    const attribute = [...attributes.values()].find(
      ({ label, level, key }) => level === 'variant' && !isComputed(key) && foldText(label) === foldText(axis),
    );
    const isRead = ({ options }: ByHand['variants'][number]) =>
      attribute !== undefined && !('reason' in parseEdit(options[i] ?? '', attribute));
    if (attribute && !shared.some((one) => one.attribute === attribute.key) && variants.every(isRead))
      columns.push({ head: attribute.label, target: feeds(attribute), cell: ({ options }) => options[i] ?? '' });
  }
  if (gtin) columns.push({ head: gtin.label, target: feeds(gtin), field: 'gtin', cell: (variant) => variant.gtin });
  columns.push(
    {
      head: `Price ${currency}`,
      target: { to: 'price', kind: 'regular', currency },
      field: 'price',
      cell: ({ price }) => price,
    },
    { head: 'Stock', target: { to: 'stock' }, field: 'stock', cell: ({ stock }) => stock },
  );
  const isSaid = ({ cell }: Column) => variants.some((variant, i) => cell(variant, i) !== '');
  return columns.filter(isSaid);
}

/** What each takes over from the sibling next to it, where nothing else is said. */
function columnsTakenOver(
  growing: Growing,
  { axes, variants, shared }: Pick<ByHand, 'axes' | 'variants' | 'shared'>,
  dictionary: Dictionary,
): Column[] {
  const over = variants.map(({ options }) => takenOver(growing, { axes, options }, dictionary));
  return [...new Set(over.flatMap((said) => [...said.keys()]))].flatMap((slot): Column[] => {
    const [key, language] = splitSlot(slot);
    const attribute = dictionary.attributes.get(key);
    if (!attribute || shared.some((one) => one.attribute === key)) return [];
    return [
      {
        head: language === undefined ? attribute.label : `${attribute.label} (${language})`,
        target: { to: 'attribute', attribute: key, ...(language === undefined ? {} : { language }) },
        cell: (_, i) => over[i]?.get(slot) ?? '',
      },
    ];
  });
}

/** Heads as a person reads them, none twice; a file has two columns at least. */
function told(columns: Column[]): Column[] {
  const heads = new Map<string, number>();
  const named = columns.map((column) => {
    const n = (heads.get(column.head) ?? 0) + 1;
    heads.set(column.head, n);
    return n === 1 ? column : { ...column, head: `${column.head} ${n}` };
  });
  return named.length > 1 ? named : [...named, { head: 'Note', target: { to: 'ignore' }, cell: () => '' }];
}

/** What the dry run refused or would lose, at the variant it was met at. */
async function lostOf(on: Executor, batchId: number, columns: readonly Column[]): Promise<Fault[]> {
  const rows = await on
    .select({ reasons: tables.batchRow.reasons, notes: tables.batchRow.notes, outcome: tables.batchRow.outcome })
    .from(tables.batchRow)
    .where(eq(tables.batchRow.batchId, batchId))
    .orderBy(asc(tables.batchRow.row));
  return rows.flatMap(({ reasons, notes, outcome }, i) => {
    const pointer = `/body/variants/${i}`;
    const lost = (notes ?? [])
      .filter((note) => note.lost)
      .map(({ column, note }): Fault => {
        const field = columns.find(({ head }) => head === column)?.field;
        return field ? { pointer: `${pointer}/${field}`, detail: note } : { pointer, detail: `${column}: ${note}` };
      });
    const all = [...(reasons ?? []).map((detail) => ({ pointer, detail })), ...lost];
    return all.length > 0 || outcome === 'created'
      ? all
      : [{ pointer, detail: 'Goods with this SKU are there already' }];
  });
}
