/** The goods that rows of a batch are about: which they are, and what the rows would change of them. */
import type { BatchRowAnswer } from '@velvet-shelf/contract';
import { type Foreseen, foreseeRecord } from '@velvet-shelf/core/claims';
import type { RecordContent } from '@velvet-shelf/core/intake';
import type { JoinLevel } from '@velvet-shelf/core/matching';
import { sql, eq, and, isNotNull } from 'drizzle-orm';
import type { Dictionary } from '../../dictionary/dictionary.js';
import { loadUnits } from '../../catalog/resolve.js';
import { type Executor, first, isAmong, isIn } from '../../db/client.js';
import type { RowMeeting, batchRow } from '../../db/schema/index.js';
import * as tables from '../../db/schema/index.js';
import { alias } from 'drizzle-orm/pg-core';

type RowRecord = typeof batchRow.$inferSelect;
type Goods = Pick<BatchRowAnswer, 'joins' | 'asks'>;

const levelWords: Record<JoinLevel, string> = {
  gtin: 'GTIN',
  mpn: 'brand + MPN',
  number: 'their article number',
};
const sayLevel = ({ by }: RowMeeting) => (by === null ? 'what a person decided' : levelWords[by]);

const reasonWords: Record<NonNullable<RowMeeting['unless']>['reason'], string> = {
  'stands-twice': 'the same identifier stands on several of one source',
  'would-join-one-source-twice': 'two of one source would become one',
  contradicted: 'what they say of themselves does not agree',
  alone: 'it is a number for use inside a company, and nothing else agrees',
};

/** Which goods rows belong to, would join, or would ask about. */
export async function goodsOf(
  db: Executor,
  supplier: number,
  shown: readonly RowRecord[],
): Promise<(row: RowRecord) => Goods> {
  const recordKeys = shown.flatMap((row) => row.recordKey ?? []);
  const standing = await db
    .select({ key: tables.record.key, product: sql<number>`${tables.record.productId}` })
    .from(tables.record)
    .where(
      and(
        eq(tables.record.supplierId, supplier),
        isNotNull(tables.record.productId),
        isAmong(tables.record.key, recordKeys),
      ),
    );
  const productOf = new Map(standing.map(({ key, product }) => [key, product]));
  const wanted = [...productOf.values(), ...shown.flatMap((row) => row.meets?.product ?? [])];
  const now = alias(tables.product, 'now');
  const products = await db
    .select({ id: tables.product.id, now: now.id, sku: now.sku, title: now.title })
    .from(tables.product)
    .innerJoin(now, eq(now.id, sql`coalesce(${tables.product.mergedInto}, ${tables.product.id})`))
    .where(isIn(tables.product.id, wanted));
  const byId = new Map(products.map(({ id, now, sku, title }) => [id, { productId: now, sku, title }]));
  return ({ recordKey, meets }) => {
    const joined = meets && !meets.unless ? meets : undefined;
    const own = byId.get(productOf.get(recordKey ?? '') ?? joined?.product ?? 0);
    const doubted = meets?.unless ? byId.get(meets.product) : undefined;
    return {
      joins: own ? { ...own, by: joined ? sayLevel(joined) : 'article number' } : null,
      asks:
        doubted && meets?.unless
          ? {
              ...doubted,
              by: sayLevel(meets),
              against: meets.unless.against.length > 0 ? meets.unless.against : [reasonWords[meets.unless.reason]],
            }
          : null,
    };
  };
}

/** A row with the goods it is about and what it would have its record say. */
export interface Aimed {
  row: number;
  record: number;
  product: number;
  content: RecordContent;
}

/** What goods would hold out with each of these rows applied by itself. */
export async function foreseeGoods(
  db: Executor,
  supplier: number,
  aimed: readonly Aimed[],
  dictionary: Dictionary,
): Promise<Map<number, Foreseen>> {
  if (aimed.length === 0) return new Map();
  const { attributes, policies } = dictionary;
  const from = await first(
    db
      .select({ name: tables.supplier.name, rank: tables.supplier.rank })
      .from(tables.supplier)
      .where(eq(tables.supplier.id, supplier)),
  );
  const unitOf = await db
    .select({ id: tables.product.id, unit: tables.product.unitId })
    .from(tables.product)
    .where(
      and(
        isIn(
          tables.product.id,
          aimed.map(({ product }) => product),
        ),
        eq(tables.product.stands, true),
      ),
    );
  const units = await loadUnits(db, [...new Set(unitOf.map(({ unit }) => unit))], dictionary);
  const claimsOf = new Map(unitOf.map(({ id, unit }) => [id, units.get(unit)?.claims]));
  return new Map(
    aimed.flatMap(({ row, record, product, content }) => {
      const claims = claimsOf.get(product);
      if (!claims || !from) return [];
      const { values, options = [] } = content;
      const speaking = { id: record, supplier: from.name, rank: from.rank, at: newest, values, options };
      return [[row, foreseeRecord(claims, product, speaking, attributes, policies)] as const];
    }),
  );
}

/** Sorts after the number of every batch. */
const newest = '~';
