/** What follows from other contents of records: keys, joins, families, offers, values; and what whole lists no longer have. */
import { sameForFamily } from '@velvet-shelf/core/intake';
import { sameTraits, traitKeys } from '@velvet-shelf/core/matching';
import { canonical } from '@velvet-shelf/core/values';
import { sql } from 'drizzle-orm';
import type { Dictionary } from '../../dictionary/dictionary.js';
import { resolveUnits, resolveVariants } from '../../catalog/resolve.js';
import { type Executor, ids, queryOne, queryRows, isIn } from '../../db/client.js';
import { refreshStatistics } from '../../db/statistics.js';
import { addChanges } from '../../history/record.js';
import { markDirty } from '../../history/dirty.js';
import { counting } from '../../claims/versions.js';
import { reach, refreshKeys, regroup, rejoin } from '../../matching/joins.js';
import { followStock } from '../../stock/follow.js';
import { applyOffers, settleStock } from '../../stock/offers.js';
import * as tables from '../../db/schema/index.js';
import { unitsOf } from '../../catalog/units.js';

/** Marks what a supplier's whole list no longer has, and unmarks what it has again; goods say so themselves. */
export async function settleDropped(
  tx: Executor,
  batchId: number,
  { actionId, dictionary }: { actionId: number; dictionary: Dictionary },
): Promise<void> {
  const latest = await queryOne<{ id: number | null; supplier: number }>(
    tx,
    sql`SELECT max(w.id) AS id, b.supplier_id AS supplier FROM batch b LEFT JOIN batch w ON w.supplier_id = b.supplier_id
          AND w.scope = 'whole' AND w.kind <> 'round-trip' AND w.state IN ${counting}
        WHERE b.id = ${batchId} GROUP BY 2`,
  );
  const whole = latest?.id ?? 0;
  const changed = await queryRows<{ product: number | null }>(
    tx,
    sql`WITH listed AS MATERIALIZED (SELECT DISTINCT record_key AS key FROM batch_row WHERE batch_id = ${whole} AND record_key IS NOT NULL),
        named AS MATERIALIZED (
          SELECT w.record_id AS id FROM batch n JOIN batch_row w ON w.batch_id = n.id
          WHERE n.supplier_id = ${latest?.supplier ?? 0} AND n.id > ${whole} AND n.state IN ${counting} AND w.outcome <> 'refused' AND NOT w.left_out),
        now AS (
          SELECT r.id, ${whole} > 0 AND r.content_id IS NOT NULL AND k.key IS NULL AND r.id NOT IN (SELECT id FROM named WHERE id IS NOT NULL) AS dropped
          FROM record r LEFT JOIN listed k ON k.key = r.key WHERE r.supplier_id = ${latest?.supplier ?? 0} AND (k.key IS NULL OR r.dropped))
        UPDATE record r SET dropped = now.dropped FROM now WHERE now.id = r.id AND r.dropped <> now.dropped RETURNING r.product_id AS product`,
  );
  const products = changed.flatMap((batchRow) => batchRow.product ?? []);
  if (products.length === 0) return;
  const list = await unitsOf(tx, products);
  await addChanges(tx, actionId, await resolveUnits(tx, list, dictionary));
  await markDirty(tx, list);
}

/** The current content of records, and all that follows from it: joins, families, offers, products, listings to re-check. */
export async function settleRecords(
  tx: Executor,
  records: readonly number[],
  { actionId, batchId, dictionary }: { actionId: number; batchId: number | undefined; dictionary: Dictionary },
): Promise<void> {
  const changed = await queryRows<Settled>(
    tx,
    sql`UPDATE record r SET content_id = now.content_id FROM (
          SELECT x.id, o.content_id AS old, (SELECT v.content_id FROM record_version v JOIN batch b ON b.id = v.batch_id
            WHERE v.record_id = x.id AND b.state IN ${counting} AND v.batch_id > coalesce(o.silent_after, 0) ORDER BY v.batch_id DESC LIMIT 1) AS content_id
          FROM unnest(${ids(records)}) AS x(id) JOIN record o ON o.id = x.id) now
        WHERE now.id = r.id AND r.content_id IS DISTINCT FROM now.content_id
        RETURNING r.id, r.product_id AS product, now.old AS before, now.content_id AS after`,
  );
  const list = changed.map((record) => record.id);
  if (list.length === 0) return;
  const isLight = await findLight(tx, changed, dictionary);
  const heavy = changed.filter((record) => !isLight(record)).map((record) => record.id);
  const light = changed.flatMap((record) => (isLight(record) && record.product !== null ? [record.product] : []));
  let units: number[] = [];
  let joined: number[] = [];
  if (heavy.length > 0) {
    const before = await reach(tx, heavy);
    await refreshKeys(tx, heavy);
    await refreshStatistics(tx, heavy.length, ['record_key', 'family_key']);
    const closure = await reach(tx, before);
    joined = await rejoin(tx, closure);
    await refreshStatistics(tx, joined.length, ['product']);
    units = await regroup(tx, joined);
  }
  const offers = batchId === undefined ? [] : await applyOffers(tx, list, { batchId, actionId });
  await settleStock(tx, [...new Set([...joined, ...light])], { actionId, batchId });
  const changes = await resolveUnits(tx, units, dictionary);
  const resolved = new Set(units);
  const beside = await tx
    .select({ id: tables.product.id, unit: tables.product.unitId })
    .from(tables.product)
    .where(isIn(tables.product.id, light));
  const alone = beside.filter((product) => !resolved.has(product.unit));
  if (alone.length > 0)
    changes.push(
      ...(await resolveVariants(
        tx,
        alone.map((row) => row.id),
        dictionary,
      )),
    );
  changes.push(...(await followStock(tx, light)));
  await addChanges(tx, actionId, [...changes, ...offers]);
  await markDirty(tx, [...new Set([...units, ...beside.map((product) => product.unit)])]);
}

/** A record whose content is another one now. */
interface Settled {
  id: number;
  product: number | null;
  before: number | null;
  after: number | null;
}

/** Light: same keys, family, options, family-level values and traits that others are held against, so that joins and siblings stay as they are. */
async function findLight(
  tx: Executor,
  changed: readonly Settled[],
  { attributes }: Dictionary,
): Promise<(settled: Settled) => boolean> {
  const both = changed.filter(({ product, before, after }) => product !== null && before !== null && after !== null);
  const contents = await tx
    .select({
      id: tables.recordContent.id,
      content: tables.recordContent.content,
      keys: tables.recordContent.keys,
    })
    .from(tables.recordContent)
    .where(
      isIn(
        tables.recordContent.id,
        both.flatMap(({ before, after }) => [before ?? 0, after ?? 0]),
      ),
    );
  const byId = new Map(contents.map((content) => [content.id, content]));
  const traits = traitKeys(attributes);
  const light = new Set<number>();
  const othersMatter = new Set<number>();
  for (const { id, before, after } of both) {
    const [was, is] = [byId.get(before ?? 0), byId.get(after ?? 0)];
    if (!was || !is || canonical(was.keys) !== canonical(is.keys)) continue;
    if (!sameForFamily(was.content, is.content, attributes)) continue;
    light.add(id);
    if (!sameTraits(was.content, is.content, traits)) othersMatter.add(id);
  }
  // What it says of itself speaks for or against joins with whoever has a key of it.
  const met = await queryRows<{ id: number }>(
    tx,
    sql`SELECT DISTINCT mine.record_id AS id FROM record_key mine JOIN record_key o ON o.kind = mine.kind AND o.key = mine.key AND o.record_id <> mine.record_id
        WHERE mine.record_id = ANY(${ids([...othersMatter])})`,
  );
  for (const { id } of met) light.delete(id);
  return ({ id }) => light.has(id);
}
