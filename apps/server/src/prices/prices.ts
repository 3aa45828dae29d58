/** Price rows: one a product, currency and kind, with what they were before for the history. */
import type { RecordOffer } from '@velvet-shelf/core/intake';
import { sql } from 'drizzle-orm';
import { type Executor, json, queryRows } from '../db/client.js';

export interface Price {
  currency: string;
  kind: 'regular' | 'sale';
  amount: string;
  from: string | null;
  to: string | null;
}

/** The prices an offer names, one a currency and kind. */
export function pricesOf({ regular, sale, saleFrom, saleTo }: RecordOffer): Price[] {
  return [
    ...Object.entries(regular ?? {}).map(([currency, amount]): Price => ({
      currency,
      kind: 'regular',
      amount,
      from: null,
      to: null,
    })),
    ...Object.entries(sale ?? {}).map(([currency, amount]): Price => ({
      currency,
      kind: 'sale',
      amount,
      from: saleFrom ?? null,
      to: saleTo ?? null,
    })),
  ];
}

/** A price that is another now; the values stand as the history keeps them. */
export interface PriceChange {
  product: number;
  field: string;
  before: PriceState | null;
  after: PriceState | null;
}

/** Amount as plain decimals; days of a sale as ISO 8601. */
export interface PriceState {
  amount: string;
  from: string | null;
  to: string | null;
}

/** How the history names a price. */
export const priceField = ({ kind, currency }: Pick<Price, 'kind' | 'currency'>) => `${kind} price ${currency}`;

/** A price to set, or to take away where there is no amount. */
export type WantedPrice = Pick<Price, 'currency' | 'kind'> & { product: number; amount: string | null };

/** Sets prices of many products, sales keeping their days, or takes them away; answers what each was and is. */
export async function setPrices(on: Executor, wanted: readonly WantedPrice[]): Promise<PriceChange[]> {
  const table = (list: readonly WantedPrice[]) =>
    sql`jsonb_to_recordset(${json(list)}) AS t(product bigint, currency text, kind text, amount numeric)`;
  const same = sql`p.product_id = t.product AND p.currency = t.currency AND p.kind = t.kind`;
  const held = await queryRows<PriceState & { product: number; field: string }>(
    on,
    sql`SELECT t.product, t.kind || ' price ' || t.currency AS field, trim_scale(p.amount)::text AS amount, p.valid_from::text AS "from", p.valid_to::text AS "to"
        FROM ${table(wanted)} JOIN price p ON ${same}`,
  );
  const stateOf = new Map(
    held.map(({ product, field, ...state }) => [`${product} ${field}`, state] satisfies [string, PriceState]),
  );
  const away = wanted.filter(({ amount }) => amount === null);
  if (away.length > 0) await on.execute(sql`DELETE FROM price p USING ${table(away)} WHERE ${same}`);
  const set = wanted.filter(({ amount }) => amount !== null);
  if (set.length > 0)
    await on.execute(sql`
      INSERT INTO price (product_id, currency, kind, amount) SELECT product, currency, kind, amount FROM ${table(set)}
      ON CONFLICT (product_id, currency, kind) DO UPDATE SET amount = excluded.amount`);
  return wanted.map(({ product, amount, ...price }) => {
    const field = priceField(price);
    const before = stateOf.get(`${product} ${field}`) ?? null;
    return { product, field, before, after: amount === null ? null : { from: null, to: null, ...before, amount } };
  });
}

/** Writes prices of many products; answers those that were others before. */
export function writePrices(on: Executor, prices: readonly (Price & { product: number })[]): Promise<PriceChange[]> {
  return queryRows<PriceChange>(
    on,
    sql`WITH t AS (SELECT * FROM jsonb_to_recordset(${json(prices)}) AS t(product bigint, currency text, kind text, amount numeric, "from" date, "to" date)),
        old AS (SELECT t.*, p.amount AS was, p.valid_from, p.valid_to FROM t LEFT JOIN price p ON p.product_id = t.product AND p.currency = t.currency AND p.kind = t.kind),
        written AS (
          INSERT INTO price (product_id, currency, kind, amount, valid_from, valid_to)
          SELECT product, currency, kind, amount, "from", "to" FROM t
          ON CONFLICT (product_id, currency, kind) DO UPDATE SET amount = excluded.amount, valid_from = excluded.valid_from, valid_to = excluded.valid_to)
        SELECT product, kind || ' price ' || currency AS field,
          CASE WHEN was IS NULL THEN NULL ELSE jsonb_build_object('amount', trim_scale(was)::text, 'from', valid_from, 'to', valid_to) END AS before,
          jsonb_build_object('amount', trim_scale(amount)::text, 'from', "from", 'to', "to") AS after
        FROM old WHERE was IS DISTINCT FROM amount OR valid_from IS DISTINCT FROM "from" OR valid_to IS DISTINCT FROM "to"`,
  );
}

/** Puts back the prices an action set where nobody has changed them since; answers which were. */
export function undoPrices(
  on: Executor,
  actionId: number,
): Promise<{ product: number; kind: string; currency: string; done: boolean }[]> {
  return queryRows<{ product: number; kind: string; currency: string; done: boolean }>(
    on,
    // An action that works in chunks may have set a price more than once: from before the first to after the last.
    sql`WITH spans AS (
          SELECT c.subject_id AS product, d.key, (array_agg(d.value -> 0 ORDER BY c.at))[1] AS before, (array_agg(d.value -> 1 ORDER BY c.at DESC))[1] AS after
          FROM change c, jsonb_each(c.delta) d WHERE c.action_id = ${actionId} AND c.subject_kind = 'product' AND d.key LIKE '% price %' GROUP BY 1, 2),
        t AS MATERIALIZED (
          SELECT product, split_part(key, ' ', 1) AS kind, split_part(key, ' ', 3) AS currency, (before ->> 'amount')::numeric AS was,
            (before ->> 'from')::date AS "from", (before ->> 'to')::date AS "to", (after ->> 'amount')::numeric AS now FROM spans),
        again AS (
          INSERT INTO price (product_id, currency, kind, amount, valid_from, valid_to)
          SELECT product, currency, kind, was, "from", "to" FROM t WHERE now IS NULL AND was IS NOT NULL
          ON CONFLICT DO NOTHING RETURNING product_id, kind, currency),
        back AS (
          UPDATE price p SET amount = was, valid_from = "from", valid_to = "to" FROM t
          WHERE p.product_id = t.product AND p.kind = t.kind AND p.currency = t.currency AND p.amount = t.now AND t.was IS NOT NULL
          RETURNING p.product_id, p.kind, p.currency),
        away AS (
          DELETE FROM price p USING t
          WHERE p.product_id = t.product AND p.kind = t.kind AND p.currency = t.currency AND p.amount = t.now AND t.was IS NULL
          RETURNING p.product_id, p.kind, p.currency)
        SELECT t.product, t.kind, t.currency, d.product_id IS NOT NULL AS done FROM t
        LEFT JOIN (SELECT * FROM again UNION ALL SELECT * FROM back UNION ALL SELECT * FROM away) d
          ON d.product_id = t.product AND d.kind = t.kind AND d.currency = t.currency`,
  );
}
