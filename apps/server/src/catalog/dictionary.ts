/** The attribute dictionary as core wants it, with row ids beside it. */
import type { Trust } from '@velvet-shelf/core/claims';
import type { Attribute } from '@velvet-shelf/core/values';
import { asc, sql, eq } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { type Executor } from '../db/client.js';
import { attribute, category } from '../db/schema/index.js';
import * as tables from '../db/schema/index.js';

export interface Dictionary {
  attributes: ReadonlyMap<string, Attribute>;
  ids: ReadonlyMap<string, number>;
  policies: ReadonlyMap<string, Trust>;
  /** Language of the company's own texts (BCP 47). */
  home: string;
  /** All languages of its texts, its own first. */
  languages: readonly string[];
  /** Currency prices are kept in first (ISO 4217). */
  currency: string;
}

/** Reads the dictionary; the category attribute's closed list is our own tree. */
export async function loadDictionary(on: Executor): Promise<Dictionary> {
  const listed = await on.select().from(attribute).orderBy(asc(attribute.position), asc(attribute.id));
  const categories = await on.select({ path: category.path }).from(category).orderBy(asc(category.position));
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
  const attributes = new Map<string, Attribute>();
  for (const { key, label, type, many, perLanguage, level, dimension, choices, group } of listed) {
    const closed = key === 'category' ? categories.map((row) => row.path) : choices;
    attributes.set(key, {
      key,
      label,
      type,
      many,
      perLanguage,
      level,
      group,
      ...(dimension ? { dimension } : {}),
      ...(closed ? { choices: closed } : {}),
    });
  }
  return {
    attributes,
    ids: new Map(listed.map((row) => [row.key, row.id])),
    policies: new Map(policies.map(({ key, policy, ranking }) => [key, { policy, ranking: ranking ?? undefined }])),
    home,
    languages,
    currency,
  };
}
