/** Goods made by hand are rows of our own sheet that nobody has to write: a batch of their own, tried, applied and taken back like any. */
import type { ByHand } from '@velvet-shelf/contract';
import type { ColumnMap } from '@velvet-shelf/core/intake';
import { keyOf } from '@velvet-shelf/core/values';
import { asc, eq } from 'drizzle-orm';
import { loadCompany } from '../../company/settings.js';
import { ownSupplier } from '../../company/suppliers.js';
import { type Dictionary, loadDictionary } from '../../dictionary/dictionary.js';
import { badRequest } from '../../http/problem.js';
import type { Services, User } from '../../http/route.js';
import { apart } from '../../jobs/aside.js';
import { gatherGoods } from '../../matching/families.js';
import { getBatch } from '../batches.js';
import { discard } from '../discard.js';
import * as jobs from '../jobs.js';
import { takeInRows } from '../read/written.js';
import { applyTried, dryRun } from '../service.js';
import { columnsOf } from './columns.js';
import { faultsOf, lostOf, takenNumbers } from './faults.js';
import { growingFamily } from './growing.js';
import * as tables from '../../db/schema/index.js';

/** One at a time: of two that give goods the same number at one moment the second finds it taken. */
let before: Promise<unknown> = Promise.resolve();

/** Makes them; refuses what any of them would lose, each fault at its field, with nothing kept. */
export function makeByHand(services: Services, user: User, given: ByHand): Promise<{ product: number; batch: number }> {
  const made = before.then(() => makeNow(services, user, given));
  before = made.catch(() => undefined);
  return made;
}

async function makeNow(services: Services, user: User, given: ByHand): Promise<{ product: number; batch: number }> {
  const { db } = services;
  const own = await ownSupplier(db);
  const dictionary = await loadDictionary(db);
  const growing = given.family === undefined ? undefined : await growingFamily(db, own, given.family);
  const faults = [...faultsOf(given, dictionary, growing), ...(await takenNumbers(db, own, given, dictionary))];
  if (faults.length > 0) throw badRequest(faults[0]?.detail ?? '', faults);
  const columns = columnsOf(given, dictionary, (await loadCompany(db)).currency, growing);
  const rows = given.variants.map((variant, i) =>
    Object.fromEntries(columns.map(({ head, cell }) => [head, cell(variant, i)])),
  );
  const id = await takeInRows(services, { name: nameOf(given, dictionary), rows, supplier: own, kind: 'hand' });
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
  const made = await db
    .select({ id: tables.product.id, unit: tables.product.unitId })
    .from(tables.recordVersion)
    .innerJoin(tables.record, eq(tables.record.id, tables.recordVersion.recordId))
    .innerJoin(tables.product, eq(tables.product.id, tables.record.productId))
    .where(eq(tables.recordVersion.batchId, id))
    .orderBy(asc(tables.recordVersion.row));
  if (given.family !== undefined && growing?.key === undefined) {
    const members = made.map((product) => ({ id: product.id, values: [] }));
    await gatherGoods(services, user, { families: [{ into: given.family, axes: [], members }] });
    return { product: given.family, batch: id };
  }
  return { product: made[0]?.unit ?? 0, batch: id };
}

/** What the batch and the history call it. */
function nameOf({ shared, variants }: ByHand, { attributes }: Dictionary): string {
  const title = shared.find(({ attribute }) => attribute === keyOf(attributes, 'title'))?.text;
  return `${(title ?? variants[0]?.sku ?? '').slice(0, 120)}, by hand`;
}
