/** The attribute dictionary as core wants it, with row ids beside it. */
import { type Trust, splitSlot } from '@velvet-shelf/core/claims';
import { type Attribute, type Value, AliasedMap, closedList, members } from '@velvet-shelf/core/values';
import { asc, sql, eq } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { type Executor } from '../db/client.js';
import { loadLists } from './lists.js';
import * as tables from '../db/schema/index.js';

export interface Dictionary {
  /** Asked for one that was made one with another, it answers that one. */
  attributes: ReadonlyMap<string, Attribute>;
  /** Of attributes that were made one with another: the key of that one, and of each value of their lists the value there. */
  merged: ReadonlyMap<string, { into: string; values: ReadonlyMap<string, string> }>;
  /** Numbers of all of them, each its own. */
  ids: ReadonlyMap<string, number>;
  policies: ReadonlyMap<string, Trust>;
  /** Language of the company's own texts (BCP 47). */
  home: string;
  /** All languages of its texts, its own first. */
  languages: readonly string[];
  /** Currency prices are kept in first (ISO 4217). */
  currency: string;
}

/** Reads the dictionary. */
export async function loadDictionary(on: Executor): Promise<Dictionary> {
  const listed = await on
    .select()
    .from(tables.attribute)
    .orderBy(asc(tables.attribute.position), asc(tables.attribute.id));
  const lists = await loadLists(on);
  const policies = await on
    .select({
      key: tables.attribute.key,
      policy: tables.trustPolicy.policy,
      ranking: sql<string[] | null>`(SELECT array_agg(${tables.supplier.name} ORDER BY x.place)
        FROM unnest(${tables.trustPolicy.ranking}) WITH ORDINALITY x(id, place) JOIN ${tables.supplier} ON ${tables.supplier.id} = x.id)`,
    })
    .from(tables.trustPolicy)
    .innerJoin(tables.attribute, eq(tables.attribute.id, tables.trustPolicy.attributeId));
  const { languages, home, currency } = await loadCompany(on);
  const held: [string, Attribute][] = [];
  const keys = new Map(listed.map(({ id, key }) => [id, key]));
  const gone = new Map<string, { into: string; own: Attribute }>();
  for (const {
    id,
    key,
    label,
    type,
    many,
    perLanguage,
    level,
    dimension,
    role,
    aliases,
    group,
    mergedInto,
  } of listed) {
    const choices = lists.get(id) ?? (type === 'choice' ? [] : undefined);
    const attribute: Attribute = {
      key,
      label,
      type,
      many,
      perLanguage,
      level,
      group,
      ...(dimension ? { dimension } : {}),
      ...(choices ? { choices } : {}),
      ...(role ? { role } : {}),
      ...(aliases.length > 0 ? { aliases } : {}),
    };
    const into = keys.get(mergedInto ?? 0);
    if (into === undefined) held.push([key, attribute]);
    else gone.set(key, { into, own: attribute });
  }
  const attributes = new AliasedMap(held, new Map([...gone].map(([key, { into }]) => [key, into])));
  return {
    attributes,
    merged: new Map(
      [...gone].map(([key, { into, own }]) => [key, { into, values: valuesIn(own, attributes.get(into)) }]),
    ),
    ids: new Map(listed.map((row) => [row.key, row.id])),
    policies: new Map(policies.map(({ key, policy, ranking }) => [key, { policy, ranking: ranking ?? undefined }])),
    home,
    languages,
    currency,
  };
}

/** Of each value of a list, the one of the same name on another. */
function valuesIn(own: Attribute, into: Attribute | undefined): Map<string, string> {
  const [from, to] = [closedList(own), into && closedList(into)];
  if (!from || !to) return new Map();
  return new Map(from.values.map(({ key }) => [key, to.read(from.say(key)) ?? key]));
}

/** What is said, slot by slot, with attributes that were made one with another told by that one; what that one says itself stands. */
export function currentSlots<Said>(
  said: Readonly<Record<string, Said>>,
  { merged }: Pick<Dictionary, 'merged'>,
): Record<string, Said> {
  if (merged.size === 0) return said;
  const slots: Record<string, Said> = {};
  const moved: [string, Said][] = [];
  for (const [slot, value] of Object.entries(said)) {
    const now = currentSlot(slot, { merged });
    if (now === slot) slots[slot] = value;
    else moved.push([now, currentListed(slot, value, { merged })]);
  }
  for (const [slot, value] of moved) if (!Object.hasOwn(slots, slot)) slots[slot] = value;
  return slots;
}

/** The slot that one stands for since attributes were made one. */
export function currentSlot(slot: string, { merged }: Pick<Dictionary, 'merged'>): string {
  const [key, language] = splitSlot(slot);
  const into = merged.get(key)?.into;
  if (into === undefined) return slot;
  return language === undefined ? into : `${into}@${language}`;
}

/** A value said in a slot, by the list it is on now. */
export function currentListed<Said>(slot: string, value: Said, { merged }: Pick<Dictionary, 'merged'>): Said {
  const values = merged.get(splitSlot(slot)[0])?.values;
  if (!values || values.size === 0) return value;
  if (typeof value === 'string') return (values.get(value) ?? value) as Said;
  if (!Array.isArray(value)) return value;
  return members(value as Value).map((one) => (typeof one === 'string' ? (values.get(one) ?? one) : one)) as Said;
}
