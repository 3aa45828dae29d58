/** What a person decides of records: the same goods, or not. Joins, families and products follow at once. */
import { readGtin } from '@velvet-shelf/core/values';
import { sql, eq, and, gte, desc, isNotNull } from 'drizzle-orm';
import { loadDictionary } from '../dictionary/dictionary.js';
import { resolveUnits } from '../catalog/resolve.js';
import { type Executor, json, queryRows, first, isIn } from '../db/client.js';
import { type Acting, type ActionKind, act } from '../history/act.js';
import { type Change, addChanges } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { lockJoins, reach, regroup, rejoin } from './joins.js';
import { settleStock } from '../stock/offers.js';
import * as tables from '../db/schema/index.js';
import { writtenNumber } from '../claims/versions.js';

export type Verdict = 'same' | 'different';

interface ProductRecord {
  id: number;
  product: number;
  supplier: string;
}

async function recordsOf(tx: Executor, products: readonly number[]): Promise<ProductRecord[]> {
  return tx
    .select({ id: tables.record.id, product: sql<number>`${tables.record.productId}`, supplier: tables.supplier.name })
    .from(tables.record)
    .innerJoin(tables.supplier, eq(tables.supplier.id, tables.record.supplierId))
    .where(and(isIn(tables.record.productId, products), isNotNull(tables.record.contentId)))
    .orderBy(tables.record.id);
}

export async function writeDecisions(
  tx: Executor,
  pairs: readonly { a: number; b: number; verdict: Verdict }[],
  actionId: number,
): Promise<void> {
  const ordered = pairs.map(({ a, b, verdict }) => ({ a: Math.min(a, b), b: Math.max(a, b), verdict }));
  await tx.execute(sql`
    INSERT INTO join_decision (a, b, verdict, action_id) SELECT DISTINCT ON (a, b) a, b, verdict, ${actionId}
    FROM jsonb_to_recordset(${json(ordered)}) AS t(a bigint, b bigint, verdict text)
    ON CONFLICT (a, b, action_id) DO UPDATE SET verdict = excluded.verdict`);
}

/** Joins these records and all they reach anew; what follows from it is written and marked for re-checking. */
export async function settleJoins(
  { tx, dirty }: Pick<Acting, 'tx' | 'dirty'>,
  records: readonly number[],
  actionId: number,
): Promise<void> {
  const dictionary = await loadDictionary(tx);
  const products = await rejoin(tx, await reach(tx, records));
  const units = await regroup(tx, products);
  await settleStock(tx, products, { actionId });
  await addChanges(tx, actionId, await resolveUnits(tx, units, dictionary));
  await dirty(units);
}

/** Others wait for the joins meanwhile: what follows is evaluated once they are let go. */
const deciding: ActionKind = { kind: 'match', tells: ['matches', 'catalog'], settlesAfter: true };

export interface Decided {
  done: number;
  left: string[];
  unsure: { a: number; b: number; words: string }[];
}

/** Pairs of which each side has a valid GTIN that is not the other's. */
async function unlikeGtins(tx: Executor, pairs: readonly { a: number; b: number }[]): Promise<Decided['unsure']> {
  const found = await queryRows<{ a: number; b: number; x: string; y: string }>(
    tx,
    sql`SELECT t.a, t.b, p.gtin AS x, q.gtin AS y FROM jsonb_to_recordset(${json(pairs)}) AS t(a bigint, b bigint)
        JOIN product p ON p.id = t.a JOIN product q ON q.id = t.b WHERE p.gtin IS NOT NULL AND q.gtin IS NOT NULL`,
  );
  return found.flatMap(({ a, b, x, y }) => {
    const [mine, theirs] = [readGtin(x), readGtin(y)];
    return mine.ok && theirs.ok && mine.gtin14 !== theirs.gtin14
      ? [{ a, b, words: `each has a valid GTIN of its own, ${mine.written} and ${theirs.written}` }]
      : [];
  });
}

/** Decides pairs of products: the named ones, or all that wait at or above a score. */
export async function decidePairs(
  services: Services,
  user: User,
  wish: {
    verdict: Verdict;
    pairs?: { a: number; b: number }[] | undefined;
    above?: number | undefined;
    sure?: boolean | undefined;
  },
): Promise<Decided> {
  if (!wish.pairs && wish.above === undefined)
    throw badRequest('Name the pairs, or the score above which all are meant');
  const { answer } = await act(services, user, deciding, async (on): Promise<Decided> => {
    const { tx } = on;
    await lockJoins(tx);
    const pairs =
      wish.pairs ??
      (await tx
        .select({ a: tables.matchPair.a, b: tables.matchPair.b })
        .from(tables.matchPair)
        .where(gte(tables.matchPair.score, wish.above ?? 100))
        .orderBy(desc(tables.matchPair.score), tables.matchPair.a, tables.matchPair.b)
        .limit(2000));
    if (pairs.length === 0) return { done: 0, left: [], unsure: [] };
    const records = await recordsOf(
      tx,
      pairs.flatMap(({ a, b }) => [a, b]),
    );
    const of = (product: number) => records.filter((record) => record.product === product);
    const left: string[] = [];
    const unsure = wish.verdict === 'same' && !wish.sure ? await unlikeGtins(tx, pairs) : [];
    const doubtful = new Set(unsure.map(({ a, b }) => `${a}:${b}`));
    const taken = new Set<number>();
    const decided = pairs.filter(({ a, b }) => {
      if (of(a).length === 0 || of(b).length === 0) return false;
      if (wish.verdict === 'different') return true;
      if (doubtful.has(`${a}:${b}`)) return false;
      const twice = of(a).find((product) => of(b).some((other) => other.supplier === product.supplier));
      if (twice) left.push(`both hold a record of ${twice.supplier}: split one first`);
      const busy = taken.has(a) || taken.has(b);
      if (busy) left.push('one of the two was joined with another just now; look at what is proposed next');
      if (twice || busy) return false;
      taken.add(a).add(b);
      return true;
    });
    if (decided.length === 0) return { done: 0, left, unsure };
    on.say(
      decided.length === 1
        ? wish.verdict === 'same'
          ? `Joined ${await sayPair(tx, decided[0])}`
          : `Kept ${await sayPair(tx, decided[0])} apart`
        : `${wish.verdict === 'same' ? 'Joined' : 'Kept apart'} ${decided.length} pairs of goods`,
    );
    on.change(...(await waitingPairs(tx, decided)));
    await writeDecisions(
      tx,
      decided.flatMap(({ a, b }) =>
        of(a).flatMap((x) => of(b).map((y) => ({ a: x.id, b: y.id, verdict: wish.verdict }))),
      ),
      on.id,
    );
    await tx.execute(sql`
      DELETE FROM match_pair m USING jsonb_to_recordset(${json(decided)}) AS t(a bigint, b bigint) WHERE m.a = least(t.a, t.b) AND m.b = greatest(t.a, t.b)`);
    if (wish.verdict === 'same') {
      await settleJoins(
        on,
        decided.flatMap(({ a, b }) => [...of(a), ...of(b)].map(({ id }) => id)),
        on.id,
      );
      // Pairs with a product that is no more, or with goods of a source that the joined product has now.
      await tx.execute(sql`
        DELETE FROM match_pair m WHERE EXISTS (SELECT 1 FROM product p WHERE p.id IN (m.a, m.b) AND NOT p.stands)
          OR EXISTS (SELECT 1 FROM record x JOIN record y ON y.supplier_id = x.supplier_id WHERE x.product_id = m.a AND y.product_id = m.b)`);
    }
    return { done: decided.length, left, unsure };
  });
  return answer;
}

async function sayPair(tx: Executor, pair: { a: number; b: number } | undefined): Promise<string> {
  const products = await tx
    .select({ name: sql<string>`coalesce(${tables.product.sku}, ${tables.product.title}, 'a product')` })
    .from(tables.product)
    .where(isIn(tables.product.id, [pair?.a ?? 0, pair?.b ?? 0]))
    .orderBy(tables.product.id);
  const [a, b] = await Promise.all(
    [pair?.a, pair?.b].map((id) =>
      first(
        tx
          .select({ key: writtenNumber })
          .from(tables.record)
          .where(eq(tables.record.productId, id ?? 0))
          .orderBy(tables.record.id)
          .limit(1),
      ),
    ),
  );
  return `${a?.key ?? products[0]?.name ?? 'goods'} and ${b?.key ?? products[1]?.name ?? 'goods'}`;
}

/** Takes records out of a product; both sides stay as they are from now on, whatever keys they share. */
export async function splitProduct(
  services: Services,
  user: User,
  productId: number,
  out: number[],
): Promise<number[]> {
  const { answer } = await act(services, user, deciding, async (on) => {
    const { tx } = on;
    await lockJoins(tx);
    const records = await recordsOf(tx, [productId]);
    if (records.length === 0) throw notFound(`product ${productId} with records of suppliers`);
    const leaving = records.filter((record) => out.includes(record.id));
    const staying = records.filter((record) => !out.includes(record.id));
    if (leaving.length === 0 || staying.length === 0)
      throw badRequest('Choose some of the sources to take out, and leave at least one');
    const sources = (list: ProductRecord[]) => list.map(({ supplier }) => supplier).join(', ');
    on.say(`Split ${sources(leaving)} off ${sources(staying)}`);
    const within = (list: ProductRecord[]) =>
      list.flatMap((x, i) => list.slice(i + 1).map((y) => ({ a: x.id, b: y.id, verdict: 'same' as const })));
    const across = leaving.flatMap((x) => staying.map((y) => ({ a: x.id, b: y.id, verdict: 'different' as const })));
    await writeDecisions(tx, [...across, ...within(leaving), ...within(staying)], on.id);
    await settleJoins(
      on,
      records.map(({ id }) => id),
      on.id,
    );
    const now = await tx
      .selectDistinct({ product: sql<number>`${tables.record.productId}` })
      .from(tables.record)
      .where(
        and(
          isIn(
            tables.record.id,
            records.map((record) => record.id),
          ),
          isNotNull(tables.record.productId),
        ),
      );
    return now.map((record) => record.product);
  });
  return answer;
}

/** The proposals a decision answers, as the history keeps them: undone, they wait again. */
async function waitingPairs(tx: Executor, decided: readonly { a: number; b: number }[]): Promise<Change[]> {
  const waiting = await queryRows<{ a: number; b: number; score: number; evidence: unknown }>(
    tx,
    sql`SELECT m.a, m.b, m.score, m.evidence FROM match_pair m JOIN jsonb_to_recordset(${json(decided)}) AS t(a bigint, b bigint)
        ON m.a = least(t.a, t.b) AND m.b = greatest(t.a, t.b)`,
  );
  return waiting.map(({ a, b, score, evidence }) => ({
    kind: 'product',
    id: a,
    delta: { [`#pair:${b}`]: [{ score, evidence }, null] },
  }));
}

/** Takes a decision back: the keys speak again, and the pair waits as it did before. */
export async function undoDecision({ tx, actionId, by, dirty }: Undoing): Promise<Undone> {
  await lockJoins(tx);
  const gone = await tx
    .delete(tables.joinDecision)
    .where(eq(tables.joinDecision.actionId, actionId))
    .returning({ a: tables.joinDecision.a, b: tables.joinDecision.b });
  const records = [...new Set(gone.flatMap(({ a, b }) => [Number(a), Number(b)]))];
  if (records.length > 0) await settleJoins({ tx, dirty }, records, by);
  await tx.execute(sql`
    INSERT INTO match_pair (a, b, score, evidence)
    SELECT x.id, y.id, (d.value -> 0 ->> 'score')::int, d.value -> 0 -> 'evidence'
    FROM change c, jsonb_each(c.delta) d JOIN product y ON y.id = split_part(d.key, ':', 2)::bigint JOIN product x ON true
    WHERE c.action_id = ${actionId} AND c.subject_kind = 'product' AND d.key LIKE '#pair:%' AND x.id = c.subject_id
      AND x.stands AND y.stands
      AND NOT EXISTS (SELECT 1 FROM record r JOIN record s ON s.product_id = y.id JOIN join_decision j ON j.a = least(r.id, s.id) AND j.b = greatest(r.id, s.id) WHERE r.product_id = x.id)
    ON CONFLICT DO NOTHING`);
  return { left: [] };
}
