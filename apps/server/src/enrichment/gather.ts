/** Families that titles of single products propose; nothing is kept of them. */
import type { ProposedFamilies, WishedFamilies } from '@velvet-shelf/contract';
import {
  type Titled,
  compileExtractor,
  gatherAsOne,
  gatherFamilies,
  soughtOf,
  valueOfFound,
} from '@velvet-shelf/core/enrichment';
import { type Attribute, type Value, plainText, plainValue, sortKeys, withRole } from '@velvet-shelf/core/values';
import { and, asc, eq } from 'drizzle-orm';
import { chosenGoods } from '../catalog/chosen.js';
import { typedText } from '../catalog/product.js';
import { type Database, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { badRequest } from '../http/problem.js';

/** Titles that are read at once, and families that are shown. */
const mostRead = 20_000;
const mostShown = 200;

export async function proposeFamilies(db: Database, { chosen, asOne }: WishedFamilies): Promise<ProposedFamilies> {
  const dictionary = await loadDictionary(db);
  const { product } = tables;
  const among = chosen && (await chosenGoods(db, chosen)).variants;
  const rows = await db
    .select({
      id: product.id,
      sku: product.sku,
      gtin: product.gtin,
      title: product.title,
      brand: product.brand,
      category: product.category,
      facts: product.facts,
      options: product.options,
    })
    .from(product)
    .where(
      and(eq(product.stands, true), asOne ? undefined : eq(product.kind, 'single'), among && isIn(product.id, among)),
    )
    .orderBy(asc(product.id))
    .limit(mostRead + 1);
  if (asOne && (!among || rows.length < 2)) throw badRequest('Choose two products or more');
  const read = rows.slice(0, mostRead);
  const titled = readTitles(read, dictionary);
  const rowOf = new Map(read.map((row) => [row.id, row]));
  const found = asOne ? [gatherAsOne(titled)] : gatherFamilies(titled);
  return {
    items: found.slice(0, mostShown).map(({ axes, members }) => ({
      axes,
      members: members.map(({ id, values }) => {
        const row = rowOf.get(id);
        return { id, sku: row?.sku ?? null, title: row?.title ?? '', values };
      }),
    })),
    goods: read.length,
    whole: rows.length <= mostRead && found.length <= mostShown,
  };
}

type Row = Pick<
  typeof tables.product.$inferSelect,
  'id' | 'sku' | 'gtin' | 'title' | 'brand' | 'category' | 'facts' | 'options'
>;

/** Short words that variants have of their own: a glaze, a finish, a plug. */
const isWords = ({ type, many, perLanguage, role }: Attribute): boolean =>
  type === 'text' && !many && !perLanguage && (role === undefined || role === 'colour' || role === 'size');

/** A value as it tells goods apart. */
const heldOf = (value: Value, attribute: Attribute) => ({
  axis: attribute.label,
  value: typedText(value, attribute),
  key: String(sortKeys(value, attribute)[0] ?? ''),
  rank:
    attribute.type === 'choice' || attribute.role === 'colour' || attribute.role === 'size'
      ? ('listed' as const)
      : attribute.type === 'text'
        ? ('written' as const)
        : attribute.role === 'weight'
          ? ('weighed' as const)
          : ('measured' as const),
});

/** What titles say of attributes that variants have of their own. */
function readTitles(rows: readonly Row[], { attributes, languages, home }: Dictionary): Titled[] {
  const own = [...attributes.values()].filter(({ level }) => level === 'variant');
  const brands = [...new Set(rows.flatMap(({ brand }) => brand ?? []))];
  const sought = soughtOf(own);
  const extract = compileExtractor({ attributes: sought, brands, languages });
  /** What can be found in texts tells goods apart, and so do words of no role; what only one of them can have is no axis. */
  const keys = new Set(sought.map(({ key }) => key));
  const telling = own.filter((attribute) => keys.has(attribute.key) || isWords(attribute));
  const numbers = withRole(attributes, 'mpn');
  return rows.map(({ id, sku, gtin, title, brand, category, facts, options }) => {
    const text = plainText(title ?? '');
    const found = extract({ title: text, language: home }).flatMap(({ attribute: key, value, start, end }) => {
      const attribute = attributes.get(key);
      const read = attribute && valueOfFound(value, attribute);
      return attribute && read !== undefined ? [{ ...heldOf(read, attribute), start, end }] : [];
    });
    const codes = [
      sku,
      gtin,
      ...numbers.flatMap((attribute) => {
        const value = facts[attribute.key];
        return value === undefined ? [] : [plainValue(value, attribute)];
      }),
    ];
    return {
      id,
      title: text,
      brand: brand ?? undefined,
      category: category ?? undefined,
      codes: codes.flatMap((code) => code ?? []),
      found,
      held: [
        ...options.map(([axis, value]) => ({ axis, value, isOption: true })),
        ...telling.flatMap((attribute) => {
          const value = facts[attribute.key];
          return value === undefined ? [] : [heldOf(value, attribute)];
        }),
      ],
    };
  });
}
