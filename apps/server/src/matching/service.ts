/** Matching as people see it: pairs that wait, claims side by side, joined goods, and whose word counts. */
import type { ClaimRow, Comparison, PairAnswer } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { currentSlots, splitSlot } from '@velvet-shelf/core/claims';
import type { UnjoinedReason } from '@velvet-shelf/core/matching';
import {
  type Attribute,
  type Role,
  type Value,
  agree,
  formatValue,
  plainText,
  withRole,
} from '@velvet-shelf/core/values';
import { type SQL, sql, desc, count } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { explainProduct } from '../catalog/product.js';
import { type Executor, containing, ids, queryRows, first, texts } from '../db/client.js';
import type { Services } from '../http/route.js';
import { kept, nameOf } from '../kept/keep.js';
import * as tables from '../db/schema/index.js';

type Compared = Comparison['products'][number];

export async function compared(db: Executor, list: readonly number[]): Promise<Map<number, Compared>> {
  const records = await queryRows<Compared>(
    db,
    sql`SELECT p.id, p.sku, p.title, p.picture, f.title AS family,
          (SELECT coalesce(jsonb_agg(jsonb_build_object('recordId', r.id, 'supplierId', s.id, 'supplier', s.name, 'key', coalesce(nullif(r.written, ''), r.key), 'dropped', r.dropped) ORDER BY s.rank, r.id), '[]')
           FROM record r JOIN supplier s ON s.id = r.supplier_id WHERE r.product_id = p.id AND r.content_id IS NOT NULL) AS sources
        FROM product p LEFT JOIN product f ON f.id = p.family_id WHERE p.id = ANY(${ids(list)})`,
  );
  return new Map(records.map((row) => [row.id, row]));
}

/** Products whose title or SKU holds a text. */
const named = (search: string) => sql`(p.title ILIKE ${containing(search)} OR p.sku ILIKE ${containing(search)})`;

export async function listPairs(
  { db }: Services,
  { supplier, search, limit }: { supplier?: number | undefined; search?: string | undefined; limit: number },
): Promise<{ total: number; items: PairAnswer[]; above: { score: number; pairs: number }[] }> {
  const filters: SQL[] = [sql`true`];
  if (supplier)
    filters.push(
      sql`EXISTS (SELECT 1 FROM record r WHERE r.product_id IN (${tables.matchPair.a}, ${tables.matchPair.b}) AND r.supplier_id = ${supplier})`,
    );
  if (search)
    filters.push(
      sql`EXISTS (SELECT 1 FROM product p WHERE p.id IN (${tables.matchPair.a}, ${tables.matchPair.b}) AND ${named(search)})`,
    );
  const where = sql.join(filters, sql` AND `);
  const matchPairs = await db
    .select({
      a: tables.matchPair.a,
      b: tables.matchPair.b,
      score: tables.matchPair.score,
      evidence: tables.matchPair.evidence,
    })
    .from(tables.matchPair)
    .where(where)
    .orderBy(desc(tables.matchPair.score), tables.matchPair.a, tables.matchPair.b)
    .limit(limit);
  const products = await compared(
    db,
    matchPairs.flatMap(({ a, b }) => [a, b]),
  );
  const above = await queryRows<{ score: number; pairs: number }>(
    db,
    sql`SELECT s AS score, (SELECT count(*) FROM match_pair m WHERE m.score >= s) AS pairs FROM unnest(ARRAY[90, 80, 70, 60, 50]) s`,
  );
  const total = await first(db.select({ n: count() }).from(tables.matchPair).where(where));
  const items = matchPairs.flatMap(({ a, b, score, evidence }) => {
    const [x, y] = [products.get(a), products.get(b)];
    if (!x || !y) return [];
    // The better-ranked side stands left.
    return [
      {
        a: x,
        b: y,
        score,
        evidence: [...evidence].sort((evidence, other) => Math.abs(other.points) - Math.abs(evidence.points)),
      },
    ];
  });
  return { total: total?.n ?? 0, items, above };
}

/** Every claim of one or two products, attribute by attribute, with who wins and why. */
export async function compareProducts(
  { db }: Services,
  { a, b }: { a: number; b?: number | undefined },
  locale?: string,
): Promise<Comparison> {
  const dictionary = await loadDictionary(db, locale);
  const wanted = b === undefined ? [a] : [a, b];
  const products = await compared(db, wanted);
  const say = (value: Value, attribute: Attribute) => {
    const text = formatValue(value, attribute, dictionary.reader);
    return attribute.type === 'richText' ? plainText(text) : text;
  };
  const claims = new Map<string, Map<number, Value>>();
  const winners = new Map<string, Pick<ClaimRow, 'winner' | 'winnerRecord' | 'why' | 'edit'>>();
  for (const id of wanted) {
    const { slots, sources } = await explainProduct(db, id, dictionary);
    const mine = new Set(products.get(id)?.sources.map((source) => source.recordId));
    for (const [record, { values }] of sources) {
      if (!mine.has(record)) continue;
      for (const [slot, value] of Object.entries(currentSlots(values, dictionary.merged))) {
        const held = claims.get(slot) ?? new Map<number, Value>();
        claims.set(slot, held.set(record, value));
      }
    }
    if (b !== undefined) continue;
    for (const [slot, { value, origin, why }] of slots) {
      const attribute = dictionary.attributes.get(splitSlot(slot)[0]);
      if (!attribute || isComputed(attribute.key)) continue;
      const text = value === undefined ? null : say(value, attribute);
      winners.set(slot, {
        winner: text,
        winnerRecord: origin.from === 'record' ? origin.record : null,
        why,
        edit: origin.from === 'edit' ? { text, by: origin.by } : null,
      });
      if (!claims.has(slot)) claims.set(slot, new Map());
    }
  }
  const order = new Map([...dictionary.attributes.keys()].map((key, i) => [key, i]));
  const list = [...claims].flatMap(([slot, held]): ClaimRow[] => {
    const [key, language] = splitSlot(slot);
    const attribute = dictionary.attributes.get(key);
    if (!attribute) return [];
    const values = [...held.values()];
    return [
      {
        attribute: key,
        label: attribute.label,
        language: language ?? null,
        claims: Object.fromEntries([...held].map(([record, value]) => [String(record), say(value, attribute)])),
        ...(winners.get(slot) ?? { winner: null, winnerRecord: null, why: null, edit: null }),
        differs: values.some((value) => !agree(value, values[0], attribute)),
      },
    ];
  });
  return {
    products: wanted.flatMap((id) => products.get(id) ?? []),
    rows: list.sort(
      (x, y) =>
        (order.get(x.attribute) ?? 0) - (order.get(y.attribute) ?? 0) ||
        (x.language ?? '').localeCompare(y.language ?? ''),
    ),
  };
}

/** What two sources of one product do not say alike; texts and pictures are everybody's own, units do not matter. */
export const disputesOf = ({ attributes }: Pick<Dictionary, 'attributes'>) => {
  const keysOf = (role: Role) => withRole(attributes, role).map(({ key }) => key);
  return sql`
  SELECT r.product_id AS product, v.key AS slot FROM record r JOIN record_content c ON c.id = r.content_id, jsonb_each((c.content -> 'values')::jsonb) v
  WHERE r.product_id IN (SELECT product_id FROM record WHERE product_id IS NOT NULL AND content_id IS NOT NULL GROUP BY 1 HAVING count(*) > 1)
    AND v.key <> ALL(${texts([...keysOf('sku'), ...keysOf('pictures')])}) AND v.key NOT LIKE '%@%'
  GROUP BY 1, 2 HAVING count(DISTINCT CASE WHEN v.key = ANY(${texts(keysOf('gtin'))}) THEN to_jsonb(lpad(v.value #>> '{}', 14, '0')) ELSE coalesce(v.value -> 'base', v.value) END) > 1`;
};

export async function listJoined(
  services: Services,
  { search, limit, cursor }: { search?: string | undefined; limit: number; cursor?: string | undefined },
) {
  const { db } = services;
  const from = Number(cursor ?? 0);
  const found = await kept(services, nameOf('joined', { search: search ?? '', from, limit }), async () =>
    queryRows<{ id: number; differs: number; total: number; disagreeing: number }>(
      db,
      sql`WITH joined AS (SELECT product_id AS id FROM record WHERE product_id IS NOT NULL AND content_id IS NOT NULL GROUP BY 1 HAVING count(*) > 1),
          disputed AS MATERIALIZED (SELECT product, count(*) AS n FROM (${disputesOf(await loadDictionary(db))}) d GROUP BY 1)
        SELECT j.id, coalesce(d.n, 0) AS differs, count(*) OVER () AS total, count(d.n) OVER () AS disagreeing FROM joined j JOIN product p ON p.id = j.id LEFT JOIN disputed d ON d.product = j.id
        WHERE ${search ? named(search) : sql`true`}
        ORDER BY coalesce(d.n, 0) DESC, p.title, j.id OFFSET ${from} LIMIT ${limit + 1}`,
    ),
  );
  const shown = found.slice(0, limit);
  const products = await compared(
    db,
    shown.map((row) => row.id),
  );
  return {
    total: Number(found[0]?.total ?? 0),
    disagreeing: Number(found[0]?.disagreeing ?? 0),
    items: shown.flatMap(({ id, differs }) => {
      const product = products.get(id);
      return product ? [{ ...product, differs: Number(differs) }] : [];
    }),
    next: found.length > limit ? String(from + limit) : null,
  };
}

const reasons: Record<UnjoinedReason, string> = {
  'stands-twice': 'It stands on several articles of one source, so it joins none of them',
  'would-join-one-source-twice':
    'It would bring together what must stay apart: two articles of one source, or goods that contradict each other',
  contradicted: 'The articles that have it say otherwise',
  alone: 'It is a number for use inside a company, and nothing else agrees',
};

const mostKeys = 500;

export async function listUnjoined({ db }: Services) {
  const joinProposals = await queryRows<{
    kind: 'gtin' | 'mpn' | 'number';
    key: string;
    reason: UnjoinedReason;
    against: string[];
    records: (Compared['sources'][number] & { productId: number | null; title: string | null })[];
  }>(
    db,
    sql`SELECT j.kind, j.key, j.reason, j.against, jsonb_agg(jsonb_build_object('recordId', r.id, 'supplierId', s.id, 'supplier', s.name, 'key', coalesce(nullif(r.written, ''), r.key), 'dropped', r.dropped,
            'productId', r.product_id, 'title', p.title) ORDER BY s.rank, r.id) AS records
        FROM join_proposal j, jsonb_array_elements_text(j.records) x JOIN record r ON r.id = x::bigint JOIN supplier s ON s.id = r.supplier_id LEFT JOIN product p ON p.id = r.product_id
        GROUP BY j.kind, j.key, j.reason, j.against ORDER BY j.kind, j.key LIMIT ${mostKeys}`,
  );
  const total = await first(db.select({ n: count() }).from(tables.joinProposal));
  return {
    total: total?.n ?? 0,
    items: joinProposals.map((row) => ({
      ...row,
      key: row.key.replace(/^0+(?=\d{8})/, ''),
      reason: `${reasons[row.reason]}${row.against.length > 0 ? `: ${row.against.join('; ')}` : ''}`,
    })),
  };
}
