/** What a batch makes in the dictionary: chosen before it is tried, made as it is applied, gone with its undo. */
import type { api } from '@velvet-shelf/contract';
import { type Makes, guessAttribute, lackingValues, readTree, withMakes } from '@velvet-shelf/core/intake';
import { closedList, foldText } from '@velvet-shelf/core/values';
import { eq } from 'drizzle-orm';
import type { z } from 'zod';
import type { Executor } from '../../db/client.js';
import { undoDictionary } from '../../dictionary/attributes.js';
import { type Dictionary, loadDictionary } from '../../dictionary/dictionary.js';
import { addAttributes, addValues, keysBeside, lockDictionary } from '../../dictionary/new.js';
import { undoLists } from '../../dictionary/values.js';
import { type Change, addChanges } from '../../history/record.js';
import { badRequest, conflict, notFound } from '../../http/problem.js';
import type { Services } from '../../http/route.js';
import { type BatchRecord, isOpen, sayState } from '../batches.js';
import { withoutTrial } from '../trial.js';
import type { FileRow } from '@velvet-shelf/core/tabular';
import * as tables from '../../db/schema/index.js';

/** The dictionary with what a batch makes, as if it were there. */
export async function dictionaryOf(
  on: Executor,
  { makes }: Pick<BatchRecord, 'makes'>,
  locale?: string,
): Promise<Dictionary> {
  const dictionary = await loadDictionary(on, locale);
  return { ...dictionary, attributes: withMakes(dictionary.attributes, makes, dictionary.home) };
}

type Wish = z.output<typeof api.intake.make.body>;

/** Adds to what a batch makes, and takes from it; columns whose attribute is not made after all are left out again. */
export async function changeMakes({ db }: Services, id: number, wish: Wish): Promise<void> {
  await withoutTrial(db, id, async ({ tx }, batch) => {
    if (!isOpen(batch.state))
      throw conflict(`This batch is ${sayState(batch.state)}; what it makes can no longer be changed`);
    const { home, attributes: known } = await loadDictionary(tx);
    const left = leave(batch, wish.leave);
    const map = [...left.map];
    const makes: Makes = { attributes: [...left.makes.attributes], values: [...left.makes.values] };
    const labels = new Map([...withMakes(known, makes, home).values()].map(({ label }) => [foldText(label), label]));
    const attributeKeys = keysBeside([...known.keys(), ...makes.attributes.map(({ key }) => key)]);
    for (const { column, label, unit, values, ...fields } of wish.attributes) {
      if (!batch.columns.includes(column)) throw badRequest(`The file has no column “${column}”`);
      const taken = labels.get(foldText(label));
      if (taken !== undefined)
        throw badRequest(
          `There is an attribute named ${taken} already: choose it for “${column}”, or give another name`,
          [{ pointer: '/body/label', detail: `There is an attribute named ${taken} already` }],
        );
      labels.set(foldText(label), label);
      // The batch's number is in it: what somebody else makes of that name meanwhile is another.
      const key = `${attributeKeys.attribute(label)}-${id}`;
      makes.attributes.push({ key, label, ...fields, dimension: fields.type === 'measure' ? fields.dimension : null });
      const target = {
        to: 'attribute' as const,
        attribute: key,
        ...(unit === null ? {} : { unit }),
        ...(fields.perLanguage ? { language: home } : {}),
      };
      const at = map.findIndex((entry) => entry.column === column && entry.target.to === 'ignore');
      if (at < 0) map.push({ column, target });
      else map[at] = { column, target };
      if (fields.type === 'choice' && values.length > 0)
        addTo(id, makes, known, home, { attribute: key, cells: values });
    }
    for (const wanted of wish.values) addTo(id, makes, known, home, wanted);
    await tx
      .update(tables.batch)
      .set({ makes, map, state: 'read', counts: null, effect: null, error: null })
      .where(eq(tables.batch.id, id));
  });
}

/** Values for what a list lacks of some cells; of our tree they are paths. */
function addTo(
  batchId: number,
  makes: Makes,
  known: Dictionary['attributes'],
  home: string,
  { attribute: key, cells }: Wish['values'][number],
): void {
  const attribute = withMakes(known, makes, home).get(key);
  if (!attribute) throw notFound(`attribute “${key}”`);
  if (attribute.type !== 'choice') throw badRequest(`${attribute.label} may be anything: it has no list`);
  const paths = attribute.role === 'category' ? [...readTree(cells).values()] : cells.map((cell) => [cell]);
  const list = closedList({ choices: attribute.choices ?? [] });
  const keys = keysBeside(list.values.map((value) => value.key));
  makes.values.push(...lackingValues(attribute, paths, (name) => `${keys.value(name)}-${batchId}`));
}

/** Without attributes and values of these keys, what stands below them, and what columns would have fed them. */
function leave(batch: Pick<BatchRecord, 'makes' | 'map'>, keys: readonly string[]): Pick<BatchRecord, 'makes' | 'map'> {
  const gone = new Set(keys);
  const attributes = batch.makes.attributes.filter(({ key }) => !gone.has(key));
  const lost = new Set(batch.makes.attributes.filter(({ key }) => gone.has(key)).map(({ key }) => key));
  const values: Makes['values'] = [];
  for (const value of batch.makes.values) {
    if (gone.has(value.key) || lost.has(value.attribute) || (value.parent !== null && gone.has(value.parent)))
      gone.add(value.key);
    else values.push(value);
  }
  const map = batch.map.map((entry) =>
    entry.target.to === 'attribute' && lost.has(entry.target.attribute)
      ? { ...entry, target: { to: 'ignore' as const } }
      : entry,
  );
  return { makes: { attributes, values }, map };
}

/** Makes them, as part of the action that applies the batch; refuses where somebody made one of that name meanwhile. */
export async function writeMakes(tx: Executor, { makes }: Pick<BatchRecord, 'makes'>, actionId: number): Promise<void> {
  if (makes.attributes.length === 0 && makes.values.length === 0) return;
  await lockDictionary(tx);
  const { attributes, ids, home } = await loadDictionary(tx);
  const labels = new Set([...attributes.values()].map(({ label }) => foldText(label)));
  const fresh = makes.attributes.filter(({ key }) => !attributes.has(key));
  const taken = fresh.find(({ label }) => labels.has(foldText(label)));
  if (taken)
    throw conflict(
      `Somebody made an attribute named ${taken.label} meanwhile: choose it for the column, and try again`,
    );
  const rows = await addAttributes(tx, fresh);
  const changes: Change[] = rows.map(({ id, label }) => ({ kind: 'attribute', id, delta: { created: [label] } }));
  const numbers = new Map([...ids, ...rows.map(({ key, id }) => [key, id] as const)]);
  for (const key of new Set(makes.values.map((value) => value.attribute))) {
    const attribute = attributes.get(key);
    const list = closedList({ choices: attribute?.choices ?? [] });
    const wanted = makes.values.filter((value) => value.attribute === key && !list.has(value.key));
    const rest = { attributes: [], values: makes.values.filter((value) => list.has(value.key)) };
    const there = attribute && closedList({ choices: withMakes(attributes, rest, home).get(key)?.choices ?? [] });
    for (const { name, parent } of wanted)
      if (
        parent === null &&
        there?.values.some(
          (value) =>
            value.parent === undefined && Object.values(value.names).some((each) => foldText(each) === foldText(name)),
        )
      )
        throw conflict(`Somebody put ${name} on the list of ${attribute?.label} meanwhile: try the batch again`);
    const made = await addValues(
      tx,
      numbers.get(key) ?? 0,
      wanted.map(({ key: own, name, parent }) => ({
        key: own,
        names: { [home]: name },
        ...(parent === null ? {} : { parent }),
      })),
    );
    changes.push(
      ...made.map(({ id, key: own }): Change => ({
        kind: 'list value',
        id,
        delta: { created: [wanted.find((value) => value.key === own)?.name ?? own] },
      })),
    );
  }
  await addChanges(tx, actionId, changes);
}

/** Columns that nothing is made of, and what each would make. */
export function homelessOf(
  { columns, map, reading }: BatchRecord,
  head: readonly FileRow[],
  { languages }: Dictionary,
) {
  return columns.flatMap((column, at) => {
    const entries = map.filter((entry) => entry.column === column);
    if (entries.some(({ target }) => target.to !== 'ignore')) return [];
    const cells = head.flatMap((row) => (row.cells[at] ?? '').trim() || []);
    return cells.length === 0 ? [] : [{ column, ...guessAttribute(column, cells, reading, { languages }) }];
  });
}

/** Takes back what a batch made, as far as nothing else has come to use it. */
export async function takeBackMakes(tx: Executor, actionId: number, by: number): Promise<{ left: string[] }> {
  const undoing = { tx, actionId, by };
  const left = [...(await undoLists(undoing)).left, ...(await undoDictionary(undoing)).left];
  return { left };
}
