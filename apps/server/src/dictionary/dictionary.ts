/** The attribute dictionary as core wants it, with row ids beside it. */
import type { Trust } from '@velvet-shelf/core/claims';
import type { Attribute } from '@velvet-shelf/core/values';
import { asc, sql, eq } from 'drizzle-orm';
import { loadCompany } from '../company/settings.js';
import { type Executor } from '../db/client.js';
import { loadLists } from './lists.js';
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
  const attributes = new Map<string, Attribute>();
  for (const { id, key, label, type, many, perLanguage, level, dimension, role, aliases, group } of listed) {
    const choices = lists.get(id) ?? (type === 'choice' ? [] : undefined);
    attributes.set(key, {
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
