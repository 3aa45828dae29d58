/** Values of closed lists as people keep them, our category tree among them: made, renamed, moved, put away, each with its history. */
import type { ListValueAnswer, ValueFields } from '@velvet-shelf/contract';
import { foldText, groupBy } from '@velvet-shelf/core/values';
import { asc, eq, inArray, sql } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { type Executor, first, isAmong, queryRows, texts } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import { deltaOfFields, fieldsOfAction, takeRowsBack } from '../history/fields.js';
import { resolveAnew } from '../history/follow.js';
import type { Undoing, Undone } from '../history/undo.js';
import { runAside } from '../jobs/aside.js';
import { badRequest, conflict, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { addValues, categoryAttribute, lockDictionary } from './new.js';
import * as tables from '../db/schema/index.js';

const { listValue, attribute } = tables;
export type ValueRow = typeof listValue.$inferSelect;
type Row = ValueRow;

const fieldsOf = ({ names, spellings, parentId, position, requires, hidden }: Row): ValueFields => ({
  names,
  spellings,
  parentId,
  position,
  requires,
  hidden,
});

/** A list as it stands, those that were made one with another among them, in their order. */
export const rowsOf = (on: Executor, attributeId: number): Promise<Row[]> =>
  on
    .select()
    .from(listValue)
    .where(eq(listValue.attributeId, attributeId))
    .orderBy(asc(listValue.position), asc(listValue.id));

const nameOf = ({ names, key }: Row, home: string) => names[home] ?? Object.values(names)[0] ?? key;

/** Names from the root down, in the company's own language. */
export function pathsOf(rows: readonly Row[], home: string): Map<number, string[]> {
  const byId = new Map(rows.map((row) => [row.id, row]));
  return new Map(
    rows.map((row) => {
      const path: string[] = [];
      for (let at: Row | undefined = row; at && path.length <= rows.length; at = byId.get(at.parentId ?? 0))
        path.unshift(nameOf(at, home));
      return [row.id, path];
    }),
  );
}

export async function listValues(on: Executor, attributeId: number): Promise<ListValueAnswer[]> {
  const held = await first(on.select().from(attribute).where(eq(attribute.id, attributeId)));
  if (!held) throw notFound(`attribute ${attributeId}`);
  const { home } = await loadCompany(on);
  const rows = (await rowsOf(on, attributeId)).filter(({ mergedInto }) => mergedInto === null);
  const paths = pathsOf(rows, home);
  const counted = await queryRows<{ key: string; n: number }>(
    on,
    held.role === 'category'
      ? sql`SELECT category AS key, count(*) AS n FROM product WHERE category IS NOT NULL AND kind IN ('variant', 'single') AND stands GROUP BY 1`
      : sql`SELECT v.key, count(*) AS n FROM product p CROSS JOIN LATERAL (SELECT p.facts -> ${held.key} AS said) s
            CROSS JOIN LATERAL json_array_elements_text(CASE json_typeof(s.said) WHEN 'array' THEN s.said ELSE json_build_array(s.said) END) v(key)
            WHERE s.said IS NOT NULL AND p.kind IN ('variant', 'single') AND p.stands GROUP BY 1`,
  );
  const goods = new Map(counted.map(({ key, n }) => [key, n]));
  return inTreeOrder(rows).map((row) => ({
    ...fieldsOf(row),
    id: row.id,
    key: row.key,
    path: paths.get(row.id) ?? [],
    goods: goods.get(row.key) ?? 0,
  }));
}

/** Each before what stands below it, those beside one another in their order. */
function inTreeOrder(rows: readonly Row[]): Row[] {
  const ids = new Set(rows.map(({ id }) => id));
  const below = new Map<number | null, Row[]>();
  for (const row of rows) {
    const parent = row.parentId !== null && ids.has(row.parentId) ? row.parentId : null;
    below.set(parent, [...(below.get(parent) ?? []), row]);
  }
  const walk = (parent: number | null): Row[] => (below.get(parent) ?? []).flatMap((row) => [row, ...walk(row.id)]);
  return walk(null);
}

export interface Made {
  made: number;
  known: number;
}

/** Adds what is not there yet of paths of names, as part of an action; of a path whose end is there nothing is made. */
export async function makeValues(
  on: Pick<Acting, 'tx' | 'change'>,
  attributeId: number,
  paths: readonly (readonly string[])[],
  below: number | null = null,
): Promise<Made> {
  await lockDictionary(on.tx);
  const { home } = await loadCompany(on.tx);
  const rows = await rowsOf(on.tx, attributeId);
  if (below !== null && !rows.some(({ id }) => id === below)) throw notFound(`value ${below} on this list`);
  const slot = (parent: number | null, name: string) => `${parent ?? ''} ${foldText(name)}`;
  const known = new Map(
    rows.flatMap((row) =>
      [...Object.values(row.names), ...row.spellings].map(
        (name) => [slot(row.parentId, name), row.mergedInto ?? row.id] as const,
      ),
    ),
  );
  const keys = new Map(rows.map(({ id, key }) => [id, key]));
  const counts = { made: 0, known: 0 };
  for (const path of paths) {
    let at = below;
    let isNew = false;
    for (const name of path) {
      const held = known.get(slot(at, name));
      if (held !== undefined) {
        at = held;
        continue;
      }
      const parent = at === null ? undefined : keys.get(at);
      const [row] = await addValues(on.tx, attributeId, [
        { names: { [home]: name.trim() }, ...(parent === undefined ? {} : { parent }) },
      ]);
      if (!row) continue;
      known.set(slot(at, name), row.id);
      keys.set(row.id, row.key);
      on.change({ kind: 'list value', id: row.id, delta: { created: [name.trim()] } });
      at = row.id;
      isNew = true;
      counts.made++;
    }
    if (!isNew) counts.known++;
  }
  return counts;
}

/** Adds values to a list, or categories to our tree where no list is named. */
export async function addToList(
  services: Services,
  user: User,
  list: number | undefined,
  { paths, below }: { paths: string[][]; below: number | null },
): Promise<Made> {
  const { answer } = await act(services, user, { kind: 'list', tells: ['dictionary'] }, async (on) => {
    const id = list ?? (await categoryAttribute(on.tx));
    const held = await first(on.tx.select().from(attribute).where(eq(attribute.id, id)));
    if (!held) throw notFound(`attribute ${id}`);
    if (held.type !== 'choice') throw conflict(`${held.label} may be anything: it has no list`);
    const made = await makeValues(on, id, paths, below);
    if (made.made > 0)
      on.say(
        made.made === 1
          ? `New on the list of ${held.label}: ${paths.at(-1)?.join(' / ')}`
          : `${made.made} new values on the list of ${held.label}`,
      );
    return made;
  });
  return answer;
}

/** Changes a value; what refers to it refers to it still. */
export async function changeValue(
  services: Services,
  user: User,
  id: number,
  { to, was }: { to: Partial<ValueFields>; was: Partial<ValueFields> },
): Promise<number | null> {
  const { answer: job } = await act(services, user, { kind: 'list', tells: ['dictionary', 'catalog'] }, async (on) => {
    await lockDictionary(on.tx);
    const held = await first(on.tx.select().from(listValue).where(eq(listValue.id, id)));
    if (!held) throw notFound(`value ${id}`);
    const { home } = await loadCompany(on.tx);
    if (held.mergedInto !== null) throw conflict('It was made one with another: look at the list as it is now');
    const rows = (await rowsOf(on.tx, held.attributeId)).filter(({ mergedInto }) => mergedInto === null);
    expectPlace(rows, held, { ...fieldsOf(held), ...to });
    const delta = deltaOfFields(fieldsOf(held), to, was);
    if (Object.keys(delta).length === 0) return null;
    await expectAttributes(on.tx, to.requires ?? []);
    await on.tx.update(listValue).set(to).where(eq(listValue.id, id));
    on.say(sayChange((pathsOf(rows, home).get(id) ?? []).join(' / '), to));
    on.change({ kind: 'list value', id, delta });
    await touchPlaces(on);
    // What is required is inherited: where a value stands says what it requires.
    const isRequired = rows.some(({ requires }) => requires.length > 0) && 'parentId' in delta;
    return 'requires' in delta || isRequired
      ? resolveAnew(on.tx, 'Telling the goods what their category requires', on.id)
      : null;
  });
  if (job !== null) runAside(job).catch(() => undefined);
  return job;
}

/** Moves a value below another or to the root, before one that stands there; those beside it take their places anew. */
export async function moveValue(
  services: Services,
  user: User,
  id: number,
  { parentId, before, wasBelow }: { parentId: number | null; before: number | null; wasBelow: number | null },
): Promise<number | null> {
  const { answer: job } = await act(services, user, { kind: 'list', tells: ['dictionary', 'catalog'] }, async (on) => {
    await lockDictionary(on.tx);
    const found = await first(on.tx.select().from(listValue).where(eq(listValue.id, id)));
    if (!found || found.mergedInto !== null) throw notFound(`value ${id}`);
    if (found.parentId !== wasBelow) throw stale('It was moved meanwhile: look at the list as it is now', {});
    const { home } = await loadCompany(on.tx);
    const rows = (await rowsOf(on.tx, found.attributeId)).filter(({ mergedInto }) => mergedInto === null);
    expectPlace(rows, found, { ...fieldsOf(found), parentId });
    const beside = rows.filter((row) => row.parentId === parentId && row.id !== id);
    const at = before === null ? beside.length : beside.findIndex((row) => row.id === before);
    if (at < 0) throw notFound(`value ${before} there`);
    const ordered = [...beside.slice(0, at), found, ...beside.slice(at)];
    // The places they have, and one more: nothing else of the list moves.
    const free = [...new Set([...beside.map(({ position }) => position), found.position])].sort((a, b) => a - b);
    while (free.length < ordered.length) free.push((free.at(-1) ?? 0) + 1);
    for (const [i, row] of ordered.entries()) {
      const to = { position: free[i] ?? i, ...(row.id === id ? { parentId } : {}) };
      const delta = deltaOfFields(fieldsOf(row), to, fieldsOf(row));
      if (Object.keys(delta).length === 0) continue;
      await on.tx.update(listValue).set(to).where(eq(listValue.id, row.id));
      on.change({ kind: 'list value', id: row.id, delta });
    }
    on.say(`Moved ${(pathsOf(rows, home).get(id) ?? []).join(' / ')}`);
    await touchPlaces(on);
    const isRequired = parentId !== wasBelow && rows.some(({ requires }) => requires.length > 0);
    return isRequired ? resolveAnew(on.tx, 'Telling the goods what their category requires', on.id) : null;
  });
  if (job !== null) runAside(job).catch(() => undefined);
  return job;
}

/** Refuses keys that no attribute has. */
async function expectAttributes(on: Executor, keys: readonly string[]): Promise<void> {
  const known = await on.select({ key: attribute.key }).from(attribute).where(isAmong(attribute.key, keys));
  const unknown = keys.find((key) => !known.some((row) => row.key === key));
  if (unknown !== undefined)
    throw badRequest(`There is no attribute “${unknown}”`, [
      { pointer: '/body/to/requires', detail: 'No attribute of ours' },
    ]);
}

/** Names that channels are sent, and what stands below what, are read by every place. */
export async function touchPlaces(on: Pick<Acting, 'tx' | 'dirtyPlace'>): Promise<void> {
  for (const { id } of await on.tx.select({ id: tables.place.id }).from(tables.place)) await on.dirtyPlace(id);
}

function sayChange(name: string, to: Partial<ValueFields>): string {
  if (to.hidden !== undefined) return to.hidden ? `Put ${name} away` : `Took ${name} back`;
  if (to.requires !== undefined) return `Said what ${name} requires`;
  if (to.names !== undefined) return `Renamed ${name}`;
  return to.parentId === undefined ? `Changed ${name}` : `Moved ${name}`;
}

/** Refuses a place below itself, one that is not on its list, and a name that another beside it has. */
function expectPlace(rows: readonly Row[], held: Row, to: ValueFields): void {
  if (Object.keys(to.names).length === 0)
    throw badRequest('A value has a name', [{ pointer: '/body/to/names', detail: 'Give a name' }]);
  const byId = new Map(rows.map((row) => [row.id, row]));
  if (to.parentId !== null && !byId.has(to.parentId)) throw notFound(`value ${to.parentId} on this list`);
  for (let at = to.parentId; at !== null; at = byId.get(at)?.parentId ?? null)
    if (at === held.id) throw conflict('Nothing stands below itself: choose another place for it');
  const own = new Set(Object.values(to.names).map(foldText));
  const beside = rows.find(
    (row) =>
      row.id !== held.id &&
      row.parentId === to.parentId &&
      Object.values(row.names).some((name) => own.has(foldText(name))),
  );
  if (beside)
    throw conflict(`${Object.values(beside.names)[0]} stands there already: give another name, or make the two one`);
}

/** Of keys on a list, those that goods have, whoever says so, or a map is of. */
async function usedKeys(on: Executor, attributeId: number, keys: readonly string[]): Promise<Set<string>> {
  const held = await first(on.select({ key: attribute.key }).from(attribute).where(eq(attribute.id, attributeId)));
  const used = await queryRows<{ key: string }>(
    on,
    sql`WITH sought AS (SELECT unnest(${texts(keys)}) AS key),
          said AS (
            SELECT (c.content -> 'values' -> ${held?.key ?? ''})::jsonb AS value FROM record r JOIN record_content c ON c.id = r.content_id
            UNION ALL SELECT value::jsonb FROM claim_edit WHERE attribute_id = ${attributeId})
        SELECT DISTINCT s.key FROM sought s JOIN (
          SELECT jsonb_array_elements_text(CASE jsonb_typeof(value) WHEN 'array' THEN value ELSE jsonb_build_array(value) END) AS key
          FROM said WHERE value IS NOT NULL) v ON v.key = s.key
        UNION SELECT s.key FROM sought s JOIN category_map m ON m.category = s.key`,
  );
  return new Set(used.map(({ key }) => key));
}

/** Of values that were made, those that must stay: what something has, and all that it stands below. */
async function staying(on: Executor, created: readonly number[]): Promise<Set<number>> {
  if (created.length === 0) return new Set();
  const made = await on
    .select()
    .from(listValue)
    .where(inArray(listValue.id, [...created]));
  const stay = new Set<number>();
  for (const [attributeId, ofList] of groupBy(made, (row) => row.attributeId)) {
    const used = await usedKeys(
      on,
      attributeId,
      ofList.map(({ key }) => key),
    );
    const rows = new Map((await rowsOf(on, attributeId)).map((row) => [row.id, row]));
    const ids = new Set(ofList.map(({ id }) => id));
    for (const row of rows.values())
      if (!ids.has(row.id) || used.has(row.key))
        for (const from of [row.id, row.mergedInto ?? row.id])
          for (let at = rows.get(from); at && !stay.has(at.id); at = rows.get(at.parentId ?? 0)) stay.add(at.id);
  }
  return stay;
}

/** Takes back values that were made, where nothing has them nor stands below them, and fields that are still as they were set. */
export async function undoLists(
  undoing: Pick<Undoing, 'tx' | 'actionId'> & Partial<Pick<Undoing, 'dirtyPlace' | 'by'>>,
): Promise<Undone> {
  const { tx, actionId, dirtyPlace, by } = undoing;
  await lockDictionary(tx);
  const { created } = await fieldsOfAction(tx, actionId, 'list value');
  const stay = await staying(tx, created);
  const { home } = await loadCompany(tx);
  const { left, fields } = await takeRowsBack(undoing, 'list value', {
    load: (id) => first(tx.select().from(listValue).where(eq(listValue.id, id))),
    say: (row) => nameOf(row, home),
    stays: async (row) => (stay.has(row.id) ? `${nameOf(row, home)}: something has it` : undefined),
    remove: (ids) => tx.delete(listValue).where(inArray(listValue.id, ids)),
    set: ({ id }, to) => tx.update(listValue).set(to).where(eq(listValue.id, id)),
  });
  // What nothing has is read by no place.
  if (dirtyPlace && fields.size > 0) await touchPlaces({ tx, dirtyPlace });
  if (by !== undefined && ['mergedInto', 'requires', 'parentId'].some((field) => fields.has(field)))
    await resolveAnew(tx, 'Giving the goods back what their lists said', by);
  return { left };
}
