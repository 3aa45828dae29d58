/** The attribute dictionary as people keep it: made, changed, put away, each with its history. */
import type { AttributeFields, DictionaryRow } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { objectionTo } from '@velvet-shelf/core/computed';
import { foldText } from '@velvet-shelf/core/values';
import { asc, count, eq, inArray, isNull, sql } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { type Executor, first, queryOne, queryRows } from '../db/client.js';
import { act } from '../history/act.js';
import { deltaOfFields, sayKept, takeRowsBack } from '../history/fields.js';
import type { Undoing, Undone } from '../history/undo.js';
import { Problem, badRequest, conflict, nameTaken, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { runAside } from '../jobs/aside.js';
import { resolveAnew } from '../history/follow.js';
import { loadDictionary } from './dictionary.js';
import { addAttributes, addValues, lockDictionary } from './new.js';
import * as tables from '../db/schema/index.js';

const { attribute, listValue } = tables;

export async function listDictionary(on: Executor): Promise<DictionaryRow[]> {
  const all = await on.select().from(attribute).orderBy(asc(attribute.position), asc(attribute.id));
  const rows = all.filter(({ mergedInto }) => mergedInto === null);
  const lists = await on
    .select({ attribute: listValue.attributeId, n: count() })
    .from(listValue)
    .where(isNull(listValue.mergedInto))
    .groupBy(listValue.attributeId);
  const values = new Map(lists.map((list) => [list.attribute, list.n]));
  return rows.map(({ position: _, mergedInto: __, became: ___, ...row }) => ({
    ...row,
    isComputed: isComputed(row.key),
    formerKeys: all.flatMap(({ key, mergedInto }) => (mergedInto === row.id ? [key] : [])),
    values: values.get(row.id) ?? (row.type === 'choice' ? 0 : null),
  }));
}

/** How many goods have a value of each attribute, in whatever language. */
export async function countUses(on: Executor): Promise<Record<string, number>> {
  const counted = await queryRows<{ id: number; n: number }>(
    on,
    sql`SELECT a.id, count(*) AS n FROM product p LEFT JOIN product_text t ON t.product_id = p.id
        CROSS JOIN LATERAL (SELECT json_object_keys(p.facts) AS key UNION SELECT json_object_keys(t.texts)) k JOIN attribute a ON a.key = k.key
        WHERE p.stands AND p.kind IN ('variant', 'single') GROUP BY a.id`,
  );
  return Object.fromEntries(counted.map(({ id, n }) => [id, n]));
}

/** Whether some source or person says a value of it, goods that were taken away since included, or another was made one with it. */
async function isUsed(on: Executor, { id, key }: { id: number; key: string }): Promise<boolean> {
  const used = await queryOne<{ used: boolean }>(
    on,
    sql`SELECT EXISTS (SELECT 1 FROM claim_edit WHERE attribute_id = ${id}) OR EXISTS (SELECT 1 FROM attribute WHERE merged_into = ${id})
      OR EXISTS (SELECT 1 FROM record r JOIN record_content c ON c.id = r.content_id CROSS JOIN LATERAL json_object_keys(c.content -> 'values') k WHERE k = ${key} OR k LIKE ${`${key}@%`}) AS used`,
  );
  return used?.used ?? false;
}

/** Names are told apart as people read them. */
async function expectFreeNames(on: Executor, labels: readonly string[], except = 0): Promise<void> {
  const held = await on
    .select({ id: attribute.id, label: attribute.label })
    .from(attribute)
    .where(isNull(attribute.mergedInto));
  const taken = new Map(held.filter(({ id }) => id !== except).map(({ label }) => [foldText(label), label]));
  for (const label of labels) {
    const folded = foldText(label);
    if (taken.has(folded)) throw nameTaken(`There is an attribute named ${taken.get(folded)} already`, 'label');
    taken.set(folded, label);
  }
}

/** Throws where an attribute cannot be worked out as is said, or one that follows from it no more. */
export async function expectWorkable(on: Executor, key: string, changed: readonly string[]): Promise<void> {
  if (!workable.some((field) => changed.includes(field))) return;
  const { attributes } = await loadDictionary(on);
  for (const other of attributes.values()) {
    const follows = other.computed?.of.some((of) => attributes.get(of)?.key === key);
    if (!other.computed || (other.key !== key && !follows)) continue;
    const objection = objectionTo(other.computed, other, attributes);
    if (objection === undefined) continue;
    if (other.key === key) throw badRequest(objection, [{ pointer: '/body/computed', detail: objection }]);
    throw conflict(`${other.label} follows from it, and could not any more: ${objection}`);
  }
}
const workable = ['computed', 'type', 'many', 'perLanguage', 'dimension', 'level'];

type GivenAttribute = AttributeFields & { values: string[] };

export async function addToDictionary(
  services: Services,
  user: User,
  given: readonly GivenAttribute[],
): Promise<number[]> {
  const { answer } = await act(services, user, { kind: 'dictionary', tells: ['dictionary'] }, async (on) => {
    const { home } = await loadCompany(on.tx);
    await lockDictionary(on.tx);
    await expectFreeNames(
      on.tx,
      given.map(({ label }) => label),
    );
    const rows = await addAttributes(on.tx, given);
    for (const [i, { key }] of rows.entries()) if (given[i]?.computed) await expectWorkable(on.tx, key, ['computed']);
    for (const [i, { id, label }] of rows.entries()) {
      const { type, values = [] } = given[i] ?? {};
      const names = new Map(values.map((name) => [foldText(name), name]));
      if (type === 'choice')
        await addValues(
          on.tx,
          id,
          [...names.values()].map((name) => ({ names: { [home]: name } })),
        );
      on.change({ kind: 'attribute', id, delta: { created: [label] } });
    }
    on.say(`Made ${rows.length === 1 ? `the attribute ${rows[0]?.label}` : `${rows.length} attributes`}`);
    const followed = given.some(({ computed }) => computed) ? ['computed'] : [];
    return { ids: rows.map(({ id }) => id), job: await follow(on.tx, followed, on.id) };
  });
  if (answer.job !== null) runAside(answer.job).catch(() => undefined);
  return answer.ids;
}

/** Fields that say what values are: they stay as long as there are any. */
const ofValues = ['type', 'many', 'perLanguage', 'dimension'] as const;
/** Fields that what goods hold out follows from. */
const ofResolving = ['level', 'role', 'mergedInto', 'became', 'computed'] as const;

type Change = Partial<AttributeFields & { putAway: boolean }>;

/** Changes an attribute; where goods follow from what changed they are resolved anew by a job, which is answered. */
export async function changeAttribute(
  services: Services,
  user: User,
  id: number,
  { to, was }: { to: Change; was: Change },
): Promise<number | null> {
  const { answer: job } = await act(services, user, { kind: 'dictionary', tells: ['dictionary'] }, async (on) => {
    await lockDictionary(on.tx);
    const held = await first(on.tx.select().from(attribute).where(eq(attribute.id, id)));
    if (!held) throw notFound(`attribute ${id}`);
    if (isComputed(held.key)) throw conflict(`${held.label} follows from the sources: it stays as it is`);
    if (to.label !== undefined) await expectFreeNames(on.tx, [to.label], id);
    const delta = deltaOfFields(held, to, was);
    const changed = Object.keys(delta);
    if (changed.length === 0) return null;
    const touching = ofValues.filter((field) => changed.includes(field));
    if (touching.length > 0 && (await isUsed(on.tx, held)))
      throw new Problem(
        409,
        'Goods have values of it',
        `What the values of ${held.label} are stays as long as goods have any. Make a new attribute, and bring the values in again for it.`,
        touching.map((field) => ({ pointer: `/body/${field}`, detail: 'Goods have values of it: this stays' })),
      );
    await on.tx.update(attribute).set(to).where(eq(attribute.id, id));
    await expectWorkable(on.tx, held.key, changed);
    on.say(sayKept(`the attribute ${held.label}`, to));
    on.change({ kind: 'attribute', id, delta });
    return follow(on.tx, changed, on.id);
  });
  if (job !== null) runAside(job).catch(() => undefined);
  return job;
}

const follow = async (on: Executor, changed: readonly string[], action: number): Promise<number | null> =>
  ofResolving.some((field) => changed.includes(field))
    ? resolveAnew(on, 'Bringing all goods in line with the dictionary', action)
    : null;

async function isAnyComputed(on: Executor, ids: readonly number[]): Promise<boolean> {
  const rows = await on
    .select({ computed: attribute.computed })
    .from(attribute)
    .where(inArray(attribute.id, [...ids]));
  return rows.some(({ computed }) => computed !== null);
}

/** Takes back attributes that were made, where no goods have a value of them, and fields that are still as they were set. */
export async function undoDictionary(undoing: Pick<Undoing, 'tx' | 'actionId' | 'by'>): Promise<Undone> {
  const { tx, by } = undoing;
  await lockDictionary(tx);
  const inUse = async (row: { id: number; key: string; label: string }) => {
    if (await isUsed(tx, row)) return `${row.label}: goods have values of it`;
    const held = await loadDictionary(tx);
    const follows = [...held.attributes.values()].find(({ computed }) => computed?.of.includes(row.key));
    return follows && `${row.label}: ${follows.label} follows from it`;
  };
  let goneComputed = false;
  const { left, fields } = await takeRowsBack(undoing, 'attribute', {
    load: (id) => first(tx.select().from(attribute).where(eq(attribute.id, id))),
    say: ({ label }) => label,
    stays: inUse,
    remove: async (ids) => {
      // Nobody says a value of it; what was worked out goes with it.
      await tx.delete(tables.fact).where(inArray(tables.fact.attributeId, ids));
      goneComputed = await isAnyComputed(tx, ids);
      await tx.delete(tables.trustPolicy).where(inArray(tables.trustPolicy.attributeId, ids));
      await tx.delete(attribute).where(inArray(attribute.id, ids));
    },
    set: async (row, to) => {
      const why = ofValues.some((field) => field in to) ? await inUse(row) : undefined;
      if (why !== undefined) return why;
      await tx.update(attribute).set(to).where(eq(attribute.id, row.id));
      return undefined;
    },
  });
  await follow(tx, goneComputed ? [...fields, 'computed'] : [...fields], by);
  return { left };
}
