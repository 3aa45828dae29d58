/** Keeps joins and families true after records changed: closure from SQL, decision in core, ids kept where they can be. */
import {
  type Decision,
  type Described,
  type JoinLevel,
  type JoinRecord,
  joinLevels,
  joinRecords,
  type TraitKeys,
  readTraits,
  traitKeys,
  shareKeys,
} from '@velvet-shelf/core/matching';
import { sql, eq, and } from 'drizzle-orm';
import { type Executor, takeIds, ids, json, queryRows, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { unitsOf } from '../catalog/units.js';
import { loadDictionary } from '../dictionary/dictionary.js';

/** Space of the lock, apart from those of jobs and of evaluation. */
const joinSpace = 4182;

/** One change of joins at a time, until the end of the transaction: two at once could each make a product of the same goods. */
export async function lockJoins(tx: Executor): Promise<void> {
  await tx.execute(sql`SELECT pg_advisory_xact_lock(${joinSpace}, 0)`);
}

/** Records that share any key or a person's decision with these, transitively, these included. */
export async function reach(on: Executor, from: readonly number[]): Promise<number[]> {
  const seen = new Set(from);
  let edge = [...seen];
  while (edge.length > 0) {
    const recordKeys = await queryRows<{ id: number }>(
      on,
      sql`SELECT DISTINCT other.record_id AS id FROM record_key mine JOIN record_key other USING (kind, key)
          WHERE mine.record_id = ANY(${ids(edge)})
          UNION SELECT b FROM join_decision WHERE a = ANY(${ids(edge)})
          UNION SELECT a FROM join_decision WHERE b = ANY(${ids(edge)})
          UNION SELECT other.id FROM record mine JOIN record other ON other.product_id = mine.product_id
          WHERE mine.id = ANY(${ids(edge)})`,
    );
    edge = recordKeys.map((recordKey) => recordKey.id).filter((id) => !seen.has(id));
    for (const id of edge) seen.add(id);
  }
  return [...seen];
}

/** Writes the keys and the family of records anew from their current content. */
export async function refreshKeys(on: Executor, records: readonly number[]): Promise<void> {
  await on.delete(tables.recordKey).where(isIn(tables.recordKey.recordId, records));
  await on.execute(sql`
    INSERT INTO record_key (kind, key, record_id)
    SELECT k.key, k.value, r.id FROM record r JOIN record_content c ON c.id = r.content_id, json_each_text(c.keys) k
    WHERE r.id = ANY(${ids(records)})`);
  await on.execute(sql`
    INSERT INTO family_key (supplier_id, key)
    SELECT DISTINCT r.supplier_id, c.content ->> 'family' FROM record r JOIN record_content c ON c.id = r.content_id
    WHERE r.id = ANY(${ids(records)}) AND c.content ->> 'family' IS NOT NULL ORDER BY 1, 2
    ON CONFLICT DO NOTHING`);
  await on.execute(sql`
    UPDATE record r SET family_key_id = f.id
    FROM record old LEFT JOIN record_content c ON c.id = old.content_id
    LEFT JOIN family_key f ON f.supplier_id = old.supplier_id AND f.key = c.content ->> 'family'
    WHERE old.id = r.id AND r.id = ANY(${ids(records)}) AND r.family_key_id IS DISTINCT FROM f.id`);
}

/** A record as it is joined: where it comes from, what it is known by, and what it says of itself. */
interface Joinable {
  id: number;
  supplier: number;
  keys: Record<string, string> | null;
  described: Described | null;
  usesOurNumbers: boolean;
}

interface Member extends Joinable {
  rank: number;
  product: number | null;
  made: number | null;
  active: boolean;
}

/** Where this company keeps what records say of themselves. */
export const traitsOf = async (on: Executor): Promise<TraitKeys> => traitKeys((await loadDictionary(on)).attributes);

export const toJoinRecord = (
  { id, supplier, keys, described, usesOurNumbers }: Joinable,
  traits: TraitKeys,
): JoinRecord => ({
  id,
  source: supplier,
  keys: keys ?? {},
  traits: described?.values
    ? readTraits({ values: described.values, options: described.options ?? [] }, traits)
    : undefined,
  usesOurNumbers,
});

export function loadMembers(on: Executor, closure: readonly number[]): Promise<Member[]> {
  return queryRows<Member>(
    on,
    sql`SELECT r.id, r.supplier_id AS supplier, s.rank, r.product_id AS product, r.made_product_id AS made,
          r.content_id IS NOT NULL AS active, c.keys, s.uses_our_numbers OR s.kind = 'own' AS "usesOurNumbers",
          json_build_object('values', c.content -> 'values', 'options', c.content -> 'options') AS described
        FROM record r JOIN supplier s ON s.id = r.supplier_id LEFT JOIN record_content c ON c.id = r.content_id
        WHERE r.id = ANY(${ids(closure)}) ORDER BY r.id`,
  );
}

/** What people decided last of pairs among these records. */
export function loadDecisions(on: Executor, closure: readonly number[]): Promise<Decision[]> {
  return queryRows<Decision>(
    on,
    sql`SELECT DISTINCT ON (a, b) a, b, verdict FROM join_decision WHERE a = ANY(${ids(closure)}) AND b = ANY(${ids(closure)}) ORDER BY a, b, action_id DESC`,
  );
}

/** Empty products, each a unit of its own. */
async function makeProducts(on: Executor, kind: 'single' | 'family', count: number): Promise<number[]> {
  const fresh = await takeIds(on, 'product', count);
  await on
    .insert(tables.product)
    .overridingSystemValue()
    .values(fresh.map((id) => ({ id, kind, unitId: id })));
  return fresh;
}

/** Joins the records of a closure anew; answers the products that gained, lost or kept a changed record. */
export async function rejoin(on: Executor, closure: readonly number[]): Promise<number[]> {
  const members = await loadMembers(on, closure);
  const byId = new Map(members.map((member) => [member.id, member]));
  const active = members.filter((member) => member.active);
  const traits = await traitsOf(on);
  const { components, proposals } = joinRecords(
    active.map((member) => toJoinRecord(member, traits)),
    await loadDecisions(on, closure),
  );
  await writeProposals(on, active, proposals);

  const best = (list: Member[]) => [...list].sort((a, b) => a.rank - b.rank || a.id - b.id);
  const groups = components.map((component) => best(component.flatMap((id) => byId.get(id) ?? [])));
  const owner = new Map<number, { group: number; rank: number; id: number }>();
  groups.forEach((group, g) => {
    for (const { product, rank, id } of group) {
      if (product === null) continue;
      const held = owner.get(product);
      if (!held || rank < held.rank || (rank === held.rank && id < held.id)) owner.set(product, { group: g, rank, id });
    }
  });
  const assigned: { record: number; product: number }[] = [];
  const merged: { from: number; into: number }[] = [];
  const toMake: { group: number; restore: number | null }[] = [];
  const productOf = groups.map((group, g) => {
    const own = group.flatMap(({ product }) => (product !== null && owner.get(product)?.group === g ? [product] : []));
    const [first, ...others] = [...new Set(own)];
    if (first === undefined)
      toMake.push({ group: g, restore: group.find(({ made }) => made !== null && !owner.has(made))?.made ?? null });
    else for (const from of others) merged.push({ from, into: first });
    return first;
  });
  for (const { group, restore } of toMake.filter((row) => row.restore !== null)) {
    productOf[group] = restore ?? undefined;
    await on
      .update(tables.product)
      .set({ mergedInto: null, removedBy: null })
      .where(eq(tables.product.id, restore ?? 0));
  }
  const fresh = toMake.filter((row) => row.restore === null);
  if (fresh.length > 0) {
    const made = await makeProducts(on, 'single', fresh.length);
    fresh.forEach(({ group }, i) => (productOf[group] = made[i]));
  }
  groups.forEach((group, g) => {
    for (const { id } of group) assigned.push({ record: id, product: productOf[g] ?? 0 });
  });
  if (merged.length > 0)
    await on.execute(
      sql`UPDATE product p SET merged_into = t."into" FROM jsonb_to_recordset(${json(merged)}) AS t("from" bigint, "into" bigint) WHERE p.id = t."from"`,
    );
  const touched = new Set<number>([
    ...members.flatMap(({ product }) => product ?? []),
    ...assigned.map((row) => row.product),
  ]);
  await on.execute(sql`
    UPDATE record r SET product_id = t.product, made_product_id = coalesce(r.made_product_id, t.product)
    FROM jsonb_to_recordset(${json(assigned)}) AS t(record bigint, product bigint)
    WHERE r.id = t.record AND r.product_id IS DISTINCT FROM t.product`);
  await on
    .update(tables.record)
    .set({ productId: null })
    .where(
      isIn(
        tables.record.id,
        members.filter((member) => !member.active).map((member) => member.id),
      ),
    );
  return [...touched];
}

async function writeProposals(
  on: Executor,
  active: Member[],
  proposals: ReturnType<typeof joinRecords>['proposals'],
): Promise<void> {
  const keys = active.flatMap((member) =>
    joinLevels.flatMap((kind: JoinLevel) => (member.keys?.[kind] ? [{ kind, key: member.keys[kind] }] : [])),
  );
  await on.execute(
    sql`DELETE FROM join_proposal p USING jsonb_to_recordset(${json(keys)}) AS t(kind text, key text) WHERE p.kind = t.kind AND p.key = t.key`,
  );
  if (proposals.length > 0)
    await on.execute(sql`
      INSERT INTO join_proposal (kind, key, records, reason, against)
      SELECT DISTINCT ON (level, key) level, key, records, reason, coalesce(against, '[]') FROM jsonb_to_recordset(${json(proposals)}) AS t(level text, key text, records jsonb, reason text, against jsonb)
      ON CONFLICT (kind, key) DO UPDATE SET records = excluded.records, reason = excluded.reason, against = excluded.against`);
}

/** Groups that part again: what had been merged into the family they shared is theirs once more. */
async function reviveFamilies(
  on: Executor,
  families: ReadonlyMap<number, { holders: number[] }>,
  chosen: Map<number, number>,
  taken: Set<number>,
): Promise<void> {
  const parting = [...families].filter(([group, { holders }]) => !chosen.has(group) && holders.length > 0);
  if (parting.length === 0) return;
  const merged = await on
    .select({ id: tables.product.id, into: sql<number>`${tables.product.mergedInto}` })
    .from(tables.product)
    .where(
      and(
        eq(tables.product.kind, 'family'),
        isIn(
          tables.product.mergedInto,
          parting.flatMap(([, { holders }]) => holders),
        ),
      ),
    )
    .orderBy(tables.product.id);
  for (const [group, { holders }] of parting) {
    const own = merged.find(({ id, into }) => holders.includes(into) && !taken.has(id));
    if (!own) continue;
    chosen.set(group, own.id);
    taken.add(own.id);
  }
}

/**
 * Family keys of products: what a person said of each, else those of its records that nobody broke up. Of a product that was
 * joined to another, what was said of it holds for that one, unless that has a word of its own.
 */
const keyed = (products: readonly number[]) => sql`
  placed AS (
    SELECT DISTINCT ON (1) coalesce(p.merged_into, p.id) AS product, g.family_key_id AS key
    FROM placement g JOIN product p ON p.id = g.product_id
    WHERE p.id = ANY(${ids(products)}) OR p.merged_into = ANY(${ids(products)}) ORDER BY 1, p.merged_into IS NOT NULL),
  keyed AS (
    SELECT r.product_id AS product, f.id AS key FROM record r JOIN family_key f ON f.id = r.family_key_id
    WHERE r.product_id = ANY(${ids(products)}) AND NOT f.parted AND r.product_id NOT IN (SELECT product FROM placed)
    UNION SELECT product, key FROM placed WHERE key IS NOT NULL AND EXISTS (SELECT 1 FROM record r WHERE r.product_id = product))`;

/** Families of these products: those whose variants share a family key are one. Answers the units touched. */
export async function regroup(on: Executor, products: readonly number[]): Promise<number[]> {
  const closure = new Set(products);
  let edge = [...closure];
  while (edge.length > 0) {
    const others = await queryRows<{ id: number }>(
      on,
      sql`WITH ${keyed(edge)}
          SELECT r.product_id AS id FROM record r WHERE r.family_key_id IN (SELECT key FROM keyed) AND r.product_id IS NOT NULL
          UNION SELECT coalesce(p.merged_into, p.id) FROM placement g JOIN product p ON p.id = g.product_id WHERE g.family_key_id IN (SELECT key FROM keyed)
          UNION SELECT v.id FROM product p JOIN product v ON v.family_id = p.family_id WHERE p.id = ANY(${ids(edge)})`,
    );
    edge = others.map(({ id }) => id).filter((id) => !closure.has(id));
    for (const id of edge) closure.add(id);
  }
  const pairs = await queryRows<{ product: number; key: number; family: number | null }>(
    on,
    sql`WITH ${keyed([...closure])}
        SELECT k.product, k.key, f.product_id AS family FROM keyed k JOIN family_key f ON f.id = k.key
        LEFT JOIN supplier s ON s.id = f.supplier_id ORDER BY s.rank NULLS LAST, f.id, k.product`,
  );
  const groupOf = shareKeys(pairs.map(({ product, key }) => [product, key] as const));
  /** Best-ranked key first within each group: its family product is the one that stays. */
  const families = new Map<number, { keys: number[]; holders: number[] }>();
  for (const { product, key, family } of pairs) {
    const group = groupOf.get(product) ?? 0;
    const entry = families.get(group) ?? { keys: [], holders: [] };
    families.set(group, entry);
    if (!entry.keys.includes(key)) entry.keys.push(key);
    if (family !== null && !entry.holders.includes(family)) entry.holders.push(family);
  }
  const taken = new Set<number>();
  const chosen = new Map<number, number>();
  const merged: { from: number; into: number }[] = [];
  for (const [group, { holders }] of families) {
    const first = holders.find((holder) => !taken.has(holder));
    if (first !== undefined) {
      chosen.set(group, first);
      taken.add(first);
    }
  }
  await reviveFamilies(on, families, chosen, taken);
  const missing = [...families.keys()].filter((group) => !chosen.has(group));
  if (missing.length > 0) {
    const made = await makeProducts(on, 'family', missing.length);
    missing.forEach((group, i) => chosen.set(group, made[i] ?? 0));
  }
  const keyRows: { key: number; family: number }[] = [];
  for (const [group, { keys, holders }] of families) {
    const family = chosen.get(group) ?? 0;
    for (const key of keys) keyRows.push({ key, family });
    for (const from of holders) if (from !== family && !taken.has(from)) merged.push({ from, into: family });
  }
  await on.execute(sql`
    UPDATE family_key f SET product_id = t.family FROM jsonb_to_recordset(${json(keyRows)}) AS t(key bigint, family bigint)
    WHERE f.id = t.key AND f.product_id IS DISTINCT FROM t.family`);
  await on
    .update(tables.product)
    .set({ mergedInto: null, removedBy: null })
    .where(and(isIn(tables.product.id, [...chosen.values()]), eq(tables.product.stands, false)));
  const before = await unitsOf(on, [...closure]);
  const members = [...closure].map((product) => {
    const group = groupOf.get(product);
    return { product, family: group === undefined ? null : (chosen.get(group) ?? null) };
  });
  await on.execute(sql`
    UPDATE product p SET family_id = t.family, unit_id = coalesce(t.family, p.id), kind = CASE WHEN t.family IS NULL THEN 'single' ELSE 'variant' END
    FROM jsonb_to_recordset(${json(members)}) AS t(product bigint, family bigint)
    WHERE p.id = t.product AND p.kind IN ('single', 'variant')
      AND (p.family_id IS DISTINCT FROM t.family OR p.unit_id <> coalesce(t.family, p.id))`);
  if (merged.length > 0)
    await on.execute(
      sql`UPDATE product p SET merged_into = t."into" FROM jsonb_to_recordset(${json(merged)}) AS t("from" bigint, "into" bigint) WHERE p.id = t."from"`,
    );
  return [...new Set([...before, ...members.map((member) => member.family ?? member.product)])];
}
