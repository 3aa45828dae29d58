/** The attribute dictionary as core wants it, with row ids beside it. */
import type { MergedAttributes, Trust } from '@velvet-shelf/core/claims';
import {
  type Attribute,
  type ListValue,
  type Reader,
  type ReadingStyle,
  type Value,
  AliasedMap,
  closedList,
  convertValue,
  mapListed,
} from '@velvet-shelf/core/values';
import { asc, sql, eq } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { type Executor, queryOne } from '../db/client.js';
import { loadLists } from './lists.js';
import * as tables from '../db/schema/index.js';

export interface Dictionary {
  /** Asked for one that was made one with another, it answers that one. */
  attributes: ReadonlyMap<string, Attribute>;
  merged: MergedAttributes;
  /** Numbers of all of them, each its own. */
  ids: ReadonlyMap<string, number>;
  policies: ReadonlyMap<string, Trust>;
  /** Language of the company's own texts (BCP 47). */
  home: string;
  /** All languages of its texts, its own first. */
  languages: readonly string[];
  /** Whom values are shown to. */
  reader: Reader;
  /** Currency prices are kept in first (ISO 4217). */
  currency: string;
}

/** The dictionary as it was read last, and what it was read from. */
let lately: { state: string; dictionary: Dictionary } | undefined;

/**
 * The dictionary, read anew where it has changed since, in this transaction or in one that has ended; `locale` is the reader’s,
 * where somebody is to read of it.
 */
export async function loadDictionary(on: Executor, locale?: string): Promise<Dictionary> {
  const state = await stateOf(on);
  if (lately?.state !== state) lately = { state, dictionary: await readDictionary(on) };
  const { dictionary } = lately;
  return locale === undefined ? dictionary : { ...dictionary, reader: { ...dictionary.reader, locale } };
}

/** Tells two states of the dictionary apart: triggers say of every statement that changes it that it was one. */
async function stateOf(on: Executor): Promise<string> {
  const found = await queryOne<{ state: string }>(
    on,
    sql`SELECT concat_ws(' ', current_database(), max(id), count(*)) AS state FROM touch WHERE dictionary`,
  );
  return found?.state ?? '';
}

async function readDictionary(on: Executor): Promise<Dictionary> {
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
  const keys = new Map(listed.map(({ id, key }) => [id, key]));
  const byId = new Map(listed.map((row) => [row.id, { row, attribute: attributeOf(row, lists.get(row.id)) }]));
  const held: [string, Attribute][] = [];
  const gone: [Listed, into: string][] = [];
  for (const one of byId.values()) {
    const { row, attribute } = one;
    const into = keys.get(row.mergedInto ?? 0);
    if (into === undefined) held.push([row.key, attribute]);
    else gone.push([one, into]);
  }
  const attributes = new AliasedMap(held, new Map(gone.map(([{ row }, into]) => [row.key, into])));
  return {
    attributes,
    merged: new Map(gone.map(([own, into]) => [own.row.key, { into, read: readerOf(own, byId) }])),
    ids: new Map(listed.map((row) => [row.key, row.id])),
    policies: new Map(policies.map(({ key, policy, ranking }) => [key, { policy, ranking: ranking ?? undefined }])),
    home,
    languages,
    reader: { locale: home, names: home },
    currency,
  };
}

/** An attribute as core wants it. */
function attributeOf(row: typeof tables.attribute.$inferSelect, list: ListValue[] | undefined): Attribute {
  const { key, label, type, many, perLanguage, level, dimension, role, aliases, group, help, computed } = row;
  const choices = list ?? (type === 'choice' ? [] : undefined);
  return {
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
    ...(help === '' ? {} : { help }),
    ...(computed ? { computed } : {}),
  };
}

type Read = (value: Value) => Value | undefined;

/** How a value of one that is gone is read as one of the attribute that is left: step by step, as it became what it is. */
function readerOf(gone: Listed, byId: ReadonlyMap<number, Listed>): Read {
  const steps: Read[] = [];
  for (let at = gone; at.row.mergedInto !== null;) {
    const { became, mergedInto } = at.row;
    const next = byId.get(became?.attribute ?? mergedInto);
    if (!next) break;
    steps.push(stepTo(at.attribute, next.attribute, became?.style));
    at = next;
  }
  return (value) => steps.reduce<Value | undefined>((now, step) => (now === undefined ? now : step(now)), value);
}

interface Listed {
  row: typeof tables.attribute.$inferSelect;
  attribute: Attribute;
}

/** With a style the values are of another kind there; without one the same, but for the keys of their list. */
function stepTo(from: Attribute, to: Attribute, style: ReadingStyle | undefined): Read {
  if (style)
    return (value) => {
      const read = convertValue(value, from, to, style);
      return read.ok ? read.value : undefined;
    };
  const values = valuesIn(from, to);
  return values.size === 0 ? (value) => value : (value) => mapListed(value, (key) => values.get(key) ?? key);
}

/** Of each value of a list, the one of the same name on another. */
function valuesIn(own: Attribute, into: Attribute): Map<string, string> {
  const [from, to] = [closedList(own), closedList(into)];
  if (!from || !to) return new Map();
  return new Map(from.values.map(({ key }) => [key, to.read(from.say(key)) ?? key]));
}
