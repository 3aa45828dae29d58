/** One product with its own and inherited values, every claim beside the winner, and its siblings. */
import type { ClaimAnswer, HistoryEntry, ProductAnswer, ProductValue } from '@velvet-shelf/contract';
import { isComputed } from '@velvet-shelf/core/catalog';
import { type Author, type Slot, type Slots, resolveUnit, splitSlot } from '@velvet-shelf/core/claims';
import {
  type Attribute,
  type Reader,
  type Value,
  formatValue,
  listOf,
  plainText,
  plainValue,
} from '@velvet-shelf/core/values';
import { sql, eq, and, desc, isNotNull } from 'drizzle-orm';
import { type Database, type Executor, iso, first } from '../db/client.js';
import { canUndo } from '../history/undo.js';
import { notFound } from '../http/problem.js';
import { type RecordSource, columnOf, feeding, loadSources, writtenNumber } from '../claims/versions.js';
import { type Dictionary, loadDictionary } from '../dictionary/dictionary.js';
import { optionsOf } from '../dictionary/lists.js';
import { requiredOf } from './draft.js';
import { asideNow } from './aside.js';
import { planOf } from './plans.js';
import { loadUnits } from './resolve.js';
import { siblingsOf } from './siblings.js';
import { actionColumns } from '../history/record.js';
import * as tables from '../db/schema/index.js';

/** A product's resolved slots with the records behind them. */
export async function explainProduct(db: Executor, id: number, dictionary: Dictionary) {
  const head = await first(
    db
      .select({
        unit: tables.product.unitId,
        merged: tables.product.mergedInto,
        removed: tables.product.removedBy,
      })
      .from(tables.product)
      .where(eq(tables.product.id, id)),
  );
  if (!head) throw notFound(`product ${id}`);
  if (head.merged !== null) throw notFound(`product ${id} any more: it was joined to product ${head.merged}`);
  if (head.removed !== null) throw notFound(`product ${id} any more: it was taken away, see the history`);
  const unit = (await loadUnits(db, [head.unit], dictionary)).get(head.unit);
  const product = unit?.products.find((product) => product.id === id);
  if (!unit || !product) throw notFound(`product ${id}`);
  const resolved = resolveUnit(unit.claims, dictionary.attributes, dictionary.policies);
  const slots: Slots =
    product.kind === 'family'
      ? resolved.family
      : (resolved.variants.find((variant) => variant.id === id)?.slots ?? new Map());
  const own = unit.claims.variants
    .filter((variant) => product.kind === 'family' || variant.id === id)
    .flatMap((variant) => variant.records.map((record) => record.id));
  const family = unit.claims.variants.flatMap((variant) => variant.records.map((record) => record.id));
  const sources = await loadSources(db, product.kind === 'family' ? own : family);
  return { unit, product, slots, resolved, sources };
}

export async function showProduct(db: Database, id: number, locale?: string): Promise<ProductAnswer> {
  const dictionary = await loadDictionary(db, locale);
  const { unit, product, slots, resolved, sources } = await explainProduct(db, id, dictionary);
  const isFamily = product.kind === 'family';
  const family = product.family_id === null ? undefined : unit.products.find((row) => row.id === product.family_id);
  const variants = unit.products.filter((product) => product.kind !== 'family');
  const listings = await db
    .select({
      id: tables.listing.id,
      placeId: tables.listing.placeId,
      place: tables.place.name,
      readiness: tables.listing.readiness,
      channelState: tables.listing.channelState,
      findings: sql<number>`jsonb_array_length(${tables.listing.findings}) + jsonb_array_length(${tables.listing.collective}) + jsonb_array_length(${tables.listing.reported})`,
    })
    .from(tables.listing)
    .innerJoin(tables.place, eq(tables.place.id, tables.listing.placeId))
    .where(eq(tables.listing.variantId, id))
    .orderBy(tables.place.id);
  const speaking = await db
    .select({
      recordId: tables.record.id,
      supplier: tables.supplier.name,
      key: writtenNumber,
      dropped: tables.record.dropped,
    })
    .from(tables.record)
    .innerJoin(tables.supplier, eq(tables.supplier.id, tables.record.supplierId))
    .where(and(eq(tables.record.productId, id), isNotNull(tables.record.contentId)))
    .orderBy(tables.supplier.rank, tables.record.id);
  const required = new Set(
    requiredOf(product.category, dictionary).map((key) => dictionary.attributes.get(key)?.key ?? key),
  );
  const wanted: [string, Attribute, string | undefined][] = [];
  for (const attribute of dictionary.attributes.values()) {
    if (isComputed(attribute.key)) continue;
    if (
      isFamily &&
      attribute.level === 'variant' &&
      !slots.has(attribute.key) &&
      attribute.role !== 'brand' &&
      attribute.role !== 'category'
    )
      continue;
    if (!attribute.perLanguage) wanted.push([attribute.key, attribute, undefined]);
    else
      for (const language of new Set([
        ...dictionary.languages,
        ...[...slots.keys()].flatMap((slot) =>
          splitSlot(slot)[0] === attribute.key ? (splitSlot(slot)[1] ?? []) : [],
        ),
      ]))
        wanted.push([`${attribute.key}@${language}`, attribute, language]);
  }
  return {
    id,
    kind: product.kind,
    family: family ? { id: family.id, title: family.title, variants: variants.length } : null,
    sku: product.sku,
    title: product.title,
    picture: product.picture,
    state: product.state,
    category:
      product.category === null
        ? []
        : listOf(dictionary.attributes, 'category').names(product.category, dictionary.reader.names),
    options: product.options,
    price: product.offers,
    stock: product.stock,
    version: product.version,
    sources: speaking,
    values: wanted.map(([slot, attribute, language]) =>
      showValue(slots.get(slot), slot, attribute, language, sources, {
        isFamily,
        reader: dictionary.reader,
        // In our own language: others are asked for by channels.
        isRequired: required.has(attribute.key) && (language === undefined || language === dictionary.home),
      }),
    ),
    aside: await asideNow(db, id),
    plan: isFamily || family ? await planOf(db, family?.id ?? id) : null,
    siblings: await siblingsOf(db, variants, resolved, dictionary),
    listings,
  };
}

function showValue(
  slot: Slot | undefined,
  name: string,
  attribute: Attribute,
  language: string | undefined,
  sources: Map<number, RecordSource>,
  { isFamily, reader, isRequired }: { isFamily: boolean; reader: Reader; isRequired: boolean },
): ProductValue {
  const value = slot?.value;
  return {
    attribute: attribute.key,
    label: attribute.label,
    group: attribute.group,
    type: attribute.type,
    role: attribute.role ?? null,
    choices: optionsOf(attribute, reader.names),
    language: language ?? null,
    many: attribute.many,
    level: attribute.level,
    isRequired,
    help: attribute.help ?? null,
    text: value === undefined ? null : typedText(value, attribute),
    shown: value === undefined ? null : shownText(value, attribute, reader),
    origin:
      slot === undefined || (value === undefined && slot.origin.from !== 'edit')
        ? 'none'
        : slot.origin.from === 'computed'
          ? 'computed'
          : slot.inherited && !isFamily
            ? 'inherited'
            : slot.origin.from === 'edit'
              ? 'edit'
              : 'record',
    why: slot?.why ?? null,
    claims: slot ? claimsOf(slot, name, attribute, { sources, reader }) : [],
  };
}

/** A value as one would type it: markup kept, plain decimals. */
export function typedText(value: Value, attribute: Attribute): string {
  return attribute.type === 'richText' ? String(value) : plainValue(value, attribute);
}

function shownText(value: Value, attribute: Attribute, reader: Reader): string {
  const text = formatValue(value, attribute, reader);
  return attribute.type === 'richText' ? plainText(text) : text;
}

function claimsOf(
  slot: Slot,
  name: string,
  attribute: Attribute,
  { sources, reader }: { sources: Map<number, RecordSource>; reader: Reader },
): ClaimAnswer[] {
  const say = (value: unknown) => (typeof value === 'symbol' ? null : shownText(value as Value, attribute, reader));
  const winner = slot.value;
  const { origin } = slot;
  const claims: ClaimAnswer[] = [
    ...(origin.from === 'computed'
      ? []
      : [claim(origin, winner === undefined ? null : shownText(winner, attribute, reader), true)]),
    ...slot.against.map((other) => claim(other.origin, say(other.value), false)),
  ];
  return claims;

  function claim(origin: Author, text: string | null, wins: boolean): ClaimAnswer {
    if (origin.from === 'edit')
      return { text, from: origin.by, at: iso(origin.at), wins, batchId: null, row: null, column: null };
    const fed = feeding(sources.get(origin.record), (map) => columnOf(map, name, attribute.role === 'sku'));
    return {
      text,
      from: origin.source,
      at: fed?.version.at ? iso(fed.version.at) : null,
      wins,
      batchId: fed?.version.batchId ?? null,
      row: fed?.version.row ?? null,
      column: fed?.column ?? null,
    };
  }
}

export async function productHistory(db: Database, id: number, locale?: string): Promise<HistoryEntry[]> {
  if (!(await first(db.select({ id: tables.product.id }).from(tables.product).where(eq(tables.product.id, id)))))
    throw notFound(`product ${id}`);
  const dictionary = await loadDictionary(db, locale);
  const changes = await db
    .select({
      ...actionColumns,
      delta: tables.change.delta,
    })
    .from(tables.change)
    .innerJoin(tables.action, eq(tables.action.id, tables.change.actionId))
    .leftJoin(tables.userAccount, eq(tables.userAccount.id, tables.action.actor))
    .where(and(eq(tables.change.subjectKind, 'product'), eq(tables.change.subjectId, id)))
    .orderBy(desc(tables.action.at), desc(tables.action.id))
    .limit(100);
  return changes.map(({ delta, at, ...head }) => ({
    ...head,
    at: iso(at),
    canUndo: !head.undone && canUndo(head.kind),
    fields: Object.entries(delta)
      .filter(([field]) => !field.startsWith('#') && field !== 'created')
      .map(([field, [before, after]]) => ({
        field: sayField(field, dictionary),
        before: sayDelta(field, before, dictionary),
        after: sayDelta(field, after, dictionary),
      })),
  }));
}

export function sayField(field: string, dictionary: Dictionary): string {
  const [key, language] = splitSlot(field);
  const label = dictionary.attributes.get(key)?.label ?? field;
  return language ? `${label}, ${language}` : label;
}

export function sayDelta(field: string, value: unknown, dictionary: Dictionary): string | null {
  if (value === null || value === undefined) return null;
  const attribute = dictionary.attributes.get(splitSlot(field)[0]);
  if (attribute) return shownText(value as Value, attribute, dictionary.reader).slice(0, 400);
  if (field === 'options') return (value as [string, string][]).map(([axis, text]) => `${axis}: ${text}`).join(', ');
  if (typeof value === 'object' && 'amount' in value) return String(value.amount);
  return String(value);
}
