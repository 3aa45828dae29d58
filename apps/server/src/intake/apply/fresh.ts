/**
 * Goods that nobody has spoken of yet: no key of theirs, and no family, is known. They join nothing, so that records,
 * products, facts, prices and stock are worked out here and written once, by COPY. Everything else goes through `settleRecords`.
 */
import type { Offer } from '@velvet-shelf/core/catalog';
import { resolveUnit } from '@velvet-shelf/core/claims';
import type { RecordOffer } from '@velvet-shelf/core/intake';
import { sql, eq } from 'drizzle-orm';
import { type ProductRow, draftFamily, draftVariant, noOptions } from '../../catalog/draft.js';
import { measuredPictures } from '../../catalog/resolve.js';
import { type ClientTransaction, type Executor, queryRows, takeIds, texts, first } from '../../db/client.js';
import { breathe, sendCopy } from '../../db/copy.js';
import { markDirty } from '../../history/dirty.js';
import { warehouseOf } from '../../stock/ledger.js';
import type { Applying } from './rows.js';
import {
  type Made,
  type NewFamily,
  type NewRow,
  type TableLines,
  type Writing,
  goodsLines,
  keysOf,
  trimScale,
} from './fresh-lines.js';
import * as tables from '../../db/schema/index.js';

const sliceFamilies = 5;

/** Amounts that are kept as they are written; others are rounded by the database. */
const plainAmount = /^\d{1,9}(?:\.\d{1,4})?$/;

/** Goods worked out and not yet written. */
export interface FreshGoods {
  made: Made[];
  families: NewFamily[];
  /** As they will be written if all of them are. */
  tables: TableLines[];
  /** What all the rows speak for, fresh or not. */
  marks: ReadonlySet<string>;
}

type Fresh = Applying & { supplier: number };

/**
 * Works out the fresh goods among some rows of a batch. Nothing is written, so it may go on while the chunk before is:
 * what that one speaks for is handed in as `pending`.
 */
export async function prepareFresh(
  on: Executor,
  applying: Fresh,
  { after, last, pending }: { after: number; last: number; pending?: ReadonlySet<string> | undefined },
): Promise<FreshGoods> {
  const batchRows = await queryRows<NewRow>(
    on,
    sql`SELECT b.row, b.record_id AS record, b.record_key AS key, b.key AS written, b.content_id, c.content, c.keys
        FROM batch_row b JOIN record_content c ON c.id = b.content_id
        WHERE b.batch_id = ${applying.batchId} AND b.row > ${after} AND b.row <= ${last} AND b.outcome = 'created' AND NOT b.left_out
        ORDER BY b.row`,
  );
  const plain = batchRows.filter(({ content }) => hasPlainAmounts(content.offer));
  const test = await isFresh(on, plain, applying.supplier, pending);
  const goods = await makeProducts(on, plain.filter(test), applying);
  const tables = await goodsLines(goods, await writingOf(on, applying));
  return { ...goods, tables, marks: new Set(batchRows.flatMap(marksOf)) };
}

async function writingOf(on: Executor, applying: Fresh): Promise<Writing> {
  const { kind } = await sourceOf(on, applying.supplier);
  return { ...applying, warehouse: await warehouseOf(on, { id: applying.supplier, kind }), isOwn: kind === 'own' };
}

interface Source {
  name: string;
  rank: number;
  kind: 'own' | 'supplier';
}

async function sourceOf(on: Executor, supplier: number): Promise<Source> {
  const found = await first(
    on
      .select({ name: tables.supplier.name, rank: tables.supplier.rank, kind: tables.supplier.kind })
      .from(tables.supplier)
      .where(eq(tables.supplier.id, supplier)),
  );
  return found ?? { name: '', rank: 0, kind: 'supplier' };
}

/** Writes what is still fresh of the goods, and answers how many; rows that are not any more are left as they were. */
export async function writeFresh(on: ClientTransaction, goods: FreshGoods, applying: Fresh): Promise<number> {
  const test = await isFresh(
    on.tx,
    goods.made.map(({ from }) => from),
    applying.supplier,
  );
  const made = goods.made.filter(({ from }) => test(from));
  if (made.length === 0) return 0;
  const kept = new Set(made.flatMap(({ family }) => family?.product ?? []));
  const families = goods.families.filter(({ product }) => kept.has(product));
  const tables =
    made.length === goods.made.length
      ? goods.tables
      : await goodsLines({ made, families }, await writingOf(on.tx, applying));
  for (const { table, columns, chunks } of tables) await sendCopy(on.client, table, columns, chunks);
  await markDirty(on.tx, [...kept, ...made.flatMap(({ family, product }) => (family ? [] : [product]))]);
  return made.length;
}

/**
 * Tells the rows whose keys, family and article number are new in the catalogue and stand on no other of these rows.
 * A family is fresh whole or not at all.
 */
async function isFresh(
  on: Executor,
  asked: readonly NewRow[],
  supplier: number,
  pending?: ReadonlySet<string>,
): Promise<(row: NewRow) => boolean> {
  const keyed = asked.flatMap(({ keys }) => keysOf(keys));
  const known = await queryRows<{ mark: string }>(
    on,
    sql`WITH t AS (SELECT * FROM unnest(${texts(keyed.map(([kind]) => kind))}, ${texts(keyed.map(([, key]) => key))}) AS t(kind, key)),
        r AS (SELECT * FROM unnest(${texts(asked.map((row) => row.key))}) AS r(key)),
        f AS (SELECT * FROM unnest(${texts([...new Set(asked.flatMap(({ content }) => content.family ?? []))])}) AS f(key))
        SELECT k.kind || ' ' || k.key AS mark FROM t JOIN record_key k ON k.kind = t.kind AND k.key = t.key
        UNION ALL SELECT p.kind || ' ' || p.key FROM t JOIN join_proposal p ON p.kind = t.kind AND p.key = t.key
        UNION ALL SELECT 'record ' || x.key FROM r JOIN record x ON x.supplier_id = ${supplier} AND x.key = r.key
        UNION ALL SELECT 'family ' || x.key FROM f JOIN family_key x ON x.supplier_id = ${supplier} AND x.key = f.key`,
  );
  const taken = new Set(known.map(({ mark }) => mark));
  if (pending) for (const row of asked) for (const mark of marksOf(row)) if (pending.has(mark)) taken.add(mark);
  const seen = new Set<string>();
  for (const [kind, key] of keyed) {
    const mark = `${kind} ${key}`;
    if (seen.has(mark)) taken.add(mark);
    seen.add(mark);
  }
  const isTaken = ({ key, keys }: NewRow) =>
    taken.has(`record ${key}`) || keysOf(keys).some(([kind, own]) => taken.has(`${kind} ${own}`));
  for (const row of asked)
    if (row.content.family !== undefined && isTaken(row)) taken.add(`family ${row.content.family}`);
  return (row) => (row.content.family === undefined ? !isTaken(row) : !taken.has(`family ${row.content.family}`));
}

/** What a row speaks for: its article number, its family and its join keys. */
function marksOf({ key, keys, content }: NewRow): string[] {
  const marks = [`record ${key}`];
  if (content.family !== undefined) marks.push(`family ${content.family}`);
  for (const [kind, own] of keysOf(keys)) marks.push(`${kind} ${own}`);
  return marks;
}

function hasPlainAmounts({ regular, sale, stock }: RecordOffer): boolean {
  return (
    [...Object.values(regular ?? {}), ...Object.values(sale ?? {})].every((amount) => plainAmount.test(amount)) &&
    (stock === undefined || Math.abs(stock) < 2_000_000_000)
  );
}

async function makeProducts(
  tx: Executor,
  found: readonly NewRow[],
  { batchId, dictionary, supplier }: Fresh,
): Promise<Pick<FreshGoods, 'made' | 'families'>> {
  const { name, rank, kind } = await sourceOf(tx, supplier);
  const sizes = await measuredPictures(
    tx,
    found.map(({ content }) => content.values),
    [],
    dictionary,
  );
  const members = new Map<string, NewRow[]>();
  for (const row of found) {
    const { family } = row.content;
    if (family === undefined) continue;
    const list = members.get(family);
    if (list) list.push(row);
    else members.set(family, [row]);
  }
  const keyIds = await takeIds(tx, 'family_key', members.size);
  const products = await takeIds(tx, 'product', found.length + members.size);
  const next = () => products.shift() ?? 0;
  const at = String(batchId).padStart(12, '0');
  const claimsOf = (row: NewRow, product: number) => ({
    id: product,
    stock: stockOf(row.content.offer, kind === 'own'),
    edits: [],
    records: [
      {
        id: row.record,
        supplier: name,
        rank,
        at,
        values: row.content.values,
        options: row.content.options ?? [],
      },
    ],
  });
  const made: Made[] = [];
  const families: NewFamily[] = [];
  const make = (list: readonly NewRow[], family: Made['family']) => {
    const claims = list.map((row) => claimsOf(row, next()));
    const unit = resolveUnit({ familyEdits: [], variants: claims }, dictionary.attributes, dictionary.policies);
    const drafts = unit.variants.map(({ id, slots, ...optioned }, i) => {
      const row = list[i] as NewRow;
      const before = blank(id, family ? 'variant' : 'single', {
        offer: row.content.offer,
        isOwn: kind === 'own',
        home: dictionary.currency,
      });
      const speaking = { supplier: name, isOwn: kind === 'own', number: row.written, dropped: false };
      const draft = draftVariant(before, slots, optioned, dictionary, sizes, [speaking]);
      made.push({ from: row, product: id, family, draft });
      return draft;
    });
    return { slots: unit.family, drafts };
  };
  for (const row of found) if (row.content.family === undefined) make([row], undefined);
  for (const [i, [key, list]] of [...members].entries()) {
    // The chunk before is on its way to the database meanwhile.
    if (i % sliceFamilies === 0) await breathe();
    const family = { keyId: keyIds[i] ?? 0, product: next() };
    const { slots, drafts } = make(list, family);
    const own = draftVariant(
      blank(family.product, 'family', { offer: {}, isOwn: false, home: dictionary.currency }),
      slots,
      noOptions,
      dictionary,
      sizes,
    );
    families.push({ key, ...family, draft: draftFamily(own, drafts, dictionary) });
  }
  return { made, families };
}

/** A supplier's pieces stand in the supplier's warehouse. */
const stockOf = (offer: RecordOffer, isOwn: boolean) => (isOwn ? (offer.stock ?? 0) : 0);

/** A product of which nothing is known but what it costs and how many of it are ours. */
function blank(
  id: number,
  kind: ProductRow['kind'],
  { offer, isOwn, home }: { offer: RecordOffer; isOwn: boolean; home: string },
): ProductRow {
  const offers: Record<string, Offer> = {};
  for (const [currency, amount] of Object.entries(offer.regular ?? {}))
    offers[currency] = { ...offers[currency], regular: trimScale(amount) };
  for (const [currency, amount] of Object.entries(offer.sale ?? {}))
    offers[currency] = {
      ...offers[currency],
      sale: {
        amount: trimScale(amount),
        ...(offer.saleFrom === undefined ? {} : { from: offer.saleFrom }),
        ...(offer.saleTo === undefined ? {} : { to: offer.saleTo }),
      },
    };
  return {
    id,
    kind,
    family_id: null,
    unit_id: id,
    sku: null,
    title: null,
    brand: null,
    category: null,
    gtin: null,
    state: null,
    picture: null,
    price: offer.regular?.[home] ?? null,
    stock: stockOf(offer, isOwn),
    options: [],
    hidden: false,
    surcharge: {},
    facts: {},
    offers,
    complete: 0,
    version: 1,
    texts: {},
  };
}
