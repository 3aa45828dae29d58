/** Joins that stand and would not be made any more, because rules or what records say have changed: found, listed, split in bulk. */
import { groupBy } from '@velvet-shelf/core/values';
import type { DoubtedAnswer } from '@velvet-shelf/contract';
import { contradictions, joinRecords } from '@velvet-shelf/core/matching';
import { sql, eq, and, gt, isNotNull, count } from 'drizzle-orm';
import { type Database, type Executor, json, isIn } from '../db/client.js';
import { act } from '../history/act.js';
import { type Change, changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import type { Services, User } from '../http/route.js';
import { loadDecisions, loadMembers, lockJoins, toJoinRecord, traitsOf } from './joins.js';
import { type Verdict, settleJoins, writeDecisions } from './decide.js';
import { compared } from './service.js';
import * as tables from '../db/schema/index.js';
import { z } from 'zod';

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
    const joined = await db
      .select({
        product: sql<number>`${tables.record.productId}`,
        records: sql<number[]>`array_agg(${tables.record.id}::int8)`,
      })
      .from(tables.record)
      .where(and(gt(tables.record.productId, after), isNotNull(tables.record.contentId)))
      .groupBy(tables.record.productId)
      .having(gt(count(), 1))
      .orderBy(tables.record.productId)
      .limit(atOnce);
    doubts.push(...(await judge(db, joined)));
    const last = joined.at(-1);
    if (!last || joined.length < atOnce) break;
    after = last.product;
  }
  await db.transaction(async (tx) => {
    await tx.delete(tables.joinDoubt);
    await tx.execute(sql`
      INSERT INTO join_doubt (product_id, parts, against)
      SELECT t.product, t.parts, t.against FROM jsonb_to_recordset(${json(doubts)}) AS t(product bigint, parts jsonb, against jsonb)
      JOIN product p ON p.id = t.product WHERE p.stands`);
  });
}

/** Records are only held against those of their own product: what stands apart is no reason to part. */
async function judge(db: Executor, joined: readonly { product: number; records: number[] }[]): Promise<Doubt[]> {
  const all = joined.flatMap(({ records }) => records.map(Number));
  const traits = await traitsOf(db);
  const members = new Map((await loadMembers(db, all)).map((member) => [member.id, toJoinRecord(member, traits)]));
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
  const joinDoubts = await db
    .select({
      product: tables.joinDoubt.productId,
      against: tables.joinDoubt.against,
      total: sql<number>`count(*) OVER ()`,
    })
    .from(tables.joinDoubt)
    .innerJoin(tables.product, eq(tables.product.id, tables.joinDoubt.productId))
    .where(eq(tables.product.stands, true))
    .orderBy(tables.joinDoubt.productId)
    .limit(limit);
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
    const held = await tx
      .delete(tables.joinDoubt)
      .where(products && isIn(tables.joinDoubt.productId, products))
      .returning({ product: tables.joinDoubt.productId, parts: tables.joinDoubt.parts });
    const current = await tx
      .select({ id: tables.record.id, product: tables.record.productId })
      .from(tables.record)
      .where(
        and(
          isIn(
            tables.record.productId,
            held.map((row) => row.product),
          ),
          isNotNull(tables.record.contentId),
        ),
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

/** Of goods that were split: the parts they fell into. */
const partsDelta = z.object({ '#parts': z.tuple([z.array(z.array(z.number())), z.null()]).optional() });

/** Takes a bulk split back: no key joins these goods any more, so it stands as what a person says. */
export async function undoSplitDoubted({ tx, actionId, by, dirty }: Undoing): Promise<Undone> {
  await lockJoins(tx);
  await tx.delete(tables.joinDecision).where(eq(tables.joinDecision.actionId, actionId));
  const changes = await changesOf(tx, actionId, 'product', partsDelta);
  const held = changes.flatMap(({ delta }) => (delta['#parts'] ? [delta['#parts'][0]] : []));
  const pairs = held.flatMap((parts) => pairsAcross(parts, 'same'));
  await writeDecisions(tx, pairs, by);
  await settleJoins({ tx, dirty }, held.flat(2), by);
  return { left: [] };
}

const pairsAcross = (parts: readonly number[][], verdict: Verdict) =>
  parts.flatMap((part, i) =>
    parts.slice(i + 1).flatMap((other) => part.flatMap((a) => other.map((b) => ({ a, b, verdict })))),
  );
