/** Closed lists as they stand in their table. */
import type { AttributeAnswer, Option } from '@velvet-shelf/contract';
import { type Attribute, type ListValue, closedList } from '@velvet-shelf/core/values';
import { eq } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Executor } from '../db/client.js';
import * as tables from '../db/schema/index.js';

/** Values of every list in their order, by the number of their attribute. */
export async function loadLists(on: Executor): Promise<Map<number, ListValue[]>> {
  const parent = alias(tables.listValue, 'parent');
  const successor = alias(tables.listValue, 'successor');
  const values = await on
    .select({
      attribute: tables.listValue.attributeId,
      key: tables.listValue.key,
      names: tables.listValue.names,
      spellings: tables.listValue.spellings,
      parent: parent.key,
      mergedInto: successor.key,
      hidden: tables.listValue.hidden,
      requires: tables.listValue.requires,
    })
    .from(tables.listValue)
    .leftJoin(parent, eq(parent.id, tables.listValue.parentId))
    .leftJoin(successor, eq(successor.id, tables.listValue.mergedInto))
    .orderBy(tables.listValue.position, tables.listValue.id);
  const lists = new Map<number, ListValue[]>();
  for (const { attribute, parent: above, mergedInto, ...value } of values) {
    const list = lists.get(attribute) ?? [];
    lists.set(attribute, list);
    list.push({
      ...value,
      ...(above === null ? {} : { parent: above }),
      ...(mergedInto === null ? {} : { mergedInto }),
    });
  }
  return lists;
}

/** What may be chosen of an attribute's list, as people read it; null where it may be anything. */
export function optionsOf(attribute: Attribute, language: string): Option[] | null {
  const list = closedList(attribute);
  if (!list) return null;
  return list.values.filter(({ hidden }) => !hidden).map(({ key }) => ({ key, name: list.say(key, language) }));
}

/** An attribute as answers show it. */
export const showAttribute = (attribute: Attribute, language: string): AttributeAnswer => ({
  key: attribute.key,
  label: attribute.label,
  type: attribute.type,
  many: attribute.many,
  perLanguage: attribute.perLanguage,
  level: attribute.level,
  group: attribute.group,
  role: attribute.role ?? null,
  choices: optionsOf(attribute, language),
});
