/**
 * What the values of an attribute are, changed while goods have some: a new attribute of the same name takes its place, and
 * what sources and people said and say is read as it asks. What cannot be read stays said, and is heard again after an undo.
 */
import type { KindChanged, TriedKind, WantedKind } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import {
  type Attribute,
  type Value,
  closedList,
  convertValue,
  foldText,
  isCurrency,
  members,
  plainValue,
  units,
} from '@velvet-shelf/core/values';
import { eq, sql } from 'drizzle-orm';
import { type Executor, first, queryRows } from '../db/client.js';
import { act } from '../history/act.js';
import { deltaOfFields } from '../history/fields.js';
import { resolveAnew } from '../history/follow.js';
import { badRequest, conflict, notFound, stale } from '../http/problem.js';
import type { Services, User } from '../http/route.js';
import { runAside } from '../jobs/aside.js';
import { expectWorkable } from './attributes.js';
import { type Dictionary, loadDictionary } from './dictionary.js';
import { addAttributes, lockDictionary } from './new.js';
import { makeValues, touchPlaces } from './values.js';
import * as tables from '../db/schema/index.js';

const { attribute } = tables;
type Row = typeof attribute.$inferSelect;

const mostToldLost = 50;
const mostExamples = 6;
const mostOfList = 5000;

interface Held {
  value: Value;
  goods: number;
}

async function loadHeld(on: Executor, id: number): Promise<{ row: Row; from: Attribute; dictionary: Dictionary }> {
  const row = await first(on.select().from(attribute).where(eq(attribute.id, id)));
  const dictionary = await loadDictionary(on);
  const from = row && dictionary.attributes.get(row.key);
  if (!row || !from || row.mergedInto !== null) throw notFound(`attribute ${id}`);
  return { row, from, dictionary };
}

/** Each value that goods hold, with how many do. */
function heldValues(on: Executor, { key, perLanguage, type }: Attribute): Promise<Held[]> {
  const goods = sql`p.stands AND p.kind IN ('variant', 'single')`;
  return perLanguage || type === 'richText'
    ? queryRows<Held>(
        on,
        sql`SELECT to_json(l.value) AS value, count(*)::int AS goods FROM product p JOIN product_text t ON t.product_id = p.id,
              json_each_text(t.texts -> ${key}::text) l WHERE ${goods} GROUP BY l.value ORDER BY 2 DESC`,
      )
    : queryRows<Held>(
        on,
        sql`SELECT v.value::json AS value, count(*)::int AS goods FROM product p, LATERAL (SELECT (p.facts -> ${key}::text)::text AS value) v
            WHERE ${goods} AND v.value IS NOT NULL GROUP BY v.value ORDER BY 2 DESC`,
      );
}

/** Why its values cannot be of that kind at all. */
function objectionTo({ row, from }: { row: Row; from: Attribute }, { type, many, dimension, style }: WantedKind) {
  const say = (pointer: string, detail: string) => ({ pointer: `/body/${pointer}`, detail });
  const isSame = type === row.type && many === row.many && (dimension ?? null) === row.dimension;
  if (isComputed(row.key)) return say('type', `${row.label} follows from the sources: it stays as it is`);
  if (isSame) return say('type', 'That is what it is already');
  const worded = (of: string) => of === 'text' || of === 'choice';
  if (row.role !== null && !(worded(row.type) && worded(type) && many === row.many))
    return say('type', `${row.label} is known as something: set “Known as” to nothing first`);
  if (row.perLanguage && type !== 'text' && type !== 'richText')
    return say('type', `${row.label} has a value in each language: it can be a text only`);
  if (type === 'measure' && !dimension) return say('dimension', 'Choose what is measured');
  const needsUnit = type === 'number' && from.type === 'measure';
  const unit = style.unit === undefined ? undefined : units[style.unit];
  if (needsUnit && unit?.dimension !== row.dimension) return say('style/unit', 'Choose the unit the numbers are in');
  if (type === 'measure' && unit && unit.dimension !== dimension)
    return say('style/unit', 'No unit of what is measured');
  if (style.currency !== undefined && !isCurrency(style.currency)) return say('style/currency', 'No currency');
  return undefined;
}

/** The attribute as it would be; a list has what goods hold. */
function becoming(from: Attribute, { type, many, dimension }: WantedKind, held: readonly Held[]): Attribute {
  const to: Attribute = { ...from, type, many };
  delete to.choices;
  delete to.dimension;
  if (type === 'measure' && dimension) to.dimension = dimension;
  if (type === 'choice')
    to.choices = namesIn(from, held).map((name) => ({ key: foldText(name), names: { und: name } }));
  return to;
}

/** Each text that goods hold, once as people read it, the most frequent writing first. */
function namesIn(from: Attribute, held: readonly Held[]): string[] {
  const names = new Map<string, string>();
  for (const { value } of held)
    for (const one of members(value)) {
      const text = plainValue(one, from).trim();
      if (text !== '' && !names.has(foldText(text))) names.set(foldText(text), text);
    }
  return [...names.values()];
}

/** What would become of every value; nothing is changed. */
export async function tryKind(on: Executor, id: number, wanted: WantedKind): Promise<TriedKind> {
  const { row, from } = await loadHeld(on, id);
  const objection = objectionTo({ row, from }, wanted);
  const nothing = { goods: 0, lost: 0, values: 0, lostValues: [], examples: [] };
  if (objection) return { ...nothing, objection: objection.detail };
  const held = await heldValues(on, from);
  const to = becoming(from, wanted, held);
  const read = held.map(({ value, goods }) => ({ value, goods, read: convertValue(value, from, to, wanted.style) }));
  const lost = read.flatMap(({ value, goods, read: one }) =>
    one.ok ? [] : [{ text: plainValue(value, from).slice(0, 200), goods, reason: one.reason }],
  );
  const examples = read.flatMap(({ value, goods, read: one }) =>
    one.ok
      ? [{ before: plainValue(value, from).slice(0, 200), after: plainValue(one.value, to).slice(0, 200), goods }]
      : [],
  );
  return {
    objection: null,
    goods: read.reduce((sum, { goods }) => sum + goods, 0),
    lost: lost.reduce((sum, { goods }) => sum + goods, 0),
    values: held.length,
    lostValues: lost.slice(0, mostToldLost),
    examples: examples.slice(0, mostExamples),
  };
}

/** Makes it so, as one action; answers the new attribute, and the job that brings the goods in line. */
export async function changeKind(
  services: Services,
  user: User,
  id: number,
  { was, ...wanted }: WantedKind & { was: Pick<WantedKind, 'type' | 'many' | 'dimension'> },
): Promise<KindChanged> {
  const action = { kind: 'dictionary', tells: ['dictionary', 'catalog'] } as const;
  const { answer } = await act(services, user, action, async (on) => {
    await lockDictionary(on.tx);
    const { row, from } = await loadHeld(on.tx, id);
    if (row.type !== was.type || row.many !== was.many || row.dimension !== (was.dimension ?? null))
      throw stale(`${row.label} was changed meanwhile: look at it again`, {});
    const objection = objectionTo({ row, from }, wanted);
    if (objection) throw badRequest(objection.detail, [objection]);
    const { label, level, perLanguage, role, aliases, group, help, computed } = row;
    const { type, many, dimension = null, style } = wanted;
    const said = { label, level, perLanguage, role, aliases, group, help, type, many, dimension };
    const [made] = await addAttributes(on.tx, [said]);
    if (!made) throw new Error('No attribute was made');
    await on.tx.update(attribute).set({ position: row.position, computed }).where(eq(attribute.id, made.id));
    on.change({ kind: 'attribute', id: made.id, delta: { created: [label] } });
    if (type === 'choice') {
      const names = closedList(from) ? [] : namesIn(from, await heldValues(on.tx, from));
      if (names.length > mostOfList)
        throw conflict(`Goods have ${names.length} different values of ${label}; a list has ${mostOfList} at most`);
      await makeValues(
        on,
        made.id,
        names.map((name) => [name]),
      );
    }
    await on.tx.execute(sql`
      INSERT INTO trust_policy (attribute_id, policy, ranking) SELECT ${made.id}, policy, ranking FROM trust_policy WHERE attribute_id = ${id}`);
    const write = async (held: Row, to: Partial<Row>) => {
      await on.tx.update(attribute).set(to).where(eq(attribute.id, held.id));
      on.change({ kind: 'attribute', id: held.id, delta: deltaOfFields(held, to, held) });
    };
    const before = await on.tx.select().from(attribute).where(eq(attribute.mergedInto, id));
    for (const other of before)
      await write(other, { mergedInto: made.id, ...(other.became ? {} : { became: { attribute: id } }) });
    await write(row, { mergedInto: made.id, became: { attribute: made.id, style } });
    await expectWorkable(on.tx, made.key, ['type']);
    on.say(`Changed what ${label} is`);
    await touchPlaces(on);
    return { id: made.id, job: await resolveAnew(on.tx, `Reading ${label} as what it is now`, on.id) };
  });
  if (answer.job !== null) runAside(answer.job).catch(() => undefined);
  return answer;
}
