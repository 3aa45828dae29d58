/**
 * Two suppliers that are one. What the first has told is told by the other from then on: its files, records, sources, families
 * and place in every order of trust. Where both list an article number, the newer file speaks. The first keeps its row, which
 * says `merged_into`; goods are settled by a job.
 */
import { sql, and, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';
import { type Executor, first, ids, isIn, json, queryRows } from '../../db/client.js';
import { type Acting, act } from '../../history/act.js';
import { type Change, changesOf } from '../../history/record.js';
import type { Undoing, Undone } from '../../history/undo.js';
import { badRequest, conflict, notFound } from '../../http/problem.js';
import type { Services, User } from '../../http/route.js';
import { runAside } from '../../jobs/aside.js';
import { createJob } from '../../jobs/run.js';
import { lockJoins } from '../../matching/joins.js';
import { sayState } from '../batches.js';
import * as jobs from '../jobs.js';
import * as tables from '../../db/schema/index.js';

const { batch, pull, record, supplier, trustPolicy, warehouse } = tables;

/** What went over with a supplier, so that it can come back. */
const tookSchema = z.object({
  batches: z.array(z.number()),
  pulls: z.array(z.number()),
  families: z.array(z.number()),
  warehouse: z.number().nullable(),
  rankings: z.array(z.object({ attribute: z.number(), before: z.array(z.number()), after: z.array(z.number()) })),
});
type Took = z.infer<typeof tookSchema>;

const mergedDelta = z.object({
  mergedInto: z.tuple([z.null(), z.number()]),
  took: z.tuple([z.null(), tookSchema]),
});

/** `twin`: the record of the other supplier with its number, which has its contents now; `points`: our own sheet names it. */
export const movedDelta = z.object({
  supplier: z.tuple([z.number(), z.number()]),
  twin: z.tuple([z.number().nullable(), z.number().nullable()]).optional(),
  points: z.boolean().array().optional(),
});

/** Makes a supplier one with another; answers the job that settles their goods. */
export async function mergeSuppliers(services: Services, user: User, id: number, intoId: number): Promise<number> {
  const { answer } = await act(
    services,
    user,
    { kind: 'merge-suppliers', tells: ['suppliers', 'catalog'] },
    async (on) => {
      const { tx } = on;
      await lockJoins(tx);
      const [from, into] = await bothOf(tx, id, intoId);
      await expectIdle(tx, [from, into]);
      const moved = await moveRecords(on, id, intoId);
      const took = await moveRest(tx, id, intoId);
      await tx.update(supplier).set({ mergedInto: intoId }).where(eq(supplier.id, id));
      await tx.update(supplier).set({ mergedInto: intoId }).where(eq(supplier.mergedInto, id));
      on.change({ kind: 'supplier', id, delta: { mergedInto: [null, intoId], took: [null, took] } });
      // Of a supplier of hundred thousands they are more than one call takes.
      for (const one of moved) on.change(one);
      on.say(`Made the supplier ${from.name} one with ${into.name}`);
      return settling(tx, `Telling the goods that ${from.name} is ${into.name} now`, on.id);
    },
  );
  runAside(answer).catch(() => undefined);
  return answer;
}

const settling = (tx: Executor, label: string, action: number) =>
  createJob(tx, jobs.settleSupplier, { label, input: { action } });

type SupplierRow = typeof supplier.$inferSelect;

async function bothOf(tx: Executor, id: number, intoId: number): Promise<[SupplierRow, SupplierRow]> {
  const rows = await tx
    .select()
    .from(supplier)
    .where(isIn(supplier.id, [id, intoId]))
    .orderBy(supplier.id)
    .for('update');
  const [from, into] = [rows.find((row) => row.id === id), rows.find((row) => row.id === intoId)];
  if (!from) throw notFound(`supplier ${id}`);
  if (from.mergedInto !== null) throw conflict(`${from.name} was made one with another already`);
  const refuse = (detail: string) => badRequest(detail, [{ pointer: '/body/into', detail }]);
  if (!into || intoId === id || into.mergedInto !== null) throw refuse('Choose another supplier');
  if (from.kind === 'own' || into.kind === 'own')
    throw refuse('The own sheet is no supplier: its article numbers are our SKUs');
  return [from, into];
}

/** A batch that waits or runs counts on its supplier's records. */
async function expectIdle(tx: Executor, both: readonly SupplierRow[]): Promise<void> {
  const busy = await first(
    tx
      .select({ name: batch.fileName, state: batch.state })
      .from(batch)
      .where(
        and(
          isIn(
            batch.supplierId,
            both.map((row) => row.id),
          ),
          inArray(batch.state, ['tried', 'trying', 'applying', 'undoing']),
        ),
      )
      .limit(1),
  );
  if (!busy) return;
  throw conflict(
    busy.state === 'tried'
      ? `${busy.name} is tried and waits: apply it or throw it away first`
      : `${busy.name} is ${sayState(busy.state)}: wait until that is done`,
  );
}

/** Records go over; those whose number the other has too give it their contents. Goods and families that end with that are joined. */
async function moveRecords({ tx }: Pick<Acting, 'tx'>, from: number, to: number): Promise<Change[]> {
  const own = await queryRows<{ id: number; twin: number | null; product: number | null; other: number | null }>(
    tx,
    sql`SELECT a.id, b.id AS twin, a.product_id AS product, b.product_id AS other FROM record a
        LEFT JOIN record b ON b.supplier_id = ${to} AND b.key = a.key WHERE a.supplier_id = ${from} ORDER BY a.id`,
  );
  const pointing = await queryRows<{ id: number }>(
    tx,
    sql`SELECT DISTINCT k.record_id AS id FROM record_key k JOIN record r ON r.id = k.record_id
        WHERE k.kind = 'number' AND starts_with(k.key, ${`${from}:`}) AND r.supplier_id <> ${from} ORDER BY 1`,
  );
  const twins = own.flatMap(({ id, twin }) => (twin === null ? [] : [{ id, twin }]));
  await giveContents(tx, twins);
  await tx.execute(sql`
    UPDATE product p SET merged_into = t.other FROM jsonb_to_recordset(${json(own.filter(({ twin }) => twin !== null))}) AS t(id bigint, product bigint, other bigint)
    WHERE p.id = t.product AND t.other <> t.product AND p.stands
      AND NOT EXISTS (SELECT 1 FROM record r WHERE r.product_id = p.id AND r.id <> t.id AND r.content_id IS NOT NULL)`);
  await tx.execute(sql`
    UPDATE product p SET merged_into = b.product_id FROM family_key a JOIN family_key b ON b.supplier_id = ${to} AND b.key = a.key
    WHERE a.supplier_id = ${from} AND p.id = a.product_id AND b.product_id <> a.product_id AND p.stands
      AND NOT EXISTS (SELECT 1 FROM family_key f WHERE f.product_id = p.id AND f.id <> a.id)`);
  const whole = own.filter(({ twin }) => twin === null).map(({ id }) => id);
  await tx.update(record).set({ supplierId: to }).where(isIn(record.id, whole));
  await renumber(tx, [...own, ...pointing].map(({ id }) => id).concat(twins.map(({ twin }) => twin)), from, to);
  const change = (id: number, more: Record<string, unknown[]>): Change => ({
    kind: 'record',
    id,
    delta: { supplier: [from, to], ...more },
  });
  return [
    ...own.map(({ id, twin }) => change(id, twin === null ? {} : { twin: [null, twin] })),
    ...pointing.map(({ id }) => change(id, { points: [true] })),
  ];
}

/** What the first of each pair has said is said by the second; of `only` these batches, where they are named. */
async function giveContents(
  tx: Executor,
  pairs: readonly { id: number; twin: number }[],
  only?: readonly number[],
): Promise<void> {
  if (pairs.length === 0) return;
  const table = sql`jsonb_to_recordset(${json(pairs)}) AS t(id bigint, twin bigint)`;
  const narrowed = (rows: string) => (only ? sql`AND ${sql.raw(rows)}.batch_id = ANY(${ids(only)})` : sql``);
  await tx.execute(sql`
    UPDATE record_content c SET record_id = t.twin FROM ${table}, record_version v
    WHERE v.record_id = t.id AND c.id = v.content_id ${narrowed('v')}`);
  await tx.execute(
    sql`UPDATE record_version v SET record_id = t.twin FROM ${table} WHERE v.record_id = t.id ${narrowed('v')}`,
  );
  await tx.execute(
    sql`UPDATE batch_row w SET record_id = t.twin FROM ${table} WHERE w.record_id = t.id ${narrowed('w')}`,
  );
}

/** Keys by article number name the supplier. */
async function renumber(tx: Executor, records: readonly number[], from: number, to: number): Promise<void> {
  await tx.execute(sql`
    UPDATE record_content c SET keys = jsonb_set(c.keys::jsonb, '{number}', to_jsonb(${`${to}`} || substr(c.keys ->> 'number', ${`${from}`.length + 1})))::json
    WHERE c.record_id = ANY(${ids(records)}) AND starts_with(c.keys ->> 'number', ${`${from}:`})`);
}

async function moveRest(tx: Executor, from: number, to: number): Promise<Took> {
  const batches = await tx
    .update(batch)
    .set({ supplierId: to })
    .where(eq(batch.supplierId, from))
    .returning({ id: batch.id });
  const pulls = await tx
    .update(pull)
    .set({ supplierId: to })
    .where(eq(pull.supplierId, from))
    .returning({ id: pull.id });
  await tx.execute(sql`
    INSERT INTO column_map (supplier_id, signature, map, at) SELECT ${to}, signature, map, at FROM column_map WHERE supplier_id = ${from}
    ON CONFLICT DO NOTHING`);
  const families = await queryRows<{ id: number }>(
    tx,
    sql`UPDATE family_key a SET supplier_id = ${to} WHERE a.supplier_id = ${from}
        AND NOT EXISTS (SELECT 1 FROM family_key b WHERE b.supplier_id = ${to} AND b.key = a.key) RETURNING a.id`,
  );
  const stores = await queryRows<{ id: number }>(
    tx,
    sql`UPDATE warehouse w SET supplier_id = ${to} WHERE w.supplier_id = ${from}
        AND NOT EXISTS (SELECT 1 FROM warehouse x WHERE x.supplier_id = ${to}) RETURNING w.id`,
  );
  const rankings: Took['rankings'] = [];
  for (const { attribute, ranking } of await tx
    .select({ attribute: trustPolicy.attributeId, ranking: trustPolicy.ranking })
    .from(trustPolicy)
    .for('update')) {
    const before = ranking?.map(Number) ?? [];
    if (!before.includes(from)) continue;
    const after = [...new Set(before.map((one) => (one === from ? to : one)))];
    await tx.update(trustPolicy).set({ ranking: after }).where(eq(trustPolicy.attributeId, attribute));
    rankings.push({ attribute, before, after });
  }
  const idsOf = (rows: readonly { id: number }[]) => rows.map(({ id }) => Number(id));
  return {
    batches: idsOf(batches),
    pulls: idsOf(pulls),
    families: idsOf(families),
    warehouse: stores[0] ? Number(stores[0].id) : null,
    rankings,
  };
}

/** Parts them again: what a file has said since the merge stays with the one it was read for. */
export async function undoMerge({ tx, actionId, by }: Undoing): Promise<Undone> {
  await lockJoins(tx);
  const [merged] = await changesOf(tx, actionId, 'supplier', mergedDelta);
  if (!merged) return { left: [] };
  const { id: from, delta } = merged;
  const [, to] = delta.mergedInto;
  const [, took] = delta.took;
  const both = await tx
    .select()
    .from(supplier)
    .where(isIn(supplier.id, [from, to]))
    .for('update');
  await expectIdle(tx, both);
  await tx.update(supplier).set({ mergedInto: null }).where(eq(supplier.id, from));
  await tx
    .update(batch)
    .set({ supplierId: from })
    .where(and(isIn(batch.id, took.batches), eq(batch.supplierId, to)));
  await tx
    .update(pull)
    .set({ supplierId: from })
    .where(and(isIn(pull.id, took.pulls), eq(pull.supplierId, to)));
  const { left, changes } = await returnRecords(tx, { actionId, from, to, batches: took.batches });
  await tx.execute(sql`
    UPDATE family_key f SET supplier_id = ${from} WHERE f.id = ANY(${ids(took.families)}) AND f.supplier_id = ${to}
      AND NOT EXISTS (SELECT 1 FROM record r WHERE r.family_key_id = f.id AND r.supplier_id = ${to} AND r.content_id IS NOT NULL)`);
  if (took.warehouse !== null)
    await tx
      .update(warehouse)
      .set({ supplierId: from })
      .where(and(eq(warehouse.id, took.warehouse), eq(warehouse.supplierId, to)));
  for (const { attribute, before, after } of took.rankings)
    await tx.execute(
      sql`UPDATE trust_policy SET ranking = ${ids(before)} WHERE attribute_id = ${attribute} AND ranking = ${ids(after)}`,
    );
  const name = both.find((row) => row.id === from)?.name;
  const job = await settling(tx, `Telling the goods that ${name} is a supplier of its own again`, by);
  runAside(job).catch(() => undefined);
  return { left, changes };
}

async function returnRecords(
  tx: Executor,
  { actionId, from, to, batches }: { actionId: number; from: number; to: number; batches: readonly number[] },
): Promise<{ left: string[]; changes: Change[] }> {
  const moved = await changesOf(tx, actionId, 'record', movedDelta);
  const twins = moved.flatMap(({ id, delta: { twin } }) => (twin?.[1] ? [{ id: twin[1], twin: id }] : []));
  const whole = moved.filter(({ delta: { twin, points } }) => !twin && !points).map(({ id }) => id);
  // What later files list as well is theirs now.
  const later = await queryRows<{ id: number }>(
    tx,
    sql`SELECT DISTINCT v.record_id AS id FROM record_version v WHERE v.record_id = ANY(${ids(whole)}) AND v.batch_id <> ALL(${ids(batches)})`,
  );
  const staying = new Set(later.map(({ id }) => Number(id)));
  const back = whole.filter((id) => !staying.has(id));
  await giveContents(tx, twins, batches);
  await tx
    .update(record)
    .set({ supplierId: from })
    .where(and(isIn(record.id, back), eq(record.supplierId, to)));
  const pointing = moved.filter(({ delta }) => delta.points).map(({ id }) => id);
  const returned = twins.map(({ twin }) => twin);
  await renumber(tx, [...back, ...returned, ...pointing], to, from);
  const change = (id: number, more: Record<string, unknown[]> = {}): Change => ({
    kind: 'record',
    id,
    delta: { supplier: [to, from], ...more },
  });
  return {
    left: staying.size > 0 ? [`${staying.size} records that later files list as well stay where they are`] : [],
    changes: [
      ...[...back, ...pointing].map((id) => change(id)),
      ...twins.map(({ id, twin }) => change(twin, { twin: [id, null] })),
    ],
  };
}
