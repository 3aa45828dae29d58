/**
 * Goods taken out of the catalog by a person. Nothing is deleted: they are hidden with their edits, prices and stock, and what
 * their sources have said so far counts no more. They are back with the undo, or once a source lists them again.
 */
import type { RemovalAnswer } from '@velvet-shelf/contract';
import { sql, eq, and, or, count, isNotNull, ne, notInArray } from 'drizzle-orm';
import { z } from 'zod';
import { counting } from '../claims/versions.js';
import { type Database, type Executor, first, isIn } from '../db/client.js';
import { loadDictionary } from '../dictionary/dictionary.js';
import { act } from '../history/act.js';
import { changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { unsentStates } from '../listings/service.js';
import { lockJoins } from '../matching/joins.js';
import { settleRecords } from './apply/settle.js';
import * as tables from '../db/schema/index.js';

const { claimEdit, listing, place, product, record } = tables;

/** The product, with its variants where it is a family; refuses what is no product any more. */
async function goodsOf(on: Executor, id: number) {
  const rows = await on
    .select({
      id: product.id,
      kind: product.kind,
      family: product.familyId,
      unit: product.unitId,
      said: sql<string | null>`coalesce(${product.title}, ${product.sku})`,
      stock: product.stock,
    })
    .from(product)
    .where(and(or(eq(product.id, id), eq(product.familyId, id)), eq(product.stands, true)))
    .orderBy(product.id);
  const head = rows.find((row) => row.id === id);
  if (!head) throw notFound(`product ${id}`);
  return { head, goods: rows.filter((row) => row.kind !== 'family') };
}

/** What goes with a product: said before it is taken away. */
export async function goesWith(db: Database, id: number): Promise<RemovalAnswer> {
  const { goods } = await goodsOf(db, id);
  const all = goods.map((row) => row.id);
  const sources = await db
    .select({ supplier: tables.supplier.name, records: count() })
    .from(record)
    .innerJoin(tables.supplier, eq(tables.supplier.id, record.supplierId))
    .where(and(isIn(record.productId, all), isNotNull(record.contentId)))
    .groupBy(tables.supplier.id)
    .orderBy(tables.supplier.rank, tables.supplier.id);
  const edits = await first(
    db
      .select({ n: count() })
      .from(claimEdit)
      .where(isIn(claimEdit.productId, [...all, id])),
  );
  const known = await db
    .select({ place: place.name, listings: count() })
    .from(listing)
    .innerJoin(place, eq(place.id, listing.placeId))
    .where(
      and(
        isIn(listing.variantId, all),
        ne(listing.readiness, 'not for this channel'),
        notInArray(sql`${listing.channelState}`, unsentStates),
      ),
    )
    .groupBy(place.id)
    .orderBy(place.id);
  return {
    variants: goods.length,
    sources,
    edits: edits?.n ?? 0,
    stock: goods.reduce((sum, row) => sum + row.stock, 0),
    known,
  };
}

/** Takes a variant, a single product or a whole family away; a family goes with the last of its variants. */
export async function removeGoods(services: Services, user: User, id: number): Promise<void> {
  await act(services, user, { kind: 'remove-goods', tells: ['catalog', 'matches'] }, async (on) => {
    const { tx } = on;
    const dictionary = await loadDictionary(tx);
    await lockJoins(tx);
    const { head, goods } = await goodsOf(tx, id);
    const all = goods.map((row) => row.id);
    const gone = [...new Set([...all, id, ...(await emptied(tx, head.family, all))])];
    // Records before products, as an apply and its trial take them.
    const heard = await tx
      .select({
        id: record.id,
        product: record.productId,
        before: record.silentAfter,
        after: sql<number>`(SELECT max(v.batch_id) FROM record_version v JOIN batch b ON b.id = v.batch_id WHERE v.record_id = ${record}.id AND b.state IN ${counting})`,
      })
      .from(record)
      .where(and(isIn(record.productId, all), isNotNull(record.contentId)))
      .orderBy(record.id)
      .for('update');
    await tx.update(product).set({ removedBy: on.id }).where(isIn(product.id, gone));
    for (const { id: speaking, after } of heard)
      await tx.update(record).set({ silentAfter: after }).where(eq(record.id, speaking));
    await settleRecords(
      tx,
      heard.map((row) => row.id),
      { actionId: on.id, batchId: undefined, dictionary },
    );
    on.change(
      ...gone.map((row) => ({ kind: 'product' as const, id: row, delta: { '#removed': [false, true] } })),
      ...heard.map(({ id: silent, product: of, before, after }) => ({
        kind: 'record' as const,
        id: silent,
        delta: { silentAfter: [before, after], product: [of, null] },
      })),
    );
    await on.dirty([...new Set([...goods, head].map((row) => row.unit))]);
    const variants = head.kind === 'family' ? `, ${goods.length} variants` : '';
    on.say(`Took ${head.said ?? `product ${id}`}${variants} out of the catalog`);
  });
}

/** The family whose last variants these are. */
async function emptied(tx: Executor, family: number | null, goods: readonly number[]): Promise<number[]> {
  if (family === null) return [];
  const left = await tx
    .select({ id: product.id })
    .from(product)
    .where(and(eq(product.familyId, family), eq(product.stands, true)));
  return left.every((row) => goods.includes(row.id)) ? [family] : [];
}

const removedDelta = z.object({ '#removed': z.array(z.boolean()).optional() });
const silentDelta = z.object({
  silentAfter: z.tuple([z.number().nullable(), z.number()]),
  product: z.tuple([z.number(), z.null()]),
});

/** Brings goods back as they were taken away; what a source has brought back meanwhile stays as it is. */
export async function undoRemoval({ tx, actionId, by, dirty }: Undoing): Promise<Undone> {
  const dictionary = await loadDictionary(tx);
  await lockJoins(tx);
  const gone = (await changesOf(tx, actionId, 'product', removedDelta)).filter(({ delta }) => delta['#removed']);
  const silent = await changesOf(tx, actionId, 'record', silentDelta);
  for (const { id, delta } of silent) {
    const [before, after] = delta.silentAfter;
    await tx
      .update(record)
      .set({ silentAfter: before, productId: sql`coalesce(${record.productId}, ${delta.product[0]})` })
      .where(and(eq(record.id, id), eq(record.silentAfter, after)));
  }
  const back = await tx
    .update(product)
    .set({ removedBy: null })
    .where(
      and(
        isIn(
          product.id,
          gone.map((row) => row.id),
        ),
        eq(product.removedBy, actionId),
      ),
    )
    .returning({ id: product.id, unit: product.unitId });
  await settleRecords(
    tx,
    silent.map((row) => row.id),
    { actionId: by, batchId: undefined, dictionary },
  );
  await dirty([...new Set(back.map((row) => row.unit))]);
  return { left: [] };
}
