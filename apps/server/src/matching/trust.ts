/** Whose word counts: the order of sources, and the policy of each attribute. */
import type { TrustRow } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import type { TrustPolicy } from '@velvet-shelf/core/claims';
import { canonical } from '@velvet-shelf/core/values';
import { sql, eq, isNull } from 'drizzle-orm';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { resolveUnits } from '../catalog/resolve.js';
import { type Executor, ids, queryRows, first } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import { type Change, changesOf } from '../history/record.js';
import type { Undoing, Undone } from '../history/undo.js';
import { badRequest } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { kept } from '../kept/keep.js';
import { disputesOf } from './service.js';
import * as tables from '../db/schema/index.js';
import { z } from 'zod';

export async function listTrust(services: Services) {
  const { db } = services;
  const dictionary = await loadDictionary(db);
  const suppliers = await db
    .select({ id: tables.supplier.id, name: tables.supplier.name })
    .from(tables.supplier)
    .where(isNull(tables.supplier.mergedInto))
    .orderBy(tables.supplier.rank, tables.supplier.id);
  const policies = await db
    .select({ key: tables.attribute.key, policy: tables.trustPolicy.policy, ranking: tables.trustPolicy.ranking })
    .from(tables.trustPolicy)
    .innerJoin(tables.attribute, eq(tables.attribute.id, tables.trustPolicy.attributeId));
  const disputed = await kept(services, 'disputes', () =>
    queryRows<{ key: string; n: number }>(
      db,
      sql`SELECT split_part(slot, '@', 1) AS key, count(DISTINCT product) AS n FROM (${disputesOf(dictionary)}) d GROUP BY 1`,
    ),
  );
  const byKey = new Map(policies.map((policy) => [policy.key, policy]));
  const items = [...dictionary.attributes.values()]
    .filter(({ key }) => dictionary.attributes.get(key)?.role !== 'sku' && !isComputed(key))
    .map(({ key, label, group, type }): TrustRow => ({
      attribute: key,
      label,
      group,
      type,
      policy: byKey.get(key)?.policy ?? 'ranked',
      ranking: byKey.get(key)?.ranking?.map(Number) ?? null,
      disputed: Number(disputed.find((row) => row.key === key)?.n ?? 0),
    }));
  return { suppliers, items };
}

interface TrustWish {
  attribute?: string | undefined;
  policy?: TrustPolicy | undefined;
  ranking?: number[] | null | undefined;
}

/** Changes whose claim wins; every product it touches is resolved again. Answers how many changed. */
export async function setTrust(services: Services, user: User, wish: TrustWish): Promise<number> {
  const kind = { kind: 'trust', tells: ['catalog'], settlesAfter: true };
  const { answer } = await act(services, user, kind, async (on) => {
    const { tx } = on;
    const dictionary = await loadDictionary(tx);
    const { words, slot } = await readTrust(tx, dictionary, wish);
    const before = await heldTrust(tx, slot);
    await writeTrust(tx, slot, {
      policy: wish.policy ?? before.policy,
      ranking: wish.ranking === undefined ? before.ranking : wish.ranking,
    });
    const after = await heldTrust(tx, slot);
    on.say(words);
    on.change({ kind: 'trust', id: slot, delta: { held: [before, after] } });
    const changes = await resolveDisputed(on);
    on.change(...changes);
    return changes.length;
  });
  return answer;
}

/** Takes a change of trust back where it still stands. */
export async function undoTrust({ tx, actionId, dirty }: Undoing): Promise<Undone> {
  const [change] = await changesOf(tx, actionId, 'trust', trustDelta);
  if (!change?.delta.held) return { left: ['What it was before was not kept yet when this was done'] };
  const [before, after] = change.delta.held;
  if (canonical(await heldTrust(tx, change.id)) !== canonical(after))
    return { left: ['Whose word counts: changed since'] };
  await writeTrust(tx, change.id, before);
  return { left: [], changes: await resolveDisputed({ tx, dirty }) };
}

/** An attribute's number, or 0 for the general order. */
type TrustSlot = number;

const heldSchema = z.object({
  policy: z.custom<TrustPolicy>().nullable(),
  /** Suppliers, best first; null = the general order. */
  ranking: z.array(z.number()).nullable(),
});
type HeldTrust = z.infer<typeof heldSchema>;
/** What was kept of it before and after. */
const trustDelta = z.object({ held: z.tuple([heldSchema, heldSchema]).optional() });

async function readTrust(
  tx: Executor,
  { ids: attributeIds, attributes }: Dictionary,
  { attribute, ranking }: TrustWish,
): Promise<{ words: string; slot: TrustSlot }> {
  const known = await tx
    .select({ id: tables.supplier.id })
    .from(tables.supplier)
    .where(isNull(tables.supplier.mergedInto));
  const stranger = ranking?.find((id) => !known.some((supplier) => supplier.id === id));
  if (stranger !== undefined) throw badRequest(`There is no supplier ${stranger}`);
  if (ranking && new Set(ranking).size < ranking.length) throw badRequest('A supplier stands in the order twice');
  if (attribute === undefined) {
    if (!ranking) throw badRequest('The general order needs its suppliers');
    return { words: 'Changed the general order of sources', slot: 0 };
  }
  const slot = attributeIds.get(attribute);
  if (slot === undefined) throw badRequest(`There is no attribute “${attribute}”`);
  return { words: `Changed whose ${attributes.get(attribute)?.label ?? attribute} counts`, slot };
}

async function heldTrust(tx: Executor, slot: TrustSlot): Promise<HeldTrust> {
  if (slot === 0) {
    const order = await tx
      .select({ id: tables.supplier.id })
      .from(tables.supplier)
      .where(isNull(tables.supplier.mergedInto))
      .orderBy(tables.supplier.rank, tables.supplier.id)
      .for('update');
    return { policy: null, ranking: order.map(({ id }) => id) };
  }
  const held = await first(
    tx
      .select({ policy: tables.trustPolicy.policy, ranking: tables.trustPolicy.ranking })
      .from(tables.trustPolicy)
      .where(eq(tables.trustPolicy.attributeId, slot))
      .for('update'),
  );
  return { policy: held?.policy ?? null, ranking: held?.ranking ?? null };
}

async function writeTrust(tx: Executor, slot: TrustSlot, { policy, ranking }: HeldTrust): Promise<void> {
  if (slot === 0) {
    // Those the order does not name stay behind it, as they stood.
    await tx.execute(sql`
      UPDATE supplier s SET rank = o.rank FROM (
        SELECT s.id, row_number() OVER (ORDER BY x.place NULLS LAST, s.rank, s.id) AS rank
        FROM supplier s LEFT JOIN unnest(${ids(ranking ?? [])}) WITH ORDINALITY x(id, place) ON x.id = s.id) o
      WHERE o.id = s.id`);
    return;
  }
  if (policy === null && ranking === null) {
    await tx.delete(tables.trustPolicy).where(eq(tables.trustPolicy.attributeId, slot));
    return;
  }
  await tx
    .insert(tables.trustPolicy)
    .values({ attributeId: slot, policy: policy ?? 'ranked', ranking })
    .onConflictDoUpdate({
      target: tables.trustPolicy.attributeId,
      set: { policy: sql`excluded.policy`, ranking: sql`excluded.ranking` },
    });
}

/** Goods that several sources speak for are resolved again; answers what changed. */
async function resolveDisputed({ tx, dirty }: Pick<Acting, 'tx' | 'dirty'>): Promise<Change[]> {
  const dictionary = await loadDictionary(tx);
  const units = await queryRows<{ unit: number }>(
    tx,
    sql`SELECT DISTINCT p.unit_id AS unit FROM product p WHERE p.id IN (
          SELECT product_id FROM record WHERE product_id IS NOT NULL AND content_id IS NOT NULL GROUP BY 1 HAVING count(*) > 1)
        OR p.unit_id IN (SELECT v.unit_id FROM product v JOIN record r ON r.product_id = v.id WHERE v.family_id IS NOT NULL GROUP BY 1 HAVING count(DISTINCT r.supplier_id) > 1)`,
  );
  const changes: Change[] = [];
  for (let from = 0; from < units.length; from += 500) {
    const part = units.slice(from, from + 500).map((unit) => unit.unit);
    changes.push(...(await resolveUnits(tx, part, dictionary)));
    await dirty(part);
  }
  return changes;
}
