/** Values, categories and attributes made one with another: the one that goes keeps its row, which says what it stands for. */
import { isComputed } from '@velvet-shelf/core/catalog';
import { closedList, foldText } from '@velvet-shelf/core/values';
import { eq, isNull } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { first } from '../db/client.js';
import { type Acting, act } from '../history/act.js';
import { deltaOfFields } from '../history/fields.js';
import { resolveAnew } from '../history/follow.js';
import { badRequest, conflict, notFound } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { runAside } from '../jobs/aside.js';
import { loadLists } from './lists.js';
import { lockDictionary } from './new.js';
import { type ValueRow, makeValues, pathsOf, rowsOf, touchPlaces } from './values.js';
import * as tables from '../db/schema/index.js';

const { attribute, listValue } = tables;

/** What a merge does to rows of a list: those that go into another, and those that stand elsewhere from then on. */
interface Merging {
  into: Map<number, number>;
  below: Map<number, number | null>;
}

/** Values that stand below both under the same name are made one as well; the others stand below the one that is left. */
function mergingOf(rows: readonly ValueRow[], from: ValueRow, into: ValueRow): Merging {
  const merging: Merging = { into: new Map(), below: new Map() };
  const byId = new Map(rows.map((row) => [row.id, row]));
  const isBelow = (row: ValueRow, above: ValueRow) => {
    for (let at: ValueRow | undefined = row; at; at = byId.get(at.parentId ?? 0)) if (at.id === above.id) return true;
    return false;
  };
  // What stood below the one that goes takes its place first: nothing stands below itself.
  if (isBelow(into, from)) merging.below.set(into.id, from.parentId);
  const join = (gone: ValueRow, left: ValueRow) => {
    merging.into.set(gone.id, left.id);
    const childrenOf = ({ id }: ValueRow) => rows.filter((row) => row.parentId === id && row.id !== into.id);
    const named = new Map(
      childrenOf(left).flatMap((row) => Object.values(row.names).map((name) => [foldText(name), row])),
    );
    for (const child of childrenOf(gone)) {
      const twin = Object.values(child.names).flatMap((name) => named.get(foldText(name)) ?? [])[0];
      if (twin && !isBelow(twin, child) && !isBelow(child, twin)) join(child, twin);
      else merging.below.set(child.id, left.id);
    }
  };
  join(from, into);
  return merging;
}

/**
 * Makes a value one with another of its list: goods, maps, conditions and files that say the first mean the other from then
 * on, and what stood below it stands there. Goods that have it are resolved anew by a job, which is answered.
 */
export async function mergeValue(services: Services, user: User, id: number, intoId: number): Promise<number | null> {
  const { answer: job } = await act(services, user, { kind: 'list', tells: ['dictionary', 'catalog'] }, async (on) => {
    await lockDictionary(on.tx);
    const held = await first(on.tx.select().from(listValue).where(eq(listValue.id, id)));
    if (!held) throw notFound(`value ${id}`);
    if (held.mergedInto !== null) throw conflict('It was made one with another already');
    const all = await rowsOf(on.tx, held.attributeId);
    const rows = all.filter(({ mergedInto }) => mergedInto === null);
    const into = rows.find((row) => row.id === intoId);
    if (!into || intoId === id)
      throw badRequest('Choose another value of the same list', [
        { pointer: '/body/into', detail: 'Not another value of this list' },
      ]);
    const { home } = await loadCompany(on.tx);
    const paths = pathsOf(rows, home);
    const merging = mergingOf(rows, held, into);
    const become = async (row: ValueRow, to: Partial<Pick<ValueRow, 'mergedInto' | 'parentId'>>) => {
      await on.tx.update(listValue).set(to).where(eq(listValue.id, row.id));
      on.change({ kind: 'list value', id: row.id, delta: deltaOfFields(row, to, row) });
    };
    for (const row of rows) {
      const [mergedInto, parentId] = [merging.into.get(row.id), merging.below.get(row.id)];
      if (mergedInto !== undefined) await become(row, { mergedInto });
      else if (parentId !== undefined) await become(row, { parentId });
    }
    // Those that were made one with it before follow it.
    for (const row of all) {
      const mergedInto = merging.into.get(row.mergedInto ?? 0);
      if (mergedInto !== undefined) await become(row, { mergedInto });
    }
    const say = (of: number) => (paths.get(of) ?? []).join(' / ');
    on.say(`Made ${say(id)} one with ${say(intoId)}`);
    await touchPlaces(on);
    return resolveAnew(on.tx, `Telling the goods that ${say(id)} is ${say(intoId)} now`, on.id);
  });
  if (job !== null) runAside(job).catch(() => undefined);
  return job;
}

/** What two attributes must have in common to be one: what their values are. */
const ofBoth = { type: 'kind', many: 'number of values', perLanguage: 'languages', dimension: 'measure' } as const;

/**
 * Makes an attribute one with another: what sources and people say of the first is said of the other from then on, and columns,
 * fills and conditions that name it mean the other. Values of its list that the other has not are added there.
 */
export async function mergeAttribute(
  services: Services,
  user: User,
  id: number,
  intoId: number,
): Promise<number | null> {
  const { answer: job } = await act(
    services,
    user,
    { kind: 'dictionary', tells: ['dictionary', 'catalog'] },
    async (on) => {
      await lockDictionary(on.tx);
      const rows = await on.tx.select().from(attribute).where(isNull(attribute.mergedInto));
      const [held, into] = [rows.find((row) => row.id === id), rows.find((row) => row.id === intoId)];
      if (!held) throw notFound(`attribute ${id}`);
      const refuse = (detail: string) => badRequest(detail, [{ pointer: '/body/into', detail }]);
      if (!into || intoId === id) throw refuse('Choose another attribute');
      if (isComputed(held.key) || isComputed(into.key))
        throw conflict('What follows from the sources stays as it is: choose another');
      for (const [field, words] of Object.entries(ofBoth) as [keyof typeof ofBoth, string][])
        if (held[field] !== into[field])
          throw refuse(`${held.label} and ${into.label} are not alike: their ${words} differ`);
      if (held.role !== null && held.role !== into.role)
        throw refuse(`${held.label} is what code knows as ${held.role}: make the other one with it instead`);
      const write = async (row: typeof held, to: Partial<typeof held>) => {
        await on.tx.update(attribute).set(to).where(eq(attribute.id, row.id));
        on.change({ kind: 'attribute', id: row.id, delta: deltaOfFields(row, to, row) });
      };
      if (held.type === 'choice') await takeValues(on, held.id, into.id);
      const aliases = [...into.aliases, held.label, ...held.aliases];
      const known = new Map(aliases.map((alias) => [foldText(alias), alias]));
      known.delete(foldText(into.label));
      await write(into, { aliases: [...known.values()].slice(0, 100) });
      await write(held, { mergedInto: into.id });
      for (const row of await on.tx.select().from(attribute).where(eq(attribute.mergedInto, held.id)))
        await write(row, { mergedInto: into.id });
      on.say(`Made the attribute ${held.label} one with ${into.label}`);
      await touchPlaces(on);
      return resolveAnew(on.tx, `Telling the goods that ${held.label} is ${into.label} now`, on.id);
    },
  );
  if (job !== null) runAside(job).catch(() => undefined);
  return job;
}

/** Adds to a list what another has and it has not, names and spellings told as one reads them. */
async function takeValues(on: Acting, from: number, into: number): Promise<void> {
  const { home } = await loadCompany(on.tx);
  const lists = await loadLists(on.tx);
  const [theirs, ours] = [lists.get(from) ?? [], closedList({ choices: lists.get(into) ?? [] })];
  const list = closedList({ choices: theirs });
  const paths = theirs.flatMap(({ key }) =>
    list.merged.has(key) || ours.read(list.say(key)) !== undefined ? [] : [list.names(key, home)],
  );
  if (paths.length > 0) await makeValues(on, into, paths);
}
