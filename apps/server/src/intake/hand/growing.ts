/** A family that grows: the key its rows of our own sheet share, what its variants have, and what a new one takes over from the next. */
import type { ByHand } from '@velvet-shelf/contract';
import { axesOf, isComputed } from '@velvet-shelf/core/catalog';
import type { RecordContent } from '@velvet-shelf/core/intake';
import { foldText, identifyingRoles, keyOf } from '@velvet-shelf/core/values';
import { currentSlots, splitSlot } from '@velvet-shelf/core/claims';
import { and, asc, eq, sql } from 'drizzle-orm';
import { typedText } from '../../catalog/product.js';
import { type Executor, first } from '../../db/client.js';
import type { Dictionary } from '../../dictionary/dictionary.js';
import { notFound } from '../../http/problem.js';
import * as tables from '../../db/schema/index.js';

interface Sibling {
  sku: string;
  options: Map<string, string>;
  values: RecordContent['values'];
}

export interface Growing {
  /** What the rows of our own sheet share; undefined where none is of it, and new ones are put there once they are made. */
  key: string | undefined;
  /** Folded names of its axes: those that most of its variants have. */
  axes: ReadonlySet<string>;
  siblings: readonly Sibling[];
}

/** What our own rows say goes before what suppliers say: new ones are rows of ours. */
export async function growingFamily(on: Executor, own: number, id: number): Promise<Growing> {
  const family = await first(
    on
      .select({ kind: tables.product.kind, title: tables.product.title })
      .from(tables.product)
      .where(and(eq(tables.product.id, id), eq(tables.product.stands, true))),
  );
  if (family?.kind !== 'family') throw notFound(`family ${id}`);
  const rows = await on
    .select({
      product: tables.product.id,
      isOwn: sql<boolean>`${tables.record.supplierId} = ${own}`,
      keyOf: tables.familyKey.productId,
      sku: tables.product.sku,
      key: tables.record.key,
      content: tables.recordContent.content,
      options: tables.product.options,
    })
    .from(tables.record)
    .innerJoin(tables.recordContent, eq(tables.recordContent.id, tables.record.contentId))
    .innerJoin(tables.product, eq(tables.product.id, tables.record.productId))
    .innerJoin(tables.supplier, eq(tables.supplier.id, tables.record.supplierId))
    .leftJoin(tables.familyKey, eq(tables.familyKey.id, tables.record.familyKeyId))
    .where(eq(tables.product.familyId, id))
    .orderBy(asc(tables.supplier.rank), asc(tables.record.id));
  // A row that somebody put here has the key of where it came from.
  const key = rows.find(({ isOwn, content, keyOf: of }) => isOwn && content.family !== undefined && of === id)?.content
    .family;
  const seen = new Set<number>();
  const speaking = [...rows.filter(({ isOwn }) => isOwn), ...rows.filter(({ isOwn }) => !isOwn)].filter(
    ({ product }) => !seen.has(product) && seen.add(product),
  );
  const siblings = speaking.map((row) => ({
    sku: row.sku ?? row.key,
    options: new Map(row.options.map(([axis, value]) => [foldText(axis), value])),
    values: row.content.values,
  }));
  const variants = siblings.map(({ options }, i) => ({ id: i, options: Object.fromEntries(options) }));
  return { key, axes: new Set(axesOf(variants, []).map((axis) => axis.key)), siblings };
}

/** What a new variant says as the sibling says it that it has most options in common with, by slot, as one would type it. */
export function takenOver(
  { siblings }: Growing,
  { axes, options }: { axes: readonly string[]; options: readonly string[] },
  dictionary: Dictionary,
): Map<string, string> {
  const wanted = new Map(axes.map((axis, i) => [foldText(axis), options[i] ?? '']));
  const alike = (sibling: Sibling) =>
    [...wanted].filter(([axis, value]) => foldText(sibling.options.get(axis) ?? '') === foldText(value)).length;
  const next = [...siblings].sort((a, b) => alike(b) - alike(a))[0];
  const title = keyOf(dictionary.attributes, 'title');
  const said = new Map<string, string>();
  for (const [slot, value] of Object.entries(currentSlots(next?.values ?? {}, dictionary.merged))) {
    const attribute = dictionary.attributes.get(splitSlot(slot)[0]);
    if (!attribute || isComputed(attribute.key) || (attribute.role && identifyingRoles.has(attribute.role))) continue;
    // What it is told apart by it says itself.
    if (wanted.has(foldText(attribute.label))) continue;
    const text = typedText(value, attribute);
    said.set(slot, attribute.key === title ? retold(text, next?.options ?? new Map(), wanted) : text);
  }
  return said;
}

/** “Footed pot, 16 cm” of a sibling of 20 cm: “Footed pot, 20 cm”. */
function retold(title: string, from: ReadonlyMap<string, string>, to: ReadonlyMap<string, string>): string {
  let text = title;
  for (const [axis, was] of from) {
    const now = to.get(axis);
    const at = now === undefined || was === '' ? -1 : text.toLowerCase().indexOf(was.toLowerCase());
    if (at >= 0) text = `${text.slice(0, at)}${now}${text.slice(at + was.length)}`;
  }
  return text;
}

/** The axes of new variants must be the family's; its own are added to those compared. */
export function axisFaults({ axes }: Growing, given: ByHand): string | undefined {
  const named = new Set(given.axes.map(foldText));
  const missing = [...axes].filter((axis) => !named.has(axis));
  const others = given.axes.filter((axis) => !axes.has(foldText(axis)));
  if (missing.length > 0) return `The family’s variants have a ${missing[0] ?? ''}: give each new one its own`;
  return others.length > 0 ? `The family’s variants have no ${others[0] ?? ''}` : undefined;
}
