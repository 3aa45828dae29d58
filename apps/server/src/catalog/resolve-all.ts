/** All goods resolved anew: after a change that every value may follow from, such as of the company's own language. */
import { asc, and, gt, countDistinct, sql, eq } from 'drizzle-orm';
import type { JobContext } from '../jobs/define.js';
import { type Executor, first, isIn } from '../db/client.js';
import { markDirty } from '../history/dirty.js';
import { type Change, addChanges } from '../history/record.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { createJob } from '../jobs/run.js';
import { type ResolveInput, resolveEverything } from './jobs.js';
import { resolveUnits } from './resolve.js';
import * as tables from '../db/schema/index.js';

const atOnce = 500;

/** What else follows, of rooms above this one (`rooms.ts`). */
export type Following = (on: Executor, products: readonly number[]) => Promise<void>;
const followers: Following[] = [];
export function registerFollowing(following: Following): void {
  followers.push(following);
}

/** Units resolved anew, and what follows from that; answers what changed in them. */
export async function resolveAndFollow(
  tx: Executor,
  units: readonly number[],
  dictionary: Dictionary,
): Promise<Change[]> {
  const changes = await resolveUnits(tx, units, dictionary);
  await followResolved(tx, units);
  return changes;
}

async function followResolved(tx: Executor, units: readonly number[]): Promise<void> {
  const products = await tx
    .select({ id: tables.product.id })
    .from(tables.product)
    .where(isIn(tables.product.unitId, units));
  for (const follow of followers)
    await follow(
      tx,
      products.map(({ id }) => id),
    );
}

/** Job: goes through the units in their order; taken up again where it was left, twice is as once. */
export async function resolveAll({
  db,
  services,
  input,
  checkpoint,
  progress,
  saveCheckpoint,
  finish,
}: JobContext<ResolveInput>): Promise<void> {
  const dictionary = await loadDictionary(db);
  const all = await first(
    db
      .select({ n: countDistinct(tables.product.unitId) })
      .from(tables.product)
      .where(eq(tables.product.stands, true)),
  );
  let after = Number(checkpoint?.after ?? 0);
  let done = Number(checkpoint?.done ?? 0);
  for (;;) {
    await progress(done, all?.n ?? 0);
    const units = await db
      .selectDistinct({ unit: tables.product.unitId })
      .from(tables.product)
      .where(and(gt(tables.product.unitId, after), eq(tables.product.stands, true)))
      .orderBy(asc(tables.product.unitId))
      .limit(atOnce);
    const last = units.at(-1);
    if (!last) break;
    after = last.unit;
    done += units.length;
    const list = units.map(({ unit }) => unit);
    await db.transaction(async (tx) => {
      await addChanges(tx, input.action, await resolveAndFollow(tx, list, dictionary));
      await markDirty(tx, list);
      await saveCheckpoint(tx, { after, done });
    });
  }
  await db.transaction(async (tx) => {
    await tx.execute(sql`UPDATE place SET setup_version = nextval('setup_version_seq')`);
    await finish(tx);
  });
  services.notify('catalog');
  services.notify('listings');
}

/** Makes the job in the transaction of what it follows; null where there is nothing to resolve. */
export async function startResolving(on: Executor, label: string, action: number): Promise<number | null> {
  const any = await on.select({ id: tables.product.id }).from(tables.product).limit(1);
  return any.length === 0 ? null : createJob(on, resolveEverything, { label, input: { action }, actor: undefined });
}
