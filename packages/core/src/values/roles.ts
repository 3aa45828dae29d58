/** What code must know of an attribute it learns from its role: a company names its attributes as it likes. */
import { type ClosedList, closedList } from './lists.js';
import type { Attribute } from './model.js';

export const roles = [
  'sku',
  'title',
  'description',
  'brand',
  'category',
  'gtin',
  'mpn',
  'state',
  'page',
  /** In order; the first picture of the first such attribute is the main one. */
  'pictures',
  /** Address of a film of it. */
  'video',
  'colour',
  'size',
  'material',
  'pattern',
  'width',
  'height',
  'depth',
  'length',
  'diameter',
  'weight',
  'volume',
  'power',
  'voltage',
  'energyClass',
  'condition',
  /** Pieces in what is sold as one. */
  'packSize',
  /** Country it was made in. */
  'origin',
  /** Number of the customs tariff. */
  'customsCode',
  'warranty',
  'care',
  /** Whom it is made for: women, children, … */
  'audience',
  'purchasePrice',
  'recommendedPrice',
  /** A number of any kind that goods are found by: of an older system, of a customer, of a catalogue. */
  'reference',
  /** SKUs of what is offered where these have run out. */
  'substitutes',
  /** SKUs of what goes with these. */
  'related',
] as const;
export type Role = (typeof roles)[number];

type Attributes = ReadonlyMap<string, Attribute>;
const known = new WeakMap<Attributes, Map<Role, Attribute[]>>();

/** Attributes with a role, in the order of the dictionary. */
export function withRole(attributes: Attributes, role: Role): readonly Attribute[] {
  let byRole = known.get(attributes);
  if (!byRole) {
    byRole = new Map();
    for (const attribute of attributes.values())
      if (attribute.role) byRole.set(attribute.role, [...(byRole.get(attribute.role) ?? []), attribute]);
    known.set(attributes, byRole);
  }
  return byRole.get(role) ?? [];
}

/** Key of the first attribute with a role; undefined where a company keeps none. */
export const keyOf = (attributes: Attributes, role: Role): string | undefined => withRole(attributes, role)[0]?.key;

const noList: readonly string[] = [];

/** The closed list of the first attribute with a role; an empty one, in which every key stands for itself, where there is none. */
export const listOf = (attributes: Attributes, role: Role): ClosedList =>
  closedList({ choices: withRole(attributes, role)[0]?.choices ?? noList });

/** Of what names one thing alone: no two variants have the same. */
export const identifyingRoles: ReadonlySet<Role> = new Set<Role>(['sku', 'gtin', 'mpn', 'page']);
