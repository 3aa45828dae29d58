/** Attributes and list values come into the dictionary here: by a person's hand, with a batch, or with the company. */
import { type Attribute, type ListValue, foldText } from '@velvet-shelf/core/values';
import { and, eq, sql } from 'drizzle-orm';
import { type Executor, first } from '../db/client.js';
import * as tables from '../db/schema/index.js';

/** What is said of a new attribute; its key follows from its name. */
export type NewAttribute = Omit<Attribute, 'key' | 'choices' | 'dimension' | 'role' | 'computed'> & {
  computed?: Attribute['computed'] | null;
  dimension?: Attribute['dimension'] | null;
  role?: Attribute['role'] | null;
};

/** Keys of new attributes and values, none of them among those `taken`. */
export function keysBeside(taken: Iterable<string>): { attribute(label: string): string; value(name: string): string } {
  const held = new Set(taken);
  return {
    attribute: (label) => freeKey(held, `own-${slugOf(label, 'attribute')}`),
    value: (name) => freeKey(held, slugOf(name, 'value')),
  };
}

/** A name as a key: nobody reads it, and none of the programme's own has a hyphen. */
const slugOf = (name: string, otherwise: string): string =>
  foldText(name)
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || otherwise;

/** The first of `key`, `key-2`, `key-3` … that is free; it is taken from then on. */
function freeKey(taken: Set<string>, key: string): string {
  let free = key;
  for (let n = 2; taken.has(free); n++) free = `${key}-${n}`;
  taken.add(free);
  return free;
}

/** Held until the transaction ends: keys and places of what is new are given one after the other. */
export const lockDictionary = (on: Executor) => on.execute(sql`LOCK TABLE attribute IN SHARE ROW EXCLUSIVE MODE`);

/** Adds attributes at the end of the dictionary; those that bring a key keep it. Lists are added apart (`addValues`). */
export async function addAttributes(
  on: Executor,
  given: readonly (NewAttribute & { key?: string })[],
): Promise<{ id: number; key: string; label: string }[]> {
  if (given.length === 0) return [];
  await lockDictionary(on);
  const held = await on
    .select({ key: tables.attribute.key, position: tables.attribute.position })
    .from(tables.attribute);
  const taken = new Set(held.map(({ key }) => key));
  const after = Math.max(-1, ...held.map(({ position }) => position)) + 1;
  return on
    .insert(tables.attribute)
    .values(
      given.map(
        (
          { key, label, type, many, perLanguage, level, dimension, role, aliases = [], group, help = '', computed },
          i,
        ) => ({
          key: key ?? freeKey(taken, `own-${slugOf(label, 'attribute')}`),
          label,
          type,
          many,
          perLanguage,
          level,
          // Of measures alone.
          dimension: type === 'measure' ? dimension : null,
          role,
          aliases: [...aliases],
          group,
          help,
          computed,
          position: after + i,
        }),
      ),
    )
    .returning({ id: tables.attribute.id, key: tables.attribute.key, label: tables.attribute.label });
}

export type NewValue = Pick<ListValue, 'names'> & Partial<Pick<ListValue, 'key' | 'spellings' | 'parent'>>;

/** Adds values to an attribute's list, each below its parent (a key on the list, or of one before it here) and after those that stand there. */
export async function addValues(
  on: Executor,
  attributeId: number,
  given: readonly NewValue[],
): Promise<{ id: number; key: string }[]> {
  if (given.length === 0) return [];
  await lockDictionary(on);
  const held = await on
    .select({ id: tables.listValue.id, key: tables.listValue.key, position: tables.listValue.position })
    .from(tables.listValue)
    .where(eq(tables.listValue.attributeId, attributeId));
  const taken = new Set(held.map(({ key }) => key));
  const idOf = new Map(held.map(({ key, id }) => [key, id]));
  let position = Math.max(-1, ...held.map((value) => value.position));
  const made: { id: number; key: string }[] = [];
  for (const { key, names, spellings = [], parent } of given) {
    const row = await first(
      on
        .insert(tables.listValue)
        .values({
          attributeId,
          key: key ?? freeKey(taken, slugOf(Object.values(names)[0] ?? '', 'value')),
          names,
          spellings: [...spellings],
          parentId: parent === undefined ? null : (idOf.get(parent) ?? null),
          position: ++position,
        })
        .returning({ id: tables.listValue.id, key: tables.listValue.key }),
    );
    if (!row) continue;
    idOf.set(row.key, row.id);
    made.push(row);
  }
  return made;
}

/** Number of the attribute that is our category tree; made where a company keeps none yet. */
export async function categoryAttribute(on: Executor): Promise<number> {
  const held = await first(
    on
      .select({ id: tables.attribute.id })
      .from(tables.attribute)
      .where(and(eq(tables.attribute.role, 'category')))
      .limit(1),
  );
  if (held) return held.id;
  const [made] = await addAttributes(on, [
    {
      label: 'Category',
      type: 'choice',
      many: false,
      perLanguage: false,
      level: 'variant',
      role: 'category',
      group: 'Basics',
    },
  ]);
  if (!made) throw new Error('No attribute was made for categories');
  return made.id;
}
