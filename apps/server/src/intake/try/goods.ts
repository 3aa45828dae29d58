/** The goods that rows of a batch are about: which they are, and what the rows would change of them. */
import type { BatchRowAnswer } from '@velvet-shelf/contract';
import { type Foreseen, foreseeRecord } from '@velvet-shelf/core/claims';
import type { RecordContent } from '@velvet-shelf/core/intake';
import type { JoinLevel } from '@velvet-shelf/core/matching';
import { sql } from 'drizzle-orm';
import type { Dictionary } from '../../catalog/dictionary.js';
import { loadUnits } from '../../catalog/resolve.js';
import { type Executor, ids, json, queryOne, queryRows } from '../../db/client.js';
import type { RowMeeting, batchRow } from '../../db/schema/index.js';

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
  const standing = await queryRows<{ key: string; product: number }>(
    db,
    sql`SELECT key, product_id AS product FROM record WHERE supplier_id = ${supplier} AND product_id IS NOT NULL
          AND key IN (SELECT jsonb_array_elements_text(${json(recordKeys)}))`,
  );
  const productOf = new Map(standing.map(({ key, product }) => [key, product]));
  const wanted = [...productOf.values(), ...shown.flatMap((row) => row.meets?.product ?? [])];
  const products = await queryRows<{ id: number; now: number; sku: string | null; title: string | null }>(
    db,
    sql`SELECT p.id, n.id AS now, n.sku, n.title FROM product p JOIN product n ON n.id = coalesce(p.merged_into, p.id) WHERE p.id = ANY(${ids(wanted)})`,
  );
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
  { attributes, policies }: Dictionary,
): Promise<Map<number, Foreseen>> {
  if (aimed.length === 0) return new Map();
  const from = await queryOne<{ name: string; rank: number }>(
    db,
    sql`SELECT name, rank FROM supplier WHERE id = ${supplier}`,
  );
  const unitOf = await queryRows<{ id: number; unit: number }>(
    db,
    sql`SELECT id, unit_id AS unit FROM product WHERE id = ANY(${ids(aimed.map(({ product }) => product))}) AND merged_into IS NULL`,
  );
  const units = await loadUnits(db, [...new Set(unitOf.map(({ unit }) => unit))]);
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
