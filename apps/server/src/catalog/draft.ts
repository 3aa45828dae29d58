/** Products as they are about to be written: variants out of their slots, families out of their variants. */
import { type Texts, completeness, familyTitle } from '@velvet-shelf/core/catalog';
import { type ResolvedUnit, type Slots, splitSlot } from '@velvet-shelf/core/claims';
import {
  type Media,
  type Role,
  type Value,
  isSame,
  foldText,
  keyOf,
  listOf,
  members,
  withRole,
} from '@velvet-shelf/core/values';
import type { product } from '../db/schema/index.js';
import type { Dictionary } from '../dictionary/dictionary.js';

/** A product as it stands in its tables. */
export interface ProductRow extends Pick<
  typeof product.$inferSelect,
  | 'id'
  | 'kind'
  | 'sku'
  | 'title'
  | 'brand'
  | 'category'
  | 'gtin'
  | 'state'
  | 'picture'
  | 'price'
  | 'stock'
  | 'options'
  | 'hidden'
  | 'surcharge'
  | 'facts'
  | 'offers'
  | 'complete'
  | 'version'
> {
  family_id: number | null;
  unit_id: number;
  texts: Texts | null;
}

export type Draft = Omit<ProductRow, 'version' | 'unit_id' | 'family_id'> & {
  texts: Texts;
  search: string;
};

/** Attributes that name pictures, whichever role they play: their pictures are given their measures, and are in use. */
export function pictureKeys({ attributes }: Dictionary): ReadonlySet<string> {
  const known = pictured.get(attributes);
  if (known) return known;
  const keys = new Set([...attributes.values()].flatMap(({ key, type }) => (type === 'media' ? [key] : [])));
  pictured.set(attributes, keys);
  return keys;
}
const pictured = new WeakMap<Dictionary['attributes'], ReadonlySet<string>>();

/** A record that speaks for a variant, best-ranked source first. */
export interface Speaking {
  supplier: string;
  /** Of our own sheet, whose article numbers are our SKUs. */
  isOwn: boolean;
  /** Article number as the source writes it. */
  number: string;
  /** The source's whole list no longer has it. */
  dropped: boolean;
}

/** Options of a variant, and what follows from them. */
export type Optioned = Pick<ResolvedUnit['variants'][number], 'options' | 'isHidden' | 'surcharge'>;

/** Of what has no options. */
export const noOptions: Optioned = { options: [], isHidden: false, surcharge: {} };

/** What a variant holds once its slots, and who speaks for it, are known. */
export function draftVariant(
  before: ProductRow,
  slots: Slots,
  { options, isHidden: hidden, surcharge }: Optioned,
  dictionary: Dictionary,
  sizes: Map<string, Media>,
  sources: readonly Speaking[] = [],
): Draft {
  const facts: Record<string, Value> = {};
  const texts: Texts = {};
  const pictured = pictureKeys(dictionary);
  for (const [slot, { value }] of slots) {
    if (value === undefined) continue;
    const [key, language] = splitSlot(slot);
    if (language !== undefined) texts[key] = { ...texts[key], [language]: String(value) };
    else if (dictionary.attributes.get(key)?.type === 'richText') texts[key] = { [dictionary.home]: String(value) };
    else facts[key] = pictured.has(key) ? (value as Media[]).map((media) => sizes.get(media.name) ?? media) : value;
  }
  const numbers = sources.flatMap(({ isOwn, number }) => (isOwn ? [] : [number]));
  const computed = {
    suppliers: sources.map(({ supplier }) => supplier),
    articleNumbers: numbers,
    droppedBy: sources.flatMap(({ dropped, supplier }) => (dropped ? [supplier] : [])),
  };
  for (const [key, list] of Object.entries(computed)) if (list.length > 0) facts[key] = [...new Set(list)];
  const { attributes, home } = dictionary;
  const text = heldText(facts, dictionary);
  const title = titleOf(texts, dictionary);
  const hasValue = (key: string) => {
    // Of an attribute that was made one with another, by the key of that.
    const current = attributes.get(key)?.key ?? key;
    return facts[current] !== undefined || texts[current]?.[home] !== undefined;
  };
  const has = (fact: Role | 'price') =>
    fact === 'price' ? before.price !== null : withRole(attributes, fact).some(({ key }) => hasValue(key));
  return {
    id: before.id,
    kind: before.kind,
    options,
    hidden,
    surcharge,
    facts,
    texts,
    title,
    sku: text('sku'),
    brand: text('brand'),
    category: text('category'),
    gtin: text('gtin'),
    state: text('state'),
    picture: firstPicture(facts, dictionary),
    price: before.price,
    stock: before.stock,
    offers: before.offers,
    complete: completeness({ role: has, attribute: hasValue }, requiredOf(text('category'), dictionary)),
    search: searchWords([
      title,
      text('sku'),
      text('gtin'),
      text('mpn'),
      text('brand'),
      sayCategory(text('category'), dictionary),
      ...options.map(([, value]) => value),
      ...numbers,
      ...withRole(attributes, 'reference').flatMap(({ key }) => membersOf(facts[key])),
    ]),
  };
}

const membersOf = (value: Value | undefined): string[] => (value === undefined ? [] : members(value).map(String));

/** Keys of what a category requires, those above it heard. */
export const requiredOf = (category: string | null, { attributes }: Dictionary): string[] =>
  category === null ? [] : listOf(attributes, 'category').requires(category);

/** Reads a product's text by the role of its attribute. */
const heldText =
  (facts: ProductRow['facts'], { attributes }: Dictionary) =>
  (role: Role): string | null => {
    const value = facts[keyOf(attributes, role) ?? ''];
    return typeof value === 'string' ? value : null;
  };

/** Its title in our own language, or in any that it has one in. */
function titleOf(texts: Texts, { attributes, home }: Dictionary): string | null {
  const titles = texts[keyOf(attributes, 'title') ?? ''];
  return titles?.[home] ?? Object.values(titles ?? {})[0] ?? null;
}

function firstPicture(facts: ProductRow['facts'], { attributes }: Dictionary): string | null {
  const pictures = withRole(attributes, 'pictures').flatMap(({ key }) => (facts[key] ?? []) as Media[]);
  return pictures[0]?.name ?? null;
}

/** Names of a category with those above it, as goods are searched by. */
function sayCategory(key: string | null, { attributes, home }: Dictionary): string | null {
  return key === null ? null : listOf(attributes, 'category').names(key, home).join(' ');
}

/** Each word once: searches ask for words, and the index costs by the letter. */
function searchWords(parts: readonly (string | null)[]): string {
  return [...new Set(foldText(parts.filter(Boolean).join(' ')).split(' '))].join(' ');
}

/** What a family needs to know of each variant. */
export type Member = Pick<Draft, 'title' | 'brand' | 'category' | 'state' | 'picture' | 'stock' | 'complete'>;

/** A family row that keeps what it holds itself: nothing its variants say at family level has changed. */
export function keptFamily(before: ProductRow, dictionary: Dictionary): Draft {
  const { facts } = before;
  const texts = before.texts ?? {};
  const text = heldText(facts, dictionary);
  return {
    ...before,
    texts,
    title: titleOf(texts, dictionary),
    brand: text('brand'),
    category: text('category'),
    state: text('state'),
    picture: firstPicture(facts, dictionary),
    search: '',
  };
}

/** A family: what it holds itself, and what its variants amount to. */
export function draftFamily(own: Draft, variants: readonly Member[], dictionary: Dictionary): Draft {
  const usual = (key: 'brand' | 'category' | 'state') => {
    const counts = new Map<string, number>();
    for (const variant of variants)
      if (variant[key] !== null) counts.set(variant[key], (counts.get(variant[key]) ?? 0) + 1);
    return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
  };
  const titles = variants.flatMap((variant) => variant.title ?? []);
  const title = own.title ?? familyTitle(titles) ?? titles[0] ?? null;
  const [brand, category] = [own.brand ?? usual('brand'), own.category ?? usual('category')];
  return {
    ...own,
    title,
    brand,
    category,
    state: own.state ?? (variants.some((variant) => variant.state === 'selling') ? 'selling' : usual('state')),
    picture: own.picture ?? variants.find((variant) => variant.picture !== null)?.picture ?? null,
    price: null,
    stock: variants.reduce((sum, member) => sum + member.stock, 0),
    complete: Math.round(variants.reduce((sum, member) => sum + member.complete, 0) / Math.max(1, variants.length)),
    search: searchWords([title, brand, sayCategory(category, dictionary)]),
  };
}

const typedColumns = [
  'sku',
  'title',
  'brand',
  'category',
  'gtin',
  'state',
  'picture',
  'stock',
  'complete',
  'hidden',
] as const;

/** True where the rows differ in more than the fields of their delta. */
export const differInColumns = (before: ProductRow, after: Draft): boolean =>
  typedColumns.some((column) => before[column] !== after[column]) || !isSame(before.surcharge, after.surcharge);

/** What changed, field by field, for the history. */
export function deltaOf(before: ProductRow, after: Draft): Record<string, unknown[]> {
  if (before.title === null && Object.keys(before.facts).length === 0) return { created: [true] };
  const delta: Record<string, unknown[]> = {};
  const compare = (field: string, was: unknown = null, is: unknown = null) => {
    if (!isSame(was, is)) delta[field] = [was, is];
  };
  for (const key of keysOf(before.facts, after.facts)) compare(key, before.facts[key], after.facts[key]);
  const [old, now] = [before.texts ?? {}, after.texts];
  for (const key of keysOf(old, now))
    for (const language of keysOf(old[key] ?? {}, now[key] ?? {}))
      compare(`${key}@${language}`, old[key]?.[language], now[key]?.[language]);
  compare('options', said(before.options), said(after.options));
  return delta;
}

const keysOf = (one: object, other: object): string[] => [
  ...Object.keys(one),
  ...Object.keys(other).filter((key) => !Object.hasOwn(one, key)),
];

const said = <T>(list: readonly T[]): readonly T[] | undefined => (list.length > 0 ? list : undefined);
