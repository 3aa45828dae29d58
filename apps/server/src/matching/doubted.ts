/** Joins that stand and would not be made any more, because rules or what records say have changed: found, listed, split in bulk. */
import type { DoubtedAnswer } from '@velvet-shelf/contract';
import { contradictions, joinRecords } from '@velvet-shelf/core/matching';
import { sql } from 'drizzle-orm';
import { groupBy } from '../catalog/resolve.js';
import { type Database, type Executor, ids, json, queryRows } from '../db/client.js';
import { act } from '../history/act.js';
import type { Change } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import type { Services, User } from '../http/route.js';
import { loadDecisions, loadMembers, lockJoins, toJoinRecord } from './joins.js';
import { type Verdict, settleJoins, writeDecisions } from './decide.js';
import { compared } from './service.js';

const atOnce = 2000;

interface Doubt {
  product: number;
  /** Records that belong together, group by group. */
  parts: number[][];
  against: string[];
}

/** Looks at every joined product and keeps those that would not be joined like this any more. */
export async function keepDoubts(db: Database): Promise<void> {
  const doubts: Doubt[] = [];
  for (let after = 0; ;) {
    const joined = await queryRows<{ product: number; records: number[] }>(
      db,
      sql`SELECT product_id AS product, array_agg(id::int8) AS records FROM record
          WHERE product_id > ${after} AND content_id IS NOT NULL GROUP BY 1 HAVING count(*) > 1 ORDER BY 1 LIMIT ${atOnce}`,
    );
    doubts.push(...(await judge(db, joined)));
    const last = joined.at(-1);
    if (!last || joined.length < atOnce) break;
    after = last.product;
  }
  await db.transaction(async (tx) => {
    await tx.execute(sql`DELETE FROM join_doubt`);
    await tx.execute(sql`
      INSERT INTO join_doubt (product_id, parts, against)
      SELECT t.product, t.parts, t.against FROM jsonb_to_recordset(${json(doubts)}) AS t(product bigint, parts jsonb, against jsonb)
      JOIN product p ON p.id = t.product WHERE p.merged_into IS NULL`);
  });
}

/** Records are only held against those of their own product: what stands apart is no reason to part. */
async function judge(db: Executor, joined: readonly { product: number; records: number[] }[]): Promise<Doubt[]> {
  const all = joined.flatMap(({ records }) => records.map(Number));
  const members = new Map((await loadMembers(db, all)).map((member) => [member.id, toJoinRecord(member)]));
  const decisions = await loadDecisions(db, all);
  const productOf = new Map(joined.flatMap(({ product, records }) => records.map((id) => [Number(id), product])));
  const decisionsOf = groupBy(decisions, ({ a }) => productOf.get(a));
  return joined.flatMap(({ product, records }): Doubt[] => {
    const own = records.flatMap((id) => members.get(Number(id)) ?? []);
    const { components } = joinRecords(own, decisionsOf.get(product) ?? []);
    if (components.length < 2) return [];
    const against = own.flatMap((a, i) =>
      own.slice(i + 1).flatMap((b) => (a.traits && b.traits ? contradictions(a.traits, b.traits) : [])),
    );
    return [{ product, parts: components, against: [...new Set(against)] }];
  });
}

export async function listDoubted({ db }: Services, limit: number): Promise<DoubtedAnswer> {
  const joinDoubts = await queryRows<{ product: number; against: string[]; total: number }>(
    db,
    sql`SELECT d.product_id AS product, d.against, count(*) OVER () AS total FROM join_doubt d JOIN product p ON p.id = d.product_id
        WHERE p.merged_into IS NULL ORDER BY d.product_id LIMIT ${limit}`,
  );
  const products = await compared(
    db,
    joinDoubts.map(({ product }) => product),
  );
  return {
    total: joinDoubts[0]?.total ?? 0,
    items: joinDoubts.flatMap(({ product, against }) => {
      const shown = products.get(product);
      return shown ? [{ ...shown, against }] : [];
    }),
  };
}

/** Splits the named ones, or all of them, into what would be joined today. One action, taken back as one. */
export async function splitDoubted(services: Services, user: User, products: number[] | undefined): Promise<number> {
  const kind = { kind: 'split-doubted', tells: ['matches', 'catalog'], settlesAfter: true };
  const { answer } = await act(services, user, kind, async (on) => {
    const { tx } = on;
    await lockJoins(tx);
    const held = await queryRows<{ product: number; parts: number[][] }>(
      tx,
      sql`DELETE FROM join_doubt WHERE ${products ? sql`product_id = ANY(${ids(products)})` : sql`true`} RETURNING product_id AS product, parts`,
    );
    const current = await queryRows<{ id: number; product: number }>(
      tx,
      sql`SELECT id, product_id AS product FROM record WHERE product_id = ANY(${ids(held.map((row) => row.product))}) AND content_id IS NOT NULL`,
    );
    const productOf = new Map(current.map(({ id, product }) => [id, product]));
    // Records that went elsewhere since are nobody's doubt any more.
    const parting = held
      .map(({ product, parts }) => parts.map((part) => part.filter((id) => productOf.get(id) === product)))
      .map((parts) => parts.filter((part) => part.length > 0))
      .filter((parts) => parts.length > 1);
    if (parting.length === 0) return 0;
    on.say(
      `Split ${parting.length} joined ${parting.length === 1 ? 'product' : 'products'} that would not be joined any more`,
    );
    on.change(
      ...held.map(({ product, parts }): Change => ({
        kind: 'product',
        id: product,
        delta: { '#parts': [parts, null] },
      })),
    );
    await writeDecisions(
      tx,
      parting.flatMap((parts) => pairsAcross(parts, 'different')),
      on.id,
    );
    await settleJoins(on, parting.flat(2), on.id);
    return parting.length;
  });
  return answer;
}

/** Takes a bulk split back: no key joins these goods any more, so it stands as what a person says. */
export async function undoSplitDoubted({ tx, actionId, by, dirty }: Undoing): Promise<Undone> {
  await lockJoins(tx);
  await tx.execute(sql`DELETE FROM join_decision WHERE action_id = ${actionId}`);
  const held = await queryRows<{ parts: number[][] }>(
    tx,
    sql`SELECT delta -> '#parts' -> 0 AS parts FROM change WHERE action_id = ${actionId} AND delta ? '#parts'`,
  );
  const pairs = held.flatMap(({ parts }) => pairsAcross(parts, 'same'));
  await writeDecisions(tx, pairs, by);
  await settleJoins(
    { tx, dirty },
    held.flatMap(({ parts }) => parts.flat()),
    by,
  );
  return { left: [] };
}

const pairsAcross = (parts: readonly number[][], verdict: Verdict) =>
  parts.flatMap((part, i) =>
    parts.slice(i + 1).flatMap((other) => part.flatMap((a) => other.map((b) => ({ a, b, verdict })))),
  );
