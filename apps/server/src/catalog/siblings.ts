/** Variants of a family beside each other, as they stand on a rack. */
import type { Sibling } from '@velvet-shelf/contract';
import { differing, isComputed } from '@velvet-shelf/core/catalog';
import { type ResolvedUnit, type Slots, splitSlot } from '@velvet-shelf/core/claims';
import { type Role, foldText, formatValue, identifyingRoles } from '@velvet-shelf/core/values';
import { type Executor, isIn } from '../db/client.js';
import * as tables from '../db/schema/index.js';
import type { Dictionary } from '../dictionary/dictionary.js';
import type { ProductRow } from './draft.js';

/** Roles of what every variant has of its own. */
const ownAlways: ReadonlySet<Role> = new Set<Role>([...identifyingRoles, 'title', 'description', 'pictures']);

export async function siblingsOf(
  on: Executor,
  variants: readonly ProductRow[],
  resolved: ResolvedUnit,
  dictionary: Dictionary,
): Promise<Sibling[]> {
  const listed = await on
    .select({
      product: tables.listing.variantId,
      placeId: tables.listing.placeId,
      readiness: tables.listing.readiness,
      channelState: tables.listing.channelState,
    })
    .from(tables.listing)
    .where(
      isIn(
        tables.listing.variantId,
        variants.map(({ id }) => id),
      ),
    )
    .orderBy(tables.listing.placeId);
  const axes = new Set(variants.flatMap(({ options }) => options.map(([axis]) => foldText(axis))));
  const differs = differing(
    resolved.variants.map(({ id, slots }) => ({ id, held: comparable(slots, axes, dictionary) })),
  );
  const currency = dictionary.currency;
  return variants.map(({ id, sku, title, options, picture, stock, offers, hidden }) => ({
    ...{ id, sku, title, options, picture, stock, isHidden: hidden },
    price: offers[currency]?.regular ?? null,
    places: listed.filter(({ product }) => product === id).map(({ product: _, ...place }) => place),
    differs: (differs.get(id) ?? []).map(({ name, value }) => ({
      attribute: name,
      label: dictionary.attributes.get(name)?.label ?? name,
      shown: value ?? null,
    })),
  }));
}

/** Values without languages that variants may differ in beside their options, as people read them. */
function comparable(slots: Slots, axes: ReadonlySet<string>, { attributes, reader }: Dictionary): Map<string, string> {
  const held = new Map<string, string>();
  for (const [slot, { value }] of slots) {
    const [key, language] = splitSlot(slot);
    const attribute = attributes.get(key);
    if (value === undefined || language !== undefined || !attribute || attribute.level === 'family') continue;
    if (attribute.type === 'richText' || isComputed(key) || axes.has(foldText(attribute.label))) continue;
    if (attribute.role && ownAlways.has(attribute.role)) continue;
    held.set(key, formatValue(value, attribute, reader));
  }
  return held;
}
