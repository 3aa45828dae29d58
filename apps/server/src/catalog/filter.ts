/** Which goods a view shows, as SQL over rows of `product` as p. */
import type { View } from '@velvet-shelf/contract';
import { type Comparison, type Condition, comparisonKey, listedKeys, soughtText } from '@velvet-shelf/core/conditions';
import { type Attribute, foldText } from '@velvet-shelf/core/values';
import { type SQL, sql } from 'drizzle-orm';
import { containing, texts } from '../db/client.js';
import type { Dictionary } from '../dictionary/dictionary.js';
import { badRequest } from '../http/problem.js';

/** A view as it was opened: where no goods have the words of its search, it is of those that have words like them. */
export interface LookedAt extends View {
  isLike?: boolean;
}

/** Of a row of `set_aside` as a: it still holds. */
const asideNow = sql`(a.until IS NULL OR a.until > CURRENT_DATE)`;
/** Products somebody has put out of sight. */
export const putAside = sql`SELECT a.product_id FROM set_aside a WHERE a.sight AND ${asideNow}`;
export const outOfSight = sql`EXISTS (SELECT 1 FROM set_aside a WHERE a.product_id = p.id AND a.sight AND ${asideNow})`;

/** Variants with a value missing or wrong in the catalog that keeps one of their listings back. */
export const toComplete = sql`SELECT l.variant_id FROM listing l
  WHERE NOT l.muted AND NOT EXISTS (SELECT 1 FROM set_aside a WHERE a.product_id = l.variant_id AND a.gaps AND ${asideNow}) AND l.cause_set_id IN (
  SELECT s.id FROM cause_set s WHERE s.causes && (SELECT coalesce(array_agg(c.id), '{}') FROM cause c WHERE c.kind = 'catalog'))`;

export const completing = (view: View) => (view.toComplete ? sql`p.id IN (${toComplete})` : sql`true`);
export const goods = sql`p.kind IN ('variant', 'single') AND p.stands`;
/** States of goods that nobody sees every day. */
export const idleStates = ['paused', 'withdrawn'];
export const everyday = sql`coalesce(p.state, '') <> ALL(${texts(idleStates)})`;

/** Of rows of the table `product` as p: the view shows them. */
export const viewFilter = (view: LookedAt, dictionary: Dictionary): SQL =>
  sql`${goods} AND ${completing(view)} AND ${view.everything ? sql`true` : sql`${everyday} AND NOT ${outOfSight}`} AND ${conditionSql(view.condition, dictionary)} AND ${searchSql(view)}`;

export const wordsOf = (search: string): string[] => foldText(search).split(' ').filter(Boolean);

/** Shorter words are like too many others. */
export const isLong = (word: string): boolean => word.length >= 4;

const like = (word: string) => sql`p.search %> ${word}`;
/** Products that have words like one. */
export const foundAlike = (word: string) => sql`SELECT p.id FROM product p WHERE ${like(word)}`;

export function searchSql({ search, isLike = false }: LookedAt): SQL {
  const words = wordsOf(search);
  if (words.length === 0) return sql`true`;
  return sql.join(
    words.map((word) => {
      if (isLike && isLong(word)) return like(word);
      const pattern = containing(word);
      // The index knows threes of letters: with fewer it would be gone through whole, and slower than the goods.
      return word.length < 3 ? sql`p.search || '' LIKE ${pattern}` : sql`p.search LIKE ${pattern}`;
    }),
    sql` AND `,
  );
}

/** The condition language as SQL over `fact`: the same keys core compares. */
export function conditionSql(condition: Condition, dictionary: Dictionary): SQL {
  if ('all' in condition)
    return condition.all.length === 0
      ? sql`true`
      : sql`(${sql.join(
          condition.all.map((part) => conditionSql(part, dictionary)),
          sql` AND `,
        )})`;
  if ('any' in condition)
    return condition.any.length === 0
      ? sql`false`
      : sql`(${sql.join(
          condition.any.map((part) => conditionSql(part, dictionary)),
          sql` OR `,
        )})`;
  if ('not' in condition) return sql`NOT ${conditionSql(condition.not, dictionary)}`;
  return comparisonSql(condition, dictionary);
}

/** The attribute a comparison names, with its number and the language that is compared, empty without; a 400 where there is none. */
export function attributeIn({ attribute: key, language }: Comparison, dictionary: Dictionary) {
  const attribute = dictionary.attributes.get(key);
  const id = attribute && dictionary.ids.get(attribute.key);
  if (!attribute || id === undefined) throw badRequest(`There is no attribute “${key}”`);
  return { attribute, id, language: attribute.perLanguage ? (language ?? dictionary.home) : '' };
}

/** Products whose long text has what is looked for. */
export const saying = (attribute: Attribute, language: string, sought: string) => sql`
  SELECT product_id FROM product_text t WHERE position(${sought} in t.sought -> ${attribute.key}::text ->> ${language}::text) > 0`;

function comparisonSql(condition: Comparison, dictionary: Dictionary): SQL {
  const { attribute, id, language } = attributeIn(condition, dictionary);
  // Where there is no language to tell apart, the index alone answers.
  const spoken = attribute.perLanguage ? sql`lang = ${language} AND` : sql``;
  const facts = (test: SQL) => sql`SELECT product_id FROM fact WHERE attribute_id = ${id} AND ${spoken} ${test}`;
  const having = (test: SQL) => sql`p.id IN (${facts(test)})`;
  // Each half has an index of its own, which is used where it is named.
  const havingAny = sql`p.id IN (${facts(sql`key IS NOT NULL`)} UNION ALL ${facts(sql`num IS NOT NULL`)})`;
  const sought = soughtText(condition, attribute);
  if (sought !== undefined) return sql`p.id IN (${saying(attribute, language, sought)})`;
  if (condition.op === 'isEmpty') return sql`NOT ${havingAny}`;
  if (condition.op === 'isNotEmpty') return havingAny;
  const listed = listedKeys(condition, attribute);
  if (listed) return having(sql`key = ANY(${texts([...listed])})`);
  const key = comparisonKey(condition, attribute);
  if (key === undefined) return sql`false`;
  const column = typeof key === 'number' ? sql`num` : sql`key`;
  switch (condition.op) {
    case 'is':
      return having(sql`${column} = ${key}`);
    case 'isNot':
      return having(sql`${column} <> ${key}`);
    case 'atLeast':
      return having(sql`${column} >= ${key}`);
    case 'atMost':
      return having(sql`${column} <= ${key}`);
    case 'contains':
      return typeof key === 'number'
        ? having(sql`num IS NOT NULL AND position(${String(key)} in num::text) > 0`)
        : having(sql`key IS NOT NULL AND position(${key} in key) > 0`);
    case 'under':
      return typeof key === 'number'
        ? having(sql`num = ${key}`)
        : having(sql`key IS NOT NULL AND (key = ${key} OR starts_with(key, ${`${key}/`}))`);
  }
}
